"""What was seen on test walks; matrices that share another's arrangement."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE mark (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    fixture text NOT NULL,
    cell integer NOT NULL CHECK (cell >= 0),
    kind text NOT NULL CHECK (kind IN ('good', 'dark', 'wrong place', 'wrong colour')),
    seen jsonb NOT NULL DEFAULT '{}'
);
CREATE INDEX mark_show ON mark (show_id);
ALTER TABLE matrix ADD COLUMN shares text NOT NULL DEFAULT '';
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
