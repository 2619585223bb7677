"""Tint: a picture drawn towards one hue. Its light stays: the strongest part of a colour (the value of HSV) is kept."""

from __future__ import annotations

import colorsys
from dataclasses import dataclass

import numpy as np

from heliograph.core.colour.ramps import Floats
from heliograph.core.errors import InputError


@dataclass(frozen=True, slots=True)
class Tint:
    """`hue` in degrees 0..360; `amount` 0..1: 0 changes nothing, 1 leaves nothing but the hue."""

    hue: float = 0.0
    amount: float = 0.0

    def __post_init__(self) -> None:
        if not 0.0 <= self.hue <= 360.0:
            raise InputError(f"A hue of {self.hue:g} degrees is outside 0 to 360.", where="hue")
        if not 0.0 <= self.amount <= 1.0:
            raise InputError(f"A tint of {self.amount * 100:g} % is outside 0 to 100 %.", where="amount")

    @property
    def colour(self) -> tuple[float, float, float]:
        """The hue at its full, RGB 0..1."""
        return colorsys.hsv_to_rgb(self.hue % 360.0 / 360.0, 1.0, 1.0)


NO_TINT = Tint()


def tint(pixels: Floats, by: Tint) -> None:
    """Tints planes (3, n) in place: colour + (hue x strongest part - colour) x amount. Premultiplied ones too, since
    what is half covered is half as strong."""
    if by.amount <= 0.0 or not pixels.size:
        return
    strongest = pixels.max(axis=0) * np.float32(by.amount)
    pixels *= np.float32(1.0 - by.amount)
    for plane, part in zip(pixels, by.colour, strict=True):
        plane += strongest * np.float32(part)
