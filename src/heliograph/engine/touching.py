"""Touches of pads: what a finger does at once, and what is done when it is lifted, or whoever holds it is gone."""

from __future__ import annotations

import time
from dataclasses import replace
from typing import TYPE_CHECKING

from heliograph.core import handles
from heliograph.core.errors import HeliographError, InputError
from heliograph.core.handles import Move
from heliograph.core.playing.fingers import FINGERS_MAX, Finger, Lifting
from heliograph.engine.watching import Event
from heliograph.ipc.messages import engine as told

if TYPE_CHECKING:
    from heliograph.engine.loop import Engine


def touch(engine: Engine, asked: told.Touch) -> None:
    """All moves of it or none. A finger that is down already is another touch: what it did goes on."""
    state, now = engine.state, engine.clock.at(engine.deadlines.due_ns)
    if asked.finger not in state.fingers and len(state.fingers) >= FINGERS_MAX:
        raise InputError(f"{FINGERS_MAX} fingers are on pads already.", where="finger")
    for one in asked.moves:
        state = handles.move(state, engine.show.ground, _move(engine, one, asked, now))
    lift = tuple(Lifting(one.handle, one.value, one.over_s) for one in asked.lift)
    if lift or asked.beats or asked.held:
        beat = state.tempo.beat_at(now)
        until = beat + asked.beats if asked.beats else None
        finger = Finger(asked.item, asked.who, asked.by, asked.role, now, beat, lift, until)
        state = replace(state, fingers={**state.fingers, asked.finger: finger})
        engine.touched[asked.finger] = time.monotonic_ns()
    engine.take(state)


def keep(engine: Engine, asked: told.KeepFingers) -> None:
    """These are down still."""
    now = time.monotonic_ns()
    engine.touched.update((one, now) for one in asked.fingers if one in engine.state.fingers)


def lift(engine: Engine, asked: told.Lift) -> None:
    """One that went already lifts nothing; one that counts by itself goes on to its beat."""
    finger = engine.state.fingers.get(asked.finger)
    if finger is not None and (finger.until_beat is None or asked.at_once):
        _lifted(engine, asked.finger)


def lapse(engine: Engine, now_ns: int) -> None:
    """Fingers whose beats are over, and those that nobody kept: a tablet that fell asleep holds nothing."""
    beat = engine.state.tempo.beat_at(engine.clock.at(engine.deadlines.due_ns))
    for key, finger in tuple(engine.state.fingers.items()):
        if finger.until_beat is not None:
            over = beat >= finger.until_beat
        else:  # of one that an engine before this one knew, the time begins now
            over = now_ns - engine.touched.setdefault(key, now_ns) > told.FINGER_S * 1e9
        if over:
            _lifted(engine, key)


def _lifted(engine: Engine, key: str) -> None:
    """Without the finger; what it does in going is done unless another finger is on the same item."""
    finger = engine.state.fingers[key]
    left = {name: one for name, one in engine.state.fingers.items() if name != key}
    engine.touched.pop(key, None)
    state = replace(engine.state, fingers=left)
    now = engine.clock.at(engine.deadlines.due_ns)
    if not any(one.item == finger.item for one in left.values()):
        for one in finger.lift:
            try:
                state = handles.move(state, engine.show.ground, _move(engine, one, finger, now))
            except HeliographError as error:  # what it held is gone: the rest of it is still let go of
                engine.events.append(Event(f"lifting a finger could not do that: {error.what}", bad=True))
    engine.take(state)


def _move(engine: Engine, one: told.OneMove | Lifting, whose: told.Touch | Finger, now: int) -> Move:
    return Move(one.handle, one.value, one.over_s, whose.by, whose.role, now, engine.deadlines.due_ns / 1e6)
