"""Where a block lies, how a channel changes in a fade, which way a line runs: one field each. A look has lines.

Edits that hold the older shape can no longer be undone: what they would bring back is not what is stored now.
"""

from typing import Any

import orjson

from heliograph.core.older_shows import lies_of_states, newer_line, newer_mode

_OLD_EDITS = """
UPDATE edit SET state = 'dropped' WHERE state IN ('done', 'undone') AND EXISTS (
    SELECT 1 FROM jsonb_array_elements(changes) AS one, (VALUES ('before'), ('after')) AS side (name)
    WHERE one ->> 'table' = 'profile' AND one -> name ? 'modes'
        OR one ->> 'table' = 'look' AND one -> name ? 'layers'
        OR one ->> 'table' = 'fixture' AND one -> name -> 'blocks' <> '[]'::jsonb
)
"""


def up(_migrator: Any, db: Any) -> None:
    def rewrite(table: str, column: str, key: str, newer: Any) -> None:
        for row, value in db.execute_sql(f"SELECT {key}, {column} FROM {table}").fetchall():
            found = newer(value)
            if found != value:
                stored = orjson.dumps(found).decode()
                db.execute_sql(f"UPDATE {table} SET {column} = %s::jsonb WHERE {key} = %s", (stored, row))

    def modes(value: list[Any]) -> list[Any]:
        return [newer_mode(one) for one in value]

    rewrite("profile", "modes", "id", modes)
    rewrite("kept_profile", "profile", "id", lambda value: {**value, "modes": modes(value["modes"])})
    rewrite("fixture", "blocks", "id", lies_of_states)
    rewrite("look", "layers", "id", lambda value: [newer_line(one) for one in value])
    db.execute_sql("ALTER TABLE look RENAME COLUMN layers TO lines")
    db.execute_sql(_OLD_EDITS)
