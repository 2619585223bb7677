"""Many heads turned at once by hand: unequal ones keep what is their own."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Literal

Stand = tuple[float, float]
"""Pan and tilt, 0..1 of their ranges."""

Way = Literal["together", "alike", "mirrored"]


def turned(stands: Sequence[Stand], by: Stand, way: Way) -> list[Stand]:
    """Where heads come to, turned `by` so much of their ranges: together each from its own place, alike all to where
    the first comes, mirrored every second the other way across. None leaves its range."""
    if way == "alike":
        stands = [stands[0]] * len(stands)
    found = []
    for place, (across, up) in enumerate(stands):
        sideways = -by[0] if way == "mirrored" and place % 2 else by[0]
        found.append((_within(across + sideways), _within(up + by[1])))
    return found


def _within(level: float) -> float:
    return min(max(level, 0.0), 1.0)
