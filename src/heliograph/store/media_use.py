"""Which media files are still spoken of: by a show, a kept profile, or an edit that could be undone."""

from __future__ import annotations

from heliograph.store.database import db

_USED = """
SELECT content FROM clip
UNION SELECT picture FROM plan WHERE picture <> ''
UNION SELECT manual FROM profile WHERE manual <> ''
UNION SELECT profile->>'manual' FROM kept_profile WHERE profile->>'manual' <> ''
"""


def used_contents() -> set[str]:
    """Hashes of all media that any show or kept profile uses. Inside a connection."""
    return {str(row[0]) for row in db.execute_sql(_USED).fetchall()}


def is_in_journal(content: str) -> bool:
    """Whether an edit that is kept speaks of it: undoing could bring it back. Inside a connection."""
    found = db.execute_sql("SELECT 1 FROM edit WHERE changes::text LIKE %s LIMIT 1", (f"%{content}%",)).fetchone()
    return found is not None
