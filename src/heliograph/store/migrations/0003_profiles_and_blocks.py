"""What is known of a profile, where the blocks of a fixture lie, groups by rule, profiles kept for other shows."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
ALTER TABLE profile
    ADD COLUMN notes text NOT NULL DEFAULT '',
    ADD COLUMN origin text NOT NULL DEFAULT '',
    ADD COLUMN verified boolean NOT NULL DEFAULT false,
    ADD COLUMN manual text NOT NULL DEFAULT '',
    ADD COLUMN manual_name text NOT NULL DEFAULT '';

ALTER TABLE fixture ADD COLUMN blocks jsonb NOT NULL DEFAULT '[]';

ALTER TABLE fixture_group
    ADD COLUMN folder text NOT NULL DEFAULT '',
    ADD COLUMN rule text NOT NULL DEFAULT '',
    ADD COLUMN cells jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN emitter text NOT NULL DEFAULT '';

CREATE TABLE kept_profile (
    id uuid PRIMARY KEY,
    maker text NOT NULL,
    name text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    kept_at timestamptz NOT NULL DEFAULT now(),
    profile jsonb NOT NULL,
    UNIQUE (maker, name)
);
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
