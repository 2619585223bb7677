"""Rules of groups: strides are written in words, `every 2nd from 2` for `/2+1`."""

from typing import Any

from heliograph.core.rig.selection import in_words


def up(_migrator: Any, db: Any) -> None:
    for key, rule in db.execute_sql("SELECT id, rule FROM fixture_group WHERE rule LIKE '%%/%%'").fetchall():
        db.execute_sql("UPDATE fixture_group SET rule = %s WHERE id = %s", (in_words(rule), key))
