"""How a clip lies, and which part of it plays."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.matrix.fitting import Fitting, fitting_from_json


def test_without_anything_said_it_fills_and_plays_whole() -> None:
    assert fitting_from_json({}) == Fitting("fill", 0, "none", 0.0, 0.0)
    assert fitting_from_json({}).span_s(12.5) == (0.0, 12.5)


@pytest.mark.parametrize(
    ("given_parts", "duration", "span"),
    [
        ({"in_s": 2, "out_s": 8}, 20.0, (2.0, 8.0)),
        ({"in_s": 2}, 20.0, (2.0, 20.0)),
        ({"out_s": 8}, 5.0, (0.0, 5.0)),  # past the end is the end
        ({"in_s": 30, "out_s": 40}, 5.0, (4.98, 5.0)),  # a shorter clip was put in its place: the end of it
    ],
)
def test_the_part_that_plays(given_parts: dict[str, Any], duration: float, span: tuple[float, float]) -> None:
    assert fitting_from_json(given_parts).span_s(duration) == pytest.approx(span)


@given(st.floats(0, 1000), st.floats(0, 1000), st.floats(0.02, 1000))
def test_a_part_is_never_empty_and_lies_within_the_clip(first: float, length: float, duration: float) -> None:
    low, high = Fitting(in_s=first, out_s=first + length + 0.1).span_s(duration)
    assert 0.0 <= low < high
    assert high <= max(duration, low + 0.0201)


def test_frames_are_kept_apart_by_what_they_depend_on() -> None:
    shapes = {
        Fitting(fit, turn, mirror).shape
        for fit in ("fill", "fit", "stretch")
        for turn in (0, 90, 180, 270)
        for mirror in ("none", "across", "down", "both")
    }
    assert len(shapes) == 48
    assert Fitting(in_s=1, out_s=2).shape == Fitting().shape  # the same frames, another part of them


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"fit": "crop"}, "There is no fit 'crop'"),
        ({"mirror": "x"}, "There is no mirror 'x'"),
        ({"rotate": 45}, "A clip turns by 0, 90, 180 or 270 degrees, not 45"),
        ({"in_s": -1}, "A clip cannot play from -1 s"),
        ({"in_s": 3, "out_s": 3}, "A clip cannot play from 3 s to 3 s"),
    ],
)
def test_what_cannot_be_is_refused(fields: dict[str, Any], says: str) -> None:
    with pytest.raises(InputError, match=says):
        fitting_from_json(fields)
