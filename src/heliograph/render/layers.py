"""Pictures with their cover, and what they say of single emitters, laid on one another and summed by weights: what a
cue list is mixed from."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Floats
from heliograph.render.direct import Direct
from heliograph.render.painting import Painter

Mask = npt.NDArray[np.bool_]


class Layer:
    """A premultiplied picture `pixels` (3, N) of `cover` (N,), with `direct`: what is said of emitters, and by how much
    that leaves what lies beneath: `whole` (N,) of each. Owns its buffers."""

    def __init__(self, count: int) -> None:
        self.pixels: Floats = np.zeros((3, count), dtype=np.float32)
        self.cover: Floats = np.zeros(count, dtype=np.float32)
        self.direct: dict[int, Direct] = {}
        self.whole: dict[int, Floats] = {}

    def clear(self, planes: Iterable[int]) -> None:
        self.pixels.fill(0.0)
        self.cover.fill(0.0)
        wanted = frozenset(planes)
        for plane in self.direct.keys() - wanted:
            del self.direct[plane], self.whole[plane]
        for plane in wanted:
            if plane in self.direct:
                self.direct[plane].clear()
                self.whole[plane].fill(0.0)
            else:
                self.direct[plane] = Direct.nothing(self.cover.size)
                self.whole[plane] = np.zeros_like(self.cover)

    def lay(self, look: Painter, level: float) -> None:
        """Lays the picture of one look on it, by its level 0..1. What the look painted is spent by it."""
        assert look.cover is not None
        for plane, one in self.direct.items():
            own = look.levels.get(plane)
            one.lay(look.pixels, look.cover, own, level)
            said = look.cover if own is None or own.cover is None else np.maximum(look.cover, own.cover)
            whole = self.whole[plane]
            whole += (np.float32(1.0) - whole) * said * np.float32(level)
        laid(self.pixels, look.pixels, look.cover, level, self.cover)

    def add(self, other: Layer, weight: float) -> None:
        """Adds another by its weight: those of all that are added make one at most."""
        share = np.float32(weight)
        self.pixels += other.pixels * share
        self.cover += other.cover * share
        for plane, one in self.direct.items():
            more = other.direct[plane]
            for mine, its in ((one.level, more.level), (one.rest, more.rest), (one.cover, more.cover)):
                mine += its * share
            self.whole[plane] += other.whole[plane] * share

    def onto(self, pixels: Floats, direct: dict[int, Direct], level: float) -> None:
        """Lays the sum onto what lies beneath: `pixels` (3, N), and what is said there of emitters. It is spent."""
        share = np.float32(level)
        for plane, one in self.direct.items():
            left = np.float32(1.0) - self.whole[plane] * share
            beneath = direct[plane]
            for under, own in ((beneath.level, one.level), (beneath.cover, one.cover), (beneath.rest, one.rest)):
                under *= left
                under += own * share
        laid(pixels, self.pixels, self.cover, level)


def laid(under: Floats, picture: Floats, cover: Floats, level: float, under_cover: Floats | None = None) -> None:
    """Lays a premultiplied `picture` (3, n) of `cover` (n,) onto `under` (3, n), by `level` 0..1. `under_cover` (n,):
    how much `under` covers itself, brought up to date. `picture` and `cover` are spent by it."""
    if level < 1.0:
        cover *= np.float32(level)
        picture *= np.float32(level)
    if under_cover is not None:
        under_cover += (np.float32(1.0) - under_cover) * cover
    np.subtract(np.float32(1.0), cover, out=cover)
    under *= cover
    under += picture


def only_there(look: Painter, there: Mask) -> None:
    """Leaves of what a look painted only the cells that are marked."""
    gone = ~there
    look.pixels[:, gone] = 0.0
    if look.cover is not None:
        look.cover[gone] = 0.0
    for one in look.levels.values():
        only_there(one, there)
