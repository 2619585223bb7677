"""Plans: the real place of fixtures, labels and nodes, in metres, over a picture."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE plan (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    items jsonb NOT NULL DEFAULT '[]',
    picture text NOT NULL DEFAULT '',
    picture_width_m double precision NOT NULL DEFAULT 20 CHECK (picture_width_m > 0),
    picture_height_m double precision NOT NULL DEFAULT 10 CHECK (picture_height_m > 0),
    picture_x double precision NOT NULL DEFAULT 0,
    picture_y double precision NOT NULL DEFAULT 0
);
CREATE INDEX plan_show ON plan (show_id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
