"""Tint against Python's own colorsys, and what it leaves as it is."""

from __future__ import annotations

import colorsys

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.colour.tinting import Tint, tint
from heliograph.core.errors import InputError

LEVEL = st.floats(0, 1, width=32)
COLOUR = st.tuples(LEVEL, LEVEL, LEVEL)


def tinted(colour: tuple[float, float, float], by: Tint) -> list[float]:
    pixels = np.array(colour, dtype=np.float32).reshape(3, 1)
    tint(pixels, by)
    return [float(value) for value in pixels[:, 0]]


@given(COLOUR, st.floats(0, 360))
def test_a_full_tint_is_the_hue_with_the_value_of_before(colour: tuple[float, float, float], hue: float) -> None:
    value = colorsys.rgb_to_hsv(*colour)[2]
    assert tinted(colour, Tint(hue, 1.0)) == pytest.approx(colorsys.hsv_to_rgb(hue % 360 / 360, 1.0, value), abs=1e-6)


@given(COLOUR, st.floats(0, 360), st.floats(0, 1))
def test_between_it_is_a_straight_mix(colour: tuple[float, float, float], hue: float, amount: float) -> None:
    full = colorsys.hsv_to_rgb(hue % 360 / 360, 1.0, max(colour))
    wanted = [c + (f - c) * amount for c, f in zip(colour, full, strict=True)]
    assert tinted(colour, Tint(hue, amount)) == pytest.approx(wanted, abs=1e-6)


@given(COLOUR, st.floats(0, 360))
def test_no_amount_changes_nothing(colour: tuple[float, float, float], hue: float) -> None:
    assert tinted(colour, Tint(hue, 0.0)) == [float(np.float32(part)) for part in colour]


def test_what_is_no_tint_is_said() -> None:
    with pytest.raises(InputError, match="outside 0 to 360"):
        Tint(361.0, 0.5)
    with pytest.raises(InputError, match="outside 0 to 100 %"):
        Tint(10.0, 1.5)
