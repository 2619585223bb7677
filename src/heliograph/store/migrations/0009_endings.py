"""What an output leaves behind when it ends; profiles of lasers are guarded."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
ALTER TABLE output ADD COLUMN when_ends text NOT NULL DEFAULT 'dark' CHECK (when_ends IN ('dark', 'as it is'));
UPDATE profile SET guarded = true WHERE kind = 'laser';
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
