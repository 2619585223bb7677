"""Presets: named values for parts of fixtures."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE preset (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    folder text NOT NULL DEFAULT '',
    kind text NOT NULL CHECK (kind IN ('colour', 'position', 'beam', 'laser')),
    sets jsonb NOT NULL DEFAULT '{}',
    kept jsonb NOT NULL DEFAULT '{}'
);
CREATE INDEX preset_show ON preset (show_id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
