"""A level 0..1 of one attribute as the bytes a hand sets, and the way back: which values stand for which levels.

An attribute is a channel with its fine one, or a part of a channel's values that does something else than the channel
is named for (a strobe on a dimmer's upper half).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from heliograph.core.colour.dimming import DimmerDrive, exact_value
from heliograph.core.errors import InputError
from heliograph.core.hand.values import INTENSITIES, ModeChannels
from heliograph.core.profiles.channel import Channel, ValueRange

LIT = ("open", "strobe")


@dataclass(frozen=True, slots=True)
class Way:
    """Values `first`..`last` on the wire stand for levels from `low` at the first to `high` at the last. Of a 16-bit
    channel the values are coarse x 256 + fine."""

    first: int
    last: int
    low: float
    high: float


def parts_of(channel: Channel) -> list[ValueRange]:
    """What else the channel does: ranges of another attribute that can be set to more than one value."""
    return [one for one in channel.ranges if one.attribute not in ("", channel.attribute) and one.last > one.first]


def ways_of(channel: Channel, wide: bool, part: ValueRange | None = None) -> list[Way]:
    """In the order of its values as they are before they are inverted."""
    most, turned = (65_535, channel.invert) if wide else (255, channel.invert)
    if part is not None:
        ways = [Way(part.first, part.last, 0.0, 1.0)]
    elif channel.attribute not in INTENSITIES or not any(one.kind == "dim" for one in channel.ranges):
        ways = [Way(0, most, 0.0, 1.0)]
    else:
        ways = [_range_way(one, wide) for one in channel.ranges]
    return [Way(most - one.last, most - one.first, one.high, one.low) if turned else one for one in ways]


def _range_way(one: ValueRange, wide: bool) -> Way:
    if one.kind == "dim":
        return Way(one.first * 257, one.last * 257, 0.0, 1.0) if wide else Way(one.first, one.last, 0.0, 1.0)
    level = 1.0 if one.kind in LIT else 0.0
    return Way(one.first << 8, one.last << 8 | 255, level, level) if wide else Way(one.first, one.last, level, level)


def level_of(mode: ModeChannels, number: int, values: Mapping[int, int]) -> float:
    """The level 0..1 that bytes on the wire stand for, `values` by channel of the mode; 0 where they stand for none."""
    channel, fine = mode.channels[number - 1], mode.fine_of.get(number, 0)
    value = values[number] * 256 + values[fine] if fine else values[number]
    way = next((one for one in ways_of(channel, fine > 0) if one.first <= value <= one.last), None)
    if way is None:
        return 0.0
    if way.last == way.first:
        return way.high
    return way.low + (value - way.first) / (way.last - way.first) * (way.high - way.low)


def level_bytes(mode: ModeChannels, number: int, level: float, attribute: str = "") -> dict[int, int]:
    """{channel of the mode from 1: byte on the wire} for the attribute of channel `number` at `level` 0..1.

    `attribute`: the part of its values that is meant, "" for what the channel is named for. InputError where there is
    none.
    """
    if not 1 <= number <= len(mode.channels):
        raise InputError(f"The mode has {len(mode.channels)} channels, and no channel {number}.", where="levels")
    if not 0.0 <= level <= 1.0:
        raise InputError(f"A level of {level * 100:g} % is outside 0 to 100 %.", where="levels")
    channel = mode.channels[number - 1]
    turned = 255 if channel.invert else 0
    if attribute and attribute != channel.attribute:
        part = next((one for one in parts_of(channel) if one.attribute == attribute), None)
        if part is None:
            raise InputError(f"{channel.label} has no values for {attribute}.", where="levels")
        return {number: int(part.first + level * (part.last - part.first) + 0.5) ^ turned}
    fine = mode.fine_of.get(number, 0)
    ranges = channel.ranges if channel.attribute in INTENSITIES else ()
    both = exact_value(DimmerDrive(ranges, fine > 0), level)
    found = {number: both >> 8 ^ turned}
    if fine:
        found[fine] = both & 255 ^ turned
    return found
