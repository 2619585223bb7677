"""Looks stand in folders, have a note, and fades of their own for starting and stopping by hand."""

from typing import Any


def up(_migrator: Any, db: Any) -> None:
    db.execute_sql("ALTER TABLE look ADD COLUMN folder text NOT NULL DEFAULT ''")
    db.execute_sql("ALTER TABLE look ADD COLUMN note text NOT NULL DEFAULT ''")
    db.execute_sql("ALTER TABLE look ADD COLUMN fade_in double precision NOT NULL DEFAULT 0")
    db.execute_sql("ALTER TABLE look ADD COLUMN fade_out double precision NOT NULL DEFAULT 0")
