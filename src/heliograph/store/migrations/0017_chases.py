"""Chases: frames that are drawn."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE chase (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    matrix text NOT NULL DEFAULT '',
    over_group text NOT NULL DEFAULT '',
    selection text NOT NULL DEFAULT '',
    "columns" integer NOT NULL CHECK ("columns" >= 1),
    "rows" integer NOT NULL CHECK ("rows" >= 1),
    unit text NOT NULL CHECK (unit IN ('s', 'beat')),
    frames jsonb NOT NULL,
    origin text NOT NULL DEFAULT ''
);
CREATE INDEX chase_show ON chase (show_id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
