"""Backups: a dump of the database with the list of media it speaks of, in one file.

Made before a change of the database's form, once a day while the program runs, and by `./heliograph backup`; the last
ten stay. Media files are not in it (they never change, and may be many gigabytes): the list tells which belong to it.
"""

from __future__ import annotations

import datetime
import json
import os
import re
import subprocess
import tempfile
import threading
import zipfile
from pathlib import Path
from typing import Any

from heliograph import __version__
from heliograph.supervisor.cluster import NAME, USER, Access, Cluster
from heliograph.supervisor.say import StartError

KEPT = 10
DAY_S = 86_400.0
LOOK_S = 60.0
DUMP, MEDIA, FACTS = "database.dump", "media.json", "facts.json"
_NAMED = re.compile(r"heliograph-\d{8}-\d{6}(-[a-z-]+)?\.backup\.zip")
RESTORING = "heliograph_restoring"


def backups_folder(data: Path) -> Path:
    return data / "backups"


def make_backup(data: Path, programs: Path, access: Access, why: str = "") -> Path:
    """Writes one backup and answers where; StartError where it fails, and then none is left half made."""
    folder = backups_folder(data)
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    moment = datetime.datetime.now(datetime.UTC)
    while True:  # two within a second never overwrite one another
        stamp = moment.strftime("%Y%m%d-%H%M%S")
        target = folder / f"heliograph-{stamp}{'-' + why if why else ''}.backup.zip"
        if not target.exists():
            break
        moment += datetime.timedelta(seconds=1)
    with tempfile.TemporaryDirectory(dir=folder) as work:
        dump = Path(work) / DUMP
        command = [str(programs / "pg_dump"), "--format=custom", "--no-owner", f"--file={dump}", NAME]
        _run(command, access, "The database cannot be dumped")
        facts = {"version": __version__, "made": stamp, "why": why, "postgresql": programs.parent.name}
        made = Path(work) / "made.zip"
        try:
            with zipfile.ZipFile(made, "w", zipfile.ZIP_STORED) as packed:
                packed.write(dump, DUMP)
                packed.writestr(MEDIA, json.dumps(_media(data)))
                packed.writestr(FACTS, json.dumps(facts))
            with open(made, "rb") as file:
                os.fsync(file.fileno())
            os.replace(made, target)
        except OSError as error:
            raise StartError(f"The backup cannot be written to {folder}: {error.strerror}.") from error
    _tidy(folder)
    return target


def _media(data: Path) -> list[dict[str, Any]]:
    files = data / "media" / "files"
    return [
        {"name": path.name, "bytes": path.stat().st_size}
        for path in (sorted(files.iterdir()) if files.exists() else ())
        if path.is_file()
    ]


def _tidy(folder: Path) -> None:
    for path in listed(folder)[KEPT:]:
        path.unlink(missing_ok=True)


def listed(folder: Path) -> list[Path]:
    """Backups, newest first."""
    if not folder.exists():
        return []
    found = [path for path in folder.iterdir() if _NAMED.fullmatch(path.name)]
    return sorted(found, key=lambda path: (path.stat().st_mtime, path.name), reverse=True)


def read_backup(file: Path) -> tuple[dict[str, Any], list[dict[str, Any]]]:
    """(facts, media) of a backup; StartError where the file is none."""
    try:
        with zipfile.ZipFile(file) as packed:
            facts, media = json.loads(packed.read(FACTS)), json.loads(packed.read(MEDIA))
            packed.getinfo(DUMP)
    except FileNotFoundError as error:
        raise StartError(f"There is no file {file}.") from error
    except (OSError, ValueError, KeyError, zipfile.BadZipFile) as error:
        raise StartError(f"{file} is no backup of Heliograph.") from error
    return facts, media


def missing_media(data: Path, media: list[dict[str, Any]]) -> list[str]:
    """Files that a backup speaks of and that are not there."""
    return [one["name"] for one in media if not (data / "media" / "files" / one["name"]).exists()]


def restore(data: Path, cluster: Cluster, file: Path) -> None:
    """Puts a backup in place of the database; all or nothing. The present one is backed up first. The server runs."""
    read_backup(file)
    access = cluster.access()
    make_backup(data, cluster.programs, access, "before-restore")
    with tempfile.TemporaryDirectory(dir=backups_folder(data)) as work, zipfile.ZipFile(file) as packed:
        dump = packed.extract(DUMP, work)
        with cluster.connect() as connection:
            connection.execute(f"DROP DATABASE IF EXISTS {RESTORING}")
            connection.execute(f"CREATE DATABASE {RESTORING}")
        command = [str(cluster.programs / "pg_restore"), "--exit-on-error", "--no-owner", f"--dbname={RESTORING}", dump]
        _run(command, access, "The backup cannot be read")
    with cluster.connect() as connection:
        # Both steps are renames: whatever happens between them, both databases are whole.
        connection.execute("DROP DATABASE IF EXISTS heliograph_replaced")
        connection.execute(f"ALTER DATABASE {NAME} RENAME TO heliograph_replaced")
        connection.execute(f"ALTER DATABASE {RESTORING} RENAME TO {NAME}")
        connection.execute("DROP DATABASE heliograph_replaced")


def _run(command: list[str], access: Access, failed: str) -> None:
    env = {
        **os.environ,
        "PGHOST": access.host,
        "PGPORT": str(access.port),
        "PGUSER": USER,
        "PGPASSWORD": access.password,
    }
    done = subprocess.run(command, env=env, capture_output=True, text=True, cwd="/")
    if done.returncode:
        last = done.stderr.strip().splitlines()
        raise StartError(f"{failed}: {last[-1] if last else command[0]}")


def keep_daily(data: Path, cluster: Cluster, stopping: threading.Event, log: Any) -> None:
    """Makes a backup whenever the newest is a day old; for a thread of its own."""
    failed = ""
    while not stopping.wait(LOOK_S):
        newest = listed(backups_folder(data))[:1]
        now = datetime.datetime.now().timestamp()
        if newest and now - newest[0].stat().st_mtime < DAY_S:
            continue
        try:
            made = make_backup(data, cluster.programs, cluster.access())
            log.info(f"backup made: {made.name}", event_for_people=True)
            failed = ""
        except StartError as error:
            if str(error) != failed:
                failed = str(error)
                log.warning(f"no backup could be made: {failed}", event_for_people=True)
