"""The PostgreSQL connection pool, and numbered migrations.

Connections are opened inside an endpoint (`with connected():`): their state belongs to a thread, and
a dependency that yields was measured to leak them.
"""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path

import peewee
import psycopg
from playhouse.migrations import Runner
from playhouse.postgres_ext import PooledPsycopg3Database

from heliograph.core.errors import UnavailableError
from heliograph.ipc.patience import DATABASE_CONNECT_S

POOL = 16

# What asks outside `connected` would open a connection that nobody closes: it fails instead.
db = PooledPsycopg3Database(None, prefer_psycopg3=True, autoconnect=False)


def open_database(host: str, port: int, name: str, user: str, password: str) -> None:
    """Points the pool at a database; nothing is connected yet."""
    db.init(
        name,
        host=host,
        port=port,
        user=user,
        password=password,
        max_connections=POOL,
        stale_timeout=60,
        timeout=5,
        connect_timeout=DATABASE_CONNECT_S,
        prefer_psycopg3=True,
    )


def _runner() -> Runner:
    return Runner(db, str(Path(__file__).parent / "migrations"))


def migrate() -> list[str]:
    """Applies what is missing and returns its names."""
    with db.connection_context():
        return [str(name) for name in _runner().up()]


def pending() -> tuple[list[str], list[str]]:
    """(migrations that are missing, migrations of a newer program that this one does not know)."""
    with db.connection_context():
        known = _runner().status()
    missing = [str(one.name) for one in known if one.applied is None]
    return missing, [str(one.name) for one in known if one.path is None]


@contextlib.contextmanager
def one_transaction() -> Iterator[None]:
    """All of a block or nothing of it. Inside a connection."""
    with db.atomic():
        yield


@contextlib.contextmanager
def connected() -> Iterator[None]:
    """A connection for this block; raises UnavailableError while the database is away."""
    try:
        with db.connection_context():
            yield
    except (peewee.OperationalError, peewee.InterfaceError, psycopg.OperationalError) as error:
        with contextlib.suppress(Exception):
            db.close_all()  # connections from before a restart of the server are dead
        raise UnavailableError(
            "The database does not answer, so nothing can be changed at the moment.",
            repair="It is restarted by itself; the lights go on meanwhile. Try again in a few seconds.",
        ) from error


def database_answers() -> None:
    """Raises UnavailableError where it does not."""
    with connected():
        db.execute_sql("SELECT 1")


def database_bytes() -> int:
    """How large the database is on disk. Inside a connection."""
    return int(db.execute_sql("SELECT pg_database_size(current_database())").fetchone()[0])
