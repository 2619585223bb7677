"""Squall: streaks that fall. Without memory: the same phase is the same weather everywhere."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.core.waves import chance
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register

STEEPEST = 80.0


class Columns(NamedTuple):
    """The columns of a slanted canvas: `of` (n,), for each point, its column from `first` on; `pace`, `offset` (c,) of
    each, by chance."""

    of: npt.NDArray[np.intp]
    first: int
    pace: npt.NDArray[np.float64]
    offset: npt.NDArray[np.float64]


class Falling(NamedTuple):
    """Each column (c,) at a moment: where the head of its streak is in its fall, 0 to 1, and the draw that says whether
    one falls."""

    head: Floats
    drawn: Floats


class Prepared:
    """Columns hang on the slant and streaks on the moment: each is worked out once, for all stretches of a canvas."""

    def __init__(self, canvas: Canvas, seed: int) -> None:
        self.canvas, self.seed = canvas, seed
        self._lean: float | None = None
        self._columns: Columns | None = None
        self._falling: tuple[float, Columns, Falling] | None = None

    def columns(self, lean: float) -> Columns:
        if self._columns is None or self._lean != lean:
            column = np.floor(self.canvas.x - self.canvas.y * np.float32(lean)).astype(np.int64)
            first = int(column.min(initial=0))
            each = np.arange(first, int(column.max(initial=0)) + 1)
            # Each keeps its pace and its place in time; halves of a fall, so that all meet again.
            pace = np.floor(chance(self.seed, each, np.full(each.size, 1)) * 3).astype(np.float64) * 0.5 + 1.0
            offset = chance(self.seed, each, np.full(each.size, 2)).astype(np.float64) * 16.0
            self._columns = Columns((column - first).astype(np.intp), first, pace, offset)
            self._lean = lean
        return self._columns

    def falling(self, columns: Columns, phase: float) -> Falling:
        known = self._falling
        if known is None or known[0] != phase or known[1] is not columns:
            time = phase * columns.pace + columns.offset
            fall = np.floor(time)
            each = columns.first + np.arange(fall.size)
            falling = Falling((time - fall).astype(np.float32), chance(self.seed + 1, each, fall))
            known = self._falling = (phase, columns, falling)
        return known[2]


def prepare(canvas: Canvas, _choices: Mapping[str, str], seed: int) -> Prepared:
    return Prepared(canvas, seed)


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """In each column a streak falls about once within a phase of 1, each at its own pace; `density` percent of them
    fall. `length` percent of the matrix, leaning by `slant` degrees. The ramp runs from the head along the streak."""
    canvas = prepared.canvas
    columns = prepared.columns(math.tan(math.radians(moment.moved["slant"])))
    falling = prepared.falling(columns, moment.phase)
    column = columns.of[part]
    length = np.maximum(np.asarray(moment.number("length", part) / 100.0, dtype=np.float32), np.float32(1e-3))
    density = np.asarray(moment.number("density", part) / 100.0, dtype=np.float32)
    head = falling.head.take(column)
    head *= np.float32(1.0) + length
    head -= canvas.y[part] * np.float32(1.0 / canvas.height)
    head /= length
    falls = (falling.drawn.take(column) < density) & (head >= 0)
    along = np.clip(head, 0.0, 1.0, out=head)
    return Stretch(along, (np.float32(1.0) - along) * falls)


SQUALL = register(
    Effect(
        name="Squall",
        says="streaks that fall",
        words=("rain", "snow", "matrix", "meteor", "falling", "drops"),
        parameters=(
            Parameter("density", "number", 65.0, 0.0, 100.0, "% of the columns", each=True),
            Parameter("length", "number", 35.0, 1.0, 200.0, "% of the height", each=True),
            Parameter("slant", "number", 8.0, -STEEPEST, STEEPEST, "degrees"),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(3, 5),
        ramp=(Stop(0.0, 225, 240, 255), Stop(1.0, 20, 60, 120)),
        speed=Speed(1.5),
    )
)
