"""Driven numbers of a line as they are at a moment, for the cells of the canvas it is painted on."""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np

from heliograph.core.colour.ramps import RAMP_STEPS, Floats, ramp_table, rolled, table_of_colours
from heliograph.core.look.any_line import CYCLE, OPACITY, SHIFT
from heliograph.core.look.levels import Clocks
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import Painting
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.effects.telling import told
from heliograph.render.compiled_line import CompiledLine
from heliograph.render.incoming import IncomingFrames
from heliograph.render.live import HELD, LiveFrames


class Now(NamedTuple):
    """A moment of the show: its time, the beat, how long a beat lasts, and the time on the wall in seconds since
    1970, and the moment of the steady clock whose live pictures are shown."""

    time_ns: int
    beat: float
    beat_s: float = 0.5
    local_s: float = 0.0
    steady_ns: int = 0


def now_of(painting: Painting, steady_ns: int = 0) -> Now:
    """`steady_ns`: the moment of the steady clock, 0 for now; what is frozen holds its live pictures."""
    live = HELD if painting.looks is not None else steady_ns
    return Now(painting.time_ns, painting.beat, painting.beat_s, painting.local_s, live)


def driven(one: CompiledLine, run: Run, now: Now) -> CompiledLine:
    """The line with what its drives and the time of day make of it; itself where nothing does. What waits for something
    to arrive leaves its number as it is stored."""
    drives = one.line.drives
    if not (drives or one.line.ribbons or one.tells or one.clip is not None):
        return one
    changes: dict[str, Any] = {}
    moved: dict[str, Any] = {}
    if one.effect is not None and one.effect.texts and one.tells:
        moved = {name: told(str(one.params[name]), now.local_s) for name in one.tells}
    if one.clip is not None and isinstance(one.clip, (LiveFrames, IncomingFrames)):
        changes["steady_ns"] = now.steady_ns
    if drives or one.line.ribbons:
        clocks = clocks_of(one, run, now)
        ramp = _coloured(one, clocks) if one.line.ribbons else None
        if ramp is not None:
            changes["table"] = rolled(ramp, one.line.shift)
        _drive(one, clocks, ramp, changes, moved)
    if moved:
        changes["params"] = {**one.params, **moved}
    return one.changed(**changes) if changes else one


def _coloured(one: CompiledLine, clocks: Clocks) -> Floats:
    """The ramp with those of its colours that go over time as they are now."""
    colours: list[tuple[float, float, float]] = []
    for place, stop in enumerate(one.line.ramp):
        ribbon = one.line.ribbons.get(str(place))
        if ribbon is None:
            colours.append((stop.red, stop.green, stop.blue))
        else:
            colours.append(ribbon.at(clocks.since_s if ribbon.length.unit == "s" else clocks.since_beat))
    return table_of_colours([stop.at for stop in one.line.ramp], colours)


def _drive(
    one: CompiledLine, clocks: Clocks, ramp: Floats | None, changes: dict[str, Any], moved: dict[str, Any]
) -> None:
    """What the drives of a line make of its numbers, into `moved`, and of what else it has, into `changes`."""
    for parameter, name, driver in one.moving:
        if parameter:
            moved[parameter] = driver.values(clocks) if driver.over else driver.value(clocks)
        elif name == SHIFT:
            ramp = ramp_table(one.line.ramp) if ramp is None else ramp
            if driver.over:
                changes["table"] = ramp
                changes["steps"] = np.rint(driver.values(clocks) * RAMP_STEPS).astype(np.intp)
            else:
                changes["table"] = rolled(ramp, driver.value(clocks))
        else:
            changes[_OWN[name]] = driver.value(clocks)


_OWN = {OPACITY: "driven_opacity", CYCLE: "driven_cycle"}


def clocks_of(one: CompiledLine, run: Run, now: Now) -> Clocks:
    """The clocks that drives of a line run by; its cycle is worked out where one runs by it."""
    if not one.by_cycle:
        known = _last[0]
        if known is None or known[0] is not run or known[1] is not now:
            known = _last[0] = (run, now, _clocks(run, now, 0.0))
        return known[2]
    anchor = run.phases.get(one.line.id)
    return _clocks(run, now, 0.0 if anchor is None else anchor.phase_at(now.time_ns, now.beat))


_last: list[tuple[Run, Now, Clocks] | None] = [None]
"""Of the last run and moment: all lines of a look ask in one frame."""


def _clocks(run: Run, now: Now, cycle: float) -> Clocks:
    return Clocks(
        now.time_ns / NS_PER_S,
        now.beat,
        (now.time_ns - run.since_ns) / NS_PER_S,
        now.beat - run.since_beat,
        cycle,
        now.beat_s,
    )


def phase_of(one: CompiledLine, run: Run, now: Now) -> float | None:
    """How far a line is in its cycles; None where it has not begun. A place in its cycle replaces time."""
    if one.cycle is not None:
        return one.cycle
    anchor = run.phases.get(one.line.id)
    return None if anchor is None else anchor.phase_at(now.time_ns, now.beat)
