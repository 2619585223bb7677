"""Clips have numbers, by which they are chosen."""

from typing import Any


def up(_migrator: Any, db: Any) -> None:
    db.execute_sql("ALTER TABLE clip ADD COLUMN number integer NOT NULL DEFAULT 0")
    db.execute_sql(
        "UPDATE clip SET number = counted.number FROM (SELECT id, row_number() OVER "
        "(PARTITION BY show_id ORDER BY name, id) AS number FROM clip) AS counted WHERE clip.id = counted.id"
    )
