"""A line of a look has the fields of its kind, all of them, and no others.

Edits that hold the older shape can no longer be undone: what they would bring back is not what is stored now.
"""

from typing import Any

import orjson

from heliograph.core.older_shows import whole_line

_OLD_EDITS = """
UPDATE edit SET state = 'dropped' WHERE state IN ('done', 'undone') AND EXISTS (
    SELECT 1 FROM jsonb_array_elements(changes) AS one, (VALUES ('before'), ('after')) AS side (name)
    WHERE one ->> 'table' = 'look' AND one -> name ? 'lines'
)
"""


def up(_migrator: Any, db: Any) -> None:
    for look, lines in db.execute_sql("SELECT id, lines FROM look").fetchall():
        stored = orjson.dumps([whole_line(line) for line in lines]).decode()
        db.execute_sql("UPDATE look SET lines = %s::jsonb WHERE id = %s", (stored, look))
    db.execute_sql(_OLD_EDITS)
