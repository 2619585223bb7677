"""What a line is painted through: another line of its look, and the squares of the matrix it keeps to."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, get_args

import numpy as np

from heliograph.core.colour.ramps import Floats
from heliograph.core.errors import InputError

By = Literal["light", "cover"]
BYS: tuple[By, ...] = get_args(By)
RECTANGLES_MAX = 64
SQUARES_MAX = 10_000


@dataclass(frozen=True, slots=True)
class Through:
    """Another line of the look by its id: where that line is bright ("light": relative luminance of what it paints over
    black) or covers ("cover"), this one is painted; the other way round where `inverse`."""

    line: str
    by: By = "light"
    inverse: bool = False

    def __post_init__(self) -> None:
        if self.by not in BYS:
            raise InputError(f"No line masks by '{self.by}'.", where="through.by", repair=f"Use {' or '.join(BYS)}.")


@dataclass(frozen=True, slots=True)
class Region:
    """Squares of the matrix in rectangles (column, row, columns, rows), counted from 0; all others where `outside`."""

    squares: tuple[tuple[int, int, int, int], ...]
    outside: bool = False

    def __post_init__(self) -> None:
        if not 1 <= len(self.squares) <= RECTANGLES_MAX:
            raise InputError(
                f"A part has 1 to {RECTANGLES_MAX} rectangles, not {len(self.squares)}.", where="region.squares"
            )
        for column, row, columns, rows in self.squares:
            if min(column, row) < 0 or min(columns, rows) < 1 or max(column + columns, row + rows) > SQUARES_MAX:
                raise InputError(
                    f"A rectangle of {columns} x {rows} squares at {column}, {row} is not one of a matrix.",
                    where="region.squares",
                    repair="Columns and rows count from 0; it has at least one square.",
                )

    def holds(self, x: Floats, y: Floats) -> Floats:
        """(n,) 1 where a point (in squares) lies in it, else 0."""
        inside = np.zeros(x.shape, dtype=bool)
        for column, row, columns, rows in self.squares:
            inside |= (x >= column) & (x < column + columns) & (y >= row) & (y < row + rows)
        return (~inside if self.outside else inside).astype(np.float32)


def through_from_json(data: Mapping[str, Any] | None) -> Through | None:
    return Through(data["line"], data.get("by", "light"), bool(data.get("inverse", False))) if data else None


def region_from_json(data: Mapping[str, Any] | None) -> Region | None:
    if not data:
        return None
    squares = tuple((int(a), int(b), int(c), int(d)) for a, b, c, d in data["squares"])
    return Region(squares, bool(data.get("outside", False)))
