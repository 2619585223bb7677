"""Shows as they begin."""

from __future__ import annotations

from uuid import uuid4

from heliograph.core.profiles.generic import generic_profiles
from heliograph.store import journal, rows
from heliograph.store.database import one_transaction
from heliograph.store.kept import all_kept


def create_show(key: str, name: str, author: journal.Author) -> None:
    """A show with the generic profiles and those that were kept, in one transaction."""
    with one_transaction():
        rows.add_show(key, name)
        with journal.edit(key, journal.Author("heliograph", "Heliograph"), f"Made {name}") as work:
            generic = generic_profiles()
            names = {(columns["maker"], columns["name"]) for _, columns in generic}
            own = [(str(uuid4()), one["profile"]) for one in all_kept() if (one["maker"], one["name"]) not in names]
            work.insert("profile", [*generic, *own])
