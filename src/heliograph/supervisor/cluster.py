"""Our own PostgreSQL cluster: Debian's server, an unprivileged user, loopback only, a free port, scram.

The server refuses to run as root; then it runs as Debian's `postgres` user. Where that user cannot
reach the data folder (a checkout under a closed home), the cluster lives under /var/lib/heliograph.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import os
import pwd
import secrets
import shutil
import socket
import subprocess
import time
from dataclasses import dataclass
from pathlib import Path

import psycopg

from heliograph.supervisor.say import StartError

USER = NAME = "heliograph"
FALLBACK = Path("/var/lib/heliograph")
READY_S = 30.0

DRIVING = ("initdb", "postgres")


@dataclass(frozen=True, slots=True)
class Access:
    """How to reach the cluster; stored for the other processes in run/database.json (0600)."""

    host: str
    port: int
    name: str
    user: str
    password: str

    def as_json(self) -> str:
        return json.dumps(
            {
                "host": self.host,
                "port": self.port,
                "name": self.name,
                "user": self.user,
                "password": self.password,
            }
        )


def server_programs() -> Path:
    """The newest PostgreSQL's bin folder."""
    found = [p for p in Path("/usr/lib/postgresql").glob("*/bin") if all((p / name).exists() for name in DRIVING)]
    if not found:
        raise StartError("PostgreSQL is not installed. Install it with: sudo apt-get install postgresql")
    return max(found, key=lambda path: int(path.parent.name.split(".")[0]))


def unprivileged_user() -> pwd.struct_passwd | None:
    """Who runs the server: nobody special, unless we are root."""
    if os.getuid() != 0:
        return None
    try:
        return pwd.getpwnam("postgres")
    except KeyError as error:
        raise StartError("There is no user 'postgres' to run the database as. Install Debian's postgresql.") from error


class Cluster:
    """Creates, starts and stops one cluster for one data folder."""

    def __init__(self, data: Path) -> None:
        self._data = data
        self._user = unprivileged_user()
        self._bin = server_programs()
        self.folder = self._place()
        self._secret = self.folder.parent / f"{self.folder.name}.secret"
        self.port = 0

    def _place(self) -> Path:
        wanted = self._data / "postgres"
        if self._user is None or self._reachable(self._data):
            return wanted
        digest = hashlib.sha256(str(self._data).encode()).hexdigest()[:12]
        return FALLBACK / digest / "postgres"

    def _reachable(self, folder: Path) -> bool:
        """Whether the unprivileged user may pass through every folder on the way."""
        assert self._user is not None
        for one in [folder, *folder.parents]:
            if not one.exists():
                continue
            facts = one.stat()
            if facts.st_uid == self._user.pw_uid:
                allowed = facts.st_mode & 0o100
            elif facts.st_gid == self._user.pw_gid:
                allowed = facts.st_mode & 0o010
            else:
                allowed = facts.st_mode & 0o001
            if not allowed:
                return False
        return True

    def prepare(self) -> bool:
        """Makes the cluster if it is not there or was left half made; True if it was made now."""
        if (self.folder / "PG_VERSION").exists() and self._secret.exists():
            return False
        making = self.folder.with_name("postgres.making")
        for leftover in (making, self.folder):
            shutil.rmtree(leftover, ignore_errors=True)
        try:
            making.parent.mkdir(parents=True, exist_ok=True)
            making.mkdir(mode=0o700)
            self._secret.write_text(secrets.token_urlsafe(24))
            self._secret.chmod(0o600)
            self._own(making, self._secret)
        except OSError as error:
            raise StartError(f"The database cannot be made in {making.parent}: {error.strerror}.") from error
        command = [str(self._bin / "initdb"), "-D", str(making), "-U", USER, "--pwfile", str(self._secret)]
        command += ["--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-instructions"]
        done = subprocess.run(command, capture_output=True, text=True, cwd="/", **self._as_user())  # type: ignore[call-overload]
        if done.returncode:
            shutil.rmtree(making, ignore_errors=True)
            last = (done.stderr or done.stdout).strip().splitlines()
            raise StartError(f"The database could not be made: {last[-1] if last else 'initdb failed'}")
        os.replace(making, self.folder)
        return True

    def _own(self, *paths: Path) -> None:
        if self._user is not None:
            for path in paths:
                os.chown(path, self._user.pw_uid, self._user.pw_gid)

    def _as_user(self) -> dict[str, object]:
        if self._user is None:
            return {}
        return {"user": self._user.pw_uid, "group": self._user.pw_gid, "extra_groups": []}

    def command(self) -> tuple[list[str], dict[str, object]]:
        """The server's command line on a free port, and how to run it."""
        self.end_orphan()
        if not self.port or not _is_free(self.port):
            self.port = _free_port()
        command = [str(self._bin / "postgres"), "-D", str(self.folder), "-p", str(self.port)]
        command += ["-c", "listen_addresses=127.0.0.1", "-c", "unix_socket_directories="]
        command += ["-c", "max_connections=40", "-c", "log_destination=stderr"]
        return command, {"cwd": "/", **self._as_user()}

    def end_orphan(self) -> None:
        """Stops a server of this cluster that a killed supervisor left behind."""
        try:
            pid = int((self.folder / "postmaster.pid").read_text().splitlines()[0])
            words = Path(f"/proc/{pid}/cmdline").read_bytes().split(b"\0")
        except (OSError, ValueError, IndexError):
            return
        if str(self.folder).encode() not in words:
            return
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, 2)
        until = time.monotonic() + 15
        while Path(f"/proc/{pid}").exists() and time.monotonic() < until:
            time.sleep(0.05)

    def access(self) -> Access:
        return Access("127.0.0.1", self.port, NAME, USER, self._secret.read_text().strip())

    def wait_ready(self) -> None:
        """Until the server answers; makes our database in it the first time."""
        until = time.monotonic() + READY_S
        while True:
            try:
                self._make_database()
                return
            except psycopg.OperationalError as error:
                if time.monotonic() > until:
                    raise StartError(f"The database does not start: {str(error).splitlines()[0]}") from error
                time.sleep(0.05)

    def _make_database(self) -> None:
        access = self.access()
        with psycopg.connect(
            host=access.host,
            port=access.port,
            dbname="postgres",
            user=USER,
            password=access.password,
            autocommit=True,
            connect_timeout=3,
        ) as connection:
            if connection.execute("SELECT 1 FROM pg_database WHERE datname = %s", (NAME,)).fetchone() is None:
                connection.execute(f"CREATE DATABASE {NAME}")


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _is_free(port: int) -> bool:
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind(("127.0.0.1", port))
        except OSError:
            return False
        return True
