"""Deleting objects of a show with all that goes with them, in one edit."""

from __future__ import annotations

from collections.abc import Collection

from heliograph.core.errors import NotFoundError
from heliograph.core.show.deleting import Deletion, plan_deletion
from heliograph.core.show.references import Tables, pointing
from heliograph.store import rows
from heliograph.store.journal import Work


def touched(show: str, table: str) -> Tables:
    """The tables that deleting from one can touch, and it."""
    wanted, more = {table}, {table}
    while more:
        more = {one.of for to in more for one in pointing("", to)} - wanted
        wanted |= more
    return {name: rows.all_of(name, show) for name in sorted(wanted)}


def deletion_of(show: str, table: str, keys: Collection[str]) -> tuple[Tables, Deletion]:
    """The show's tables and what deleting would do to them; InputError where somebody needs one of them, NotFoundError
    where one is gone already."""
    tables = touched(show, table)
    plan = plan_deletion(tables, table, keys)
    if len(plan.gone[table]) < len(set(keys)):
        raise NotFoundError(f"{'That' if len(keys) == 1 else 'One'} {table} is not there any more.", where="id")
    return tables, plan


def delete(work: Work, table: str, keys: Collection[str]) -> None:
    """Deletes objects and mends those that pointed at them."""
    _, plan = deletion_of(str(work.show.id), table, keys)
    for name, changes in plan.updates.items():
        work.update_many(name, changes)
    for name, gone in plan.gone.items():
        work.delete_many(name, sorted(gone))
