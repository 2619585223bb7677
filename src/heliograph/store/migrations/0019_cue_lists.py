"""Cue lists."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
CREATE TABLE cue_list (
    id uuid PRIMARY KEY,
    show_id uuid NOT NULL REFERENCES show (id) ON DELETE CASCADE,
    rev bigint NOT NULL,
    place integer NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    cues jsonb NOT NULL DEFAULT '[]',
    priority integer NOT NULL DEFAULT 100,
    "order" text NOT NULL DEFAULT 'along',
    rounds integer NOT NULL DEFAULT 1,
    letting_go text NOT NULL DEFAULT 'fade',
    release_s double precision NOT NULL DEFAULT 2,
    main boolean NOT NULL DEFAULT false,
    seed integer NOT NULL DEFAULT 0
);
CREATE INDEX cue_list_show ON cue_list (show_id);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
