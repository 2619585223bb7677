"""Mist: smooth drifting noise.

Value noise on a lattice of hashed numbers, smoothly interpolated in place and time, in octaves of half
the size and half the weight each. A closed form: the same phase is the same mist everywhere.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.core.look.parameter import Parameter
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register

SEED = 0x9E3779B9
LATTICE = 256
"""Numbers of the lattice along each axis; the noise repeats after so many."""

STEPS_A_CYCLE = 2.0
"""Lattice layers the mist passes through in one cycle: it never stands still and never jumps."""


class Prepared:
    """The lattice of a seed, and the last whole grid: a frame asks for the same one in each of its blocks."""

    def __init__(self, canvas: Canvas, seed: int) -> None:
        self.canvas, self.lattice = canvas, lattice(seed)
        self.column, self.row = canvas.x.astype(np.intp), canvas.y.astype(np.intp)
        self._last: tuple[tuple[float, ...], Floats] = ((), np.zeros((0, 0), dtype=np.float32))

    def grid(self, phase: float, scale: float, detail: float) -> Floats:
        key, grid = self._last
        if key != (phase, scale, detail):
            grid = mist_grid(self.canvas.width, self.canvas.height, phase, scale, detail, self.lattice)
            self._last = (phase, scale, detail), grid
        return grid


def prepare(canvas: Canvas, _choices: Mapping[str, str], seed: int) -> Prepared:
    return Prepared(canvas, seed)


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Where on the ramp the mist is thick. `scale` is the size of a wisp in percent of the longer side."""
    grid = prepared.grid(moment.phase, moment.moved["scale"], moment.moved["detail"])
    place = grid[prepared.row[part], prepared.column[part]]
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


def mist_grid(width: int, height: int, phase: float, scale: float, detail: float, table: Floats) -> Floats:
    """(height, width) float32 0..1 at the squares' middles. Interpolated along rows, then down: on a grid
    that costs three passes an octave where one lookup a cell cost 65 ms a frame at 87,040 cells."""
    size = max(width, height) * scale / 100.0
    x = (np.arange(width, dtype=np.float32) + np.float32(0.5)) / np.float32(size)
    y = (np.arange(height, dtype=np.float32) + np.float32(0.5)) / np.float32(size)
    total = np.zeros((height, width), dtype=np.float32)
    weight, whole = 1.0, 0.0
    for octave in range(round(detail)):
        times = float(2**octave)
        total += np.float32(weight) * _noise(x * np.float32(times), y * np.float32(times), phase * times, octave, table)
        whole += weight
        weight /= 2.0
    total *= np.float32(1.0 / whole)
    return total


def _noise(x: Floats, y: Floats, phase: float, octave: int, table: Floats) -> Floats:
    """Between two layers of the lattice, smoothly (cubic) in x, y and time; 0..1."""
    depth = phase * STEPS_A_CYCLE
    layer = int(np.floor(depth))
    between = np.float32(_smooth(depth - layer))
    # Time is mixed on the lattice, before it is spread over the squares.
    column, row = np.floor(x).astype(np.int64), np.floor(y).astype(np.int64)
    near = _patch(column, row, layer * 31 + octave * 7, table)
    far = _patch(column, row, (layer + 1) * 31 + octave * 7, table)
    patch = near + (far - near) * between
    u = _smooth(x - column.astype(np.float32))
    at = column - column[0]
    along = patch[:, at] + (patch[:, at + 1] - patch[:, at]) * u
    v = _smooth(y - row.astype(np.float32))[:, None]
    at = row - row[0]
    spread: Floats = along[at] + (along[at + 1] - along[at]) * v
    return spread


def _patch(column: npt.NDArray[np.int64], row: npt.NDArray[np.int64], shift: int, table: Floats) -> Floats:
    """The lattice's numbers that these columns and rows lie between."""
    columns = (np.arange(column[0], column[-1] + 2) + shift * 17) % LATTICE
    rows = (np.arange(row[0], row[-1] + 2) + shift * 29) % LATTICE
    patch: Floats = table[np.ix_(rows, columns)]
    return patch


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
    )
)
