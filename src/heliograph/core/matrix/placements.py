"""Matrices: cells placed on a plane of squares.

Squares count from the top left, x to the right, y down. A placement is a rectangle (x, y, w, h) in
squares; a grid's placements are 1 x 1 at whole numbers.
"""

from __future__ import annotations

import base64
import binascii
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from heliograph.core.errors import InputError

SQUARES_MAX = 250_000
"""Most squares of one matrix: more than one process renders at 44 Hz on one core."""


@dataclass(frozen=True, slots=True, order=True)
class CellKey:
    """A cell of the rig: its fixture's id and the cell's stable name."""

    fixture: str
    cell: str


@dataclass(frozen=True, slots=True)
class Placement:
    """One cell on a matrix: the rectangle it covers, in squares from the top left."""

    key: CellKey
    x: float
    y: float
    w: float = 1.0
    h: float = 1.0

    @property
    def square(self) -> tuple[int, int]:
        return int(self.x), int(self.y)

    @property
    def is_aligned(self) -> bool:
        """It stands on exactly one square; else it is placed freely and averages what it covers."""
        return self.w == self.h == 1.0 and self.x == int(self.x) and self.y == int(self.y)


def check_size(width: int, height: int) -> None:
    """Raises InputError unless width x height squares can be a matrix."""
    if width < 1 or height < 1:
        raise InputError(
            f"A matrix of {width} x {height} has no squares.",
            where="width" if width < 1 else "height",
            repair="Give it at least 1 column and 1 row.",
        )
    if width * height > SQUARES_MAX:
        raise InputError(
            f"A matrix of {width} x {height} has {width * height:,} squares: {SQUARES_MAX:,} are the most.",
            where="width",
            repair="Make it smaller, or split it into several matrices.",
        )


def exchange(placements: Iterable[Placement], a: tuple[int, int], b: tuple[int, int]) -> list[Placement]:
    """Exchanges what stands on squares `a` and `b`; an empty square makes it a move."""
    result = []
    for one in placements:
        target = {a: b, b: a}.get(one.square)
        result.append(one if target is None else Placement(one.key, float(target[0]), float(target[1]), one.w, one.h))
    return result


def check_placements(placements: Sequence[Placement]) -> None:
    """Raises InputError for two cells on one square, unless one is placed freely. Those off the matrix wait there
    until it is larger again."""
    seen: set[tuple[int, int]] = set()
    for one in placements:
        if one.x < 0 or one.y < 0:
            raise InputError(f"Square {one.x:g}, {one.y:g} is none of a matrix.", where="placements")
        if not (0 < one.w <= SQUARES_MAX and 0 < one.h <= SQUARES_MAX):
            raise InputError(f"A cell covers {one.w:g} x {one.h:g} squares.", where="placements")
        if not one.is_aligned:
            continue
        if one.square in seen:
            raise InputError(f"Two cells stand on square {one.square[0]}, {one.square[1]}.", where="placements")
        seen.add(one.square)


def pack(placements: Iterable[Placement]) -> dict[str, Any]:
    """The stored form: tables of fixtures and cell names, and one float32 array (n, 6), base64.

    Columns: fixture index, cell index, x, y, w, h. Rows are sorted, so equal placements pack equally.
    """
    rows = sorted(placements, key=lambda one: (one.y, one.x, one.key))
    fixtures = sorted({one.key.fixture for one in rows})
    cells = sorted({one.key.cell for one in rows}, key=lambda name: (len(name), name))
    fixture_index = {name: i for i, name in enumerate(fixtures)}
    cell_index = {name: i for i, name in enumerate(cells)}
    packed = np.array(
        [(fixture_index[p.key.fixture], cell_index[p.key.cell], p.x, p.y, p.w, p.h) for p in rows], dtype="<f4"
    ).reshape(-1, 6)
    return {"fixtures": fixtures, "cells": cells, "packed": base64.b64encode(packed.tobytes()).decode()}


def packed_array(data: Mapping[str, Any]) -> np.ndarray[Any, np.dtype[np.float32]]:
    """The (n, 6) float32 array of a packed column; raises InputError where it is not one."""
    try:
        raw = base64.b64decode(data["packed"], validate=True)
        array = np.frombuffer(raw, dtype="<f4").reshape(-1, 6)
        limits = (len(data["fixtures"]), len(data["cells"]))
    except (KeyError, ValueError, binascii.Error) as error:
        raise InputError("The placements cannot be read.", where="placements") from error
    indexes = array[:, :2]
    if not np.isfinite(array).all() or (indexes < 0).any() or (indexes >= limits).any():
        raise InputError("The placements name a fixture or cell that is not listed.", where="placements")
    return array


def within(data: Mapping[str, Any], width: int, height: int) -> Mapping[str, Any]:
    """The packed column without what stands off a matrix of this size: it was larger once and may be again."""
    array = packed_array(data)
    inside = (
        (array[:, 2:4] >= 0).all(axis=1) & (array[:, 2] + array[:, 4] <= width) & (array[:, 3] + array[:, 5] <= height)
    )
    if inside.all():
        return data
    return {**data, "packed": base64.b64encode(array[inside].tobytes()).decode()}


def unpack(data: Mapping[str, Any]) -> list[Placement]:
    """The placements of a packed column; raises InputError where it is not one."""
    array = packed_array(data)
    fixtures, cells = data["fixtures"], data["cells"]
    return [Placement(CellKey(fixtures[int(f)], cells[int(c)]), x, y, w, h) for f, c, x, y, w, h in array.tolist()]
