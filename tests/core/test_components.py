"""Colours in parts, against Python's own colorsys."""

from __future__ import annotations

import colorsys
from typing import Any

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.colour.components import luminance, turned, written

bytes_ = st.tuples(*[st.integers(0, 255)] * 3)


def plane(rgb: tuple[int, ...]) -> Any:
    return np.array(rgb, dtype=np.float32)[:, None] / np.float32(255.0)


def hsv(rgb: tuple[int, ...]) -> tuple[float, float, float]:
    return colorsys.rgb_to_hsv(*(one / 255 for one in rgb))


@given(bytes_, bytes_)
def test_one_component_is_written_and_the_others_stay(under: tuple[int, ...], over: tuple[int, ...]) -> None:
    (h, s, v), (hue, saturation, light) = hsv(under), hsv(over)
    grey_over, grey_under = max(over) == min(over), max(under) == min(under)
    lit = colorsys.hsv_to_rgb(h, s, light)
    assert written(plane(under), plane(over), "light")[:, 0] == pytest.approx(lit, abs=1e-4)
    # A grey has no hue to give (colorsys says red), and takes no saturation.
    hued = colorsys.hsv_to_rgb(h if grey_over else hue, s, v)
    assert written(plane(under), plane(over), "hue")[:, 0] == pytest.approx(hued, abs=1e-4)
    saturated = colorsys.hsv_to_rgb(h, 0.0 if grey_under else saturation, v)
    assert written(plane(under), plane(over), "saturation")[:, 0] == pytest.approx(saturated, abs=1e-4)


@given(bytes_, st.floats(-180, 180), st.floats(0, 2))
def test_a_turned_hue_keeps_its_light(colour: tuple[int, ...], degrees: float, times: float) -> None:
    h, s, v = hsv(colour)
    wanted = colorsys.hsv_to_rgb((h + degrees / 360) % 1.0, min(s * times, 1.0), v)
    assert turned(plane(colour), degrees, times)[:, 0] == pytest.approx(wanted, abs=1e-3)


def test_luminance_is_that_of_rec_709() -> None:
    """0.2126, 0.7152, 0.0722: ITU-R BT.709, and WCAG 2.2's relative luminance."""
    assert luminance(plane((255, 0, 255)))[0] == pytest.approx(0.2126 + 0.0722)
    assert luminance(plane((0, 255, 0)))[0] == pytest.approx(0.7152)
