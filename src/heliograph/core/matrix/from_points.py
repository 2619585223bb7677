"""A matrix from real places: points or rectangles in any unit become squares."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import SQUARES_MAX, CellKey, Placement, check_size

Floats = npt.NDArray[np.float64]

NEAR = 0.08
"""What stands so near a whole square, in squares, stands on it: drawings and tape measures are not exact."""

SAMPLE = 400
"""Points whose nearest neighbour is looked for: the pitch is their median."""


@dataclass(frozen=True, slots=True)
class Spot:
    """Where a cell is: its left and top edge and its size, y down. A point has the size 0."""

    key: CellKey
    x: float
    y: float
    w: float = 0.0
    h: float = 0.0


@dataclass(frozen=True, slots=True)
class Laid:
    """A matrix's size and what stands on it; `pitch`: how long a square is in the unit of the points."""

    width: int
    height: int
    placements: list[Placement]
    pitch: float


def pitch_of(centres: Floats) -> float:
    """The usual distance (n, 2) from one point to its nearest neighbour; 1 where there is only one place."""
    dice = np.random.default_rng(1)
    some = centres if len(centres) <= SAMPLE else centres[dice.choice(len(centres), SAMPLE, replace=False)]
    nearest = []
    for point in some:
        away = np.hypot(*(centres - point).T)
        away = away[away > 1e-9]
        if away.size:
            nearest.append(away.min())
    return float(np.median(nearest)) if nearest else 1.0


def lay(spots: Sequence[Spot], pitch: float | None = None) -> Laid:
    """Squares of one pitch over all spots. A point takes one square; what does not fall on squares, or would fall
    on one that is taken, is placed freely. Raises InputError where there is nothing, or too much for a matrix."""
    if not spots:
        raise InputError("There is no cell to place.", where="selection")
    boxes = np.array([(one.x, one.y, one.w, one.h) for one in spots], dtype=np.float64)
    if pitch is None:
        pitch = pitch_of(boxes[:, :2] + boxes[:, 2:] / 2)
    point = boxes[:, 2] <= 0
    size = np.where(point[:, None], 1.0, boxes[:, 2:] / pitch)
    at = np.where(point[:, None], boxes[:, :2] / pitch - 0.5, boxes[:, :2] / pitch)
    at -= at.min(axis=0)
    width, height = (int(np.ceil((at + size)[:, axis].max() - NEAR)) for axis in (0, 1))
    if max(width, 1) * max(height, 1) > SQUARES_MAX:
        raise InputError(
            f"In squares of {pitch:.3g} they would take {width} x {height}: {SQUARES_MAX:,} squares are the most.",
            where="square",
            repair="Give a longer square.",
        )
    check_size(max(width, 1), max(height, 1))
    snapped, whole = np.round(at), np.round(size)
    off = np.maximum(np.abs(at - snapped), np.abs(size - whole)).max(axis=1)
    near: list[bool] = ((off <= NEAR) & (whole.min(axis=1) >= 1)).tolist()
    often = Counter(tuple(row) for row, fits in zip(snapped.tolist(), near, strict=True) if fits)
    placements = []
    for n, one in enumerate(spots):
        fits = near[n] and often[tuple(snapped[n].tolist())] == 1
        (x, y), (w, h) = (snapped[n], whole[n]) if fits else (at[n], size[n])
        placements.append(Placement(one.key, float(x), float(y), max(float(w), 0.01), max(float(h), 0.01)))
    return Laid(max(width, 1), max(height, 1), placements, pitch)
