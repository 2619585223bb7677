"""A show that is deleted is kept for 30 days."""

from typing import Any


def up(_migrator: Any, db: Any) -> None:
    db.execute_sql("ALTER TABLE show ADD COLUMN deleted_at timestamptz")
