"""Colours moved by hand: each cell keeps what is its own. Against Python's own colorsys."""

from __future__ import annotations

import colorsys

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.hand.colouring import Rgb, coloured

LEVEL = st.floats(0, 1).map(lambda level: round(level, 6))
"""What cells have comes from bytes: nothing is so small that it cannot be scaled."""

COLOURS = st.lists(st.tuples(LEVEL, LEVEL, LEVEL), min_size=1, max_size=6)


def test_brightness_scales_all_alike_and_each_keeps_its_colour() -> None:
    """Red, half blue and dark at 50 %: half red, a quarter blue, dark."""
    assert coloured([(1, 0, 0), (0, 0, 0.5), (0, 0, 0)], "brightness", 0.5) == [(0.5, 0, 0), (0, 0, 0.25), (0, 0, 0)]


@given(COLOURS, LEVEL)
def test_the_brightest_comes_to_where_the_hand_is(colours: list[Rgb], to: float) -> None:
    found = coloured(colours, "brightness", to)
    assert max(max(one) for one in found) == pytest.approx(to)
    for one, now in zip(colours, found, strict=True):
        if max(one) > 1e-6 and to > 1e-6 and max(now) > 1e-6:
            before, after = colorsys.rgb_to_hsv(*one), colorsys.rgb_to_hsv(*now)
            assert after[1] == pytest.approx(before[1], abs=1e-6)
            if before[1] > 1e-3:
                assert abs(after[0] - before[0]) % 1 == pytest.approx(0, abs=1e-3) or abs(after[0] - before[0]) > 0.99


@given(COLOURS, st.floats(0.02, 0.98))
def test_hue_and_saturation_leave_the_light_of_each(colours: list[Rgb], to: float) -> None:
    lit = max(max(one) for one in colours) > 0
    for what in ("hue", "saturation"):
        for one, now in zip(colours, coloured(colours, what, to), strict=True):
            assert max(now) == pytest.approx(max(one) if lit else 1.0)


def test_where_all_are_dark_something_shows() -> None:
    assert coloured([(0, 0, 0)] * 2, "brightness", 0.3) == [(0.3, 0.3, 0.3)] * 2
    assert coloured([(0, 0, 0)], "hue", 1 / 3) == [pytest.approx((0, 1, 0))]
    with pytest.raises(InputError, match="outside 0 to 100 %"):
        coloured([(1, 0, 0)], "brightness", 1.2)
