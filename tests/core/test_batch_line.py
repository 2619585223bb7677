"""The line of what is done to many fixtures: read in every form, refused with a sentence."""

from __future__ import annotations

import contextlib
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.rig.batch_line import Change, Copies, Kind, ToMode, ToName, ToNumber, begin_line, read_line

KINDS: tuple[Kind, ...] = ("number", "name", "mode", "copy")
PROFILES: list[dict[str, Any]] = [
    {"id": "s", "name": "RGB pixel strip", "modes": [{"name": "50 RGB"}, {"name": "100 RGB"}]},
    {"id": "b", "name": "Cell bar", "modes": [{"name": "10 RGBW, dimmer and strobe"}]},
    {"id": "c", "name": "Cell bar, outdoor", "modes": [{"name": "10 RGBW"}]},
]
FIXTURES = [
    {"number": 301, "name": "Quay 1", "profile": "s", "mode": "50 RGB"},
    {"number": 318, "name": "Quay 2", "profile": "s", "mode": "50 RGB"},
]


def test_the_line_begins_with_what_they_have() -> None:
    begun = {kind: begin_line(kind, FIXTURES[:1], PROFILES, FIXTURES) for kind in KINDS}
    assert begun == {
        "number": "301",
        "name": "Quay {n}",
        "mode": "RGB pixel strip, 50 RGB",
        "copy": "1 x, from 319, {name}",
    }
    assert begun == {kind: begin_line(kind, FIXTURES, PROFILES, FIXTURES) for kind in KINDS}
    assert read_line("mode", begun["mode"], 1, PROFILES) == ToMode("s", "50 RGB")  # and that is a line


@pytest.mark.parametrize(
    ("kind", "text", "change"),
    [
        ("number", "401", ToNumber(401)),
        ("number", " 401 every 2nd ", ToNumber(401, 2)),
        ("name", " Tower {n} ", ToName("Tower {n}")),
        ("copy", "2 x, from 401, Copy {n}", Copies(2, 401, "Copy {n}")),
        ("copy", "3", Copies(3)),
        ("copy", "1, Low water", Copies(1, None, "Low water")),
        ("mode", "rgb pixel strip, 100 rgb", ToMode("s", "100 RGB")),
        ("mode", "Cell bar, 10 RGBW, dimmer and strobe", ToMode("b", "10 RGBW, dimmer and strobe")),
        ("mode", "Cell bar, outdoor, 10 RGBW", ToMode("c", "10 RGBW")),
        ("mode", "Cell bar", ToMode("b", "10 RGBW, dimmer and strobe")),
    ],
)
def test_a_line_is_read(kind: Any, text: str, change: object) -> None:
    assert read_line(kind, text, 3, PROFILES) == change


@pytest.mark.parametrize(
    ("kind", "text", "says"),
    [
        ("number", "from 401", "Type the first number, such as 401, or 401 every 2nd."),
        ("number", "0", "Type the first number"),
        ("number", "401 every 0th", "Type the first number"),
        ("name", " ", "Type a name."),
        ("copy", "Copy {n}", "Begin with how many times, such as 2 x."),
        ("copy", "0 x", "Begin with how many times"),
        ("copy", "1, from here", "'from' needs a number, such as from 401."),
        ("copy", "1000 x", "2000 copies at once are the most."),
        ("mode", "Toaster, 1", "There is no profile 'Toaster'."),
        ("mode", "RGB pixel stripes, 1", "There is no profile"),
        ("mode", "RGB pixel strip, 60 RGB", "RGB pixel strip has no mode '60 RGB'. It has: 50 RGB; 100 RGB."),
    ],
)
def test_what_is_wrong_with_a_line_is_said(kind: Any, text: str, says: str) -> None:
    with pytest.raises(InputError) as told:
        read_line(kind, text, 3, PROFILES)
    assert told.value.what.startswith(says)


@given(st.sampled_from(["number", "name", "mode", "copy"]), st.text(max_size=60))
def test_any_text_is_a_line_or_is_refused(kind: Any, text: str) -> None:
    with contextlib.suppress(InputError):
        assert isinstance(read_line(kind, text, 2, PROFILES), Change)
