"""Colours as they are typed: by name, by number, by temperature, and fans of them over what is chosen."""

from __future__ import annotations

import re
from collections.abc import Sequence
from typing import NamedTuple

from heliograph.core.colour.extraction import white_linear
from heliograph.core.errors import InputError
from heliograph.core.fanning import along

Rgb = tuple[float, float, float]
"""Red, green, blue 0..1 as sent."""

NAMES: dict[str, tuple[int, int, int]] = {
    "red": (255, 0, 0),
    "vermilion": (255, 60, 0),
    "orange": (255, 110, 0),
    "amber": (255, 150, 0),
    "gold": (255, 190, 30),
    "yellow": (255, 230, 0),
    "lime": (170, 255, 0),
    "green": (0, 255, 0),
    "mint": (90, 255, 160),
    "teal": (0, 160, 140),
    "turquoise": (0, 225, 200),
    "cyan": (0, 255, 255),
    "sky": (70, 170, 255),
    "blue": (0, 0, 255),
    "indigo": (60, 0, 200),
    "violet": (140, 0, 255),
    "purple": (160, 0, 200),
    "magenta": (255, 0, 255),
    "pink": (255, 90, 170),
    "rose": (255, 40, 100),
    "salmon": (255, 110, 90),
    "white": (255, 255, 255),
    "grey": (128, 128, 128),
    "black": (0, 0, 0),
    "off": (0, 0, 0),
}
"""Our own values for everyday words: [C], no standard gives colours of lamps names."""

WHITES = {"candle": 1900, "warm white": 2700, "neutral white": 4000, "cool white": 6500, "daylight": 5600}
"""In kelvin."""

KELVIN_MIN, KELVIN_MAX = 1667, 25_000
REPAIR = "Type #ffce80, 255 206 128, a word such as amber or warm white, or 3200 K; red > blue fans."
_HEX = re.compile(r"^#?([0-9a-f]{6}|[0-9a-f]{3})$")
_KELVIN = re.compile(r"^(\d+(?:[.,]\d+)?)\s*k$")
_PARTS = re.compile(r"[\s,;]+")
_SHARES = re.compile(r"^" + r"\s*/\s*".join([r"(\d{1,3}(?:\.\d+)?)"] * 3) + r"\s*%$")
"""As it is shown: 80 / 35.7 / 7.1 %."""


class _Point(NamedTuple):
    rgb: Rgb
    kelvin: float | None = None


def typed_colours(text: str, count: int, kelvin: bool = False) -> list[Rgb]:
    """A colour for each of `count` members: "amber" for all, "red > #0000ff" evenly from the first to the last.
    `kelvin`: plain numbers are temperatures. InputError where a word is no colour."""
    points = [_point(part.strip().lower(), kelvin) for part in text.split(">")]
    return [_between(points, index, count) for index in range(count)]


def white_of(kelvin: float) -> Rgb:
    """A white of so many kelvin, its largest part 1 (standards 7.3)."""
    red, green, blue = (_encoded(part) for part in white_linear(round(kelvin)))
    return red, green, blue


def _encoded(light: float) -> float:
    """Linear light as sRGB carries it (standards 7.4)."""
    return float(light * 12.92 if light <= 0.0031308 else 1.055 * light ** (1 / 2.4) - 0.055)


def _point(word: str, kelvin: bool) -> _Point:
    if word in NAMES:
        red, green, blue = NAMES[word]
        return _Point((red / 255, green / 255, blue / 255))
    temperature = WHITES.get(word) or _temperature(word, kelvin)
    if temperature is not None:
        return _Point(white_of(temperature), float(temperature))
    rgb = None if kelvin else _numbers(word)
    if rgb is None:
        repair = "Type 1667 to 25000 K, such as 3200 K; 2700 K > 6500 K fans." if kelvin else REPAIR
        raise InputError(
            f"'{word[:40]}' is no {'colour temperature' if kelvin else 'colour'}.", where="text", repair=repair
        )
    return _Point(rgb)


def _temperature(word: str, kelvin: bool) -> float | None:
    match = _KELVIN.match(word) or (re.match(r"^(\d+(?:[.,]\d+)?)$", word) if kelvin else None)
    if match is None:
        return None
    value = float(match[1].replace(",", "."))
    if not KELVIN_MIN <= value <= KELVIN_MAX:
        raise InputError(f"{value:g} K is outside {KELVIN_MIN} to {KELVIN_MAX} K.", where="text", repair="Type 3200 K.")
    return value


def _numbers(word: str) -> Rgb | None:
    match = _HEX.match(word)
    if match:
        digits = match[1] if len(match[1]) == 6 else "".join(one * 2 for one in match[1])
        red, green, blue = bytes.fromhex(digits)
        return red / 255, green / 255, blue / 255
    shares = _SHARES.match(word)
    if shares:
        values = [float(part) / 100 for part in shares.groups()]
    else:
        parts = _PARTS.split(word)
        if len(parts) != 3 or not all(re.match(r"^\d{1,3}%?$", part) for part in parts):
            return None
        values = [int(part[:-1]) / 100 if part.endswith("%") else int(part) / 255 for part in parts]
    if not all(0.0 <= value <= 1.0 for value in values):
        return None
    return values[0], values[1], values[2]


def _between(points: Sequence[_Point], index: int, count: int) -> Rgb:
    first, second, at = along(len(points), index, count)
    a, b = points[first], points[second]
    if a.kelvin is not None and b.kelvin is not None:
        return white_of(a.kelvin + (b.kelvin - a.kelvin) * at)
    red, green, blue = (x + (y - x) * at for x, y in zip(a.rgb, b.rgb, strict=True))
    return red, green, blue
