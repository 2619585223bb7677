"""A line as a hand holds it: fields at other values than they are stored with."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from heliograph.core.colour.ramps import stops_from_json
from heliograph.core.errors import InputError
from heliograph.core.look.any_line import SPEED
from heliograph.core.look.line import CLIP, PARAMS, ChaseLine, ClipLine, EffectLine, FeedLine, Line, speed_from_json
from heliograph.core.playing.phase import Rate


def moved_line(line: Line, values: Mapping[str, Any]) -> Line:
    """The line with fields held at other values, each in its stored form; InputError where one takes no such value."""
    changes: dict[str, Any] = {}
    for name, value in values.items():
        if name.startswith(PARAMS):
            changes.setdefault("params", {})[name.removeprefix(PARAMS)] = value
        elif name == "ramp":  # colours that a hand holds go over time no more
            changes |= {"ramp": stops_from_json(value), "ribbons": {}}
        elif name == "speed":
            changes["speed"] = speed_from_json(value)
        elif name == CLIP:
            changes |= {"clip": value["id"], "loop_s": value["loop_s"]}
        else:
            changes[name] = value
    another = isinstance(line, EffectLine) and values.get("effect", line.effect) != line.effect
    if "params" in changes or another:
        if isinstance(line, (ClipLine, FeedLine, ChaseLine)):
            raise InputError("A picture has no parameters.", where="params")
        changes["params"] = {**({} if another else line.params), **changes.get("params", {})}
    if line.drives:  # what a hand holds, no drive moves; of another effect none is left that moved a parameter
        changes["drives"] = {
            name: one
            for name, one in line.drives.items()
            if name not in values and not (another and name.startswith(PARAMS))
        }
    return replace(line, **changes)


def rate_of(line: Line, values: Mapping[str, Any]) -> Rate:
    """The line's rate with fields held at other values; a speed that a hand holds, no drive moves."""
    if CLIP in values and isinstance(line, ClipLine):
        line = replace(line, loop_s=values[CLIP]["loop_s"])
    if SPEED not in values:
        return line.rate
    return line.rate_at(speed_from_json(values[SPEED]))._replace(drive=None)
