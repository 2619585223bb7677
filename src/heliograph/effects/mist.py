"""Mist: smooth drifting noise.

Value noise on a lattice of hashed numbers, smoothly interpolated in place and time, in octaves of half
the size and half the weight each. A closed form: the same phase is the same mist everywhere.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from functools import lru_cache
from typing import Any

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register

SEED = 0x9E3779B9
LATTICE = 256
"""Numbers of the lattice along each axis; the noise repeats after so many."""

STEPS_A_CYCLE = 2.0
"""Lattice layers the mist passes through in one cycle: it never stands still and never jumps."""


class Prepared:
    """The lattice of a seed, how octaves lie on the squares at the last scale, and the last whole grid: a frame asks
    for the same one in each of its blocks."""

    def __init__(self, canvas: Canvas, seed: int) -> None:
        self.canvas, self.lattice = canvas, lattice(seed)
        self.square = canvas.y.astype(np.intp) * canvas.width + canvas.x.astype(np.intp)
        self._octaves: tuple[tuple[float, int], list[Octave]] = ((0.0, 0), [])
        self._last: tuple[tuple[float, ...], Floats] = ((), np.zeros(0, dtype=np.float32))

    def grid(self, phase: float, scale: float, detail: float) -> Floats:
        """(squares,) float32: the noise on every square of the matrix, row by row."""
        key, grid = self._last
        if key != (phase, scale, detail):
            grid = mist_grid(self.octaves(scale, round(detail)), phase).reshape(-1)
            self._last = (phase, scale, detail), grid
        return grid

    def octaves(self, scale: float, count: int) -> list[Octave]:
        key, octaves = self._octaves
        if key != (scale, count):
            octaves = [Octave(self.canvas, scale, number, self.lattice) for number in range(count)]
            self._octaves = (scale, count), octaves
        return octaves


class Octave:
    """One octave of the noise on the squares of a matrix: smooth between the numbers of the lattice, in place and time.

    What hangs on the scale alone is worked out once; the two layers of the lattice between which a moment lies are kept
    until it lies between others. (On 30 x 30 squares that was four fifths of a frame's time.)
    """

    def __init__(self, canvas: Canvas, scale: float, number: int, table: Floats) -> None:
        self.times, self._number, self._table = float(2**number), number, table
        size = max(canvas.width, canvas.height) * scale / 100.0
        x = (np.arange(canvas.width, dtype=np.float32) + np.float32(0.5)) / np.float32(size) * np.float32(self.times)
        y = (np.arange(canvas.height, dtype=np.float32) + np.float32(0.5)) / np.float32(size) * np.float32(self.times)
        self._column, self._row = np.floor(x).astype(np.int64), np.floor(y).astype(np.int64)
        self._u: Floats = _smooth(x - self._column.astype(np.float32))
        self._v: Floats = _smooth(y - self._row.astype(np.float32))[:, None]
        self._left, self._top = self._column - self._column[0], self._row - self._row[0]
        self._layers: tuple[int | None, Floats, Floats] = (None, table[:0], table[:0])

    def noise(self, phase: float) -> Floats:
        """(height, width) float32 0..1. Interpolated along rows, then down: on a grid that costs three passes an octave
        where one lookup a cell cost 65 ms a frame at 87,040 cells."""
        depth = phase * STEPS_A_CYCLE
        layer = int(np.floor(depth))
        between = np.float32(_smooth(depth - layer))
        known, near, apart = self._layers
        if known != layer:
            near = self._patch(layer)
            apart = self._patch(layer + 1) - near
            self._layers = layer, near, apart
        patch: Floats = near + apart * between  # time is mixed on the lattice, before it is spread over the squares
        left: Floats = patch.take(self._left, axis=1)
        right: Floats = patch.take(self._left + 1, axis=1)
        right -= left
        right *= self._u
        right += left
        upper: Floats = right.take(self._top, axis=0)
        lower: Floats = right.take(self._top + 1, axis=0)
        lower -= upper
        lower *= self._v
        lower += upper
        return lower

    def _patch(self, layer: int) -> Floats:
        """The lattice's numbers that the squares lie between: other ones whenever the layers come round."""
        shift, again = layer * 31 + self._number * 7, layer // LATTICE
        columns = (np.arange(self._column[0], self._column[-1] + 2) + shift * 17 + again * 97) % LATTICE
        rows = (np.arange(self._row[0], self._row[-1] + 2) + shift * 29 + again * 53) % LATTICE
        patch: Floats = self._table[np.ix_(rows, columns)]
        return patch


def prepare(canvas: Canvas, _choices: Mapping[str, str], seed: int) -> Prepared:
    return Prepared(canvas, seed)


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Where on the ramp the mist is thick. `scale` is the size of a wisp in percent of the longer side."""
    grid = prepared.grid(moment.phase, moment.moved["scale"], moment.moved["detail"])
    place = grid.take(prepared.square[part])
    place -= np.float32(0.5)
    place *= np.asarray(1.0 + moment.number("contrast", part) / 50.0, dtype=np.float32)
    place += np.float32(0.5)
    return Stretch(np.clip(place, 0.0, 1.0, out=place), 1.0)


@lru_cache(maxsize=64)
def lattice(seed: int) -> Floats:
    """(256, 256) float32 0..1: the numbers between which the mist is smooth, others for each seed."""
    table = np.random.default_rng(SEED ^ seed).random((LATTICE, LATTICE)).astype(np.float32)
    table.setflags(write=False)
    return table


def mist_grid(octaves: Sequence[Octave], phase: float) -> Floats:
    """(height, width) float32 0..1 at the squares' middles: octaves of half the size and half the weight each."""
    weight, whole = 1.0, 0.0
    total: Floats | None = None
    for octave in octaves:
        part = octave.noise(phase * octave.times)
        if weight != 1.0:
            part *= np.float32(weight)
        if total is None:
            total = part
        else:
            total += part
        whole += weight
        weight /= 2.0
    assert total is not None
    total *= np.float32(1.0 / whole)
    return total


def _smooth(t: Any) -> Any:
    return t * t * (3.0 - 2.0 * t)


MIST = register(
    Effect(
        name="Mist",
        says="smooth drifting noise",
        words=("noise", "clouds", "fog", "plasma", "smoke"),
        parameters=(
            Parameter("scale", "number", 40.0, 2.0, 400.0, "% of the longer side"),
            Parameter("detail", "number", 2.0, 1.0, 5.0, "octaves"),
            Parameter("contrast", "number", 50.0, 0.0, 100.0, "%", each=True),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(4, 1),
        ramp=(Stop(0.0, 22, 12, 58), Stop(1.0, 226, 214, 255)),
    )
)
