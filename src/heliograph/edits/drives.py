"""Edits of what moves numbers of lines: drives changed field by field, begun, copied to other numbers."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.look.any_line import CYCLE, SPEED
from heliograph.core.look.drive import Drive, drive_from_json, drive_to_json
from heliograph.core.look.line import AttributeLine, line_from_json, speed_to_json
from heliograph.core.look.ribbon import fastened, loosened, new_ribbon, ribbon_from_json, ribbon_to_json
from heliograph.core.playing.tempo import Speed
from heliograph.core.playing.typed_speed import read_speed
from heliograph.effects.checking import OF_LINE, driven_parameter
from heliograph.store.rows import Record

ATTRIBUTE_REACH = {"°": 24.0, "%": 25.0}
"""A new drive of an attribute goes so far each way, by its unit."""


def stored_speed(given: str | Record) -> Record:
    """A speed as it is stored; it may be typed."""
    return speed_to_json(read_speed(given)) if isinstance(given, str) else given


def merged_drives(line: Record, given: Mapping[str, Mapping[str, Any] | None]) -> Record:
    """The line's drives with what is given of them merged in: None takes one away, what is new begins about what is
    stored of the number it moves."""
    drives: Record = dict(line["drives"])
    for name, fields in given.items():
        if fields is None:
            drives.pop(name, None)
            continue
        changes = {key: value for key, value in fields.items() if value is not None}
        if "period" in changes:
            changes["period"] = stored_speed(changes["period"])
        before = drives.get(name) or _new_drive(line, name)
        drives[name] = drive_to_json(drive_from_json({**before, **changes}))
    return drives


def _new_drive(line: Record, name: str) -> Record:
    """A slow wave about the stored number: a third of its range each way, as far as it goes. What replaces time goes
    once through the cycle; a speed is driven by the clock it runs by."""
    whole = line_from_json({**line, "drives": {}})
    one = driven_parameter(whole, name)
    if name == CYCLE:
        return drive_to_json(Drive(low=0.0, high=1.0, wave="triangle", period=Speed(8.0, "beat")))
    if name == SPEED:
        return drive_to_json(Drive(low=0.5, high=1.5, period=Speed(8.0, whole.rate.unit)))
    if isinstance(whole, AttributeLine) and name not in OF_LINE:  # added to what is set
        reach = ATTRIBUTE_REACH[one.unit]
        return drive_to_json(Drive(low=-reach, high=reach, period=Speed(16.0, "beat"), over="address"))
    stored = line.get(name, one.default) if name in OF_LINE else line["params"].get(one.name, one.default)
    reach = abs(float(stored)) * 0.6 or (one.maximum - one.minimum) / 4
    low, high = max(float(stored) - reach, one.minimum), min(float(stored) + reach, one.maximum)
    return drive_to_json(Drive(low=round(low, 3), high=round(high, 3), period=Speed(8.0, "beat")))


def copied_drive(line: Record, name: str, onto: Record, to: str) -> Record:
    """The drive `name` of a line for the number `to` of the line `onto`: its ends stand as far along that number's
    range as they did along their own."""
    if name not in line.get("drives", {}):
        raise NotFoundError("Nothing drives that.", where="name")
    drive = line["drives"][name]
    source = driven_parameter(line_from_json({**line, "drives": {}}), name)
    target = driven_parameter(line_from_json({**onto, "drives": {}}), to)
    span = (target.maximum - target.minimum) / (source.maximum - source.minimum)
    ends = {end: round(target.minimum + (drive[end] - source.minimum) * span, 3) for end in ("low", "high")}
    return {**drive, **ends, "over": drive["over"] if target.each else ""}


def merged_ribbons(line: Record, given: Mapping[str, Mapping[str, Any] | None]) -> Record:
    """The line's ribbons with what is given of them merged in: None takes one away, a new one begins with the colour
    that is stored. Another length draws its knots out or together."""
    ribbons: Record = dict(line["ribbons"])
    for stop, fields in given.items():
        if fields is None:
            ribbons.pop(stop, None)
            continue
        if int(stop) >= len(line["ramp"]):
            raise InputError(f"The ramp has no colour {int(stop) + 1}.", where="ribbons")
        changes = {key: value for key, value in fields.items() if value is not None}
        if "length" in changes:
            changes["length"] = stored_speed(changes["length"])
        before = ribbons.get(stop) or ribbon_to_json(new_ribbon(line["ramp"][int(stop)]))
        loosen, fasten = changes.pop("loosen", None), changes.pop("fasten", None)
        ribbon = ribbon_from_json({**_drawn(before, changes), **changes})
        if loosen is not None:
            ribbon = loosened(ribbon, loosen)
        if fasten is not None:
            ribbon = fastened(ribbon, fasten)
        ribbons[stop] = ribbon_to_json(ribbon)
    return ribbons


def _drawn(before: Record, changes: Mapping[str, Any]) -> Record:
    """A ribbon with its knots and threads where they stand on another length."""
    if "length" not in changes or "knots" in changes:
        return before
    times = float(changes["length"]["value"]) / float(before["length"]["value"])
    knots = [[at * times, *rest] for at, *rest in before["knots"]]
    threads = {name: [[at * times, value] for at, value in points] for name, points in before["threads"].items()}
    return {**before, "knots": knots, "threads": threads}
