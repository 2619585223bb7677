"""Channels that the show itself holds at a value."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE parked (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    universe integer NOT NULL CHECK (universe BETWEEN 1 AND 63999),
    channel integer NOT NULL CHECK (channel BETWEEN 1 AND 512),
    value integer NOT NULL CHECK (value BETWEEN 0 AND 255),
    UNIQUE (show_id, universe, channel)
);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
