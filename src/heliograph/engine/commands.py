"""Commands that act on the next frame: start and stop, masters, tempo, show time. A table, not branches."""

from __future__ import annotations

import colorsys
import time
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from heliograph.core import handles
from heliograph.core.errors import InputError
from heliograph.core.hand.colouring import Rgb, coloured
from heliograph.core.hand.levels import level_bytes, level_of
from heliograph.core.hand.values import channels_of
from heliograph.core.handles import Move
from heliograph.core.lasers.guarding import check_armable
from heliograph.core.patch.dmx import parse_address
from heliograph.core.playing.level import FULL
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.core.rig.arrays import RigFixture
from heliograph.engine.arming import LEASES_MAX, STAYS_MAX_S
from heliograph.engine.clock import PERIOD_NS
from heliograph.engine.loop import Engine
from heliograph.engine.watching import Event
from heliograph.ipc.messages import engine as told

TIME_MAX_S = 10 * 365 * 86_400
"""The longest show time: nanoseconds of it are far from the end of 64 bits."""

LISTED = ("address", "path", "kind", "words", "needs", "minimum", "maximum", "unit", "fades")
"""What is told of a handle, beside its choices and its value."""

DRAGS_KEPT = 32
"""Movements of hands whose beginning is remembered."""

BY_HAND_MAX = 20_000
"""Channels held by hand: all of them are written into the spool when one changes."""


def _now(engine: Engine) -> int:
    return engine.clock.at(engine.deadlines.due_ns)


def _move(engine: Engine, asked: told.MoveHandles) -> None:
    """Moves handles, all of them in this frame or, where one is refused, none."""
    state, ground, now = engine.state, engine.show.ground, _now(engine)
    at_ms = engine.deadlines.due_ns / 1e6 if asked.at_ms is None else asked.at_ms
    for one in asked.moves:
        move = Move(one.handle, one.value, one.over_s, asked.by, asked.role, now, at_ms)
        state = handles.move(state, ground, move)
    engine.take(state)


def _let_go(engine: Engine, asked: told.LetGo) -> None:
    engine.take(handles.let_go(engine.state, asked.by, asked.handles))


def _manual(engine: Engine, asked: told.SetManual) -> None:
    """Sets values by hand; None releases one. Keys as in `PlaybackState.manual`. Levels become values here."""
    fixtures = engine.show.rig.fixtures
    values: dict[str, int | None] = {}
    for key, value in asked.values.items():
        _channel_of(fixtures, key)
        values[key] = value
    for key, level in asked.levels.items():
        fixture, number, attribute = _channel_of(fixtures, key)
        found = level_bytes(channels_of(fixture.mode), number, level, attribute)
        values.update((f"{fixture.id}/{channel}", byte) for channel, byte in found.items())
    kept = {key: value for key, value in engine.state.manual.items() if key.partition("/")[0] in fixtures}
    engine.state = replace(engine.state, manual=_changed(kept, values))


def _channel_of(fixtures: Mapping[str, RigFixture], key: str) -> tuple[RigFixture, int, str]:
    """Fixture, channel of its mode and attribute that a key names; InputError where there is no such channel."""
    name, _, rest = key.partition("/")
    channel, _, attribute = rest.partition("/")
    known = fixtures.get(name)
    if known is None or not channel.isdigit() or not 1 <= int(channel) <= known.mode.footprint:
        raise InputError("That channel is of no fixture of the running show.", where="values")
    return known, int(channel), attribute


def _colours(engine: Engine, asked: told.HoldColours) -> None:
    """Moves colours of cells from what they were when the movement began."""
    fixtures = engine.show.rig.fixtures
    cells = [[_channel_of(fixtures, key)[:2] if key else None for key in one.keys] for one in asked.cells]
    base = engine.drags.get(asked.drag)
    if base is None or len(base) != len(cells):
        base = [_colour_of(engine, places, one.by_hue) for places, one in zip(cells, asked.cells, strict=True)]
        engine.drags[asked.drag] = base
        while len(engine.drags) > DRAGS_KEPT:
            del engine.drags[next(iter(engine.drags))]
    values: dict[str, int | None] = {}
    for places, one, colour in zip(cells, asked.cells, coloured(base, asked.what, asked.to), strict=True):
        parts = colorsys.rgb_to_hsv(*colour) if one.by_hue else colour
        for place, level in zip(places, parts, strict=True):
            if place is not None:
                found = level_bytes(channels_of(place[0].mode), place[1], min(max(level, 0.0), 1.0))
                values.update((f"{place[0].id}/{channel}", byte) for channel, byte in found.items())
    kept = {key: value for key, value in engine.state.manual.items() if key.partition("/")[0] in fixtures}
    engine.state = replace(engine.state, manual=_changed(kept, values))


def _colour_of(engine: Engine, places: Sequence[tuple[RigFixture, int] | None], by_hue: bool) -> Rgb:
    """The colour of a cell as it is held or, where it is not, as it is sent."""
    parts = [0.0 if place is None else _level_now(engine, *place) for place in places]
    red, green, blue = colorsys.hsv_to_rgb(*parts) if by_hue else parts
    return red, green, blue


def _level_now(engine: Engine, fixture: RigFixture, number: int) -> float:
    mode = channels_of(fixture.mode)
    values = {}
    for channel in (number, mode.fine_of.get(number, number)):
        held = engine.state.manual.get(f"{fixture.id}/{channel}")
        values[channel] = engine.sent_value(fixture, channel) if held is None else held
    return level_of(mode, number, values)


def _raw(engine: Engine, asked: told.SetRaw) -> None:
    """Sets channels of universes by hand; None releases one. Keys as in `PlaybackState.raw`."""
    values = {str(parse_address(key))[1:]: value for key, value in asked.values.items()}
    engine.state = replace(engine.state, raw=_changed(engine.state.raw, values))


def _changed(before: Mapping[str, int], values: Mapping[str, int | None]) -> dict[str, int]:
    for value in values.values():
        if value is not None and not 0 <= int(value) <= 255:
            raise InputError(f"A channel takes 0 to 255, not {value}.", where="values")
    after = {key: value for key, value in before.items() if key not in values}
    after |= {str(key): int(value) for key, value in values.items() if value is not None}
    if len(after) > BY_HAND_MAX:
        raise InputError(f"{BY_HAND_MAX} channels by hand are the most.", where="values", repair="Release some first.")
    return after


def _release(engine: Engine, _asked: told.Release) -> None:
    engine.state = replace(engine.state, manual={}, raw={})


def _highlight(engine: Engine, asked: told.Highlight) -> None:
    engine.state = replace(engine.state, highlight=frozenset(asked.fixtures))


def _walk(engine: Engine, asked: told.LightWalk) -> None:
    """Lights what a step of a test walk lights; without `walk` everything is again as it was."""
    walk = asked.walk
    if walk is not None:
        walk = replace(walk, channels=tuple(str(parse_address(one))[1:] for one in walk.channels))
    engine.state = replace(engine.state, walk=walk)


def _hold_time(engine: Engine, _asked: told.HoldTime) -> None:
    engine.clock = engine.clock.hold(engine.deadlines.due_ns)


def _run_time(engine: Engine, _asked: told.RunTime) -> None:
    engine.clock = engine.clock.run(engine.deadlines.due_ns)


def _step_time(engine: Engine, asked: told.StepTime) -> None:
    if not engine.clock.held:
        raise InputError("Show time is running: hold it before stepping it.", where="time")
    frames = asked.frames
    wanted = max(0, _now(engine) + frames * PERIOD_NS)
    if wanted > TIME_MAX_S * NS_PER_S:
        raise InputError(
            f"{frames} frames on is past the longest show time, ten years.", where="frames", repair="Step less far."
        )
    engine.clock = engine.clock.set(wanted, engine.deadlines.due_ns)


def _set_time(engine: Engine, asked: told.SetTime) -> None:
    seconds = asked.seconds
    if not 0.0 <= seconds <= TIME_MAX_S:
        raise InputError(f"A show time of {seconds:g} s is not possible.", where="time", repair="Type 0 s or more.")
    engine.clock = engine.clock.set(round(seconds * NS_PER_S), engine.deadlines.due_ns)


def _arm(engine: Engine, asked: told.Arm) -> None:
    """These lasers may emit, all others are safe; an empty list makes every one safe. Whoever arms holds a `lease` that
    `renew` keeps up, unless it says `until` when (Unix time) they stay armed without anybody."""
    fixtures = frozenset(asked.fixtures)
    if not fixtures:
        engine.disarm(engine.state.armed)
        return
    check_armable(engine.show.rig, engine.show.outputs, sorted(fixtures))
    until = asked.until
    if until is not None and not 0.0 < float(until) - time.time() <= STAYS_MAX_S:
        raise InputError("Lasers stay armed for 24 hours at most.", where="until", repair="Name a moment within a day.")
    if len(engine.leases.held) >= LEASES_MAX:
        raise InputError("Too many browsers hold lasers armed.", where="lease", repair="Make them safe first.")
    engine.disarm(engine.state.armed - fixtures)
    engine.state = replace(engine.state, armed=fixtures)
    now = time.monotonic_ns()
    engine.leases.take(asked.lease, fixtures, now, None if until is None else float(until))


def _renew(engine: Engine, asked: told.Renew) -> None:
    engine.leases.renew(asked.lease, time.monotonic_ns())


def _gone(engine: Engine, asked: told.LaserGone) -> None:
    """Somebody says that the laser is gone from the addresses it left: they are ordinary ones again."""
    fixture = asked.fixture
    gone = [one for one in engine.state.left if one.fixture == fixture]
    if not gone:
        raise InputError("No address is kept safe for that fixture.", where="fixture")
    engine.state = replace(engine.state, left=tuple(one for one in engine.state.left if one.fixture != fixture))
    where = ", ".join(f"{first} to {first.channel + count - 1}" for one in gone for first, count in one.runs)
    engine.events.append(Event(f"said to be free of laser {gone[0].number} {gone[0].name}: {where}"))


COMMANDS: dict[type, Callable[[Engine, Any], None]] = {
    told.MoveHandles: _move,
    told.LetGo: _let_go,
    told.SetManual: _manual,
    told.HoldColours: _colours,
    told.SetRaw: _raw,
    told.Release: _release,
    told.Highlight: _highlight,
    told.LightWalk: _walk,
    told.HoldTime: _hold_time,
    told.RunTime: _run_time,
    told.StepTime: _step_time,
    told.SetTime: _set_time,
    told.Arm: _arm,
    told.Renew: _renew,
    told.LaserGone: _gone,
}


def state_told(engine: Engine) -> told.EngineState:
    """What plays at this moment, for the browser."""
    state, due = engine.state, engine.deadlines.due_ns
    show_ns = engine.clock.at(due)
    return told.EngineState(
        frame=engine.frame,
        show_s=show_ns / NS_PER_S,
        held=engine.clock.held,
        bpm=state.tempo.bpm,
        beat=state.tempo.beat_at(show_ns),
        master=state.master,
        masters=dict(state.masters),
        manual=dict(state.manual),
        raw=dict(state.raw),
        highlight=sorted(state.highlight),
        walking=state.walk is not None,
        blackout=state.blackout,
        freeze=state.freeze,
        armed=sorted(state.armed),
        armed_until=engine.leases.until(),
        left=[
            told.LeftAddress(
                one.fixture,
                one.number,
                one.name,
                [f"{first} to {first.channel + count - 1}" for first, count in one.runs],
            )
            for one in state.left
        ],
        tint=(state.tint.hue, state.tint.amount),
        look_tints={key: (one.hue, one.amount) for key, one in state.look_tints.items()},
        group_tints={key: (one.hue, one.amount) for key, one in state.group_tints.items()},
        held_lines=sorted(state.held),
        running=[
            told.RunningLook(
                run.id,
                run.look,
                run.by,
                state.levels.get(run.look, FULL).at(show_ns),
                run.level.at(show_ns),
                run.ends,
                (show_ns - run.since_ns) / NS_PER_S,
            )
            for run in state.runs
            if run.look in engine.show.looks
        ],
    )


def listed_handles(engine: Engine, words: str, most: int) -> told.FoundHandles:
    """Handles found by words, each with its value at this moment."""
    state, ground, now = engine.state, engine.show.ground, _now(engine)
    found = [
        told.HandleView(
            **{name: getattr(one, name) for name in LISTED},
            choices=list(one.choices),
            value=handles.read(state, ground, one, now),
        )
        for one in handles.search(ground, words, most)
    ]
    return told.FoundHandles(handles=found)
