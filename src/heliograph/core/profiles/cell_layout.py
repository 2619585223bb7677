"""Where a fixture's cells sit on its face: in a line, a grid, rings, or anywhere."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal, get_args

import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError

LayoutKind = Literal["line", "upright", "grid", "ring", "free"]


@dataclass(frozen=True, slots=True)
class CellLayout:
    """`columns` counts for a grid. A `ring` holds its first cell in the middle where `centre`. `points`: places of
    free cells on the face, x to the right and y down, 0..1."""

    kind: LayoutKind = "line"
    columns: int = 1
    centre: bool = False
    points: tuple[tuple[float, float], ...] = ()

    def __post_init__(self) -> None:
        if self.kind not in get_args(LayoutKind):
            raise InputError(f"'{self.kind}' is no layout.", repair=f"Use {', '.join(get_args(LayoutKind))}.")
        if not 1 <= self.columns <= 1000:
            raise InputError(f"A grid of {self.columns} columns is not possible.", where="columns")
        if any(not 0.0 <= value <= 1.0 for point in self.points for value in point):
            raise InputError("A cell lies outside the face.", where="points", repair="Places are 0 to 1.")


LINE = CellLayout()


def cell_points(layout: CellLayout, count: int) -> npt.NDArray[np.float64]:
    """(count, 2) x and y of each cell on a face of 1 x 1, x to the right, y down."""
    n = np.arange(count)
    if layout.kind == "grid":
        rows = max(-(-count // layout.columns), 1)
        return np.column_stack([(n % layout.columns + 0.5) / layout.columns, (n // layout.columns + 0.5) / rows])
    if layout.kind == "ring":
        around = max(count - layout.centre, 1)
        turn = 2 * math.pi * (n - layout.centre) / around
        points = np.column_stack([0.5 + 0.42 * np.sin(turn), 0.5 - 0.42 * np.cos(turn)])
        if layout.centre and count:
            points[0] = 0.5
        return points
    along, across = (n + 0.5) / max(count, 1), np.full(count, 0.5)
    points = np.column_stack([across, along] if layout.kind == "upright" else [along, across])
    if layout.kind == "free":
        given = layout.points[:count]
        if given:
            points[: len(given)] = given
    return points


def layout_from_json(data: Mapping[str, Any] | None) -> CellLayout:
    if not data:
        return LINE
    points = tuple((float(x), float(y)) for x, y in data.get("points") or ())
    return CellLayout(data.get("kind", "line"), int(data.get("columns", 1)), bool(data.get("centre", False)), points)
