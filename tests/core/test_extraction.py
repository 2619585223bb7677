"""Colours to emitters and back. Values: standards 7.2 and 7.3 (computed there), colour-science, the trade."""

from __future__ import annotations

import colour
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.colour.extraction import (
    AMBER,
    AMBER_LINEAR,
    BLUE,
    GREEN,
    RED,
    UV,
    WHITE,
    Recipe,
    extract,
    recombine,
    to_display,
    to_linear,
    white_linear,
)

RGBW, RGBA, RGBAWUV = (RED, GREEN, BLUE, WHITE), (RED, GREEN, BLUE, AMBER), (RED, GREEN, BLUE, WHITE, AMBER, UV)


def of(*rgb: float) -> np.ndarray:
    return np.array(rgb, dtype=np.float32).reshape(3, 1)


def emitters(recipe: Recipe, *rgb: float) -> list[float]:
    rest, extras = extract(recipe, of(*rgb))
    return [*rest[:, 0].tolist(), *extras[:, 0].tolist()]


def test_replace_takes_the_common_part_into_the_white() -> None:
    # 204, 91, 18 -> 186, 73, 0, 18 (standards 7.2, verified there in Python).
    found = emitters(Recipe(RGBW), 204 / 255, 91 / 255, 18 / 255)
    assert [round(level * 255) for level in found] == [186, 73, 0, 18]


def test_add_leaves_the_colour_and_puts_white_on_top() -> None:
    found = emitters(Recipe(RGBW, "add"), 204 / 255, 91 / 255, 18 / 255)
    assert [round(level * 255) for level in found] == [204, 91, 18, 18]


def test_leave_keeps_the_extra_emitters_dark() -> None:
    assert emitters(Recipe(RGBAWUV, "leave"), 1.0, 0.5, 0.25) == [1.0, 0.5, 0.25, 0.0, 0.0]


def test_match_works_in_linear_light_with_the_emitters_own_colour() -> None:
    # A 3200 K white is w = (1, .5168, .1943); linear (1, 1, 1) -> 0, .4832, .8057, W 1; the linear of
    # 204, 91, 18 -> .5727, .0885, 0, W .0311 (standards 7.2, verified there in Python).
    warm = Recipe(RGBW, "match", 3200)
    rest, extras = extract(warm, of(1, 1, 1))
    assert to_linear(rest)[:, 0].tolist() == pytest.approx([0, 0.4832, 0.8057], abs=1e-3)
    assert extras[0, 0] == pytest.approx(1.0, abs=1e-4)
    rest, extras = extract(warm, of(204 / 255, 91 / 255, 18 / 255))
    assert to_linear(rest)[:, 0].tolist() == pytest.approx([0.5727, 0.0885, 0.0], abs=1e-3)
    assert extras[0, 0] == pytest.approx(0.0311, abs=1e-3)


@pytest.mark.parametrize("kelvin", [2000, 2700, 3200, 4000, 5600, 6500, 10000])
def test_whites_of_a_colour_temperature_are_those_of_colour_science(kelvin: int) -> None:
    """colour-science 0.4.7: CCT_to_xy_Kang2002, xy to XYZ to linear sRGB, negatives cut, the largest part 1."""
    xy = colour.temperature.CCT_to_xy_Kang2002(kelvin)
    wanted = np.clip(colour.XYZ_to_sRGB(colour.xy_to_XYZ(xy), apply_cctf_encoding=False), 0, None)
    assert white_linear(kelvin) == pytest.approx(list(wanted / wanted.max()), abs=2e-3)


def test_amber_is_the_colour_of_590_nm() -> None:
    """colour-science 0.4.7: the CIE 1931 observer at 590 nm in linear sRGB, negatives cut, the largest part 1."""
    linear = np.clip(colour.XYZ_to_sRGB(colour.wavelength_to_XYZ(590), apply_cctf_encoding=False), 0, None)
    assert list(linear / linear.max()) == pytest.approx(list(AMBER_LINEAR), abs=0.02)


def test_srgb_coding_is_that_of_colour_science() -> None:
    levels = np.linspace(0, 1, 256, dtype=np.float32)
    assert to_linear(levels) == pytest.approx(colour.models.eotf_sRGB(levels.astype(float)), abs=1e-5)
    assert to_display(levels) == pytest.approx(colour.models.eotf_inverse_sRGB(levels.astype(float)), abs=1e-5)


def test_amber_follows_white_and_uv_stays_out_of_it() -> None:
    # By hand: 255, 200, 80 -> W 80, then 175, 120, 0; amber (1, .481, 0): min(175, 120 / .481) = 175 -> G 120 - 84.2.
    found = emitters(Recipe(RGBAWUV), 255 / 255, 200 / 255, 80 / 255)
    assert len(found) == 5  # red, green, blue, white, amber: UV is never taken from a colour
    assert [round(level * 255) for level in found] == [0, 36, 0, 80, 175]


def test_white_only_takes_the_brightness() -> None:
    # ITU-R BT.709 weights: .2126, .7152, .0722.
    white = Recipe((WHITE,))
    _, extras = extract(white, of(1.0, 0.5, 0.25))
    assert extras[0, 0] == pytest.approx(0.2126 + 0.3576 + 0.01805, abs=1e-4)
    assert extract(white, of(1, 1, 1))[1][0, 0] == pytest.approx(1.0, abs=1e-6)


colours = st.tuples(*[st.integers(0, 255)] * 3)


@given(colours, st.sampled_from([RGBW, RGBA, RGBAWUV]), st.sampled_from(["replace", "add", "match", "leave"]))
def test_what_was_extracted_recombines_to_the_colour(rgb: tuple[int, ...], which: tuple[int, ...], use: str) -> None:
    recipe = Recipe(which, use, 5600)  # type: ignore[arg-type]
    asked = of(*(part / 255 for part in rgb))
    rest, extras = extract(recipe, asked)
    assert (rest >= 0).all()
    assert ((extras >= 0) & (extras <= 1)).all()
    assert recombine(recipe, rest, extras) == pytest.approx(asked, abs=2e-3)
