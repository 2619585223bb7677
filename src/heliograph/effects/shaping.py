"""What several effects are made of: soft bands, a way across the matrix, smooth noise. See `core/waves` too."""

from __future__ import annotations

import math
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.waves import chance, smooth
from heliograph.effects.registry import Canvas, Floats, Stretch


class Way(NamedTuple):
    """The middles of the points along a direction, 0 at one side of the matrix and 1 at the other. `length`: of that
    way in squares."""

    along: Floats
    length: float


def way_across(x: Floats, y: Floats, canvas: Canvas, degrees: float) -> Way:
    """`x`, `y` counted from the middle. 0 degrees is to the right, 90 down."""
    angle = math.radians(degrees)
    length = abs(canvas.width * math.cos(angle)) + abs(canvas.height * math.sin(angle))
    along = x * np.float32(math.cos(angle) / length) + y * np.float32(math.sin(angle) / length)
    along += np.float32(0.5)
    return Way(along, length)


def band(at: Floats, width: Any, edge: Any) -> Floats:
    """How much a bar in the middle of each period covers. `at` 0..1 in the period; `width` 0..1 of it; `edge` 0..1 of
    it is the way over which it fades."""
    from_middle = np.abs(at - np.float32(0.5)) * np.float32(2.0)
    soft = np.maximum(np.asarray(edge, dtype=np.float32), np.float32(1e-4))
    cover = (np.asarray(width, dtype=np.float32) - from_middle) / soft + np.float32(0.5)
    clipped: Floats = np.clip(cover, np.float32(0.0), np.float32(1.0)).astype(np.float32)
    return clipped


def bars(at: Floats, width: Any, edge: Any) -> Stretch:
    """A bar in each period, as `band` covers it, with the ramp lying across it."""
    wide = np.asarray(width, dtype=np.float32)
    place = (at - np.float32(0.5)) / np.maximum(wide, np.float32(1e-4)) + np.float32(0.5)
    return Stretch(np.clip(place, 0.0, 1.0).astype(np.float32), band(at, wide, edge))


def distance(x: Any, y: Any) -> Any:
    """Of each from 0, 0; of squares of a matrix, where nothing overflows: a third of what `np.hypot` costs."""
    far = x * x
    far = far + y * y
    return np.sqrt(far, out=far)


def cells_of(canvas: Canvas) -> npt.NDArray[np.int64]:
    """(n,) the cell each point belongs to: all points of a cell that covers several share it."""
    cell = canvas.orders["address"].rank.astype(np.int64)
    empty = cell < 0  # squares without a cell, where all squares are painted: each stands for itself
    cell[empty] = -1 - np.flatnonzero(empty)
    return cell


def noise_on(table: Floats, columns: Floats, rows: Floats) -> Floats:
    """(rows, columns) float32 0..1: smooth between the numbers of a square `table`, at places counted in its steps.
    Along the rows of the table first, then down: two passes over the grid instead of eight."""
    size = table.shape[0]
    left, top = np.floor(columns), np.floor(rows)
    u, v = smooth(columns - left).astype(np.float32), smooth(rows - top).astype(np.float32)[:, None]
    x = left.astype(np.int64) % size
    first = int(top.min())
    down = top.astype(np.int64) - first
    bands = table.take((first + np.arange(int(down.max()) + 2)) % size, axis=0)
    along = bands.take(x, axis=1)
    along += (bands.take((x + 1) % size, axis=1) - along) * u
    upper: Floats = along.take(down, axis=0)
    lower = along.take(down + 1, axis=0)
    lower -= upper
    lower *= v
    upper += lower
    return upper


class Draws:
    """A number by chance for each point and turn, kept for the turns that are on: they change only once in a turn."""

    __slots__ = ("_cell", "_kept", "_seed")

    def __init__(self, seed: int, cell: npt.NDArray[np.int64]) -> None:
        self._seed, self._cell = seed, cell
        self._kept: dict[int, Floats] = {}

    def of(self, turn: int) -> Floats:
        """(n,) float32 from 0 to below 1: `chance(seed, cell, turn)`."""
        if turn not in self._kept:
            while len(self._kept) > 2:
                del self._kept[next(iter(self._kept))]
            self._kept[turn] = chance(self._seed, self._cell, turn)
        return self._kept[turn]
