"""Shows that others are started from."""

from typing import Any


def up(_migrator: Any, db: Any) -> None:
    db.execute_sql("ALTER TABLE show ADD COLUMN is_template boolean NOT NULL DEFAULT false")
