"""How it ends: whatever stops the sending, the last thing on the wire is dark, and an armed laser is safe."""

from __future__ import annotations

import os
import signal
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from PIL import Image

from heliograph.ipc.service_user import may_pass, service_user
from tests.conftest import ENVIRONMENT, PATIENCE, ROOT, RunningApp, wait_for
from tests.live.laser_scene import DARK, LIT, Wire, laser_scene
from tests.live.scenes import running

OwnApp = Callable[..., RunningApp]


@pytest.fixture
def wire() -> Iterator[Wire]:
    one = Wire("127.0.97.2")
    yield one
    one.close()


def command(app: RunningApp, name: str) -> subprocess.CompletedProcess[str]:
    words = [sys.executable, "-m", "heliograph.cli", name, "--data", str(app.data)]
    return subprocess.run(words, env=ENVIRONMENT, capture_output=True, text=True, timeout=90)


EDITS: dict[str, Callable[[Any, dict[str, Any]], Any]] = {
    "off": lambda api, ids: api.call("PATCH", f"/api/outputs/{ids['output']}", {"on": False}),
    "re-routed": lambda api, ids: api.call("PATCH", f"/api/outputs/{ids['output']}", {"destination": "127.0.97.9"}),
    "renumbered": lambda api, ids: api.call("PATCH", f"/api/outputs/{ids['output']}", {"first_number": 40}),
    "deleted": lambda api, ids: api.call("DELETE", f"/api/outputs/{ids['output']}"),
    "another show": lambda api, ids: api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Another"}),
}


@pytest.mark.parametrize("way", EDITS)
def test_an_output_that_ends_leaves_darkness(app: RunningApp, wire: Wire, way: str) -> None:
    ids = laser_scene(app, wire)
    EDITS[way](app.api(), ids)
    wait_for(lambda: wire.last() == DARK, 10, "it stayed lit")
    time.sleep(0.5)
    here = [data for _, number, data in wire.heard if number == 0]
    assert {tuple(data[:7]) for data in here[-3:]} == {tuple(DARK)}
    assert running(app)["state"]["armed"] == []
    ids["holder"].leave()


@pytest.mark.parametrize("how", ["INT", "TERM", "down"])
def test_the_program_ends_dark_and_at_once(own_app: OwnApp, wire: Wire, how: str) -> None:
    app = own_app("127.0.97.1")
    ids = laser_scene(app, wire)
    begun = time.monotonic()
    if how == "down":
        done = command(app, "down")
        assert (done.returncode, done.stdout) == (0, "Heliograph has ended.\n")
    else:
        app.process.send_signal(getattr(signal, f"SIG{how}"))
        wait_for(lambda: wire.last() == DARK, 3, "it stayed lit")
        assert time.monotonic() - begun < 2 * PATIENCE, "the lamps waited for the other processes to end"
        app.process.wait(120)
    ids["holder"].leave()
    assert wire.rests() == DARK
    assert [list(data[:7]) for _, _, data in wire.heard[-3:]] == [DARK] * 3


def test_a_closed_terminal_does_not_stop_the_show_and_it_is_found_again(own_app: OwnApp, wire: Wire) -> None:
    app = own_app("127.0.97.1")
    ids = laser_scene(app, wire)
    app.process.send_signal(signal.SIGHUP)
    time.sleep(1.0)
    assert app.process.poll() is None
    assert wire.last() == LIT
    assert wire.silent_s() < 0.5
    said = command(app, "status").stdout
    assert said.startswith(f"Heliograph is up: http://127.0.0.1:{app.port}/\n")
    assert "1 universes, 1 looks on" in said
    assert "Lasers: 1 armed." in said
    ids["holder"].leave()
    assert command(app, "down").returncode == 0
    assert wire.rests() == DARK
    gone = command(app, "status")
    assert gone.returncode == 1
    assert "does not run with the data folder" in gone.stderr


def test_lasers_are_safe_when_the_browser_the_web_or_the_database_is_gone(own_app: OwnApp, wire: Wire) -> None:
    """A lease is over after ten seconds. The web process and the database are stopped, not killed: those that end are
    started again before that."""
    app = own_app("127.0.97.1")
    ids = laser_scene(app, wire)
    time.sleep(11.0)
    assert wire.last() == LIT, "it was renewed all the time"
    for what in ("browser", "web", "database"):
        if what == "browser":
            ids["holder"].leave()
        else:
            os.kill(app.process.pid, signal.SIGSTOP)  # who would end it and start another one, in about as long
            for pid in _with_children(app.pid(what)):
                os.kill(pid, signal.SIGSTOP)
        begun = time.monotonic()
        wait_for(lambda: wire.last() == [3, 0, 0, 0, 200, 100, 40], 14, f"it stayed armed without the {what}")
        assert time.monotonic() - begun > 5, "the lease was not waited for"
        app.process.send_signal(signal.SIGCONT)
        wait_for(lambda: _shows(app), 40, "the program was not whole again")
        if what != "database":
            from tests.live.laser_scene import Holder

            ids["holder"].leave()
            ids["holder"] = Holder(app, [ids["ray"]])
            wire.sees(LIT)
    ids["holder"].leave()


def _with_children(pid: int) -> list[int]:
    """A process and what it started: each connection of the database is a process of its own."""
    children = Path(f"/proc/{pid}/task/{pid}/children").read_text().split()
    return [pid, *map(int, children)]


def _shows(app: RunningApp) -> bool:
    try:
        return bool(app.api().call("GET", "/api/show")["show"])
    except Exception:
        return False


def test_a_killed_supervisor_is_started_again_without_a_dark_moment(own_app: OwnApp, wire: Wire) -> None:
    app = own_app("127.0.97.1")
    ids = laser_scene(app, wire)
    ids["holder"].leave()
    app.engine().ask({"do": "arm", "fixtures": []})
    lit = [3, 0, 0, 0, 200, 100, 40]
    wire.sees(lit)
    os.kill(app.process.pid, signal.SIGKILL)
    app.process.wait(20)
    begun = len(wire.heard)
    app.log.write_text("")
    app.start()
    wire.sees(lit)
    time.sleep(0.5)
    assert {tuple(data[:7]) for _, _, data in wire.heard[begun:]} == {tuple(lit)}


def test_an_engine_started_by_hand_beside_the_running_one_sends_nothing(own_app: OwnApp, wire: Wire) -> None:
    app = own_app("127.0.97.1")
    ids = laser_scene(app, wire)
    words = [sys.executable, "-m", "heliograph.engine.process", "--data", str(app.data)]
    second = subprocess.run(words, env=ENVIRONMENT, capture_output=True, text=True, timeout=120)
    assert second.returncode == 3
    assert "another engine sends already" in second.stderr
    assert wire.last() == LIT
    ids["holder"].leave()


def test_root_keeps_only_what_needs_it(own_app: OwnApp, wire: Wire, tmp_path: Path) -> None:
    """What takes in things from outside is not root: the processes themselves, and the readers they start."""
    user = service_user()
    if user is None:
        pytest.skip("not root: nothing to give up")
    assert may_pass(Path(sys.base_prefix), user), "./heliograph chose a Python that only root can reach"
    if not may_pass(ROOT, user):
        pytest.skip(f"nobody but root can reach {ROOT}")
    app = own_app("127.0.97.1")
    for name in ("web", "media", "preview", "receiver"):
        status = Path(f"/proc/{app.pid(name)}/status").read_text()
        for kind in ("Uid", "Gid"):
            ids = next(line.split()[1:] for line in status.splitlines() if line.startswith(kind))
            assert set(ids) == {str(user.pw_uid if kind == "Uid" else user.pw_gid)}, (name, kind)
        assert "CapEff:\t0000000000000000" in status, name
    picture = tmp_path / "red.png"
    Image.new("RGB", (8, 8), (200, 0, 0)).save(picture)
    tmp_path.chmod(0o755)
    app.api().upload("/api/clips", str(uuid4()), "red.png", picture)  # read by a child of web
    assert [clip["name"] for clip in app.api().call("GET", "/api/show")["clips"]] == ["red.png"]
    kept = [one for one in (app.data / "media").rglob("*") if one.is_file()]
    assert kept
    assert {one.stat().st_uid for one in kept} == {user.pw_uid}


def test_where_only_root_can_go_everything_stays_root_and_it_is_said(front_end: Path, tmp_path: Path) -> None:
    if os.getuid() != 0:
        pytest.skip("not root: nothing to give up")
    closed = tmp_path / "closed"
    closed.mkdir(mode=0o700)
    app = RunningApp(closed, "127.0.97.1")
    try:
        assert os.stat(f"/proc/{app.pid('web')}").st_uid == 0
        assert f"cannot reach {app.data}." in app.log.read_text()
    finally:
        app.stop()
