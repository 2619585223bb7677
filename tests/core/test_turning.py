"""Heads turned by hand: together, alike, mirrored; none leaves its range. Worked out by hand."""

from __future__ import annotations

import pytest

from heliograph.core.hand.turning import Stand, Way, turned

STANDS: list[Stand] = [(0.5, 0.5), (0.25, 0.75), (0.75, 0.0)]


@pytest.mark.parametrize(
    ("way", "to"),
    [
        ("together", [(0.625, 0.25), (0.375, 0.5), (0.875, 0.0)]),
        ("alike", [(0.625, 0.25)] * 3),
        ("mirrored", [(0.625, 0.25), (0.125, 0.5), (0.875, 0.0)]),
    ],
)
def test_each_way(way: Way, to: list[Stand]) -> None:
    assert turned(STANDS, (0.125, -0.25), way) == to


def test_a_movement_back_brings_all_to_where_they_stood() -> None:
    """Each movement starts from where the heads stood when it began: what met its end comes away from it again."""
    assert turned(STANDS, (0.5, 0.0), "together")[2] == (1.0, 0.0)
    assert turned(STANDS, (0.0, 0.0), "together") == STANDS
