"""One thing done to many fixtures in one step: numbers, names, modes, copies. Planned first, then done as planned."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from heliograph.api import schemas
from heliograph.api.profile_changes import NewMode, changed_fixtures, changed_view, columns_after
from heliograph.api.sections import mode_of, mode_of_json
from heliograph.api.views import Modes, placed_fixture
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.patch.blocks import places_of, stored_places
from heliograph.core.patch.places import Occupancy, all_positions, place_in_runs
from heliograph.core.rig.add_line import name_at
from heliograph.core.rig.batch_line import Change, Copies, ToMode, ToName, ToNumber, read_line
from heliograph.store.rows import Record

NUMBER_MAX = 999_999


@dataclass(slots=True)
class Plan:
    """`views`: each fixture before and after. `updates`: columns by id; `inserts`: columns of new fixtures."""

    views: list[schemas.ChangedFixture]
    updates: dict[str, Record] = field(default_factory=dict)
    inserts: list[Record] = field(default_factory=list)


def plan_batch(body: schemas.Batch, profiles: list[Record], fixtures: list[Record]) -> Plan:
    """What the batch would do; InputError where it cannot be done."""
    by_id = {one["id"]: one for one in fixtures}
    chosen = [by_id.get(str(key)) for key in body.ids]
    if None in chosen:
        raise NotFoundError("One of these fixtures is not there any more.", where="ids")
    found = [one for one in chosen if one is not None]
    change = _change_of(body, profiles)
    match change:
        case ToNumber():
            return _numbers(change, found, profiles, fixtures)
        case ToName():
            return _names(change, found, profiles)
        case ToMode():
            return _modes(change, found, profiles, fixtures)
        case Copies():
            return _copies(change, found, profiles, fixtures)


def _change_of(body: schemas.Batch, profiles: list[Record]) -> Change:
    match body.change:
        case schemas.ToNumber(first=first, step=step):
            return ToNumber(first, step)
        case schemas.ToName(pattern=pattern):
            return ToName(pattern)
        case schemas.ToMode(profile=profile, mode=mode):
            return ToMode(str(profile), mode)
        case schemas.Copies(times=times, first=first, pattern=pattern):
            return Copies(times, first, pattern)
        case schemas.TypedChange(kind=kind, text=text):
            return read_line(kind, text, len(body.ids), profiles)


def label_of(body: schemas.Batch) -> str:
    """What the edit is called."""
    count = say(len(body.ids))
    return {
        "number": f"Renumbered {count}",
        "name": f"Renamed {count}",
        "mode": f"Changed the mode of {count}",
        "copy": f"Copied {count}",
    }[body.change.kind if isinstance(body.change, schemas.TypedChange) else body.change.do]


def say(count: int) -> str:
    return "1 fixture" if count == 1 else f"{count} fixtures"


def free_numbers(numbers: list[int], fixtures: list[Record]) -> None:
    """Raises InputError where one of the numbers is taken by another fixture or past the last."""
    if numbers and max(numbers) > NUMBER_MAX:
        raise InputError(f"The numbers would end at {max(numbers)}: {NUMBER_MAX} is the last.", where="number")
    taken = sorted({one["number"] for one in fixtures} & set(numbers))
    if taken:
        free = max(one["number"] for one in fixtures) + 1
        raise InputError(
            f"Fixture number {taken[0]} is taken.", where="number", repair=f"From {free} on all numbers are free."
        )


def _view(fixture: Record, modes: Modes, **after: Any) -> schemas.ChangedFixture:
    changed = {**fixture, **after}
    return changed_view(fixture, modes.of(fixture), changed, modes.of(changed))


def _numbers(change: ToNumber, chosen: list[Record], profiles: list[Record], fixtures: list[Record]) -> Plan:
    numbers = [change.first + index * change.step for index in range(len(chosen))]
    ids = {one["id"] for one in chosen}
    free_numbers(numbers, [one for one in fixtures if one["id"] not in ids])
    modes = Modes(profiles)
    views = [_view(one, modes, number=number) for one, number in zip(chosen, numbers, strict=True)]
    return Plan(views, {one.id: {"number": one.number} for one in views})


def _names(change: ToName, chosen: list[Record], profiles: list[Record]) -> Plan:
    modes, views = Modes(profiles), []
    for index, one in enumerate(chosen):
        pattern = change.pattern.replace("{name}", one["name"])
        counted = len(chosen) > 1 and pattern == change.pattern
        name = name_at(pattern, index, one["number"]) if counted or "{" in pattern else pattern
        views.append(_view(one, modes, name=name[:120]))
    return Plan(views, {one.id: {"name": one.name} for one in views})


def _modes(change: ToMode, chosen: list[Record], profiles: list[Record], fixtures: list[Record]) -> Plan:
    profile = next((one for one in profiles if one["id"] == str(change.profile)), None)
    data = mode_of(profile, change.mode) if profile else None
    if profile is None or data is None:
        name = profile["name"] if profile else "This profile"
        raise InputError(f"{name} has no mode '{change.mode}'.", where="mode")
    new = NewMode(profile["id"], change.mode, mode_of_json(data))
    views = changed_fixtures(profiles, fixtures, {one["id"]: new for one in chosen})
    modes = Modes(profiles)
    updates = {one["id"]: columns_after(one, modes.of(one), new) for one in chosen}
    return Plan(views, updates)


def _copies(change: Copies, chosen: list[Record], profiles: list[Record], fixtures: list[Record]) -> Plan:
    count = len(chosen) * change.times
    if count > 2000:
        raise InputError(f"{count} copies at once: 2000 are the most.", where="times")
    first = change.first or max(one["number"] for one in fixtures) + 1
    numbers = list(range(first, first + count))
    free_numbers(numbers, fixtures)
    modes, taken = Modes(profiles), Occupancy()
    for one in fixtures:
        mode = modes.of(one)
        if mode is not None and (placed := placed_fixture(mode, one)):
            taken.take(all_positions(placed))
    views, inserts = [], []
    for index, number in enumerate(numbers):
        one = chosen[index % len(chosen)]
        columns = {key: value for key, value in one.items() if key not in ("id", "rev")}
        columns["number"] = number
        pattern = change.pattern.replace("{name}", one["name"])
        counted = "{name}" not in change.pattern or "{n" in pattern  # "{name}" alone keeps the name as it is
        columns["name"] = (name_at(pattern, index, number) if counted else pattern)[:120] if pattern else one["name"]
        mode = modes.of(one)
        if mode is not None and one["universe"]:
            places = places_of(mode, one["blocks"])
            starts, where = place_in_runs(mode, places, 1, taken.end(), {}, taken)
            columns["universe"], columns["channel"] = (
                (starts[0].universe, starts[0].channel) if starts[0] else (None, None)
            )
            columns["blocks"] = stored_places(mode, where[0])
        inserts.append(columns)
        views.append(_view({**columns, "id": one["id"]}, modes))
    return Plan(views, inserts=inserts)
