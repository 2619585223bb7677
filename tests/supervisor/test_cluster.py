"""The cluster is never deleted, whatever is missing; backups and what puts them back. With a real PostgreSQL."""

from __future__ import annotations

import subprocess
import zipfile
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import psycopg
import pytest

from heliograph.supervisor import backups, cluster
from heliograph.supervisor.backups import listed, make_backup, missing_media, read_backup, restore
from heliograph.supervisor.cluster import Cluster, server_programs
from heliograph.supervisor.say import StartError
from tests.conftest import _reachable, wait_for


@pytest.fixture
def data(tmp_path: Path) -> Path:
    folder = _reachable(tmp_path) / "data"
    folder.mkdir()
    return folder


@contextmanager
def running(made: Cluster) -> Iterator[psycopg.Connection[object]]:
    command, options = made.command()
    server = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, **options)  # type: ignore[call-overload]
    try:
        made.wait_ready()
        with made.connect("heliograph") as connection:
            yield connection
    finally:
        server.send_signal(2)
        server.wait(80)


def test_a_lost_secret_is_set_anew_and_everything_is_still_there(data: Path) -> None:
    made = Cluster(data)
    assert made.prepare()
    with running(made) as connection:
        connection.execute("CREATE TABLE lamp (name text)")
        connection.execute("INSERT INTO lamp VALUES ('Quay')")
    (data / "postgres.secret").unlink()
    again = Cluster(data)
    assert not again.prepare()
    with running(again) as connection:
        assert connection.execute("SELECT name FROM lamp").fetchall() == [("Quay",)]
    (data / "postgres.secret").write_text("")  # empty after a full disk: no other case
    third = Cluster(data)
    third.prepare()
    with running(third) as connection:
        assert connection.execute("SELECT count(*) FROM lamp").fetchone() == (1,)


def test_an_unfinished_cluster_is_begun_again_and_anything_else_is_left_alone(data: Path) -> None:
    (data / "postgres.making").mkdir()
    (data / "postgres.making" / "PG_VERSION").write_text("15")
    made = Cluster(data)
    assert made.prepare()
    assert not (data / "postgres.making").exists()
    control = data / "postgres" / "global" / "pg_control"
    kept = control.read_bytes()
    control.unlink()
    with pytest.raises(StartError, match=r"no complete database\. Nothing was deleted"):
        Cluster(data).prepare()
    assert (data / "postgres" / "PG_VERSION").exists()
    control.write_bytes(kept)
    assert Cluster(data).is_made


def test_a_folder_of_somebody_elses_is_left_alone(data: Path) -> None:
    (data / "postgres").mkdir()
    (data / "postgres" / "letters.txt").write_text("not a database")
    with pytest.raises(StartError, match="Nothing was deleted"):
        Cluster(data).prepare()
    assert (data / "postgres" / "letters.txt").read_text() == "not a database"


def test_the_server_is_the_one_that_made_the_cluster(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    for version in ("13", "15", "17"):
        folder = tmp_path / version / "bin"
        folder.mkdir(parents=True)
        for name in ("initdb", "postgres"):
            (folder / name).touch()
    monkeypatch.setattr(cluster, "INSTALLED", tmp_path)
    assert server_programs().parent.name == "17"
    assert server_programs("15").parent.name == "15"
    with pytest.raises(StartError, match=r"PostgreSQL 16, which is not installed .*apt-get install postgresql-16"):
        server_programs("16")


def test_a_backup_holds_the_database_and_the_list_of_media_and_goes_back(data: Path) -> None:
    files = data / "media" / "files"
    files.mkdir(parents=True)
    (files / "a.mp4").write_bytes(b"clip")
    made = Cluster(data)
    made.prepare()
    with running(made) as connection:
        connection.execute("CREATE TABLE lamp (name text)")
        connection.execute("INSERT INTO lamp VALUES ('Quay')")
        path = make_backup(data, made.programs, made.access(), "before-update")
        connection.execute("DELETE FROM lamp")
        connection.execute("INSERT INTO lamp VALUES ('Tower'), ('Mole')")
    facts, media = read_backup(path)
    assert (facts["why"], media) == ("before-update", [{"name": "a.mp4", "bytes": 4}])
    (files / "a.mp4").unlink()
    assert missing_media(data, media) == ["a.mp4"]
    with running(made):
        pass
    command, options = made.command()
    server = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, **options)  # type: ignore[call-overload]
    try:
        made.wait_ready()
        restore(data, made, path)
        with made.connect("heliograph") as connection:
            assert connection.execute("SELECT name FROM lamp").fetchall() == [("Quay",)]
        newest = listed(data / "backups")[0]
        assert "before-restore" in newest.name
        restore(data, made, newest)
        with made.connect("heliograph") as connection:
            assert connection.execute("SELECT count(*) FROM lamp").fetchone() == (2,)
    finally:
        server.send_signal(2)
        server.wait(80)


def test_a_damaged_backup_is_refused_and_nothing_is_replaced(data: Path, tmp_path: Path) -> None:
    made = Cluster(data)
    made.prepare()
    bad = tmp_path / "heliograph-20261127-120000.backup.zip"
    with zipfile.ZipFile(bad, "w") as packed:
        packed.writestr("database.dump", b"PGDMP rubbish")
        packed.writestr("media.json", "[]")
        packed.writestr("facts.json", '{"made": "x", "version": "0"}')
    command, options = made.command()
    server = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, **options)  # type: ignore[call-overload]
    try:
        made.wait_ready()
        with made.connect("heliograph") as connection:
            connection.execute("CREATE TABLE lamp (name text)")
        with pytest.raises(StartError, match="The backup cannot be read"):
            restore(data, made, bad)
        with made.connect("heliograph") as connection:
            assert connection.execute("SELECT count(*) FROM lamp").fetchone() == (0,)
    finally:
        server.send_signal(2)
        server.wait(80)
    for content in (b"", b"no zip"):
        bad.write_bytes(content)
        with pytest.raises(StartError, match="is no backup of Heliograph"):
            read_backup(bad)
    with pytest.raises(StartError, match="There is no file"):
        read_backup(tmp_path / "nowhere.zip")


def test_the_last_ten_backups_stay_and_nothing_else_is_touched(tmp_path: Path) -> None:
    folder = tmp_path / "backups"
    folder.mkdir()
    (folder / "my own copy.zip").touch()
    for n in range(14):
        (folder / f"heliograph-20261101-0000{n:02}.backup.zip").touch()
    backups._tidy(folder)
    kept = sorted(path.name for path in folder.iterdir())
    assert len(kept) == 11
    assert "my own copy.zip" in kept
    assert "heliograph-20261101-000013.backup.zip" in kept


def test_a_backup_is_made_when_the_newest_is_a_day_old(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    import os
    import threading
    import time
    from typing import Any, cast

    made: list[Path] = []
    folder = tmp_path / "backups"
    folder.mkdir()
    monkeypatch.setattr(backups, "LOOK_S", 0.02)

    def make(data: Path, *_: Any) -> Path:
        made.append(data / "backups" / f"heliograph-20261101-00000{len(made)}.backup.zip")
        made[-1].touch()
        return made[-1]

    class Log:
        def info(self, *_: Any, **__: Any) -> None: ...

        warning = info

    class Fake:
        programs = tmp_path

        def access(self) -> None: ...

    monkeypatch.setattr(backups, "make_backup", make)
    stopping = threading.Event()
    keeping = threading.Thread(
        target=backups.keep_daily, args=(tmp_path, cast(Cluster, Fake()), stopping, Log()), daemon=True
    )
    keeping.start()
    try:
        wait_for(lambda: len(made) == 1, 5, "none is made at once, where there is none")
        day_ago = time.time() - backups.DAY_S - 1
        os.utime(made[0], (day_ago, day_ago))
        wait_for(lambda: len(made) == 2, 5, "none is made after a day")
        time.sleep(0.3)
        assert len(made) == 2, "one that is new is enough"
    finally:
        stopping.set()
        keeping.join(20)
