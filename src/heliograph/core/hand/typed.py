"""Values as they are typed by hand: numbers, percentages, degrees, words, and fans of them over what is chosen."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import NamedTuple

from heliograph.core.errors import InputError
from heliograph.core.fanning import along
from heliograph.core.hand.levels import level_bytes
from heliograph.core.hand.values import ModeChannels
from heliograph.core.profiles.attributes import DEGREES
from heliograph.core.profiles.channel import Channel

WORDS = {"full": 1.0, "half": 0.5, "off": 0.0}
FAN = ">"
_NUMBER = re.compile(r"^(-?\d+(?:[.,]\d+)?)\s*(%|°|deg|degrees?|k)?$")


class Place(NamedTuple):
    """One attribute of one cell or shared part: channel `number` (from 1) of a mode, `attribute` where a part of its
    values is meant."""

    mode: ModeChannels
    number: int
    attribute: str = ""

    @property
    def channel(self) -> Channel:
        return self.mode.channels[self.number - 1]


class Point(NamedTuple):
    """What one typed word stands for: a level 0..1, or a value of the channel that its profile has a name for."""

    level: float
    value: int | None = None


def typed_values(text: str, places: Sequence[Place]) -> list[dict[int, int]]:
    """For each place {channel of its mode: byte on the wire}. "10 % > 90 %" goes evenly from the first place to the
    last, "0 > full > 0" there and back. InputError where a word is nothing the channel takes."""
    words = [part.strip().lower() for part in text.split(FAN)]
    known: dict[tuple[int, int, str], list[Point]] = {}
    found = []
    for index, place in enumerate(places):
        key = (id(place.channel), place.mode.fine_of.get(place.number, 0), place.attribute)
        points = known.get(key)
        if points is None:
            points = known[key] = [_point(word, place) for word in words]
            if len(points) > 1 and any(one.value is not None for one in points):
                raise InputError("A fan goes over levels, not over named values.", where="text", repair=takes(place))
        if points[0].value is not None:
            found.append({place.number: points[0].value ^ (255 if place.channel.invert else 0)})
            continue
        first, second, at = along(len(points), index, len(places))
        level = points[first].level + (points[second].level - points[first].level) * at
        found.append(level_bytes(place.mode, place.number, level, place.attribute))
    return found


def _point(word: str, place: Place) -> Point:
    if word in WORDS:
        return Point(WORDS[word])
    named = _named(word, place)
    if named is not None:
        return Point(0.0, named)
    level = _level(word, place)
    if level is None or not 0.0 <= level <= 1.0:
        raise InputError(f"'{word[:40]}' is no value of {place.channel.label}.", where="text", repair=takes(place))
    return Point(level)


def _named(word: str, place: Place) -> int | None:
    """The first value of the range whose name it is, or the only one whose name begins so."""
    names = {one.name.lower(): one.first for one in place.channel.ranges if one.name} if not place.attribute else {}
    if word in names:
        return names[word]
    begins = [first for name, first in names.items() if name.startswith(word)] if word and word.isalpha() else []
    return begins[0] if len(begins) == 1 else None


def _level(word: str, place: Place) -> float | None:
    match = _NUMBER.match(word)
    if match is None:
        return None
    value, unit = float(match[1].replace(",", ".")), match[2]
    if unit == "%":
        return value / 100.0
    if unit:
        physical = None if place.attribute else place.channel.physical
        if physical is None:
            return None
        low, high = physical
        return (value - low) / ((high - low) or 1.0)
    wide = place.mode.fine_of.get(place.number, 0) > 0 and not place.attribute
    return value / (65_535.0 if wide and value > 255.0 else 255.0)


def takes(place: Place) -> str:
    """What may be typed for a place, in words."""
    channel = place.channel
    ways = ["0 to 255", "a percentage", *WORDS]
    if channel.physical and not place.attribute:
        low, high = channel.physical
        unit = "degrees" if channel.attribute in DEGREES else "K"
        ways.append(f"{low:g} to {high:g} {unit} ({low:g}{'°' if unit == 'degrees' else ' K'})")
    named = [one.name for one in channel.ranges if one.name and not place.attribute]
    if named:
        more = f" and {len(named) - 4} more" if len(named) > 4 else ""
        ways.append(f"a name ({', '.join(named[:4])}{more})")
    return f"Type {', '.join(ways[:-1])} or {ways[-1]}; 0 % > 100 % fans."
