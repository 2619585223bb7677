"""A matrix keeps how it was woven last."""

from typing import Any


def up(_migrator: Any, db: Any) -> None:
    db.execute_sql("ALTER TABLE matrix ADD COLUMN weave jsonb")
