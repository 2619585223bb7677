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
        return {"lines": [{**line, field: new(line[field])} if line.get(field) else line for line in record["lines"]]}

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


def _cues_with(one: Record, change: Callable[[Record], Record]) -> dict[str, Any]:
    """A cue list whose cues play other looks."""
    return {"cues": [{**cue, "looks": [change(each) for each in cue["looks"]]} for cue in one["cues"]]}


def _of_score(column: str, field: str, to: str, what: str) -> Reference:
    """A field of a score's entries or positions: one that loses it says what it was called, and sounds no more."""

    def ids(score: Record) -> list[str]:
        return [one[field] for one in score[column] if one.get(field)]

    def renamed(score: Record, new: NewId) -> dict[str, Any]:
        return {column: [{**one, field: new(one[field])} if one.get(field) else one for one in score[column]]}

    def without(score: Record, gone: Mapping[str, Record]) -> dict[str, Any]:
        return {
            column: [
                {**one, field: "", "gone": gone[one[field]]["name"]} if one.get(field) in gone else one
                for one in score[column]
            ]
        }

    return Reference("score", to, what, "loses", ids, renamed, without)


def _handle_renamed(handle: str, new: NewId) -> str:
    """The address of a handle with other ids in it."""
    return "/".join(new(part) if _is_id(part) else part for part in handle.split("/"))


def things_of(handle: str) -> list[str]:
    """The ids of the look, its line, the list, group or whatever else a handle belongs to; none of the whole show."""
    return [part for part in handle.split("/") if _is_id(part)]


def _is_id(part: str) -> bool:
    return len(part) == 36


def _kept_renamed(kept: Record, new: NewId) -> dict[str, Any]:
    return {new(fixture): one for fixture, one in kept.items()}


def _kept_without(kept: Record, gone: Mapping[str, Record]) -> dict[str, Any]:
    return {fixture: one for fixture, one in kept.items() if fixture not in gone}


def _kept_by_lines(change: Callable[[Record], dict[str, Any]], look: Record) -> dict[str, Any]:
    lines = [{**line, "kept": change(line["kept"])} if line.get("kept") else line for line in look["lines"]]
    return {"lines": lines}


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
    _of_lines("group", "group", "group", "refuse"),
    _of_lines("clip", "clip", "clip", "refuse"),
    _of_lines("chase", "chase", "chase", "refuse"),
    _plain("chase", "matrix", "matrix", "loses", "matrix"),
    _plain("chase", "group", "group", "loses", "group"),
    _of_lines("ramp", "saved ramp", "saved_ramp", "loses", _without_ramps),
    Reference(
        "look",
        "preset",
        "preset",
        "refuse",
        lambda look: [one for line in look["lines"] for one in line.get("presets") or ()],
        lambda look, new: {
            "lines": [
                {**line, "presets": [new(one) for one in line["presets"]]} if line.get("presets") else line
                for line in look["lines"]
            ]
        },
        lambda _look, _gone: {},
    ),
    Reference(
        "look",
        "fixture",
        "values kept of fixtures",
        "loses",
        lambda look: [one for line in look["lines"] for one in line.get("kept") or ()],
        lambda look, new: _kept_by_lines(lambda kept: _kept_renamed(kept, new), look),
        lambda look, gone: _kept_by_lines(lambda kept: _kept_without(kept, gone), look),
    ),
    Reference(
        "cue_list",
        "look",
        "looks of cues",
        "loses",
        lambda one: [each["look"] for cue in one["cues"] for each in cue["looks"] if each["look"]],
        lambda one, new: _cues_with(one, lambda each: {**each, "look": new(each["look"]) if each["look"] else ""}),
        lambda one, gone: _cues_with(
            one,
            lambda each: {**each, "look": "", "gone": gone[each["look"]]["name"]} if each["look"] in gone else each,
        ),
    ),
    Reference(
        "cue_list",
        "group",
        "groups of cues",
        "loses",
        lambda one: [each["group"] for cue in one["cues"] for each in cue["looks"] if each.get("group")],
        lambda one, new: _cues_with(one, lambda each: {**each, "group": new(each["group"]) if each["group"] else ""}),
        lambda one, gone: _cues_with(
            one,
            lambda each: (  # over all it would light more than anybody meant
                {**each, "look": "", "group": "", "gone": f"a look over {gone[each['group']]['name']}"}
                if each.get("group") in gone
                else each
            ),
        ),
    ),
    _of_score("entries", "look", "look", "looks of a score"),
    _of_score("entries", "preset", "preset", "presets of a score"),
    _of_score("positions", "preset", "preset", "positions of a score"),
    Reference(
        "score",
        "group",
        "staves of a score",
        "loses",
        lambda score: [one["group"] for one in score["staves"] if one["group"]],
        lambda score, new: {
            "staves": [{**one, "group": new(one["group"]) if one["group"] else ""} for one in score["staves"]]
        },
        lambda score, gone: {
            "staves": [
                {**one, "group": "", "gone": gone[one["group"]]["name"]} if one["group"] in gone else one
                for one in score["staves"]
            ]
        },
    ),
    Reference(
        "preset",
        "fixture",
        "values kept of fixtures",
        "loses",
        lambda preset: list(preset["kept"]),
        lambda preset, new: {"kept": _kept_renamed(preset["kept"], new)},
        lambda preset, gone: {"kept": _kept_without(preset["kept"], gone)},
    ),
)


def pointing(table: str, to: str = "") -> Iterator[Reference]:
    """The references of a table, or those of any table (table "") to one."""
    return (one for one in REFERENCES if table in ("", one.of) and to in ("", one.to))


def renamed(table: str, record: Record, new: NewId) -> dict[str, Any]:
    """The record with everything it points at under new ids; its lines get new ones too."""
    found = dict(record)
    for one in pointing(table):
        found |= one.renamed(found, new)
    if table == "cue_list":
        found["cues"] = [_cue_renamed(cue, new) for cue in found["cues"]]
    if table == "favourite":
        found["values"] = [{**one, "handle": _handle_renamed(one["handle"], new)} for one in found["values"]]
    if table == "page":
        found["items"] = [_item_renamed(one, new) for one in found["items"]]
    if table == "clock":
        found["rules"] = [{**_acting_renamed(one, new), "id": new(one["id"])} for one in found["rules"]]
    if table == "score":
        staves = {one["id"]: new(one["id"]) for one in found["staves"]}
        found["staves"] = [{**one, "id": staves[one["id"]]} for one in found["staves"]]
        for column in ("entries", "positions"):
            found[column] = [
                {**one, "id": new(one["id"]), "stave": staves.get(one["stave"], "")} for one in found[column]
            ]
    if table == "look":
        found["lines"] = [line_renamed(line, new) for line in found["lines"]]
    return found


def _cue_renamed(cue: Record, new: NewId) -> dict[str, Any]:
    return {**_acting_renamed(cue, new), "id": new(cue["id"])}


def _item_renamed(one: Record, new: NewId) -> dict[str, Any]:
    handles = [{**each, "handle": _handle_renamed(each["handle"], new)} for each in one["handles"]]
    return {**one, "id": new(one["id"]), "handles": handles}


def _acting_renamed(one: Record, new: NewId) -> dict[str, Any]:
    """Whatever has actions, with the same on other ids."""
    return {**one, "actions": [{**each, "handle": _handle_renamed(each["handle"], new)} for each in one["actions"]]}


def line_renamed(line: Record, new: NewId) -> dict[str, Any]:
    """A line under a new id, painted through the line that stands under a new id too."""
    through = line.get("through")
    if through:
        through = {**through, "line": new(through["line"])}
    return {**line, "id": new(line["id"]), "through": through}


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
