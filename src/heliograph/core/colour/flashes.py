"""Flashes of a picture: WCAG 2.2, success criterion 2.3.1 (standards 9). A flash is a pair of opposing changes of
relative luminance by a tenth or more of the largest, the darker below 0.80; a red flash one of saturated red."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.components import LUMINANCE
from heliograph.core.colour.ramps import Floats

CHANGE = np.float32(0.1)
DARKER_BELOW = np.float32(0.8)
RED_SHARE = np.float32(0.8)
RED_CHANGE = np.float32(20.0 / 320.0)
LIMIT = 3
"""So many flashes in a second are allowed."""

AREA = 0.25
"""Flashes count where more than a quarter of the picture flashes together."""

Bools = npt.NDArray[np.bool_]


class Flashing(NamedTuple):
    """`rate`: flashes in the worst second that more than a quarter of the cells have; `cells` of `of` flash more than
    `LIMIT` times then; `red`: it is the rule of saturated red that finds it."""

    rate: int
    cells: int
    of: int
    red: bool = False

    @property
    def too_many(self) -> bool:
        return self.rate > LIMIT


def linear(colour: Floats) -> Floats:
    """sRGB 0..1 to linear light (IEC 61966-2-1)."""
    clipped = np.clip(colour, 0.0, 1.0)
    made: Floats = np.where(
        clipped <= 0.04045, clipped / np.float32(12.92), ((clipped + np.float32(0.055)) / np.float32(1.055)) ** 2.4
    ).astype(np.float32)
    return made


class FlashCounter:
    """Takes one picture (3, n) after another and counts for each cell when it changes there or back."""

    def __init__(self, cells: int) -> None:
        self._general, self._red = _Turns(cells), _Turns(cells)
        self._changed: list[tuple[Bools, Bools]] = []

    def take(self, picture: Floats) -> None:
        red, green, blue = linear(picture)
        light = red * LUMINANCE[0] + green * LUMINANCE[1] + blue * LUMINANCE[2]
        general = self._general.take(light, CHANGE, light < DARKER_BELOW)
        saturated = red >= RED_SHARE * np.maximum(red + green + blue, np.float32(1e-6))
        reds = self._red.take(np.maximum(red - green - blue, np.float32(0.0)), RED_CHANGE, None, saturated)
        self._changed.append((general, reds))

    def found(self, per_second: int) -> Flashing:
        """What the worst second had, of pictures so many a second."""
        of = self._changed[0][0].size if self._changed else 0
        worst = Flashing(0, 0, of)
        if not of:
            return worst
        for kind in (0, 1):
            changes = np.cumsum([pair[kind] for pair in self._changed], axis=0, dtype=np.int32)
            before = np.zeros(of, dtype=np.int32)
            for end in range(len(changes)):
                start = end - per_second
                flashes = (changes[end] - (changes[start] if start >= 0 else before)) // 2
                needed = int(of * AREA) + 1  # more than a quarter
                rate = int(np.partition(flashes, of - needed)[of - needed])
                if rate > worst.rate:
                    worst = Flashing(rate, int((flashes > LIMIT).sum()), of, bool(kind))
        return worst


class _Turns:
    """Each cell's last extreme and the way it went since: a change counts once it is large enough."""

    def __init__(self, cells: int) -> None:
        self._low = np.full(cells, np.inf, dtype=np.float32)
        self._high = np.full(cells, -np.inf, dtype=np.float32)
        self._way = np.zeros(cells, dtype=np.int8)
        self._red_at_extreme = np.zeros(cells, dtype=bool)

    def take(self, now: Floats, change: np.float32, dark: Bools | None, counted: Bools | None = None) -> Bools:
        """(n,) whether a change there or back came about with this value. `dark`: whether the value now may be the
        darker of a pair; `counted`: only where the value now, or the one it comes from, is so."""
        self._high, self._low = np.maximum(self._high, now), np.minimum(self._low, now)
        falls = (self._way >= 0) & (self._high - now >= change)
        rises = (self._way <= 0) & (now - self._low >= change)
        if dark is not None:
            falls &= dark
            rises &= self._low < DARKER_BELOW
        turned = falls | rises
        found = turned
        if counted is not None:
            found = turned & (counted | self._red_at_extreme)
            self._red_at_extreme = np.where(turned, counted, self._red_at_extreme | counted)
        self._way[falls], self._way[rises] = -1, 1
        self._low = np.where(turned, now, self._low)
        self._high = np.where(turned, now, self._high)
        return found
