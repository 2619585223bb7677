"""Ways of arranging items: in a row, as tiles, in a ring, aligned, spread, turned, mirrored, below everything."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace
from typing import Literal

from heliograph.core.plan.items import Bounds, Item, Point, bounds_of

Edge = Literal["left", "right", "top", "bottom", "middle", "centre"]
"""`middle` is one height, `centre` one place across."""

GAP_M = 0.5
NARROWEST_M = 8.0
SMALLEST_RING_M = 0.1


def at(item: Item, x: float, y: float) -> Item:
    """Elsewhere, to a tenth of a millimetre."""
    return replace(item, x=round(x, 4) + 0.0, y=round(y, 4) + 0.0)  # and no -0


def in_row(items: Sequence[Item], first: Point, last: Point) -> list[Item]:
    """In a row from one point to another, the first and the last on its ends."""
    steps = max(len(items) - 1, 1)
    return [
        at(
            item,
            first[0] + (last[0] - first[0]) * n / steps,
            first[1] + (last[1] - first[1]) * n / steps,
        )
        for n, item in enumerate(items)
    ]


def in_grid(items: Sequence[Item], a: Point, b: Point, columns: int = 0) -> list[Item]:
    """As tiles of an area, row by row from its top left; as many columns as make the tiles nearly square, if not
    said."""
    left, right = sorted((a[0], b[0]))
    bottom, top = sorted((a[1], b[1]))
    wanted = columns or round(math.sqrt(len(items) * (right - left) / max(top - bottom, 0.001)))
    across = min(max(wanted, 1), max(len(items), 1))
    rows = -(-len(items) // across)
    return [
        at(
            item,
            left + (n % across + 0.5) * (right - left) / across,
            top - (n // across + 0.5) * (top - bottom) / rows,
        )
        for n, item in enumerate(items)
    ]


def in_ring(items: Sequence[Item], middle: Point, edge: Point) -> list[Item]:
    """Around a middle through an edge, clockwise from the top; each is turned to face outwards."""
    radius = max(math.hypot(edge[0] - middle[0], edge[1] - middle[1]), SMALLEST_RING_M)
    found = []
    for n, item in enumerate(items):
        turn = 2 * math.pi * n / len(items)
        placed = at(item, middle[0] + radius * math.sin(turn), middle[1] + radius * math.cos(turn))
        found.append(replace(placed, turn=round(-math.degrees(turn), 2) + 0.0))
    return found


def aligned(items: Sequence[Item], edge: Edge) -> list[Item]:
    """All to the same edge of their common bounds."""
    whole = bounds_of(items)
    if whole is None:
        return []
    return [_aligned(item, edge, whole) for item in items]


def _aligned(item: Item, edge: Edge, whole: Bounds) -> Item:
    own = bounds_of([item])
    assert own is not None
    match edge:
        case "left" | "right":
            return at(item, item.x + getattr(whole, edge) - getattr(own, edge), item.y)
        case "top" | "bottom":
            return at(item, item.x, item.y + getattr(whole, edge) - getattr(own, edge))
        case "middle":
            return at(item, item.x, (whole.bottom + whole.top) / 2)
        case "centre":
            return at(item, (whole.left + whole.right) / 2, item.y)


def spread(items: Sequence[Item], axis: Literal["x", "y"]) -> list[Item]:
    """The same distance between all, along x or y, the outermost staying where they are."""
    if len(items) < 3:
        return list(items)
    order = sorted(items, key=lambda item: float(getattr(item, axis)))
    first, last = getattr(order[0], axis), getattr(order[-1], axis)
    place = {item.id: first + (last - first) * n / (len(order) - 1) for n, item in enumerate(order)}
    return [at(item, place[item.id], item.y) if axis == "x" else at(item, item.x, place[item.id]) for item in items]


def turned(items: Sequence[Item], degrees: float) -> list[Item]:
    """All together around the mean of their places, counter-clockwise: it stays where it is, so turning back brings
    everything back."""
    if not items:
        return []
    cx, cy = (sum(getattr(item, axis) for item in items) / len(items) for axis in ("x", "y"))
    turn = math.radians(degrees)
    found = []
    for item in items:
        dx, dy = item.x - cx, item.y - cy
        moved = at(
            item,
            cx + dx * math.cos(turn) - dy * math.sin(turn),
            cy + dx * math.sin(turn) + dy * math.cos(turn),
        )
        found.append(replace(moved, turn=(item.turn + degrees) % 360))
    return found


def mirrored(items: Sequence[Item]) -> list[Item]:
    """Left and right exchanged, around the middle of their bounds."""
    whole = bounds_of(items)
    if whole is None:
        return []
    return [
        replace(
            at(item, whole.left + whole.right - item.x, item.y),
            turn=(360 - item.turn) % 360,
            mirrored=not item.mirrored,
        )
        for item in items
    ]


def below(there: Sequence[Item], sizes: Mapping[str, tuple[float, float]]) -> list[Item]:
    """New fixtures in rows under everything that is there, so that they are never out of sight. `sizes`: (width,
    height) in metres by id."""
    whole = bounds_of(there)
    width = max(whole.right - whole.left if whole else 0.0, NARROWEST_M)
    left = whole.left if whole else 0.0
    x, y, tall = left, (whole.bottom if whole else GAP_M) - GAP_M, 0.0
    found = []
    for key, (w, h) in sizes.items():
        if x > left and x + w > left + width:
            x, y, tall = left, y - tall - GAP_M, 0.0
        found.append(Item(key, round(x + w / 2, 3), round(y - h / 2, 3), 0.0, w, h))
        x += w + GAP_M
        tall = max(tall, h)
    return found
