"""Looks mixed: each painted as a picture of its own and laid by its level onto what lies beneath, in the order in which
they started. The blends of lines act inside their look.

A look's picture is premultiplied: its colours are painted over black, and its cover says how much of what lies beneath
it hides. So a crossfade never dips, and nothing a look hides shines through it.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Floats
from heliograph.core.colour.tinting import NO_TINT, Tint, tint
from heliograph.core.playing.run import Run
from heliograph.render.compiled import CompiledLine
from heliograph.render.painting import Painter


class Playing(NamedTuple):
    """One run as it is mixed: its lines, its level 0..1 and the tint of its look at this moment."""

    lines: Sequence[CompiledLine]
    run: Run
    level: float = 1.0
    tint: Tint = NO_TINT


class Mixer:
    """Owns only scratch buffers, made when a second look asks for them; call it from one thread."""

    def __init__(self, pixels: Floats) -> None:
        self.pixels = pixels
        self._bottom = Painter(pixels)
        self._above: Painter | None = None

    def mix(self, playing: Iterable[Playing], time_ns: int, beat: float) -> Floats:
        """`pixels` (3, N) anew: what all runs make together. One look at full level costs no more than its lines."""
        self.pixels.fill(0.0)
        first = True
        for lines, run, level, tinted in playing:
            if not lines or level <= 0.0:
                continue
            if first:
                first = False
                self._bottom.look(lines, run, time_ns, beat)
                tint(self.pixels, tinted)
                if level < 1.0:
                    self.pixels *= np.float32(level)
                continue
            above = self._upper()
            above.look(lines, run, time_ns, beat)
            assert above.cover is not None
            tint(above.pixels, tinted)
            laid(self.pixels, above.pixels, above.cover, level)
        return self.pixels

    def _upper(self) -> Painter:
        """A painter of a picture that is still clear."""
        if self._above is None:
            self._above = Painter(np.zeros_like(self.pixels), np.zeros(self.pixels.shape[1], dtype=np.float32))
        else:
            assert self._above.cover is not None
            self._above.pixels.fill(0.0)
            self._above.cover.fill(0.0)
        return self._above


def laid(under: Floats, picture: Floats, cover: Floats, level: float) -> None:
    """Lays a premultiplied `picture` (3, n) of `cover` (n,) onto `under` (3, n), by `level` 0..1. `picture` and `cover`
    are spent by it."""
    if level < 1.0:
        cover *= np.float32(level)
        picture *= np.float32(level)
    np.subtract(np.float32(1.0), cover, out=cover)
    under *= cover
    under += picture
