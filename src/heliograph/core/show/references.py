"""Who points at whom in a show: one table that deletion, import, copies, checks and "used by" read.

Objects are records by table, as they are stored, each with its `id`. A new kind of pointer is a row here.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from heliograph.core.matrix.placements import pack, unpack

Record = Mapping[str, Any]
Tables = Mapping[str, Sequence[Record]]
NewId = Callable[[str], str]

WhenGone = Literal["refuse", "loses", "goes"]
"""What becomes of the one that points: what it points at cannot be deleted; it loses that; it goes with it."""


@dataclass(frozen=True, slots=True)
class Reference:
    """Objects of table `of` point at `to`, in what people call their `what`.

    `ids`: those it points at, once each time. `renamed`: the columns that hold them, with other ids. `without`: the
    same columns once some are gone, given with their records.
    """

    of: str
    to: str
    what: str
    when_gone: WhenGone
    ids: Callable[[Record], list[str]]
    renamed: Callable[[Record, NewId], dict[str, Any]]
    without: Callable[[Record, Mapping[str, Record]], dict[str, Any]] = lambda _record, _gone: {}


def _plain(of: str, to: str, what: str, when_gone: WhenGone, column: str) -> Reference:
    """One column that holds one id, or "" for none."""
    return Reference(
        of,
        to,
        what,
        when_gone,
        lambda record: [record[column]] if record[column] else [],
        lambda record, new: {column: new(record[column]) if record[column] else ""},
        lambda _record, _gone: {column: ""},
    )


def _of_lines(to: str, what: str, field: str, when_gone: WhenGone, without: Any = None) -> Reference:
    """A field of a look's lines."""

    def renamed(record: Record, new: NewId) -> dict[str, Any]:
        return {"lines": [{**line, field: new(line[field]) if line.get(field) else ""} for line in record["lines"]]}

    def ids(record: Record) -> list[str]:
        return [line[field] for line in record["lines"] if line.get(field)]

    return Reference("look", to, what, when_gone, ids, renamed, without or (lambda _record, _gone: {}))


def _without_ramps(look: Record, gone: Mapping[str, Record]) -> dict[str, Any]:
    """Lines that used a saved ramp keep its colours as their own."""
    return {
        "lines": [
            {**line, "ramp": gone[line["saved_ramp"]]["stops"], "saved_ramp": ""}
            if line.get("saved_ramp") in gone
            else line
            for line in look["lines"]
        ]
    }


def _cells(group: Record) -> Iterator[tuple[str, str]]:
    """(fixture, cell) of each single cell of a group."""
    for one in group["cells"]:
        fixture, _, cell = one.partition(":")
        yield fixture, cell


def _off_matrix(matrix: Record, gone: Mapping[str, Record]) -> dict[str, Any]:
    kept = [one for one in unpack(matrix["placements"]) if one.key.fixture not in gone]
    return {"placements": pack(kept)}


REFERENCES: tuple[Reference, ...] = (
    _plain("fixture", "profile", "profile", "refuse", "profile"),
    Reference(
        "group",
        "fixture",
        "fixtures",
        "loses",
        lambda group: list(group["fixtures"]),
        lambda group, new: {"fixtures": [new(one) for one in group["fixtures"]]},
        lambda group, gone: {"fixtures": [one for one in group["fixtures"] if one not in gone]},
    ),
    Reference(
        "group",
        "fixture",
        "cells",
        "loses",
        lambda group: [fixture for fixture, _ in _cells(group)],
        lambda group, new: {"cells": [f"{new(fixture)}:{cell}" for fixture, cell in _cells(group)]},
        lambda group, gone: {"cells": [f"{fixture}:{cell}" for fixture, cell in _cells(group) if fixture not in gone]},
    ),
    Reference(
        "plan",
        "fixture",
        "fixtures",
        "loses",
        lambda plan: [one["id"] for one in plan["items"] if one["kind"] == "fixture"],
        lambda plan, new: {"items": [{**one, "id": new(one["id"])} for one in plan["items"]]},
        lambda plan, gone: {"items": [one for one in plan["items"] if one["id"] not in gone]},
    ),
    Reference(
        "matrix",
        "fixture",
        "fixtures",
        "loses",
        lambda matrix: list(matrix["placements"]["fixtures"]),
        lambda matrix, new: {
            "placements": {
                **matrix["placements"],
                "fixtures": [new(one) for one in matrix["placements"]["fixtures"]],
            }
        },
        _off_matrix,
    ),
    _plain("matrix", "matrix", "arrangement", "refuse", "shares"),
    _plain("mark", "fixture", "fixture", "goes", "fixture"),
    Reference(
        "mark",
        "fixture",
        "fixture that was seen",
        "loses",
        lambda mark: [str(mark["seen"]["fixture"])] if mark["seen"].get("fixture") else [],
        lambda mark, new: (
            {"seen": {**mark["seen"], "fixture": new(str(mark["seen"]["fixture"]))}}
            if mark["seen"].get("fixture")
            else {}
        ),
        lambda mark, _gone: {"seen": {key: value for key, value in mark["seen"].items() if key != "fixture"}},
    ),
    _of_lines("matrix", "matrix", "matrix", "refuse"),
    _of_lines("clip", "clip", "clip", "refuse"),
    _of_lines("ramp", "saved ramp", "saved_ramp", "loses", _without_ramps),
)


def pointing(table: str, to: str = "") -> Iterator[Reference]:
    """The references of a table, or those of any table (table "") to one."""
    return (one for one in REFERENCES if table in ("", one.of) and to in ("", one.to))


def renamed(table: str, record: Record, new: NewId) -> dict[str, Any]:
    """The record with everything it points at under new ids; its lines get new ones too."""
    found = dict(record)
    for one in pointing(table):
        found |= one.renamed(found, new)
    if table == "look":
        found["lines"] = [{**line, "id": new(line["id"])} for line in found["lines"]]
    return found


def users_of(tables: Tables, table: str, key: str) -> list[tuple[Reference, Record]]:
    """Who points at one object: every object once for each way it does."""
    return [(one, record) for one in pointing("", table) for record in tables.get(one.of, ()) if key in one.ids(record)]


def uses(tables: Tables, table: str, key: str) -> int:
    """How many times one object is pointed at, each line of a look by itself."""
    return sum(one.ids(record).count(key) for one, record in users_of(tables, table, key))


def dangling(tables: Tables) -> Iterator[tuple[Reference, int, Record]]:
    """Who points at something that is not there: (how, its place in its table from 0, it)."""
    ids = {table: {record["id"] for record in records} for table, records in tables.items()}
    for one in REFERENCES:
        known: Iterable[str] = ids.get(one.to, set())
        for place, record in enumerate(tables.get(one.of, ())):
            if any(key not in known for key in one.ids(record)):
                yield one, place, record
