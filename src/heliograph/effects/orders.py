"""Orders of cells that sequential effects go through: address, row, column, snake, shuffle."""

from __future__ import annotations

from typing import get_args

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import RAMP_STEPS
from heliograph.core.look.orders import OrderName
from heliograph.effects.registry import Canvas, Floats, Order

ORDERS: tuple[str, ...] = get_args(OrderName)

SHUFFLE_SEED = 0x5EED
"""Fixed, so that a shuffle is the same in every process and after every restart."""

Ints = npt.NDArray[np.int64]
Ranks = npt.NDArray[np.int32]


def canvas_for(x: Floats, y: Floats, width: int, height: int, owner: Ints | None = None) -> Canvas:
    """A canvas over points `x`, `y` (n,), given in address order: the middles of squares.

    `owner` (n,): the cell each point belongs to, where some cells cover several; orders that go along cells give
    all points of a cell one rank, that of its first point. Without it each point is a cell.
    """
    n = int(x.size)
    column = np.floor(x).astype(np.int32)
    row = np.floor(y).astype(np.int32)
    snake_key = row.astype(np.int64) * width + np.where(row % 2 == 0, column, width - 1 - column)
    of_cell: slice | npt.NDArray[np.intp] = slice(None)
    firsts: npt.NDArray[np.intp] = np.arange(n)
    cells = n
    if owner is not None:
        _, firsts, of_cell = np.unique(owner, return_index=True, return_inverse=True)
        cells = int(firsts.size)
    shuffled = np.random.default_rng(SHUFFLE_SEED).permutation(cells).astype(np.int32)
    orders = {
        "address": (np.arange(cells, dtype=np.int32)[of_cell], max(cells, 1)),
        "row": (row, height),
        "column": (column, width),
        "snake": (_ranks(snake_key[firsts])[of_cell], max(cells, 1)),
        "shuffle": (shuffled[of_cell], max(cells, 1)),
    }
    return Canvas(x, y, width, height, {name: _order(rank, steps) for name, (rank, steps) in orders.items()})


def _order(rank: Ranks, steps: int) -> Order:
    index = np.rint(rank * ((RAMP_STEPS - 1) / max(steps - 1, 1))).astype(np.intp)
    return Order(rank.astype(np.float32), steps, index)


def _ranks(keys: npt.NDArray[np.int64]) -> Ranks:
    ranks = np.empty(keys.size, dtype=np.int32)
    ranks[np.argsort(keys, kind="stable")] = np.arange(keys.size, dtype=np.int32)
    return ranks
