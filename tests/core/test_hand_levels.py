"""Levels by hand as bytes, and back: against arithmetic written down here (common practice, no published source)."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.hand.levels import Way, level_bytes, ways_of
from heliograph.core.hand.values import channels_of
from heliograph.core.profiles.channel import Channel, ValueRange
from heliograph.core.profiles.profile import Block, Mode

DIMMING = (
    ValueRange(0, 7, "closed"),
    ValueRange(8, 134, "dim"),
    ValueRange(135, 239, "strobe", "flash", "Shutter1Strobe"),
    ValueRange(240, 255, "open"),
)


def mode(*channels: Channel) -> Mode:
    return Mode("m", (Block("b", channels, 0, ()),))


def set_to(level: float, *channels: Channel, attribute: str = "") -> list[int]:
    """The bytes of the first channel and, where it has one, of its fine channel."""
    return list(level_bytes(channels_of(mode(*channels)), 1, level, attribute).values())


@pytest.mark.parametrize(
    ("channels", "level", "values"),
    [
        ((Channel("Pan"),), 0.5, [128]),
        ((Channel("Pan"), Channel("Pan", fine=True)), 0.5, [128, 0]),  # 32,768 of 65,535
        ((Channel("Pan", invert=True),), 0.2, [204]),
        ((Channel("Dimmer", ranges=DIMMING),), 0.0, [0]),
        ((Channel("Dimmer", ranges=DIMMING),), 0.5, [71]),
        ((Channel("Dimmer", ranges=DIMMING),), 1.0, [255]),
        # 16 bit: (8 + 0.5 x 126) x 257 = 18,247 is 71, 71; not 128, which flashes
        ((Channel("Dimmer", ranges=DIMMING), Channel("Dimmer", fine=True)), 0.5, [71, 71]),
        ((Channel("Dimmer", ranges=DIMMING), Channel("Dimmer", fine=True)), 1.0, [255, 255]),
        ((Channel("Dimmer", ranges=DIMMING, invert=True), Channel("Dimmer", fine=True)), 0.5, [184, 184]),
        ((Channel("ColorAdd_R"), Channel("ColorAdd_R", fine=True)), 1 / 65_535, [0, 1]),  # to the last bit
    ],
)
def test_a_level_is_these_bytes(channels: tuple[Channel, ...], level: float, values: list[int]) -> None:
    assert set_to(level, *channels) == values


def test_a_part_of_the_values_is_set_within_itself() -> None:
    dimmer = Channel("Dimmer", ranges=DIMMING)
    assert [set_to(level, dimmer, attribute="Shutter1Strobe") for level in (0.0, 0.5, 1.0)] == [[135], [187], [239]]
    assert ways_of(dimmer, False, DIMMING[2]) == [Way(135, 239, 0.0, 1.0)]


@given(
    st.floats(0, 1),
    st.booleans(),
    st.booleans(),
    st.sampled_from(["Pan", "Dimmer", "ColorAdd_R"]),
    st.sampled_from([(), DIMMING]),
)
def test_what_is_set_is_read_back(
    level: float, wide: bool, invert: bool, attribute: str, ranges: tuple[ValueRange, ...]
) -> None:
    channel = Channel(attribute, ranges=ranges, invert=invert)
    channels = (channel, Channel(attribute, fine=True)) if wide else (channel,)
    values = set_to(level, *channels)
    value = values[0] * 256 + values[1] if wide else values[0]
    [way] = [one for one in ways_of(channel, wide) if one.first <= value <= one.last]
    read = way.low + (value - way.first) / (way.last - way.first) * (way.high - way.low)
    assert read == pytest.approx(level, abs=1 / 126 if ranges else 1 / 255)


@pytest.mark.parametrize(
    ("number", "level", "attribute", "says"),
    [
        (0, 0.5, "", "no channel 0"),
        (9, 0.5, "", "The mode has 1 channels, and no channel 9"),
        (1, 1.5, "", "150 % is outside"),
        (1, 0.5, "Gobo1", "pan has no values for Gobo1"),
    ],
)
def test_what_cannot_be_set(number: int, level: float, attribute: str, says: str) -> None:
    with pytest.raises(InputError, match=says):
        level_bytes(channels_of(mode(Channel("Pan"))), number, level, attribute)
