"""The clock of a show: where it is, and its rules."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE clock (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    latitude double precision,
    longitude double precision,
    zone text NOT NULL,
    rules jsonb NOT NULL DEFAULT '[]'
);
CREATE UNIQUE INDEX clock_show ON clock (show_id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
