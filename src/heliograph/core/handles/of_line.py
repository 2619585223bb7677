"""Handles of a look's lines: everything of a line that may move while it plays. What a hand holds lies over what is
stored, until it lets go."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.handles.handle import Ground, Handle, Move, slug
from heliograph.core.look.line import BLENDS, PARAMS, EffectLine, Line, Look, moved_line
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.state import HeldLine, PlaybackState

COMMON = ("on", "solo", "opacity", "blend", "speed", "ramp")
"""What every kind of line has."""

HELD_MAX = 5_000
"""Lines held at once."""


def every(ground: Ground, look: Look, part: str) -> Iterator[Handle]:
    for place, line in enumerate(look.lines, start=1):
        for name in (*COMMON, *_parameters(ground, line)):
            yield _handle(ground, look, part, (place, line), name)


def find(ground: Ground, look: Look, part: str, parts: tuple[str, ...]) -> Handle | None:
    key, name = parts
    for place, line in enumerate(look.lines, start=1):
        if line.id == key and name in (*COMMON, *_parameters(ground, line)):
            return _handle(ground, look, part, (place, line), name)
    return None


def read(state: PlaybackState, ground: Ground, look: Look, parts: tuple[str, ...]) -> Any:
    """Its value in the form it is moved to: what is held, else what is stored."""
    line = _line(look, parts[0])
    field, stored = _stored(ground, line, parts[1])
    held = state.held.get(line.id)
    value = held.values[field] if held is not None and field in held.values else stored
    return not value if parts[1] == "on" else value


def move(state: PlaybackState, ground: Ground, look: Look, parts: tuple[str, ...], move: Move) -> PlaybackState:
    line = _line(look, parts[0])
    field, _ = _stored(ground, line, parts[1])
    value = not move.value if parts[1] == "on" else move.value
    before = state.held.get(line.id, HeldLine())
    after = HeldLine({**before.values, field: value}, {**before.by, field: move.by})
    try:
        moved_line(line, {field: value})
    except (TypeError, ValueError, KeyError) as error:
        raise InputError(f"{parts[1]} does not take {value!r}.", where=parts[1]) from error
    if line.id not in state.held and len(state.held) >= HELD_MAX:
        raise InputError(f"{HELD_MAX} lines held at once are the most.", where="moves", repair="Let go of some first.")
    return replace(state, held={**state.held, line.id: after})


def field_of(parts: tuple[str, ...]) -> tuple[str, str]:
    """(line, the field of what is held) that the last parts of an address name."""
    line, name = parts
    return line, "mute" if name == "on" else name if name in COMMON else PARAMS + name


def _line(look: Look, key: str) -> Line:
    return next(line for line in look.lines if line.id == key)


def _stored(ground: Ground, line: Line, name: str) -> tuple[str, Any]:
    """The field, and what is stored in it."""
    field = field_of((line.id, name))[1]
    if field.startswith(PARAMS):
        assert isinstance(line, EffectLine)
        return field, line.params.get(name, _parameters(ground, line)[name].default)
    if field == "ramp":
        return field, [[stop.at, stop.red, stop.green, stop.blue] for stop in line.ramp]
    if field == "speed":
        return field, {"value": line.speed.value, "unit": line.speed.unit}
    return field, getattr(line, field)


def _parameters(ground: Ground, line: Line) -> dict[str, Parameter]:
    if not isinstance(line, EffectLine):
        return {}
    return {one.name: one for one in ground.parameters.get(line.effect, ())}


def _handle(ground: Ground, look: Look, part: str, at: tuple[int, Line], name: str) -> Handle:
    place, line = at
    kind = line.effect if isinstance(line, EffectLine) else "clip"
    address = f"look/{look.id}/{line.id}/{name}"
    path = f"look/{part}/{slug(kind)}_{slug(line.id)[:4]}/{slug(name)}"
    words = f"{look.name}, line {place}"
    match name:
        case "on" | "solo":
            return Handle(address, path, "switch", words if name == "on" else f"{words}: solo", "edit")
        case "opacity":
            return Handle(address, path, "level", f"{words}: opacity", "edit")
        case "blend":
            return Handle(address, path, "choice", f"{words}: blend", "edit", choices=BLENDS)
        case "speed" | "ramp":
            return Handle(address, path, "speed" if name == "speed" else "ramp", f"{words}: {name}", "edit")
    one = _parameters(ground, line)[name]
    words = f"{words}: {name}"
    if one.kind == "choice":
        return Handle(address, path, "choice", words, "edit", choices=one.choices)
    return Handle(address, path, "number", words, "edit", one.minimum, one.maximum, one.unit)
