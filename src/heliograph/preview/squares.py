"""A matrix as a canvas of all its squares, so that a painting can be shown before the lamps take it up."""

from __future__ import annotations

import numpy as np

from heliograph.effects.orders import canvas_for
from heliograph.effects.registry import Canvas, Order
from heliograph.render.compiled_line import BLOCK, CompiledMatrix

NEVER = np.float32(-1e7)
"""Rank of a square without a cell in the orders that go along cells: its turn never comes."""


def squares_of(matrix: CompiledMatrix) -> CompiledMatrix:
    """The matrix with every square as if it held a cell. Orders along cells keep the cells' own ranks."""
    width, height = matrix.width, matrix.height
    count = width * height
    y, x = np.divmod(np.arange(count), width)
    half = np.float32(0.5)
    plain = canvas_for(x.astype(np.float32) + half, y.astype(np.float32) + half, width, height)
    orders = dict(plain.orders)
    for name in ("address", "snake", "shuffle"):
        own = matrix.canvas.orders[name]
        rank = np.full(count, NEVER, dtype=np.float32)
        place = np.zeros(count, dtype=np.intp)
        rank[matrix.square] = own.rank
        place[matrix.square] = own.place
        orders[name] = Order(rank, own.steps, place)
    parts = tuple(
        (slice(start, min(start + BLOCK, count)), slice(start, min(start + BLOCK, count)))
        for start in range(0, count, BLOCK)
    )
    canvas = Canvas(plain.x, plain.y, width, height, orders)
    every = np.arange(count, dtype=np.int64)
    return CompiledMatrix(matrix.id, matrix.name, width, height, canvas, parts, every, every)
