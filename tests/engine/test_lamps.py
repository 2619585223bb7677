"""Lamps that take colour in odd ways: 16 bit, inverted, by hue, with rarer emitters, with 0 as a default.

Each goes through the whole renderer to bytes, and back to the colour that was asked for.
"""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from heliograph.core.colour.ramps import to_bytes
from heliograph.core.colour.reading import ColourReader, SentValues
from heliograph.core.playing.state import PlaybackState
from heliograph.render.compiled import CompiledShow
from tests.engine.test_emission import RGB, flat, frame, values

Channels = list[dict[str, Any]]


def seen(show: CompiledShow, **state: Any) -> list[int]:
    """The colour read back from what is sent, of the first cell."""
    data = frame(show, **state)
    numbers = show.universes.astype(np.uint16)
    read = ColourReader(show.rig).read(SentValues(numbers, np.ones(len(numbers), np.uint8), data))
    return [int(v) for v in to_bytes(read.rgb)[:, 0]]


WIDE: Channels = [channel for one in RGB for channel in (one, {**one, "fine": True})]


def test_sixteen_bits_a_colour() -> None:
    """Coarse x 256 + fine; 8 to 16 bit is x 257 (check values; standards 7.5 [V])."""
    assert values(flat(WIDE, (255, 171, 0)), 6) == [255, 255, 171, 171, 0, 0]


def test_half_of_sixteen_bits_is_128_and_0() -> None:
    assert values(flat(WIDE, (255, 255, 255)), 2, master=0.5) == [128, 0]


def test_fine_channels_may_stand_anywhere() -> None:
    apart = [*RGB, *({**one, "fine": True} for one in RGB)]
    assert values(flat(apart, (255, 0, 171)), 6) == [255, 0, 171, 255, 0, 171]


@settings(max_examples=40, deadline=None)
@given(st.tuples(*[st.integers(0, 255)] * 3), st.floats(0.05, 1))
def test_sixteen_bits_are_read_back(colour: tuple[int, int, int], master: float) -> None:
    show = flat(WIDE, colour)
    expected = [round(v / 255 * master * 255) for v in colour]
    assert all(abs(a - b) <= 1 for a, b in zip(seen(show, master=master), expected, strict=True))


def test_an_inverted_channel_carries_255_less_the_value() -> None:
    turned = [{**one, "invert": True} for one in RGB]
    assert values(flat(turned, (200, 100, 40)), 3) == [55, 155, 215]
    assert seen(flat(turned, (200, 100, 40))) == [200, 100, 40]
    wide = [{**one, "invert": True} for one in WIDE]
    assert values(flat(wide, (200, 0, 0)), 4) == [55, 55, 255, 255]  # 65535 - v


def test_an_inverted_dimmer_is_dark_at_255() -> None:
    lamp = [{"attribute": "Dimmer", "invert": True}, *RGB]
    assert values(flat(lamp, (9, 90, 200)), 4) == [0, 9, 90, 200]
    assert values(flat(lamp, (9, 90, 200)), 4, master=0.0) == [255, 9, 90, 200]
    assert seen(flat(lamp, (9, 90, 200)), master=0.0) == [0, 0, 0]


def test_what_is_held_by_hand_is_what_the_wire_carries() -> None:
    lamp = [{"attribute": "Dimmer", "invert": True}, *RGB]
    show = flat(lamp, (9, 90, 200))
    assert values(show, 2, manual={"f0/1": 0, "f0/2": 77}) == [0, 77]
    assert values(show, 1, manual={"f0/1": 0}, master=0.5) == [255 - 128]  # dimmed by half, then inverted


HUE: Channels = [{"attribute": name} for name in ("Dimmer", "CTC", "HSB_Saturation", "HSB_Hue")]
"""Intensity, temperature, saturation, hue: a lamp segment of 4 channels (check values, no published source)."""


@pytest.mark.parametrize(
    ("colour", "sent"),
    [
        ((255, 0, 0), [255, 0, 255, 0]),
        ((0, 255, 0), [255, 0, 255, 85]),  # 120 of 360 degrees
        ((0, 0, 255), [255, 0, 255, 170]),
        ((102, 153, 204), [204, 0, 128, 149]),  # HSV 210 degrees, 0.5, 0.8 (standards 7.1 [V colorsys])
        ((80, 80, 80), [80, 0, 0, 0]),
        ((0, 0, 0), [0, 0, 0, 0]),
    ],
)
def test_a_lamp_driven_by_intensity_saturation_and_hue(colour: tuple[int, int, int], sent: list[int]) -> None:
    show = flat(HUE, colour)
    assert values(show, 4) == sent
    assert all(abs(a - b) <= 3 for a, b in zip(seen(show), colour, strict=True))


def test_the_masters_dim_its_intensity_only() -> None:
    assert values(flat(HUE, (102, 153, 204)), 4, master=0.5) == [102, 0, 128, 149]
    assert values(flat(HUE, (102, 153, 204)), 4, blackout=True)[0] == 0


@pytest.mark.parametrize(
    ("extra", "sent"),
    [
        # Cool white first, then warm (which has blue at 3200 K and finds none), lime, amber: the most saturated last.
        (["ColorAdd_CW", "ColorAdd_WW"], [186, 73, 0, 18, 0]),
        (["ColorAdd_RY"], [15, 0, 18, 189]),
    ],
)
def test_rarer_emitters_take_their_part(extra: list[str], sent: list[int]) -> None:
    """204, 91, 18 -> 186, 73, 0, 18 (standards 7.2 [V Python]); amber is 255, 123, 0 by the matrix of standards 7.3
    and the encoding of 7.4: it takes 91 / 123 = 74 %, which is 189, and 189 of the red."""
    lamp = [*RGB, *({"attribute": name} for name in extra)]
    found = values(flat(lamp, (204, 91, 18)), len(sent))
    assert all(abs(a - b) <= 1 for a, b in zip(found, sent, strict=True)), found


def test_two_whites_alone_take_the_brightness() -> None:
    lamp = [{"attribute": "ColorAdd_WW"}, {"attribute": "ColorAdd_CW"}]
    assert values(flat(lamp, (100, 100, 100)), 2) == [100, 100]
    assert seen(flat(lamp, (100, 100, 100))) == [100, 100, 100]


DEFAULT = [{"first": 0, "last": 0, "kind": "default", "name": "as stored"}, {"first": 1, "last": 255, "kind": "dim"}]


def test_a_lamp_that_reads_nought_as_its_default_is_never_sent_nought() -> None:
    """Common practice, no published source."""
    lamp = [{**one, "ranges": DEFAULT} for one in RGB]
    assert values(flat(lamp, (0, 128, 0)), 3) == [1, 128, 1]
    assert values(flat(lamp, (255, 255, 255)), 3, blackout=True) == [1, 1, 1]
    dimmer = [{"attribute": "Dimmer", "ranges": DEFAULT}, *RGB]
    assert values(flat(dimmer, (9, 9, 9)), 1, master=0.0) == [1]


def test_what_is_left_alone_is_not_driven() -> None:
    lamp = [{"attribute": "Dimmer", "alone": True, "home": 200}, *RGB]
    show = flat(lamp, (9, 90, 200))
    assert values(show, 4) == [0, 9, 90, 200]  # nobody else drives it yet, so 0
    assert values(show, 4, master=0.5) == [0, 5, 45, 100]  # its cells dim by themselves


def test_a_highlight_value_of_the_profile_is_used() -> None:
    lamp = [{"attribute": "Dimmer"}, {"attribute": "Gobo1", "highlight": 33}, *RGB, {"attribute": "Zoom", "home": 5}]
    show = flat(lamp, (9, 9, 9))
    assert values(show, 6, highlight=frozenset({"f0"})) == [255, 33, 255, 255, 255, 5]
    assert isinstance(PlaybackState(highlight=frozenset({"f0"})), PlaybackState)
