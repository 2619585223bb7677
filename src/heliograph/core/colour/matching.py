"""Colours that go with one: turns of the hue circle, as light and as full as it is.

Which turns go together is common practice, no source; the circle is that of hue, saturation and value.
"""

from __future__ import annotations

import colorsys
from typing import NamedTuple

Bytes3 = tuple[int, int, int]

TURNS = (
    ("opposite", (180,)),
    ("two beside the opposite", (150, 210)),
    ("thirds", (120, 240)),
    ("neighbours", (-30, 30)),
)
"""Degrees round the circle."""


class Matching(NamedTuple):
    word: str
    colours: tuple[Bytes3, ...]


def colours_with(rgb: Bytes3) -> list[Matching]:
    """What goes with a colour 0..255; nothing goes with a grey, which has no hue."""
    hue, saturation, value = colorsys.rgb_to_hsv(*(part / 255 for part in rgb))
    if saturation < 0.02 or value < 0.02:
        return []
    return [
        Matching(word, tuple(_turned(hue, degrees, saturation, value) for degrees in turns)) for word, turns in TURNS
    ]


def _turned(hue: float, degrees: float, saturation: float, value: float) -> Bytes3:
    red, green, blue = colorsys.hsv_to_rgb((hue + degrees / 360) % 1.0, saturation, value)
    return int(red * 255 + 0.5), int(green * 255 + 0.5), int(blue * 255 + 0.5)
