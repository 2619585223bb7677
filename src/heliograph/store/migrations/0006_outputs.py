"""Outputs: synchronisation, a frame rate of their own, several destinations, mute."""

from typing import Any

from heliograph.store.statements import run_statements

STATEMENTS = """
ALTER TABLE output ADD COLUMN sync integer NOT NULL DEFAULT 0 CHECK (sync BETWEEN 0 AND 63999);
ALTER TABLE output ADD COLUMN rate_hz integer NOT NULL DEFAULT 44 CHECK (rate_hz BETWEEN 1 AND 44);
ALTER TABLE output ADD COLUMN mute boolean NOT NULL DEFAULT false;
ALTER TABLE output ADD COLUMN card_broadcast text NOT NULL DEFAULT '';
"""


def up(_migrator: Any, db: Any) -> None:
    run_statements(db, STATEMENTS)
