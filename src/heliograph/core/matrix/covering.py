"""Which squares a placement covers, and how much of it lies on each: free placements average what they cover."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from heliograph.core.rig.arrays import PlacedCells

Ints = npt.NDArray[np.int64]
Floats = npt.NDArray[np.float32]


@dataclass(frozen=True, slots=True)
class Covered:
    """One entry for each square that a cell covers. `owner` (n,) indexes the placed cells, ascending; `square` (n,)
    row-major; `weight` (n,) the part of the cell that lies on it: those of a cell add up to 1."""

    owner: Ints
    square: Ints
    weight: Floats


def is_aligned(cells: PlacedCells) -> npt.NDArray[np.bool_]:
    """(n,): stands on exactly one square."""
    whole = (cells.w == 1.0) & (cells.h == 1.0)
    return np.asarray(whole & (cells.x == np.floor(cells.x)) & (cells.y == np.floor(cells.y)), dtype=np.bool_)


def covered(cells: PlacedCells, width: int, height: int) -> Covered:
    """The squares of every cell, as far as they are on a matrix of `width` x `height`."""
    aligned = is_aligned(cells)
    owners = [np.flatnonzero(aligned)]
    squares: list[Ints] = [cells.y[aligned].astype(np.int64) * width + cells.x[aligned].astype(np.int64)]
    weights: list[Floats] = [np.ones(owners[0].size, dtype=np.float32)]
    for index in np.flatnonzero(~aligned).tolist():
        x, y, w, h = (float(values[index]) for values in (cells.x, cells.y, cells.w, cells.h))
        columns, along = _overlaps(x, w, width)
        rows, down = _overlaps(y, h, height)
        if not columns.size or not rows.size:
            continue
        part = np.outer(down, along).reshape(-1)
        squares.append((rows[:, None] * width + columns[None, :]).reshape(-1))
        weights.append((part / part.sum()).astype(np.float32))
        owners.append(np.full(part.size, index, dtype=np.int64))
    owner, square, weight = np.concatenate(owners), np.concatenate(squares), np.concatenate(weights)
    order = np.argsort(owner, kind="stable")
    return Covered(owner[order], square[order], weight[order])


def _overlaps(start: float, length: float, count: int) -> tuple[Ints, npt.NDArray[np.float64]]:
    """Lines 0..count-1 that the stretch meets, and how much of it lies on each."""
    lines = np.arange(max(int(np.floor(start)), 0), min(int(np.ceil(start + length)), count), dtype=np.int64)
    part = np.minimum(lines + 1.0, start + length) - np.maximum(lines, start)
    kept = part > 1e-6
    return lines[kept], part[kept]
