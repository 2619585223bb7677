"""Mist: smooth drifting noise.

Value noise on a lattice of hashed numbers, smoothly interpolated in place and time, in octaves of half
the size and half the weight each. A closed form: the same phase is the same mist everywhere.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.effects.registry import Canvas, Effect, Floats, Parameter, Stretch, register

SEED = 0x9E3779B9
LATTICE = 256
"""Numbers of the lattice along each axis; the noise repeats after so many."""

_TABLE = np.random.default_rng(SEED).random((LATTICE, LATTICE)).astype(np.float32)
STEPS_A_CYCLE = 2.0
"""Lattice layers the mist passes through in one cycle: it never stands still and never jumps."""


def paint(canvas: Canvas, part: slice, phase: float, params: Mapping[str, Any]) -> Stretch:
    """Where on the ramp the mist is thick. `scale` is the size of a wisp in percent of the longer side."""
    grid = _recent.of(canvas, phase, params)
    column = canvas.x[part].astype(np.intp)
    row = canvas.y[part].astype(np.intp)
    return Stretch(grid[row, column], 1.0)


class _Recent:
    """The last few whole grids: a frame asks for the same one in each of its blocks."""

    def __init__(self) -> None:
        self._kept: list[tuple[Canvas, tuple[float, ...], Floats]] = []

    def of(self, canvas: Canvas, phase: float, params: Mapping[str, Any]) -> Floats:
        key = (phase, params["scale"], params["detail"], params["contrast"])
        for known, asked, grid in self._kept:
            if known is canvas and asked == key:
                return grid
        grid = mist_grid(canvas.width, canvas.height, *key)
        self._kept = [(canvas, key, grid), *self._kept[:3]]
        return grid


_recent = _Recent()


def mist_grid(width: int, height: int, phase: float, scale: float, detail: float, contrast: float) -> Floats:
    """(height, width) float32 0..1 at the squares' middles. Interpolated along rows, then down: on a grid
    that costs three passes an octave where one lookup a cell cost 65 ms a frame at 87,040 cells."""
    size = max(width, height) * scale / 100.0
    x = (np.arange(width, dtype=np.float32) + np.float32(0.5)) / np.float32(size)
    y = (np.arange(height, dtype=np.float32) + np.float32(0.5)) / np.float32(size)
    total = np.zeros((height, width), dtype=np.float32)
    weight, whole = 1.0, 0.0
    for octave in range(round(detail)):
        times = float(2**octave)
        total += np.float32(weight) * _noise(x * np.float32(times), y * np.float32(times), phase * times, octave)
        whole += weight
        weight /= 2.0
    total *= np.float32(1.0 / whole)
    total -= np.float32(0.5)
    total *= np.float32(1.0 + contrast / 50.0)
    total += np.float32(0.5)
    return np.clip(total, 0.0, 1.0, out=total)


def _noise(x: Floats, y: Floats, phase: float, octave: int) -> Floats:
    """Between two layers of the lattice, smoothly (cubic) in x, y and time; 0..1."""
    depth = phase * STEPS_A_CYCLE
    layer = int(np.floor(depth))
    between = np.float32(_smooth(depth - layer))
    # Time is mixed on the lattice, before it is spread over the squares.
    column, row = np.floor(x).astype(np.int64), np.floor(y).astype(np.int64)
    near = _patch(column, row, layer * 31 + octave * 7)
    far = _patch(column, row, (layer + 1) * 31 + octave * 7)
    patch = near + (far - near) * between
    u = _smooth(x - column.astype(np.float32))
    at = column - column[0]
    along = patch[:, at] + (patch[:, at + 1] - patch[:, at]) * u
    v = _smooth(y - row.astype(np.float32))[:, None]
    at = row - row[0]
    spread: Floats = along[at] + (along[at + 1] - along[at]) * v
    return spread


def _patch(column: npt.NDArray[np.int64], row: npt.NDArray[np.int64], shift: int) -> Floats:
    """The lattice's numbers that these columns and rows lie between."""
    columns = (np.arange(column[0], column[-1] + 2) + shift * 17) % LATTICE
    rows = (np.arange(row[0], row[-1] + 2) + shift * 29) % LATTICE
    patch: Floats = _TABLE[np.ix_(rows, columns)]
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
            Parameter("contrast", "number", 50.0, 0.0, 100.0, "%"),
        ),
        paint=paint,
        smallest=(4, 1),
    )
)
