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
from typing import Any

import psycopg

from heliograph.ipc.durable import write_durably
from heliograph.ipc.patience import DATABASE_CONNECT_S, DATABASE_READY_S
from heliograph.ipc.service_user import may_pass
from heliograph.supervisor.say import StartError

USER = NAME = "heliograph"
FALLBACK = Path("/var/lib/heliograph")

DRIVING = ("initdb", "postgres")
INSTALLED = Path("/usr/lib/postgresql")


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


def server_programs(version: str = "") -> Path:
    """The bin folder of the PostgreSQL that made a cluster (its major version), else of the newest one there is."""
    found = [p for p in INSTALLED.glob("*/bin") if all((p / name).exists() for name in DRIVING)]
    if version:
        fitting = [path for path in found if path.parent.name == version]
        if not fitting:
            there = ", ".join(sorted(path.parent.name for path in found)) or "none"
            raise StartError(
                f"The database was made by PostgreSQL {version}, which is not installed (there is: {there}). "
                f"Install it with: sudo apt-get install postgresql-{version}"
            )
        return fitting[0]
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
        self.folder = self._place()
        self.programs = server_programs(self._version())
        self._secret = self.folder.parent / f"{self.folder.name}.secret"
        self.port = 0

    def _place(self) -> Path:
        """Where it is, if there is one already; else where its user can reach it."""
        wanted = self._data / "postgres"
        if self._user is None:
            return wanted
        digest = hashlib.sha256(str(self._data).encode()).hexdigest()[:12]
        elsewhere = FALLBACK / digest / "postgres"
        can_reach = may_pass(self._data, self._user)
        if (wanted / "PG_VERSION").exists():
            if not can_reach:
                raise StartError(
                    f"The database's user '{self._user.pw_name}' cannot reach {wanted}. Open the folders on the way to "
                    "it (chmod o+x), or name another data folder with --data DIR."
                )
            return wanted
        if (elsewhere / "PG_VERSION").exists() or not can_reach:
            return elsewhere
        return wanted

    def _version(self) -> str:
        try:
            return (self.folder / "PG_VERSION").read_text().strip()
        except OSError:
            return ""

    @property
    def is_made(self) -> bool:
        """Told by what is in the folder: a cluster is put in its place only when it is complete."""
        return bool(self._version()) and (self.folder / "global" / "pg_control").exists()

    def prepare(self) -> bool:
        """Makes the cluster if there is none; True if it was made now. One that is there is never deleted: where the
        file with its secret is gone, a new secret is set. StartError where the folder holds anything else."""
        if self.is_made:
            if not self._read_secret():
                self._reset_secret()
            return False
        if self.folder.exists() and any(self.folder.iterdir()):
            raise StartError(
                f"{self.folder} holds something that is no complete database. Nothing was deleted: move it away, "
                "and restore a backup afterwards (./heliograph restore FILE)."
            )
        making = self.folder.with_name("postgres.making")
        shutil.rmtree(making, ignore_errors=True)  # of a start that was cut short: never yet used
        try:
            making.parent.mkdir(parents=True, exist_ok=True)
            making.mkdir(mode=0o700)
            self._write_secret()
            self._own(making)
        except OSError as error:
            raise StartError(f"The database cannot be made in {making.parent}: {error.strerror}.") from error
        command = [str(self.programs / "initdb"), "-D", str(making), "-U", USER, "--pwfile", str(self._secret)]
        command += ["--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-instructions"]
        done = subprocess.run(command, capture_output=True, text=True, cwd="/", **self._as_user())  # type: ignore[call-overload]
        if done.returncode:
            shutil.rmtree(making, ignore_errors=True)
            last = (done.stderr or done.stdout).strip().splitlines()
            raise StartError(f"The database could not be made: {last[-1] if last else 'initdb failed'}")
        with contextlib.suppress(OSError):
            self.folder.rmdir()  # an empty one
        os.replace(making, self.folder)
        return True

    def _read_secret(self) -> str:
        try:
            return self._secret.read_text().strip()
        except OSError:
            return ""

    def _write_secret(self) -> str:
        secret = secrets.token_urlsafe(24)
        write_durably(self._secret, secret.encode(), 0o600)
        self._own(self._secret)
        return secret

    def _reset_secret(self) -> None:
        """Gives the database's user a new password, with the server in its single-user mode."""
        self.end_orphan()
        fresh = secrets.token_urlsafe(24)
        command = [str(self.programs / "postgres"), "--single", "-D", str(self.folder), "postgres"]
        done = subprocess.run(
            command,
            input=f"ALTER ROLE {USER} PASSWORD '{fresh}';\n",
            capture_output=True,
            text=True,
            cwd="/",
            **self._as_user(),  # type: ignore[call-overload]
        )
        if done.returncode or "ERROR" in done.stderr:
            last = done.stderr.strip().splitlines()
            raise StartError(
                f"The file with the database's secret is gone and a new one cannot be set: {last[-1] if last else ''} "
                "All shows are still there."
            )
        write_durably(self._secret, fresh.encode(), 0o600)
        self._own(self._secret)

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
        command = [str(self.programs / "postgres"), "-D", str(self.folder), "-p", str(self.port)]
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
        return Access("127.0.0.1", self.port, NAME, USER, self._read_secret())

    def wait_ready(self) -> None:
        """Until the server answers; makes our database in it the first time."""
        until = time.monotonic() + DATABASE_READY_S
        while True:
            try:
                self._make_database()
                return
            except psycopg.OperationalError as error:
                if time.monotonic() > until:
                    raise StartError(f"The database does not start: {str(error).splitlines()[0]}") from error
                time.sleep(0.05)

    def connect(self, name: str = "postgres") -> psycopg.Connection[Any]:
        """A connection of its own, to the cluster's maintenance database where none is named."""
        access = self.access()
        return psycopg.connect(
            host=access.host,
            port=access.port,
            dbname=name,
            user=USER,
            password=access.password,
            autocommit=True,
            connect_timeout=DATABASE_CONNECT_S,
        )

    def _make_database(self) -> None:
        with self.connect() as connection:
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
