"""Favourites."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE favourite (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    "values" jsonb NOT NULL DEFAULT '[]'
);
CREATE INDEX favourite_show ON favourite (show_id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
