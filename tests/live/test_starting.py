"""`up`: one clear sentence for each thing that stands in its way, or it is handled."""

from __future__ import annotations

import json
import os
import shutil
import signal
import socket
import subprocess
import sys
from collections.abc import Callable
from pathlib import Path
from uuid import uuid4

import psycopg
import pytest

from heliograph.supervisor import up as module
from heliograph.supervisor.cluster import Cluster
from heliograph.supervisor.say import StartError
from heliograph.supervisor.up import Options, Supervisor
from tests.conftest import ENVIRONMENT, RunningApp, free_port, wait_for
from tests.heads import add_head
from tests.live.scenes import goes_on, running


def refused(data: Path, *options: str) -> str:
    command = [sys.executable, "-m", "heliograph.cli", "up", "--data", str(data), *options]
    done = subprocess.run(command, env=ENVIRONMENT, capture_output=True, text=True, timeout=120)
    assert done.returncode == 1
    return done.stderr


def test_a_taken_port(tmp_path: Path) -> None:
    with socket.socket() as other:
        other.bind(("127.0.0.1", 0))
        other.listen()
        port = other.getsockname()[1]
        said = refused(tmp_path / "data", "--port", str(port))
    assert said.strip() == f"Port {port} is taken by another program. Choose another: --port {port + 1}"


def test_an_address_that_is_not_ours(tmp_path: Path) -> None:
    said = refused(tmp_path / "data", "--host", "203.0.113.9", "--port", str(free_port()))
    assert "203.0.113.9 is not an address of this machine" in said


def test_a_data_folder_that_cannot_be_used(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    assert "cannot be used: Not a directory. Name another with --data DIR" in refused(tmp_path / "file" / "data")


def test_a_full_disk(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    usage = shutil.disk_usage(tmp_path)
    monkeypatch.setattr(module.shutil, "disk_usage", lambda _path: usage._replace(free=5 * 1024**2))
    with pytest.raises(StartError, match="has 5 MB left: 300 MB are needed"):
        Supervisor(Options(tmp_path / "data")).run()


def test_a_second_start_is_told_where_the_first_is(app: RunningApp) -> None:
    said = refused(app.data, "--port", str(free_port()))
    assert said.startswith(f"Heliograph already runs with the data folder {app.data}.")
    assert f"Open http://127.0.0.1:{app.port}/" in said
    goes_on(app)


def test_a_half_made_cluster_is_repaired(own_app: Callable[..., RunningApp], tmp_path: Path) -> None:
    (tmp_path / "data" / "postgres.making").mkdir(parents=True)
    (tmp_path / "data" / "postgres.making" / "rubbish").write_text("x")
    tmp_path.joinpath("data").chmod(0o755)
    app = own_app("127.0.98.1")
    assert app.api().call("GET", "/api/show")["show"]["name"] == "New show"


def test_after_a_killed_supervisor_the_next_start_takes_over(own_app: Callable[..., RunningApp]) -> None:
    app = own_app("127.0.99.1")
    engine, web = app.pid("engine"), app.pid("web")
    frame = running(app)["state"]["frame"]
    app.process.send_signal(signal.SIGKILL)
    app.process.wait()
    wait_for(lambda: not Path(f"/proc/{web}").exists(), 10, "the web process outlived its supervisor")
    assert Path(f"/proc/{engine}").exists()  # the lights stay on
    app.log.write_text("")
    app.start()
    assert not Path(f"/proc/{engine}").exists()
    assert running(app)["state"]["frame"] > frame


def test_the_cluster_moves_where_its_user_can_reach_it(tmp_path: Path) -> None:
    if os.geteuid() != 0:
        pytest.skip("only root runs the database as another user")
    closed = tmp_path / "home"
    closed.mkdir(mode=0o700)
    cluster = Cluster(closed / "data")
    assert not str(cluster.folder).startswith(str(closed))
    assert str(cluster.folder).startswith("/var/lib/heliograph/")


def test_the_database_listens_on_loopback_only_and_asks_for_its_password(app: RunningApp) -> None:
    import json

    import psycopg

    access = json.loads((app.data / "run" / "database.json").read_text())
    assert (app.data / "run" / "database.json").stat().st_mode & 0o077 == 0
    with pytest.raises(psycopg.OperationalError, match="password"):
        psycopg.connect(
            host="127.0.0.1", port=access["port"], dbname=access["name"], user=access["user"], password="wrong"
        )


def test_a_newer_database_is_refused_and_left_alone(own_app: Callable[..., RunningApp]) -> None:
    """And a change of its form is backed up before: here, one that this program does not know of yet."""
    app = own_app("127.0.98.1")
    app.api().call("PATCH", "/api/show", {"name": "Kept"})
    access = json.loads((app.data / "run" / "database.json").read_text())
    where = {"host": access["host"], "port": access["port"], "dbname": access["name"], "user": access["user"]}
    with psycopg.connect(**where, password=access["password"], autocommit=True) as connection:
        connection.execute("INSERT INTO schema_migration (name, applied) VALUES ('0999_from_tomorrow', now())")
    app.stop()
    words = [sys.executable, "-m", "heliograph.cli", "up", "--data", str(app.data), "--port", str(app.port)]
    again = subprocess.run([*words, "--card", app.card], env=ENVIRONMENT, capture_output=True, text=True, timeout=120)
    assert again.returncode == 1
    assert "The database was used by a newer Heliograph (it knows 0999_from_tomorrow)" in again.stderr
    saved = subprocess.run(
        [sys.executable, "-m", "heliograph.cli", "backup", "--data", str(app.data)],
        env=ENVIRONMENT,
        capture_output=True,
        text=True,
        timeout=120,
    )
    assert saved.returncode == 0, "a backup is possible all the same"
    backup = Path(saved.stdout.removeprefix("Backup: ").strip())
    refused = subprocess.run(
        [sys.executable, "-m", "heliograph.cli", "restore", str(backup), "--data", str(app.data)],
        env=ENVIRONMENT,
        capture_output=True,
        text=True,
        input="n\n",
        timeout=120,
    )
    assert refused.returncode == 1
    assert "are overwritten; a backup of them is made first" in refused.stdout


def test_a_form_that_is_older_is_backed_up_before_it_changes(own_app: Callable[..., RunningApp]) -> None:
    app = own_app("127.0.98.1")
    access = json.loads((app.data / "run" / "database.json").read_text())
    where = {"host": access["host"], "port": access["port"], "dbname": access["name"], "user": access["user"]}
    with psycopg.connect(**where, password=access["password"], autocommit=True) as connection:
        connection.execute("DELETE FROM schema_migration WHERE name = '0009_endings'")
        connection.execute("ALTER TABLE output DROP COLUMN when_ends")
    app.stop()
    app.log.write_text("")
    app.start()
    assert [one.name for one in (app.data / "backups").glob("*-before-update.backup.zip")]
    assert app.api().call("GET", "/api/show")["show"]["name"] == "New show"


OLD_HEAD = [{"state": "follows"}, {"state": "off"}, {"state": "own", "universe": 10, "channel": 29}]


def test_a_show_of_an_older_program_is_what_it_was(own_app: Callable[..., RunningApp]) -> None:
    """Its form before places, fades and directions were one field each, put back into a database by hand."""
    app = own_app("127.0.98.1")
    api = app.api()
    head, matrix, look = (str(uuid4()) for _ in range(3))
    api.call("POST", "/api/fixtures", {"text": f"1 x {add_head(app)}, from 701, at U9.1", "ids": [head]})
    api.call("POST", "/api/matrices", {"id": matrix, "name": "Quay", "width": 6, "height": 3})
    line = {"id": str(uuid4()), "paints": "effect", "effect": "Relay", "matrix": matrix}
    api.call("POST", "/api/looks", {"id": look, "name": "Swell", "lines": [line]})
    access = json.loads((app.data / "run" / "database.json").read_text())
    where = {"host": access["host"], "port": access["port"], "dbname": access["name"], "user": access["user"]}
    with psycopg.connect(**where, password=access["password"], autocommit=True) as connection:
        connection.execute("DELETE FROM schema_migration WHERE name = '0011_one_field_each'")
        connection.execute("UPDATE fixture SET blocks = %s::jsonb WHERE id = %s", (json.dumps(OLD_HEAD), head))
        connection.execute("ALTER TABLE look RENAME COLUMN lines TO layers")
        connection.execute("UPDATE edit SET changes = replace(changes::text, '\"lines\"', '\"layers\"')::jsonb")
        connection.execute(
            "UPDATE look SET layers = jsonb_set(layers, '{0}', layers -> 0 || %s::jsonb) WHERE id = %s",
            (json.dumps({"direction": "backward"}), look),
        )
        shared = [{"attribute": "Gobo1", "snap": True, "step": 9}]
        connection.execute(
            "UPDATE profile SET modes = jsonb_set(modes, '{0,blocks,0}', (modes #> '{0,blocks,0}') - 'lies'::text || "
            "%s::jsonb) WHERE name = 'RGB lamp'",
            (json.dumps({"state": "follows", "shared": shared}),),
        )
    app.stop()
    app.log.write_text("")
    app.start()
    show = app.api().call("GET", "/api/show")
    [found] = show["fixtures"]
    assert found["lies"] == "without Halo; Ring at U10.29"
    assert [block["address"] for block in found["blocks"]] == ["U9.1", "", "U10.29"]
    [kept] = show["looks"][0]["lines"]
    assert (kept["speed"], "direction" in kept) == ({"value": -4.0, "unit": "s"}, False)
    lamp = next(one for one in show["profiles"] if one["name"] == "RGB lamp")
    whole = app.api().call("GET", f"/api/profiles/{lamp['id']}")["modes"][0]["blocks"][0]
    assert (whole["lies"], whole["shared"][0]["in_fade"], "step" in whole["shared"][0]) == ("after", "half-way", False)
    assert show["undo"] == "Added matrix Quay", "an edit of the older form could be undone into the new one"
    app.api().call("PATCH", "/api/show", {"name": "Goes on"})
