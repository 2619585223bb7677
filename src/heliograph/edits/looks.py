"""What changes a look: its lines, each complete by its kind, and their order."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any
from uuid import uuid4

from heliograph.core.colour.ramps import stops_to_json
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.look.canvas import check_over, painted_over
from heliograph.core.look.drive import drive_to_json
from heliograph.core.look.emitters import over_emitter
from heliograph.core.look.line import (
    DOES,
    FIELDS,
    PARAMS,
    AttributeLine,
    ChaseLine,
    ClipLine,
    EffectLine,
    FeedLine,
    RecolourLine,
    line_from_json,
    speed_to_json,
)
from heliograph.core.look.paths import PAN, TILT, path_drives
from heliograph.core.playing.tempo import Speed
from heliograph.core.show.references import line_renamed
from heliograph.edits.drives import copied_drive, merged_drives, merged_ribbons, stored_speed
from heliograph.effects.checking import OF_LINE, check_line, check_through
from heliograph.effects.registry import EVENING, PLAIN, effect_named
from heliograph.effects.surprise import surprised
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

LINES_MAX = 64
ON_PATHS = (PARAMS + PAN, PARAMS + TILT)
NO_MASK = "none"
"""Given for `through` and `region` of a line that shall be whole again."""

OWN_SPEED = Speed(1.0, "times")


def complete_line(given: Mapping[str, Any], new: bool = True) -> Record:
    """A line with what was left out: the ramp, the speed and, where it is `new`, the parameters that what it paints
    begins with."""
    if given["paints"] in (ClipLine.paints, ChaseLine.paints):
        ramp, speed = PLAIN, OWN_SPEED
    elif given["paints"] in (RecolourLine.paints, FeedLine.paints, AttributeLine.paints):
        ramp, speed = EVENING if given["paints"] == RecolourLine.paints else PLAIN, None
    else:
        effect = effect_named(given["effect"])
        ramp, speed = effect.ramp, effect.speed
        if new:
            given = {**given, "params": {**effect.begins, **(given.get("params") or {})}}
    line = dict(given)
    if line.get("ramp") is None:
        line["ramp"] = stops_to_json(ramp)
    if speed is not None:
        line["speed"] = stored_speed(line["speed"]) if line.get("speed") else speed_to_json(speed)
    line = {**line, **painted_over(line, {}), "drives": {}}
    ribbons = merged_ribbons({**line, "ribbons": {}}, given.get("ribbons") or {})
    return {**line, "drives": merged_drives(line, given.get("drives") or {}), "ribbons": ribbons}


def add_look(work: Work, key: str, given: Mapping[str, Any], lines: Sequence[Mapping[str, Any]]) -> None:
    """`given`: its name and what else it has beside its lines."""
    whole = [complete_line(line) for line in lines]
    for line in whole:
        _check(work, line, whole)
    place = rows.next_place("look", str(work.show.id))
    work.insert("look", [(key, {**given, "lines": whole, "place": place})])


def copy_look(work: Work, look_id: str, key: str) -> None:
    """The look once more, under another id and off: its lines painted through its own lines."""
    one = rows.record_of(work.get("look", look_id))
    rest = {name: value for name, value in one.items() if name not in ("id", "rev")}
    changed = {"name": f"{one['name']}, copy"[:120], "lines": renamed_lines(one)}
    work.insert("look", [(key, {**rest, **changed, "place": rows.next_place("look", str(work.show.id))})])


def renamed_lines(look: Record) -> list[Record]:
    """A look's lines under new ids."""
    ids = {line["id"]: str(uuid4()) for line in look["lines"]}
    return [line_renamed(line, lambda old: ids.get(old, old)) for line in look["lines"]]


def add_line(work: Work, look_id: str, given: Mapping[str, Any], above: str | None = None) -> None:
    """Adds a line on top, or upon the line `above`."""
    line = complete_line(given)
    lines = lines_of(work, look_id)
    _check(work, line, lines)
    if len(lines) >= LINES_MAX:
        raise InputError(f"A look has at most {LINES_MAX} lines.", where="lines")
    ids = [one["id"] for one in lines]
    at = ids.index(above) + 1 if above in ids else len(lines)
    work.update("look", look_id, {"lines": [*lines[:at], line, *lines[at:]]})


def copy_line(work: Work, look_id: str, line_id: str, key: str) -> None:
    """A copy right above the line, muted, so that nothing changes on the lamps until it is let loose."""
    lines = lines_of(work, look_id)
    at = next((n for n, one in enumerate(lines) if one["id"] == line_id), None)
    if at is None:
        raise NotFoundError("That line is not there any more.", where="line")
    if len(lines) >= LINES_MAX:
        raise InputError(f"A look has at most {LINES_MAX} lines.", where="lines")
    copy = {**lines[at], "id": key, "mute": True, "solo": False}
    work.update("look", look_id, {"lines": [*lines[: at + 1], copy, *lines[at + 1 :]]})


def change_line(work: Work, look_id: str, line_id: str, given: Mapping[str, Any], seen: int | None = None) -> None:
    """Changes fields of one line; others may change its other lines meanwhile. `seen`: see `Work.update`."""

    lines = lines_of(work, look_id)

    def change(line: Record) -> Record:
        changed = changed_line(line, given)
        _check(work, changed, lines)
        return changed

    work.update("look", look_id, {"lines": _with(lines, line_id, change)}, seen)


def set_path(work: Work, look_id: str, line_id: str, path: str, heads: int, seen: int | None = None) -> None:
    """Lets a line's heads move along a ready path; a round lasts 16 beats."""
    lines = lines_of(work, look_id)

    def change(line: Record) -> Record:
        if line["paints"] != AttributeLine.paints:
            raise InputError("Only a line that sets attributes moves heads.", where="line")
        others = {name: one for name, one in line.get("drives", {}).items() if name not in ON_PATHS}
        made = {PARAMS + name: drive for name, drive in path_drives(path, heads).items()}
        drives = {name: drive_to_json(drive) for name, drive in made.items() if drive is not None}
        changed = {**line, "drives": {**others, **drives}}
        _check(work, changed, lines)
        return changed

    work.update("look", look_id, {"lines": _with(lines, line_id, change)}, seen)


def surprise_line(work: Work, look_id: str, line_id: str, seed: int, seen: int | None = None) -> None:
    """Draws a line's parameters, colours and speed anew within what reads well; InputError for a clip. The seed stays
    with the line."""
    lines = lines_of(work, look_id)

    def change(line: Record) -> Record:
        if line["paints"] != EffectLine.paints:
            raise InputError("Only an effect can surprise.", where="line", repair="Choose a line that paints one.")
        drawn = surprised(effect_named(line["effect"]), seed)
        ramp, speed = stops_to_json(drawn["ramp"]), speed_to_json(drawn["speed"])
        texts = {name: line["params"][name] for name in effect_named(line["effect"]).texts if name in line["params"]}
        changed = {
            **line,
            "params": {**texts, **drawn["params"]},
            "ramp": ramp,
            "saved_ramp": "",
            "speed": speed,
            "seed": seed,
        }
        _check(work, changed, lines)
        return changed

    work.update("look", look_id, {"lines": _with(lines, line_id, change)}, seen)


def copy_drive(work: Work, look_id: str, line_id: str, name: str, onto: str, to: str, seen: int | None = None) -> None:
    """Lets the number `to` of the line `onto` be moved as `name` of `line_id` is."""
    lines = lines_of(work, look_id)
    source = next((one for one in lines if one["id"] == line_id), None)
    if source is None:
        raise NotFoundError("That line is not there any more.", where="line")

    def change(line: Record) -> Record:
        changed = {**line, "drives": {**line.get("drives", {}), to: copied_drive(source, name, line, to)}}
        _check(work, changed, lines)
        return changed

    work.update("look", look_id, {"lines": _with(lines, onto, change)}, seen)


def delete_line(work: Work, look_id: str, line_id: str) -> None:
    """What was painted through the line is painted whole then."""
    lines = lines_of(work, look_id)
    kept = [
        {**line, "through": None} if (line.get("through") or {}).get("line") == line_id else line
        for line in lines
        if line["id"] != line_id
    ]
    if len(kept) == len(lines):
        raise NotFoundError("That line is not there any more.", where="line")
    work.update("look", look_id, {"lines": kept})


def reordered(lines: Sequence[Record], order: Sequence[str]) -> list[Record]:
    """The lines in another order, bottom first; InputError where it does not name each once."""
    by_id = {line["id"]: line for line in lines}
    if set(order) != set(by_id) or len(order) != len(by_id):
        raise InputError("The order must name each line once.", where="order")
    return [by_id[key] for key in order]


def lines_of(work: Work, look_id: str) -> list[Record]:
    lines: list[Record] = rows.record_of(work.get("look", look_id))["lines"]
    return lines


def changed_line(line: Record, given: Mapping[str, Any]) -> Record:
    """A stored line with other values. Parameters are merged; another effect begins with its own defaults. InputError
    for a field that this kind of line has not."""
    fields = FIELDS[line["paints"]]
    for name in given:
        if name not in fields:
            raise InputError(
                f"A line that {DOES[line['paints']]} has no {name}.",
                where=name,
                repair=f"It has: {', '.join(sorted(fields))}.",
            )
    over = painted_over(line, given)
    changed = {**line, **{name: None if value == NO_MASK else value for name, value in given.items()}, **over}
    if "speed" in fields:
        changed["speed"] = stored_speed(changed["speed"])
    kept = line.get("drives", {})
    if "params" in fields:
        another = given.get("effect", line.get("effect")) != line.get("effect")
        begun = effect_named(changed["effect"]).begins if "effect" in fields else {}
        changed["params"] = {**(begun if another else line["params"]), **given.get("params", {})}
        if line["paints"] == AttributeLine.paints:  # what is typed empty is not set any more
            changed["params"] = {name: text for name, text in changed["params"].items() if text}
        kept = {name: one for name, one in kept.items() if not another or name in OF_LINE}
    before = {stop: one for stop, one in (line.get("ribbons") or {}).items() if int(stop) < len(changed["ramp"])}
    changed["ribbons"] = merged_ribbons({**changed, "ribbons": before}, given.get("ribbons") or {})
    changed["drives"] = merged_drives({**changed, "drives": kept}, given.get("drives") or {})
    return changed


def _with(lines: Sequence[Record], line_id: str, change: Callable[[Record], Record]) -> list[Record]:
    if all(line["id"] != line_id for line in lines):
        raise NotFoundError("That line is not there any more.", where="line")
    return [change(line) if line["id"] == line_id else line for line in lines]


def _check(work: Work, data: Mapping[str, Any], among: Sequence[Record]) -> None:
    """`among`: the lines of its look."""
    line = line_from_json(data)
    check_through(line, {one["id"]: one["paints"] for one in among})
    check_over(data)
    if data.get("group"):
        of_group = rows.record_of(work.get("group", data["group"]))["emitter"]
        if of_group and (data.get("emitter") or of_group) != of_group:
            raise InputError(f"That group is {of_group} alone.", where="emitter", repair="Paint over another group.")
        line_from_json(over_emitter(data, of_group) | {"emitter": of_group})
    elif line.matrix:
        work.get("matrix", line.matrix)
    check_line(line, lambda clip: int(rows.record_of(work.get("clip", clip))["duration_ns"]))
    if isinstance(line, ChaseLine):
        work.get("chase", line.chase)
    for preset in data.get("presets") or ():
        work.get("preset", preset)
    if data["saved_ramp"]:
        work.get("ramp", data["saved_ramp"])
