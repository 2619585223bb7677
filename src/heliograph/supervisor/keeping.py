"""`./heliograph backup` and `./heliograph restore`: with the running database, or one started for the purpose."""

from __future__ import annotations

import contextlib
import json
import subprocess
from collections.abc import Iterator
from pathlib import Path

from heliograph.supervisor.backups import make_backup, missing_media, read_backup, restore
from heliograph.supervisor.cluster import Access, Cluster
from heliograph.supervisor.running import is_running
from heliograph.supervisor.say import StartError

END_S = 20.0


@contextlib.contextmanager
def _server(cluster: Cluster) -> Iterator[None]:
    """The cluster's server for this block."""
    if not cluster.is_made:
        raise StartError(f"There is no database in {cluster.folder}.")
    cluster.prepare()
    command, options = cluster.command()
    server = subprocess.Popen(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, **options)  # type: ignore[call-overload]
    try:
        cluster.wait_ready()
        yield
    finally:
        server.send_signal(2)
        try:
            server.wait(END_S)
        except subprocess.TimeoutExpired:
            server.kill()
            server.wait()


def back_up(data: Path) -> Path:
    """Where the backup is."""
    cluster = Cluster(data)
    if is_running(data):
        try:
            access = Access(**json.loads((data / "run" / "database.json").read_text()))
        except (OSError, ValueError, TypeError) as error:
            raise StartError("Heliograph is still starting: try again in a moment.") from error
        return make_backup(data, cluster.programs, access)
    with _server(cluster):
        return make_backup(data, cluster.programs, cluster.access())


def prepare_restore(data: Path, file: Path) -> str:
    """What restoring would do, in sentences; StartError where it cannot be done."""
    facts, media = read_backup(file)
    if is_running(data):
        raise StartError("Heliograph runs: end it first with ./heliograph down, so that nobody works on what goes.")
    gone = missing_media(data, media)
    said = f"{file.name} was made at {facts['made']} (UTC) by Heliograph {facts['version']}."
    if gone:
        said += f" {len(gone)} of its {len(media)} media files are not in {data / 'media' / 'files'}."
    return f"{said}\nAll shows there are now in {data} are overwritten; a backup of them is made first."


def put_back(data: Path, file: Path) -> None:
    cluster = Cluster(data)
    with _server(cluster):
        restore(data, cluster, file)
