"""Scores."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE score (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    bars integer NOT NULL DEFAULT 32,
    rounds integer NOT NULL DEFAULT 1,
    priority integer NOT NULL DEFAULT 100,
    release_s double precision NOT NULL DEFAULT 2,
    staves jsonb NOT NULL DEFAULT '[]',
    entries jsonb NOT NULL DEFAULT '[]',
    positions jsonb NOT NULL DEFAULT '[]',
    notes jsonb NOT NULL DEFAULT '[]'
);
CREATE INDEX score_show ON score (show_id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
