"""Hue, saturation and value against the standard library's `colorsys` (hexcone model, standards 7.1)."""

from __future__ import annotations

import colorsys

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.colour.extraction import (
    COOL,
    HUE,
    INTENSITY,
    LIME,
    SATURATION,
    WARM,
    Recipe,
    emitter_colour,
    extract,
    from_hsv,
    recombine,
    to_hsv,
)

unit = st.floats(0, 1, width=32)


def column(*values: float) -> np.ndarray:
    return np.array(values, dtype=np.float32)[:, None]


@given(unit, unit, unit)
def test_as_colorsys_has_it(red: float, green: float, blue: float) -> None:
    hue, saturation, value = (float(part[0]) for part in to_hsv(column(red, green, blue)))
    h, s, v = colorsys.rgb_to_hsv(red, green, blue)
    assert [saturation, value] == pytest.approx([s, v], abs=2e-6)
    apart = abs(hue - h) % 1.0
    if s > 1e-3:  # without saturation a hue means nothing
        assert min(apart, 1.0 - apart) < 1e-3


@given(unit, unit, unit)
def test_and_back_as_colorsys_has_it(hue: float, saturation: float, value: float) -> None:
    rgb = from_hsv(*(np.array([part], dtype=np.float32) for part in (hue, saturation, value)))
    assert rgb[:, 0] == pytest.approx(colorsys.hsv_to_rgb(hue, saturation, value), abs=2e-5)


@given(unit, unit, unit)
def test_a_lamp_driven_by_hue_shows_what_was_asked(red: float, green: float, blue: float) -> None:
    recipe = Recipe((HUE, SATURATION, INTENSITY))
    rest, extras = extract(recipe, column(red, green, blue))
    assert not rest.any()
    assert recombine(recipe, rest, extras)[:, 0] == pytest.approx([red, green, blue], abs=1e-5)


def test_a_lamp_without_an_intensity_of_its_own_shows_the_hue_in_full() -> None:
    recipe = Recipe((HUE, SATURATION))
    rest, extras = extract(recipe, column(0.2, 0.1, 0.1))
    assert recombine(recipe, rest, extras)[:, 0] == pytest.approx([1.0, 0.5, 0.5], abs=1e-5)


@pytest.mark.parametrize("emitter", [WARM, COOL, LIME])
@pytest.mark.parametrize("extra", ["replace", "match"])
@given(red=unit, green=unit, blue=unit)
def test_rarer_emitters_give_back_what_they_took(
    emitter: int, extra: str, red: float, green: float, blue: float
) -> None:
    recipe = Recipe((0, 1, 2, emitter), extra)  # type: ignore[arg-type]
    rest, extras = extract(recipe, column(red, green, blue))
    assert (rest >= 0).all()
    assert recombine(recipe, rest, extras)[:, 0] == pytest.approx([red, green, blue], abs=2e-3)


def test_warm_white_is_warm_and_cool_white_is_not() -> None:
    warm, cool = emitter_colour(WARM, 6500, True), emitter_colour(COOL, 6500, True)
    assert warm == pytest.approx([1, 0.5169, 0.1943], abs=2e-3)  # 3200 K (standards 7.3 [V colour-science])
    assert cool == pytest.approx([1, 0.9436, 0.9926], abs=2e-3)  # 6500 K
