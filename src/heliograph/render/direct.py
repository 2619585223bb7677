"""Levels of single emitters beside a picture: what lines over one emitter make, mixed by the weights of their looks.

A look's picture says nothing of an emitter by itself; a line over one (amber, white, UV ...) does, after the picture's
colour went onto its emitters. So that a mix of looks is the mix of what each sends alone, two things are kept for such
an emitter: its `level`, and the `rest` of the picture, from which it still takes its part by its colour: that of
looks, and of shares of them, that leave the emitter to the picture.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from heliograph.core.colour.extraction import Recipe, extract, seen_colour
from heliograph.core.colour.ramps import Floats
from heliograph.core.indexes import Index, as_array

if TYPE_CHECKING:
    from heliograph.render.compiled_line import CompiledLine
    from heliograph.render.painting import Painter


@dataclass(frozen=True, slots=True)
class Direct:
    """Of one emitter: `level` (N,) 0..1, `rest` (3, N), and how much of each cell's is said by lines: `cover` (N,)."""

    level: Floats
    rest: Floats
    cover: Floats

    @staticmethod
    def nothing(count: int) -> Direct:
        nought = np.zeros(count, dtype=np.float32)
        return Direct(nought, np.zeros((3, count), dtype=np.float32), nought.copy())

    def clear(self) -> None:
        self.level.fill(0.0)
        self.rest.fill(0.0)
        self.cover.fill(0.0)

    def lay(self, picture: Floats, cover: Floats, own: Painter | None, level: float) -> None:
        """Lays one look onto what lies beneath: its premultiplied `picture` (3, n) of `cover` (n,), and what its lines
        say of the emitter, if any, by `level` 0..1."""
        assert own is None or own.cover is not None
        said = None if own is None else own.cover
        whole = cover if said is None else np.maximum(cover, said)
        left = np.float32(1.0) - whole * np.float32(level)
        kept, stated, rest = self.level, self.cover, self.rest
        for one in (kept, stated, rest):
            np.multiply(one, left, out=one)
        if own is None or said is None:
            rest += picture * np.float32(level)
            return
        kept += own.pixels[0] * np.float32(level)
        stated += said * np.float32(level)
        rest += picture * ((np.float32(1.0) - said) * np.float32(level))


Directs = Mapping[int, Direct]
"""By emitter (a plane of `EMITTER_ATTRIBUTES`)."""


def planes_of(lines: Sequence[CompiledLine]) -> frozenset[int]:
    """The emitters that lines of a look are painted over."""
    return frozenset(one.plane for one in lines if one.plane is not None and one.line.paints_itself)


def put_on(
    recipe: Recipe, cells: Index, rest: Floats, extras: Floats, directs: Directs, levels: Floats | float
) -> None:
    """Replaces what a colour made of the emitters of cells, `rest` (3, n) and `extras` (e, n), where lines say
    something of one. `levels`: masters, (N,) or one for all."""
    for plane, one in directs.items():
        if plane not in recipe.emitters or not (plane < 3 or plane in recipe.extras):
            continue
        at = np.flatnonzero(one.cover[cells] > 0.0)
        if not at.size:
            continue
        where = as_array(cells)[at]
        dims = np.float32(levels) if isinstance(levels, float) else levels[where]
        kept, others = extract(recipe, np.clip(one.rest[:, where], 0.0, 1.0) * dims)
        target, by_colour = (rest, kept) if plane < 3 else (extras, others)
        row = plane if plane < 3 else recipe.extras.index(plane)
        target[row, at] = np.minimum(by_colour[row] + one.level[where] * dims, np.float32(1.0))


def lit(pixels: Floats, directs: Directs) -> Floats:
    """A painted picture (3, n) with the light that its emitters add, as it is seen; `pixels` where there is none."""
    if not directs:
        return pixels
    total = pixels.copy()
    for plane, one in directs.items():
        total += seen_colour(plane)[:, None] * one.level
    return np.minimum(total, np.float32(1.0))


def own_lit(painter: Painter) -> Floats:
    """As `lit`, of one look as its painter has painted it."""
    if not painter.levels:
        return painter.pixels
    total = painter.pixels.copy()
    for plane, one in painter.levels.items():
        total += seen_colour(plane)[:, None] * one.pixels
    return np.minimum(total, np.float32(1.0))
