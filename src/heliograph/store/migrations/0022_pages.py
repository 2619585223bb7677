"""Pages of pads and faders."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE page (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    slug text NOT NULL,
    items jsonb NOT NULL DEFAULT '[]'
);
CREATE INDEX page_show ON page (show_id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
