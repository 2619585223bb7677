"""Commands that act on the next frame: start and stop, masters, tempo, show time. A table, not branches."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from typing import Any

from heliograph.core import handles
from heliograph.core.errors import HeliographError, InputError
from heliograph.core.handles import Move
from heliograph.core.lasers.guarding import check_armable
from heliograph.core.patch.dmx import parse_address
from heliograph.core.playing.frames import PERIOD_NS
from heliograph.core.playing.level import FULL
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.engine import by_hand, touching
from heliograph.engine.arming import LEASES_MAX, STAYS_MAX_S
from heliograph.engine.loop import Engine
from heliograph.engine.watching import Event
from heliograph.ipc.messages import engine as told

MOVES_IN_FRAME = 50
"""So many moves fit into what a frame has for commands, on a slow machine too."""

PART = 8

TIME_MAX_S = 10 * 365 * 86_400
"""The longest show time: nanoseconds of it are far from the end of 64 bits."""

LISTED = ("address", "path", "kind", "words", "needs", "minimum", "maximum", "unit", "fades")
"""What is told of a handle, beside its choices and its value."""


def _now(engine: Engine) -> int:
    return engine.clock.at(engine.deadlines.due_ns)


def _move(engine: Engine, asked: told.MoveHandles) -> Iterator[None] | None:
    """Moves handles, all of them in this frame or, where one is refused, none. More than `MOVES_IN_FRAME` are looked at
    first and then moved in as many frames as they take."""
    if len(asked.moves) > MOVES_IN_FRAME:
        return _in_parts(engine, asked)
    _moved(engine, asked, asked.moves)
    return None


def _moved(engine: Engine, asked: told.MoveHandles, moves: Sequence[told.OneMove]) -> None:
    state, ground, now = engine.state, engine.show.ground, _now(engine)
    at_ms = engine.deadlines.due_ns / 1e6 if asked.at_ms is None else asked.at_ms
    for one in moves:
        state = handles.move(state, ground, Move(one.handle, one.value, one.over_s, asked.by, asked.role, now, at_ms))
    engine.take(state)


def _in_parts(engine: Engine, asked: told.MoveHandles) -> Iterator[None]:
    for move in asked.moves:
        handles.check(engine.show.ground, Move(move.handle, move.value, move.over_s, asked.by, asked.role))
        yield
    for first in range(0, len(asked.moves), PART):
        _moved(engine, asked, asked.moves[first : first + PART])
        yield


def _clock_due(engine: Engine, asked: told.ClockDue) -> None:
    """What is due at a moment that is done already is not done again: whoever told it may not have heard so."""
    if asked.at_s <= engine.state.clock_s:
        return
    engine.state = replace(engine.state, clock_s=asked.at_s)
    engine.events.extend(Event(one) for one in asked.says)
    for one in asked.moves:
        move = Move(one.handle, one.value, one.over_s, "clock", "edit", _now(engine), engine.deadlines.due_ns / 1e6)
        try:
            engine.take(handles.move(engine.state, engine.show.ground, move))
        except HeliographError as error:
            engine.events.append(Event(f"the clock could not do that: {error.what}", bad=True))


def _let_go(engine: Engine, asked: told.LetGo) -> None:
    engine.take(handles.let_go(engine.state, asked.by, asked.handles))


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
    check_armable(engine.show.rig, engine.show.outputs, sorted(fixtures), engine.state.left)
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
    gone = [one for one in engine.state.left if asked.fixture in ("", one.fixture)]
    if asked.fixture and not gone:
        raise InputError("No address is kept safe for that fixture.", where="fixture")
    engine.said_gone(asked.fixture)
    for one in gone:
        engine.events.append(Event(f"said to be free of laser {one.number} {one.name}: {', '.join(one.said)}"))


COMMANDS: dict[type, Callable[[Engine, Any], Iterator[None] | None]] = {
    told.MoveHandles: _move,
    told.ClockDue: _clock_due,
    told.Touch: touching.touch,
    told.KeepFingers: touching.keep,
    told.Lift: touching.lift,
    told.LetGo: _let_go,
    told.SetManual: by_hand.set_manual,
    told.SetRaw: by_hand.set_raw,
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


def values_told(engine: Engine, addresses: list[str]) -> told.ValuesTold:
    """Values of handles at this moment; of looks' switches how far they are in."""
    state, now = engine.state, _now(engine)
    beat = state.tempo.beat_at(now)
    return told.ValuesTold(
        [_value_told(engine, address, now) for address in addresses],
        [
            told.FingerTold(
                key,
                one.item,
                one.who,
                (now - one.since_ns) / NS_PER_S,
                max(one.until_beat - beat, 0.0) if one.until_beat is not None else 0.0,
            )
            for key, one in state.fingers.items()
        ],
        beat,
        state.tempo.bpm,
    )


def _value_told(engine: Engine, address: str, now: int) -> told.HandleNow:
    state, ground = engine.state, engine.show.ground
    try:
        handle = handles.find(ground, address)
    except HeliographError:
        return told.HandleNow(address, False)
    value = handles.read(state, ground, handle, now)
    kind, _, rest = address.partition("/")
    look, _, name = rest.partition("/")
    if kind != "look" or name != "on":
        return told.HandleNow(address, True, value)
    runs = [run for run in state.runs if run.look == look]
    ends = [run.level.since_ns + run.level.over_ns for run in runs if not run.level.arrived(now)]
    fade = max((run.level.at(now) for run in runs), default=0.0) * state.levels.get(look, FULL).at(now)
    return told.HandleNow(address, True, value, fade, max((max(ends, default=now) - now) / NS_PER_S, 0.0))


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
