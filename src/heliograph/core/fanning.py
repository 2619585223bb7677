"""A fan: values given at a few points, spread evenly over the members of a selection."""

from __future__ import annotations


def along(points: int, index: int, count: int) -> tuple[int, int, float]:
    """Between which two of `points` member `index` of `count` lies, and how far 0..1 from the first to the second. The
    first member lies on the first point, the last on the last; a single member on the first."""
    at = index / (count - 1) * (points - 1) if count > 1 else 0.0
    first = min(int(at), points - 1)
    return first, min(first + 1, points - 1), at - first
