"""Handles of a look's lines: everything of a line that may move while it plays. What a hand holds lies over what is
stored, until it lets go."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from heliograph.core.colour.ramps import stops_to_json
from heliograph.core.errors import InputError
from heliograph.core.handles.handle import Ground, Handle, Move, slug
from heliograph.core.look.any_line import BLENDS
from heliograph.core.look.line import (
    CLIP,
    PARAMS,
    AttributeLine,
    ChaseLine,
    ClipLine,
    EffectLine,
    Line,
    Look,
    RecolourLine,
    speed_to_json,
)
from heliograph.core.look.moved import moved_line
from heliograph.core.look.parameter import Parameter
from heliograph.core.look.recolour import RECOLOUR
from heliograph.core.playing.state import HeldLine, PlaybackState
from heliograph.core.playing.tempo import clock_of

COMMON = ("on", "solo", "opacity", "blend", "speed", "ramp", "shift", "cycle")
"""What every kind of line has; what recolours and what is live has no speed."""

COLOURED = ("blend", "ramp", "shift")
"""Of those, what only a line that paints has."""

EFFECT = "effect"
"""Of a line that paints an effect: another one may be tried on it."""

FRAME = "frame"
"""Of a line that shows a chase: the frame that shows instead of time's, from 1."""

STEPS = {"next": 1, "previous": -1}
"""Of a line that shows a chase: triggers that step through its frames."""

HELD_MAX = 5_000
"""Lines held at once."""


def every(ground: Ground, look: Look, part: str) -> Iterator[Handle]:
    for place, line in enumerate(look.lines, start=1):
        for name in _names(ground, line):
            yield _handle(ground, look, part, (place, line), name)


def find(ground: Ground, look: Look, part: str, parts: tuple[str, ...]) -> Handle | None:
    key, name = parts
    for place, line in enumerate(look.lines, start=1):
        if line.id == key and name in _names(ground, line):
            return _handle(ground, look, part, (place, line), name)
    return None


def read(state: PlaybackState, ground: Ground, look: Look, parts: tuple[str, ...]) -> Any:
    """Its value in the form it is moved to: what is held, else what is stored; None of a trigger."""
    if parts[1] in STEPS:
        return None
    line = _line(look, parts[0])
    field, stored = _stored(ground, line, parts[1])
    held = state.held.get(line.id)
    value = held.values[field] if held is not None and field in held.values else stored
    if field == CLIP:
        key = value["id"] if isinstance(value, dict) else value
        return next((str(number) for number, clip in ground.clips.items() if clip == key), "")
    return not value if parts[1] == "on" else value


def move(state: PlaybackState, ground: Ground, look: Look, parts: tuple[str, ...], move: Move) -> PlaybackState:
    line = _line(look, parts[0])
    if parts[1] in STEPS:
        return stepped(state, ground, look.id, line, STEPS[parts[1]], move.time_ns)
    field, _ = _stored(ground, line, parts[1])
    value = not move.value if parts[1] == "on" else move.value
    if field == FRAME:
        value = round(value)
    if field == CLIP:
        value = _clip(ground, line, str(value))
        state = _from_its_start(state, look.id, line.id)
    before = state.held.get(line.id, HeldLine())
    after = HeldLine({**before.values, field: value}, {**before.by, field: move.by})
    try:
        moved_line(line, {field: value})
    except (TypeError, ValueError, KeyError) as error:
        raise InputError(f"{parts[1]} does not take {value!r}.", where=parts[1]) from error
    if line.id not in state.held and len(state.held) >= HELD_MAX:
        raise InputError(f"{HELD_MAX} lines held at once are the most.", where="moves", repair="Let go of some first.")
    return replace(state, held={**state.held, line.id: after})


def stepped(state: PlaybackState, ground: Ground, look: str, line: Line, by: int, time_ns: int) -> PlaybackState:
    """Every run of the look shows the next frame of a chase, or another one so many away, from now on."""
    strip = ground.strips.get(line.chase) if isinstance(line, ChaseLine) else None
    if strip is None:
        return state
    assert isinstance(line, ChaseLine)
    beat = state.tempo.beat_at(time_ns)
    runs = []
    for run in state.runs:
        anchor = run.phases.get(line.id) if run.look == look else None
        if anchor is not None:
            phase = strip.begins_at(anchor.phase_at(time_ns, beat), line.order, line.seed, by)
            moved = replace(anchor, phase=phase, since=clock_of(anchor.unit, time_ns, beat))
            run = replace(run, phases={**run.phases, line.id: moved})
        runs.append(run)
    return replace(state, runs=tuple(runs))


def _clip(ground: Ground, line: Line, number: str) -> dict[str, Any]:
    """What is held of a line that shows the clip of a number."""
    assert isinstance(line, ClipLine)
    key = ground.clips[int(number)]
    first, last = line.fitting.span_s(ground.lengths.get(key, 1.0))
    return {"id": key, "loop_s": last - first}


def _from_its_start(state: PlaybackState, look: str, line: str) -> PlaybackState:
    """A line's place in its cycle is forgotten: it begins anew at the next frame."""
    runs = tuple(
        replace(run, phases={key: one for key, one in run.phases.items() if key != line}) if run.look == look else run
        for run in state.runs
    )
    return replace(state, runs=runs)


def field_of(parts: tuple[str, ...]) -> tuple[str, str]:
    """(line, the field of what is held) that the last parts of an address name."""
    line, name = parts
    return line, "mute" if name == "on" else name if name in (*COMMON, EFFECT, CLIP, FRAME) else PARAMS + name


def _line(look: Look, key: str) -> Line:
    return next(line for line in look.lines if line.id == key)


def _stored(ground: Ground, line: Line, name: str) -> tuple[str, Any]:
    """The field, and what is stored in it."""
    field = field_of((line.id, name))[1]
    if field.startswith(PARAMS):
        assert isinstance(line, (EffectLine, RecolourLine, AttributeLine))
        return field, line.params.get(name, _parameters(ground, line)[name].default)
    if field == "ramp":
        return field, stops_to_json(line.ramp)
    if field == "speed":
        return field, speed_to_json(line.speed)
    return field, getattr(line, field)


def _names(ground: Ground, line: Line) -> list[str]:
    common = [name for name in COMMON if line.timed or name not in ("speed", "cycle")]
    if not line.pictured:
        common = [name for name in common if name not in COLOURED]
    own = [EFFECT] if isinstance(line, EffectLine) else [CLIP] if isinstance(line, ClipLine) else []
    if isinstance(line, ChaseLine):
        own = [*STEPS, FRAME]
    return [*common, *own, *_parameters(ground, line)]


def _parameters(ground: Ground, line: Line) -> dict[str, Parameter]:
    if isinstance(line, RecolourLine):
        return {one.name: one for one in RECOLOUR}
    if isinstance(line, AttributeLine):  # what was typed for each, as by hand
        return {name: Parameter(name, "text", "") for name in line.params}
    if not isinstance(line, EffectLine):
        return {}
    return {one.name: one for one in ground.parameters.get(line.effect, ())}


def _handle(ground: Ground, look: Look, part: str, at: tuple[int, Line], name: str) -> Handle:
    place, line = at
    kind = line.effect if isinstance(line, EffectLine) else line.paints
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
        case "effect":
            return Handle(address, path, "choice", f"{words}: effect", "edit", choices=tuple(ground.parameters))
        case "frame" if isinstance(line, ChaseLine):
            strip = ground.strips.get(line.chase)
            most = float(len(strip.frames)) if strip else 1.0
            return Handle(address, path, "number", f"{words}: frame by its number", "edit", 0.0, most)
        case "next" | "previous" if isinstance(line, ChaseLine):
            return Handle(address, path, "trigger", f"{words}: {name} frame", "run")
        case "clip" if isinstance(line, ClipLine):
            numbers = tuple(map(str, sorted(ground.clips)))
            return Handle(address, path, "choice", f"{words}: clip by its number", "edit", choices=numbers)
        case "shift":
            return Handle(address, path, "number", f"{words}: shift of its ramp", "edit", -1.0, 1.0)
        case "cycle":
            return Handle(address, path, "number", f"{words}: place in its cycle", "edit", 0.0, 1.0)
        case "speed" | "ramp":
            return Handle(address, path, "speed" if name == "speed" else "ramp", f"{words}: {name}", "edit")
    one = _parameters(ground, line)[name]
    words = f"{words}: {name}"
    if one.kind == "text":
        return Handle(address, path, "text", words, "edit")
    if one.kind == "choice":
        return Handle(address, path, "choice", words, "edit", choices=one.choices)
    return Handle(address, path, "number", words, "edit", one.minimum, one.maximum, one.unit)
