"""Orders of cells that sequential effects go through: address, row, column, snake, shuffle."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from heliograph.core.colour import RAMP_STEPS
from heliograph.effects.registry import Canvas, Floats, Order

ORDERS = ("address", "row", "column", "snake", "shuffle")

SHUFFLE_SEED = 0x5EED
"""Fixed, so that a shuffle is the same in every process and after every restart."""

Ranks = npt.NDArray[np.int32]


def canvas_for(x: Floats, y: Floats, width: int, height: int) -> Canvas:
    """A canvas over placements whose centres are `x`, `y` (n,), given in address order."""
    n = int(x.size)
    column = np.floor(x).astype(np.int32)
    row = np.floor(y).astype(np.int32)
    address = np.arange(n, dtype=np.int32)
    snake_key = row.astype(np.int64) * width + np.where(row % 2 == 0, column, width - 1 - column)
    shuffled = np.random.default_rng(SHUFFLE_SEED).permutation(n).astype(np.int32)
    orders = {
        "address": (address, max(n, 1)),
        "row": (row, height),
        "column": (column, width),
        "snake": (_ranks(snake_key), max(n, 1)),
        "shuffle": (shuffled, max(n, 1)),
    }
    return Canvas(x, y, width, height, {name: _order(rank, steps) for name, (rank, steps) in orders.items()})


def _order(rank: Ranks, steps: int) -> Order:
    index = np.rint(rank * ((RAMP_STEPS - 1) / max(steps - 1, 1))).astype(np.intp)
    return Order(rank.astype(np.float32), steps, index)


def _ranks(keys: npt.NDArray[np.int64]) -> Ranks:
    ranks = np.empty(keys.size, dtype=np.int32)
    ranks[np.argsort(keys, kind="stable")] = np.arange(keys.size, dtype=np.int32)
    return ranks
