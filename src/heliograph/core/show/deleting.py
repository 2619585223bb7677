"""What goes with what is deleted: worked out from the table of references, said before and done after."""

from __future__ import annotations

from collections.abc import Collection
from dataclasses import dataclass, field
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import packed_array
from heliograph.core.matrix.woven import numbers_as_selection
from heliograph.core.show.references import Record, Tables, pointing

REPAIRS = {
    ("look", "matrix"): "Move its lines first.",
    ("look", "group"): "Move its lines first.",
    ("look", "clip"): "Delete its lines first.",
    ("look", "chase"): "Delete its lines first.",
    ("look", "preset"): "Take it out of its lines first.",
    ("matrix", "matrix"): "Give it an arrangement of its own first.",
    ("fixture", "profile"): "Give them another profile, or delete them first.",
}
"""What to do first, where one table's pointing at another keeps that from being deleted."""


@dataclass(slots=True)
class Deletion:
    """`updates`: columns by table and id; `gone`: records by table and id, what was asked for among them."""

    updates: dict[str, dict[str, dict[str, Any]]] = field(default_factory=dict)
    gone: dict[str, dict[str, Record]] = field(default_factory=dict)


def plan_deletion(tables: Tables, table: str, keys: Collection[str]) -> Deletion:
    """What deleting these objects changes. `tables`: the show; ids that are not there are passed over.

    Raises InputError where somebody needs one of them.
    """
    plan = Deletion()
    _collect(plan, tables, table, {str(key) for key in keys})
    for one in pointing("", ""):
        gone = plan.gone.get(one.to)
        if not gone:
            continue
        for record in tables.get(one.of, ()):
            if record["id"] in plan.gone.get(one.of, {}) or not gone.keys() & set(one.ids(record)):
                continue
            if one.when_gone == "loses":
                changed = plan.updates.setdefault(one.of, {})
                before = {**record, **changed.get(record["id"], {})}
                changed[record["id"]] = {**changed.get(record["id"], {}), **one.without(before, gone)}
    return plan


def _collect(plan: Deletion, tables: Tables, table: str, keys: set[str]) -> None:
    """These objects, and those that go with them; refuses where one is needed."""
    found = {record["id"]: record for record in tables.get(table, ()) if record["id"] in keys}
    plan.gone[table] = {**plan.gone.get(table, {}), **found}
    for one in pointing("", table):
        users = [
            record
            for record in tables.get(one.of, ())
            if record["id"] not in plan.gone.get(one.of, {}) and found.keys() & set(one.ids(record))
        ]
        if one.when_gone == "refuse" and users:
            raise InputError(_needed(one.of, one.to, users), where=one.to, repair=REPAIRS[(one.of, one.to)])
        if one.when_gone == "goes" and users:
            _collect(plan, tables, one.of, {record["id"] for record in users})


def _needed(of: str, to: str, users: list[Record]) -> str:
    if of == "fixture":
        numbers = [record["number"] for record in users]
        many = f"{len(users)} fixtures are" if len(users) > 1 else "1 fixture is"
        return f"{many} of this {to}: {numbers_as_selection(numbers)}."
    names = " and ".join(record["name"] for record in users)
    if of == "look":
        many, one = ("use", "uses") if to in ("clip", "chase", "preset") else ("paint on", "paints on")
        return f"{names} {many if len(users) > 1 else one} this {to}."
    return f"{names} {'use' if len(users) > 1 else 'uses'} its arrangement."


def said_before(tables: Tables, plan: Deletion, cells: dict[str, int]) -> list[str]:
    """What deleting fixtures means, a sentence for each thing that loses them. `cells`: how many each fixture has."""
    fixtures = plan.gone.get("fixture", {})
    numbers = numbers_as_selection([one["number"] for one in fixtures.values()])
    count = sum(cells.get(key, 0) for key in fixtures)
    said = [f"{_many(len(fixtures), 'fixture')} would go: {numbers}, {_many(count, 'cell')}."]
    by_id = {table: {one["id"]: one for one in records} for table, records in tables.items()}
    for key in plan.updates.get("matrix", {}):
        matrix = by_id["matrix"][key]
        lost, whole = _cells_lost(matrix, fixtures)
        said.append(f"The matrix {matrix['name']} loses {lost} of {_many(whole, 'cell')}.")
    for key in plan.updates.get("group", {}):
        group = by_id["group"][key]
        members = {*group["fixtures"], *(one.partition(":")[0] for one in group["cells"])}
        lost = len(members & fixtures.keys())
        said.append(f"The group {group['name']} loses {lost} of {_many(len(members), 'fixture')}.")
    for key in plan.updates.get("plan", {}):
        drawn = by_id["plan"][key]
        lost = sum(one["id"] in fixtures for one in drawn["items"])
        said.append(f"{lost} {'goes' if lost == 1 else 'go'} from the plan {drawn['name']}.")
    said += _kept_lost(plan, by_id)
    marks = len(plan.gone.get("mark", {}))
    if marks:
        said.append(f"{_many(marks, 'mark')} of test walks {'goes' if marks == 1 else 'go'} with them.")
    return said


def _cells_lost(matrix: Record, gone: dict[str, Record]) -> tuple[int, int]:
    data = matrix["placements"]
    owners = packed_array(data)[:, 0]
    lost = sum(int((owners == place).sum()) for place, one in enumerate(data["fixtures"]) if one in gone)
    return lost, int(owners.size)


def _kept_lost(plan: Deletion, by_id: dict[str, dict[str, Record]]) -> list[str]:
    """Presets and looks that keep values of fixtures which go."""
    gone, said = plan.gone.get("fixture", {}).keys(), []
    for table in ("preset", "look"):
        for key in plan.updates.get(table, {}):
            one = by_id[table][key]
            holders = one["lines"] if table == "look" else [one]
            kept = {name for holder in holders for name in holder.get("kept") or ()}
            said.append(f"The {table} {one['name']} loses what it keeps of {_many(len(gone & kept), 'fixture')}.")
    return said


def _many(count: int, what: str) -> str:
    return f"{count} {what}" if count == 1 else f"{count} {what}s"
