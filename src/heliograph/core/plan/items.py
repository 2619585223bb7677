"""An item of a plan, its corners and bounds; how large a fixture's face is taken to be until somebody says."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

from heliograph.core.profiles.cell_layout import cell_points
from heliograph.core.profiles.profile import Mode

Point = tuple[float, float]

PITCH_M = 0.1
"""Pixels of a strip are taken to stand so far apart where nothing is known."""

SMALLEST_M = 0.25
ROUND_FACE_M = 0.35


@dataclass(frozen=True, slots=True)
class Item:
    """`x`, `y`: its middle in metres. `turn`: degrees, counter-clockwise. `w`, `h`: of its face before it is turned.
    `rest`: what else is stored of it."""

    id: str
    x: float
    y: float
    turn: float = 0.0
    w: float = 0.2
    h: float = 0.2
    mirrored: bool = False
    rest: Mapping[str, Any] | None = None

    def corners(self) -> list[Point]:
        turn = math.radians(self.turn)
        found = []
        for px, py in ((-0.5, 0.5), (0.5, 0.5), (0.5, -0.5), (-0.5, -0.5)):
            x, y = px * self.w, py * self.h
            found.append(
                (
                    self.x + x * math.cos(turn) - y * math.sin(turn),
                    self.y + x * math.sin(turn) + y * math.cos(turn),
                )
            )
        return found


@dataclass(frozen=True, slots=True)
class Bounds:
    left: float
    right: float
    bottom: float
    top: float


def bounds_of(items: Iterable[Item]) -> Bounds | None:
    """What the corners of all lie within; None of nothing."""
    corners = [corner for item in items for corner in item.corners()]
    if not corners:
        return None
    xs, ys = [x for x, _ in corners], [y for _, y in corners]
    return Bounds(min(xs), max(xs), min(ys), max(ys))


def item_from_json(data: Mapping[str, Any]) -> Item:
    own = {name: data[name] for name in ("id", "x", "y", "turn", "w", "h", "mirrored")}
    return Item(**own, rest={name: value for name, value in data.items() if name not in own})


def item_to_json(item: Item) -> dict[str, Any]:
    fields = {name: getattr(item, name) for name in ("id", "x", "y", "turn", "w", "h", "mirrored")}
    return {**(item.rest or {"kind": "fixture", "text": ""}), **fields}


def face_size(mode: Mode | None) -> tuple[float, float]:
    """(width, height) in metres of a fixture's face, by how its cells lie on it: strips along, grids, round ones."""
    blocks = [block for block in mode.blocks if block.cell_count] if mode else []
    points = [
        (x, (place + y) / len(blocks))  # several blocks with cells share the face from top to bottom
        for place, block in enumerate(blocks)
        for x, y in cell_points(block.layout, block.cell_count).tolist()
    ]
    if len(points) < 2:
        return SMALLEST_M, SMALLEST_M
    columns, rows = len({round(x, 3) for x, _ in points}), len({round(y, 3) for _, y in points})
    if columns * rows > len(points) * 1.2:
        side = max(ROUND_FACE_M, math.sqrt(len(points)) * 0.13)
        return side, side
    return columns * PITCH_M, rows * PITCH_M
