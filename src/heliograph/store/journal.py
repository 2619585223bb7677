"""The edit journal: every write goes through one unit of work and can be undone.

Edits of a show happen one after another (its row is locked), each makes one revision. Undo and redo
are per person, and refuse with a sentence where somebody else has changed the object since.
"""

from __future__ import annotations

import contextlib
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, datetime
from itertools import groupby
from uuid import UUID

import orjson
import peewee

from heliograph.core.errors import ConflictError, InputError, NotFoundError
from heliograph.store.bulk import records_by_id
from heliograph.store.database import db
from heliograph.store.diff import Change, Columns, apply_to, change_between, clashes, paths_of, reversed_change
from heliograph.store.models import TABLES, Edit, Show, ShowRow

EDITS_KEPT = 10_000
"""Edits of a show that are kept, and can be undone; older ones go."""

PRUNE_EVERY = 100


@dataclass(frozen=True, slots=True)
class Author:
    """Who edits: `key` is the browser's own id, `name` what others see."""

    key: str
    name: str


def columns_of(row: ShowRow) -> Columns:
    """An object as JSON-ready columns, without its id, show and revision."""
    values: Columns = {}
    for name, value in row.__data__.items():
        if name in ("id", "show", "rev"):
            continue
        values[name] = str(value) if isinstance(value, UUID) else value
    return values


@dataclass(slots=True)
class Work:
    """One edit in progress. Nothing is stored before the block ends without an error."""

    show: Show
    revision: int
    author: str = ""
    changes: list[Change] = field(default_factory=list)

    def get(self, table: str, key: str) -> ShowRow:
        row = TABLES[table].get_or_none((TABLES[table].id == key) & (TABLES[table].show == self.show))
        if row is None:
            raise NotFoundError(f"That {table} is not there any more.", where="id")
        return row

    def insert(self, table: str, rows: Iterable[tuple[str, Columns]]) -> None:
        """Adds objects: (id from the client, columns)."""
        model = TABLES[table]
        made = [{**columns, "id": key, "show": self.show, "rev": self.revision} for key, columns in rows]
        try:
            for batch in peewee.chunked(made, 500):
                model.insert_many(list(batch)).execute()
        except peewee.IntegrityError as error:
            raise _integrity(error) from error
        for values in made:
            plain = {k: v for k, v in values.items() if k not in ("id", "show", "rev")}
            self.changes.append({"table": table, "id": str(values["id"]), "before": None, "after": plain})

    def update(self, table: str, key: str, values: Columns, seen: int | None = None) -> None:
        """Changes columns. `seen` is the object's revision the client knew: a newer change of the same
        columns by somebody else raises ConflictError."""
        row = self.get(table, key)
        before = columns_of(row)
        change = change_between(table, key, {k: before[k] for k in values}, values)
        if change is None:
            return
        if seen is not None and row.rev > seen:
            self._refuse_stale(change, seen)
        model = TABLES[table]
        try:
            model.update({**values, "rev": self.revision}).where(model.id == key).execute()
        except peewee.IntegrityError as error:
            raise _integrity(error) from error
        self.changes.append(change)

    def update_many(self, table: str, values: Mapping[str, Columns]) -> None:
        """Changes columns of many objects, with two statements however many they are."""
        there = records_by_id(table, str(self.show.id), list(values))
        rows: dict[tuple[str, ...], list[Columns]] = {}
        for key, columns in values.items():
            if key not in there:
                raise NotFoundError(f"One {table} is not there any more.", where="id")
            before = there[key]
            change = change_between(table, key, {name: before[name] for name in columns}, columns)
            if change is not None:
                rows.setdefault(tuple(sorted(columns)), []).append({"id": key, **columns})
                self.changes.append(change)
        for names, changed in rows.items():
            self._write_many(table, names, changed)

    def _write_many(self, table: str, names: Sequence[str], rows: Sequence[Columns]) -> None:
        meta = TABLES[table]._meta
        columns = [meta.fields[name].column_name for name in names]
        renamed = [
            {"id": row["id"], **{column: row[name] for column, name in zip(columns, names, strict=True)}}
            for row in rows
        ]
        sets = ", ".join(f'"{column}" = r."{column}"' for column in columns)
        try:
            db.execute_sql(
                f'UPDATE "{meta.table_name}" t SET {sets}, rev = %s '
                f'FROM jsonb_populate_recordset(NULL::"{meta.table_name}", %s::jsonb) r WHERE t.id = r.id',
                (self.revision, orjson.dumps(renamed).decode()),
            )
        except peewee.IntegrityError as error:
            raise _integrity(error) from error

    def delete_many(self, table: str, keys: Sequence[str]) -> None:
        """Removes objects; NotFoundError where one is gone already."""
        there = records_by_id(table, str(self.show.id), keys)
        for key in keys:
            if key not in there:
                raise NotFoundError(f"One {table} is not there any more.", where="id")
            before = {name: value for name, value in there[key].items() if name not in ("id", "rev")}
            self.changes.append({"table": table, "id": key, "before": before, "after": None})
        model = TABLES[table]
        model.delete().where(model.id << list(keys)).execute()

    def delete(self, table: str, key: str) -> None:
        row = self.get(table, key)
        before = columns_of(row)
        row.delete_instance()
        self.changes.append({"table": table, "id": key, "before": before, "after": None})

    def _refuse_stale(self, mine: Change, seen: int) -> None:
        since = Edit.select().where((Edit.show == self.show) & (Edit.revision > seen)).order_by(Edit.revision)
        for entry in since:
            if entry.author == self.author:
                continue  # two quick changes of one's own are no conflict
            for change in entry.changes:
                if change["table"] != mine["table"] or change["id"] != mine["id"]:
                    continue
                same = sorted(path.rpartition(".")[2] for path in paths_of(mine) & paths_of(change))
                if same:
                    raise ConflictError(
                        f"{entry.author_name} changed {' and '.join(same)} of this {mine['table']} meanwhile "
                        f"({entry.label}).",
                        where=same[0],
                        repair="Look at the new value, then change it again if you still want to.",
                    )

    def apply_all(self, run: Sequence[Change], now: Mapping[str, Columns]) -> None:
        """Does journalled changes of one sort again (or their reverse). `now`: what the objects are."""
        table, first = run[0]["table"], run[0]
        if first["before"] is None:
            self.insert(table, [(change["id"], change["after"]) for change in run])
        elif first["after"] is None:
            self.delete_many(table, [change["id"] for change in run])
        else:
            self.update_many(table, {one["id"]: apply_to(now[one["id"]], one) for one in run})


@contextlib.contextmanager
def edit(show_id: str, author: Author, label: str) -> Iterator[Work]:
    """A unit of work: one transaction, one revision, one entry that can be undone."""
    with _locked(show_id) as work:
        work.author = author.key
        yield work
        if work.changes:
            _drop_redo(work.show, author)
            _store(work, author, label, "edit", "done")


def add_whole_show(
    key: str,
    name: str,
    tables: Mapping[str, Sequence[tuple[str, Columns]]],
    author: Author,
    is_template: bool = False,
) -> None:
    """A new show with all its objects, in one transaction: all of it or nothing."""
    with db.atomic():
        try:
            Show.insert(id=key, name=name, revision=0, is_open=False, is_template=is_template).execute()
        except peewee.IntegrityError as error:
            raise _integrity(error) from error
        with _locked(key) as work:
            for table, rows in tables.items():
                if rows:
                    work.insert(table, rows)
            _store(work, author, f"Loaded {name}", "edit", "trace")  # not to be undone: it would empty the show


def undo(show_id: str, author: Author) -> str:
    """Reverses this person's last edit and returns its label."""
    return _step_back(show_id, author, "done", "undone", "undo")


def redo(show_id: str, author: Author) -> str:
    """Does this person's last undone edit again and returns its label."""
    return _step_back(show_id, author, "undone", "done", "redo")


def _step_back(show_id: str, author: Author, state: str, becomes: str, kind: str) -> str:
    with _locked(show_id) as work:
        entry = _last(work.show, author, state)
        if entry is None:
            raise InputError(f"There is nothing to {kind}.", where=kind)
        changes: Sequence[Change] = entry.changes
        if kind == "undo":
            changes = [reversed_change(change) for change in reversed(changes)]
        for run in _runs(changes):
            now = _now(work.show, run)
            for change in run:
                _refuse_foreign(work, entry, change, now.get(change["id"]), kind)
            work.apply_all(run, now)
        # The entry's own revision moves on, so that it is the last one to redo or undo again.
        Edit.update(state=becomes).where(Edit.id == entry.id).execute()
        label = str(entry.label)
        _store(work, author, f"{kind.capitalize()}: {label}", kind, "trace")
        return label


def _runs(changes: Sequence[Change]) -> Iterator[list[Change]]:
    """Changes of the same sort that follow each other, none of one object twice, so that each run is done at once: a
    second change of an object begins from what the first made of it."""

    def sort(change: Change) -> tuple[str, bool, bool]:
        return change["table"], change["before"] is None, change["after"] is None

    for _, alike in groupby(changes, sort):
        run: list[Change] = []
        there: set[str] = set()
        for change in alike:
            if change["id"] in there:
                yield run
                run, there = [], set()
            run.append(change)
            there.add(change["id"])
        yield run


def _now(show: Show, run: Sequence[Change]) -> dict[str, Columns]:
    """What the objects of a run are at the moment; those that are not there are left out."""
    found = records_by_id(run[0]["table"], str(show.id), [change["id"] for change in run])
    return {key: {name: v for name, v in one.items() if name not in ("id", "rev")} for key, one in found.items()}


def _refuse_foreign(work: Work, entry: Edit, change: Change, now: Columns | None, kind: str) -> None:
    found = clashes(now, change)
    if not found:
        return
    later = (
        Edit.select()
        .where((Edit.show == work.show) & (Edit.revision > entry.revision) & (Edit.author != entry.author))
        .order_by(Edit.revision.desc())
    )
    who = next((e for e in later if any(c["id"] == change["id"] for c in e.changes)), None)
    blame = f"{who.author_name} has changed it since ({who.label})" if who else "it has changed since"
    name = (change["before"] or change["after"] or {}).get("name") or (now or {}).get("name", "")
    raise ConflictError(
        f"Cannot {kind} '{entry.label}': {change['table']} {name or 'in it'}: {blame}.",
        where=found[0],
        repair="Change it by hand if you still want to.",
    )


@dataclass(frozen=True, slots=True)
class Steps:
    """What undo and redo would do next for a person; "" where there is nothing."""

    undo: str
    redo: str


def steps_of(show_id: str, author: Author) -> Steps:
    show = Show.get_by_id(show_id)
    back, forth = (_entries(show, author, state, Edit.label).first() for state in ("done", "undone"))
    return Steps(str(back.label) if back else "", str(forth.label) if forth else "")


@contextlib.contextmanager
def _locked(show_id: str) -> Iterator[Work]:
    with db.atomic():
        show = Show.select().where(Show.id == show_id).for_update().get_or_none()
        if show is None:
            raise NotFoundError("That show is not there any more.", where="show")
        work = Work(show, show.revision + 1)
        yield work
        try:
            db.execute_sql("SET CONSTRAINTS ALL IMMEDIATE")
        except peewee.IntegrityError as error:
            raise _integrity(error) from error


def _store(work: Work, author: Author, label: str, kind: str, state: str) -> None:
    Edit.insert(
        show=work.show,
        revision=work.revision,
        author=author.key,
        author_name=author.name,
        label=label,
        kind=kind,
        state=state,
        changes=work.changes,
        at=datetime.now(UTC),
    ).execute()
    Show.update(revision=work.revision).where(Show.id == work.show.id).execute()
    if work.revision % PRUNE_EVERY == 0:
        _prune(work.show)


def _prune(show: Show) -> None:
    """Keeps the last edits of a show."""
    oldest = (
        Edit.select(Edit.id).where(Edit.show == show).order_by(Edit.id.desc()).offset(EDITS_KEPT - 1).limit(1).scalar()
    )
    if oldest is not None:
        Edit.delete().where((Edit.show == show) & (Edit.id < oldest)).execute()


def _last(show: Show, author: Author, state: str) -> Edit | None:
    """The next entry to undo or redo, whole."""
    entry: Edit | None = _entries(show, author, state).first()
    return entry


def _entries(show: Show, author: Author, state: str, *columns: peewee.Field) -> peewee.ModelSelect[Edit]:
    """Entries in the order in which they would be undone (the latest first) or redone (the earliest first, as
    undoing went backward)."""
    order = Edit.id.desc() if state == "done" else Edit.id.asc()
    chosen = (Edit.show == show) & (Edit.author == author.key) & (Edit.state == state)
    return Edit.select(*columns).where(chosen).order_by(order)


def _drop_redo(show: Show, author: Author) -> None:
    Edit.update(state="dropped").where(
        (Edit.show == show) & (Edit.author == author.key) & (Edit.state == "undone")
    ).execute()


_SENTENCES: Mapping[str, tuple[str, str, str]] = {
    "fixture_number": ("That fixture number is taken.", "number", "Choose a number no fixture has."),
    "clip_content": ("This content is a clip of the show already.", "file", "Use the clip that is there."),
    "fixture_profile_id_fkey": ("Fixtures still use that profile.", "profile", "Delete or change them first."),
}


def _integrity(error: peewee.IntegrityError) -> Exception:
    text = str(error)
    for constraint, (what, where, repair) in _SENTENCES.items():
        if constraint in text:
            return InputError(what, where=where, repair=repair)
    if "_pkey" in text:
        return InputError("An object with that id is there already.", where="id", repair="Make a new id.")
    return InputError("The database refused the values.", where="", repair=text.splitlines()[0])
