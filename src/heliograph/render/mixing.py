"""Looks mixed: each painted as a picture of its own and laid by its level onto what lies beneath, in the order in which
they started. The blends of lines act inside their look.

A look's picture is premultiplied: its colours are painted over black, and its cover says how much of what lies beneath
it hides. So a crossfade never dips, and nothing a look hides shines through it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator, Sequence
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Floats
from heliograph.core.colour.tinting import NO_TINT, Tint, tint
from heliograph.core.look.line import RecolourLine
from heliograph.core.playing.run import Run
from heliograph.render.compiled_line import CompiledLine
from heliograph.render.direct import Direct, planes_of
from heliograph.render.driving import Now
from heliograph.render.layers import Layer, Mask, laid, only_there
from heliograph.render.painting import Painter


class Playing(NamedTuple):
    """One run as it is mixed: its lines, its level 0..1 and the tint of its look at this moment. `group`: it is seen
    only on the fixtures of that one, "" for all. Of what is set of attributes: `home`, fixtures that it says nothing of
    any more; `among`, the only ones that it does, None for all."""

    lines: Sequence[CompiledLine]
    run: Run
    level: float = 1.0
    tint: Tint = NO_TINT
    group: str = ""
    home: frozenset[str] = frozenset()
    among: frozenset[str] | None = None


class CueMixed(NamedTuple):
    """A cue of a list in the mix: its id, its weight 0..1, and the runs of its looks, first beneath."""

    cue: str
    weight: float
    playing: list[Playing]


class ListMixed(NamedTuple):
    """A cue list as it is mixed: the whole pictures of its cues by weights that make one at most; what lacks is clear.
    All of that lies by `level` on what is beneath."""

    list: str
    cues: Sequence[CueMixed]
    level: float = 1.0


Stack = Sequence[Playing | ListMixed]
"""Everything that plays, first beneath."""

Masks = Callable[[str], Mask | None]
"""The places of a group's cells among those that are painted; None where there is no such group."""


def all_playing(stack: Stack) -> Iterator[Playing]:
    """Every run of a stack, those of lists too."""
    for one in stack:
        if isinstance(one, Playing):
            yield one
        else:
            for cue in one.cues:
                yield from cue.playing


def with_lines(stack: Stack, change: Callable[[Sequence[CompiledLine]], Sequence[CompiledLine]]) -> Stack:
    """The same with other lines."""

    def changed(one: Playing) -> Playing:
        return one._replace(lines=change(one.lines))

    return [
        changed(one)
        if isinstance(one, Playing)
        else one._replace(cues=[cue._replace(playing=[changed(each) for each in cue.playing]) for cue in one.cues])
        for one in stack
    ]


class Mixer:
    """Owns only scratch buffers, made when a second look asks for them; call it from one thread."""

    def __init__(self, pixels: Floats) -> None:
        self.pixels = pixels
        self.direct: dict[int, Direct] = {}
        self._bottom = Painter(pixels)
        self._above: Painter | None = None
        self._cue: Layer | None = None
        self._list: Layer | None = None
        self._bare: Painter | None = None

    def mix(self, stack: Stack, now: Now, masks: Masks = lambda _group: None) -> Floats:
        """`pixels` (3, N) anew: what all runs make together. One look at full level costs no more than its lines.
        `direct` then has the emitters that lines are painted over."""
        self.pixels.fill(0.0)
        first = True
        seen = [one for one in stack if one.level > 0.0 and (isinstance(one, ListMixed) or one.lines)]
        self._over_emitters(all_playing(seen))
        for one in seen:
            if isinstance(one, ListMixed):
                self._mixed(one, now, masks, first)
                first = False
                continue
            lines, run, level, tinted, group = one[:5]
            if first and not group and not self.direct and not recolours(lines):
                first = False
                self._bottom.look(lines, run, now)
                tint(self.pixels, tinted)
                if level < 1.0:
                    self.pixels *= np.float32(level)
                continue
            first = False
            above = self._upper()
            above.look(lines, run, now)
            assert above.cover is not None
            tint(above.pixels, tinted)
            _only(above, group, masks)
            for plane, said in self.direct.items():
                said.lay(above.pixels, above.cover, above.levels.get(plane), level)
            laid(self.pixels, above.pixels, above.cover, level)
        return self.pixels

    def _mixed(self, one: ListMixed, now: Now, masks: Masks, first: bool) -> None:
        """Sums the pictures of a list's cues and lays that on what is beneath; `first`: nothing is."""
        cues = [(cue, _pictured(cue)) for cue in one.cues if cue.weight > 0.0]
        if first and not self.direct and all(_is_plain(playing) for _, playing in cues):
            self._summed(cues, now, one.level)
            return
        if self._list is None or self._cue is None:
            self._list, self._cue = Layer(self.pixels.shape[1]), Layer(self.pixels.shape[1])
        self._list.clear(self.direct)
        for cue, shown in cues:
            self._cue.clear(self.direct)
            for playing in shown:
                above = self._upper()
                above.look(playing.lines, playing.run, now)
                tint(above.pixels, playing.tint)
                _only(above, playing.group, masks)
                self._cue.lay(above, playing.level)
            self._list.add(self._cue, cue.weight)
        self._list.onto(self.pixels, self.direct, one.level)

    def _summed(self, cues: Sequence[tuple[CueMixed, Sequence[Playing]]], now: Now, level: float) -> None:
        """The same where each cue has one look and nothing lies beneath: what a cue covers is not asked then, which
        takes off a third (measured)."""
        if self._bare is None:
            self._bare = Painter(np.zeros_like(self.pixels))
        for cue, shown in cues:
            for playing in shown:
                self._bare.clear()
                self._bare.look(playing.lines, playing.run, now)
                tint(self._bare.pixels, playing.tint)
                self._bare.pixels *= np.float32(cue.weight * playing.level * level)
                self.pixels += self._bare.pixels

    def _over_emitters(self, playing: Iterable[Playing]) -> None:
        """Makes ready, clear, what is said of single emitters."""
        planes = frozenset[int]().union(*(planes_of(one.lines) for one in playing))
        for plane in self.direct.keys() - planes:
            del self.direct[plane]
        for plane in planes:
            if plane in self.direct:
                self.direct[plane].clear()
            else:
                self.direct[plane] = Direct.nothing(self.pixels.shape[1])

    def _upper(self) -> Painter:
        """A painter of a picture that is still clear."""
        if self._above is None:
            self._above = Painter(np.zeros_like(self.pixels), np.zeros(self.pixels.shape[1], dtype=np.float32))
        else:
            self._above.clear()
        return self._above


def recolours(lines: Iterable[CompiledLine]) -> bool:
    """Whether a look has to know how much it covers even with nothing beneath it: what recolours leaves the rest
    clear."""
    return any(isinstance(one.line, RecolourLine) and one.line.paints_itself for one in lines)


def _only(look: Painter, group: str, masks: Masks) -> None:
    there = masks(group) if group else None
    if there is not None:
        only_there(look, there)


def _pictured(cue: CueMixed) -> list[Playing]:
    """What of a cue paints anything."""
    return [one for one in cue.playing if one.level > 0.0 and any(each.line.pictured for each in one.lines)]


def _is_plain(playing: Sequence[Playing]) -> bool:
    """Whether a cue's picture is that of one look on all cells, or none."""
    return not playing or (len(playing) == 1 and not playing[0].group and not recolours(playing[0].lines))
