"""Many colours moved at once by hand: each keeps what is its own.

Brightness scales all by one factor, so that the brightest comes to where the hand is; hue and saturation are set to
where the hand is and leave the light of each as it was.
"""

from __future__ import annotations

import colorsys
from collections.abc import Sequence
from typing import Literal

from heliograph.core.errors import InputError

Rgb = tuple[float, float, float]
"""Red, green, blue 0..1."""

What = Literal["hue", "saturation", "brightness"]


def coloured(colours: Sequence[Rgb], what: What, to: float) -> list[Rgb]:
    """The colours once one of their three is moved; `to` 0..1, of hue a whole turn. Where all are dark, brightness
    makes them white, and hue and saturation make them lit in full: otherwise nothing would show."""
    if not 0.0 <= to <= 1.0:
        raise InputError(f"{to * 100:g} % is outside 0 to 100 %.", where=what)
    brightest = max((max(one) for one in colours), default=0.0)
    if what == "brightness":
        if brightest <= 0.0:
            return [(to, to, to)] * len(colours)
        return [tuple(part * to / brightest for part in one) for one in colours]  # type: ignore[misc]  # three parts
    found = []
    for one in colours:
        hue, saturation, value = colorsys.rgb_to_hsv(*one)
        value = value if brightest > 0.0 else 1.0
        if what == "hue":
            found.append(colorsys.hsv_to_rgb(to, saturation or 1.0, value))
        else:
            found.append(colorsys.hsv_to_rgb(hue, to, value))
    return found
