"""Several SQL statements of one migration, parted by a semicolon at the end of a line."""

from __future__ import annotations

from typing import Any


def run_statements(db: Any, text: str) -> None:
    for statement in text.split(";\n"):
        if statement.strip():
            db.execute_sql(statement)
