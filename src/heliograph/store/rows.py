"""Shows and their objects as plain dictionaries, each table read with one query."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from peewee import SQL, DataError, fn

from heliograph.core.errors import InputError, NotFoundError
from heliograph.store.bulk import records_of
from heliograph.store.database import connected, db
from heliograph.store.journal import columns_of
from heliograph.store.models import TABLES, Edit, Fixture, Show, ShowRow

Record = dict[str, Any]


def is_in_use() -> bool:
    """Whether the database holds shows: an empty one needs no backup."""
    with connected():
        return bool(db.table_exists("show")) and Show.select().exists()


KEPT_DAYS = 30
"""A deleted show is kept so long."""


def shows() -> list[Record]:
    """Every show, deleted ones too, with how many fixtures it has and when it was changed last (Unix seconds)."""
    found = db.execute_sql(
        "SELECT s.id, s.name, s.revision, s.is_open, s.is_template, "
        "EXTRACT(EPOCH FROM s.deleted_at)::float8, "
        "(SELECT count(*) FROM fixture f WHERE f.show_id = s.id), "
        "(SELECT EXTRACT(EPOCH FROM max(e.at))::float8 FROM edit e WHERE e.show_id = s.id) "
        "FROM show s ORDER BY s.name, s.id"
    ).fetchall()
    names = ("id", "name", "revision", "is_open", "is_template", "deleted_s", "fixtures", "changed_s")
    return [{**dict(zip(names, row, strict=True)), "id": str(row[0])} for row in found]


def delete_show(key: str) -> None:
    """Puts a show away; it comes back for 30 days. InputError for the one that is open."""
    show = Show.get_or_none((Show.id == key) & Show.deleted_at.is_null() & ~Show.is_template)
    if show is None:
        raise NotFoundError("That show is not there any more.", where="show")
    if not Show.update(deleted_at=fn.now()).where((Show.id == key) & ~Show.is_open).execute():
        raise InputError("The show that is open cannot be deleted.", where="show", repair="Open another one first.")


def restore_show(key: str) -> None:
    if not Show.update(deleted_at=None).where((Show.id == key) & Show.deleted_at.is_null(False)).execute():
        raise NotFoundError("That show is not kept any more.", where="show")


def forget_deleted(days: float = KEPT_DAYS) -> list[str]:
    """Shows that were deleted longer ago go for good; their names."""
    old = Show.deleted_at < SQL("now() - make_interval(secs => %s)", (days * 86_400.0,))
    names = [str(show.name) for show in Show.select(Show.name).where(old)]
    if names:
        Show.delete().where(old).execute()
    return names


def add_show(key: str | None, name: str) -> str:
    key = key or str(uuid4())
    Show.insert(id=key, name=name, revision=0, is_open=False).execute()
    return key


def open_show(key: str) -> None:
    """Makes a show the running one; there is one at a time."""
    with db.atomic():
        if Show.get_or_none((Show.id == key) & Show.deleted_at.is_null()) is None:
            raise NotFoundError("That show is not there any more.", where="show")
        Show.update(is_open=False).where(Show.is_open).execute()
        Show.update(is_open=True).where(Show.id == key).execute()


def delete_template(key: str) -> None:
    """Only a template: a show is not thrown away."""
    if not Show.delete().where((Show.id == key) & Show.is_template & ~Show.is_open).execute():
        raise NotFoundError("That template is not there any more, or it is open.", where="show")


def rename_show(key: str, name: str) -> None:
    """A revision of its own, so that every browser learns of it."""
    Show.update(name=name, revision=Show.revision + 1).where(Show.id == key).execute()


def running_show() -> Record:
    """The open show; NotFoundError where none is."""
    show = Show.get_or_none(Show.is_open)
    if show is None:
        raise NotFoundError("No show is open.", where="show")
    return {"id": str(show.id), "name": show.name, "revision": show.revision}


def saved_s(show_id: str) -> float:
    """When the show was changed last (Unix time); 0 for never."""
    last = Edit.select(fn.MAX(Edit.at)).where(Edit.show == show_id).scalar()
    return float(last.timestamp()) if last is not None else 0.0


def all_of(table: str, show_id: str) -> list[Record]:
    found = records_of(table, show_id)
    return with_shared(found) if table == "matrix" else found


def one_of(table: str, show_id: str, key: str) -> Record | None:
    """One object of a show; None where it is not there. A matrix as it is stored, without what it shares."""
    model = TABLES[table]
    try:
        row = model.get_or_none((model.id == key) & (model.show == show_id))
    except DataError:  # no id at all
        return None
    return None if row is None else record_of(row)


ARRANGEMENT = ("width", "height", "placements")
"""What matrices that share an arrangement have in common."""


def with_shared(matrices: list[Record]) -> list[Record]:
    """Matrices with the arrangement they share in place of their own."""
    by_id = {one["id"]: one for one in matrices}
    return [
        {**one, **{name: by_id[one["shares"]][name] for name in ARRANGEMENT}} if one["shares"] in by_id else one
        for one in matrices
    ]


def fixtures_by_mode(show_id: str) -> list[tuple[str, str, int]]:
    """(profile id, mode, how many fixtures)."""
    counted = Fixture.select(Fixture.profile, Fixture.mode, fn.COUNT(Fixture.id)).where(Fixture.show == show_id)
    found: list[Any] = list(counted.group_by(Fixture.profile, Fixture.mode).tuples())
    return [(str(row[0]), str(row[1]), int(row[2])) for row in found]


def record_of(row: ShowRow) -> Record:
    return {"id": str(row.id), "rev": row.rev, **columns_of(row)}


def next_place(table: str, show_id: str) -> int:
    rows = all_of(table, show_id)
    return max((row["place"] for row in rows), default=0) + 1


def whole_show(show: Record) -> dict[str, list[Record]]:
    """All tables of a show: eleven queries, however large it is."""
    return {table: all_of(table, show["id"]) for table in TABLES}
