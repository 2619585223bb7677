"""One frame: running looks painted on the cells, then turned into channel values.

`Renderer` owns only scratch buffers; what it returns depends on its arguments alone. The buffers it
returns are overwritten by the next frame.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Floats
from heliograph.core.colour.tinting import tint
from heliograph.core.indexes import Index, as_slice
from heliograph.core.playing.state import PlaybackState
from heliograph.power.settings import Told, ToldMix
from heliograph.power.stage import Stage
from heliograph.render.compiled import CompiledShow
from heliograph.render.direct import Directs
from heliograph.render.driving import now_of
from heliograph.render.emitter import Emitter
from heliograph.render.layers import Mask
from heliograph.render.mixing import Mixer
from heliograph.render.resolving import Resolver
from heliograph.render.setting import told_of

Bytes = npt.NDArray[np.uint8]


class Painted(NamedTuple):
    """`pixels` (3, N) float32 planes, what lines say of single emitters beside them, and what attributes they set."""

    pixels: Floats
    direct: Directs
    told: Sequence[Told | ToldMix] = ()


class Renderer:
    """Renders frames of any compiled show; call it from one thread."""

    def __init__(self) -> None:
        self._show: CompiledShow | None = None
        self._mixer = Mixer(np.zeros((3, 0), dtype=np.float32))
        self._emitter: Emitter | None = None
        self._resolver = Resolver()
        self._group_cells: dict[str, Index] = {}

    def render(
        self, show: CompiledShow, state: PlaybackState, time_ns: int, before: str = "", steady_ns: int = 0
    ) -> Bytes:
        """(U, 512) uint8 for the show's universes at `time_ns`. `before`: a stage of power; what it and those above it
        do is left out. `steady_ns`: the moment of the steady clock whose live pictures are shown, 0 for now."""
        emitter = self._fit(show)
        painted = self.paint(show, state, time_ns, steady_ns)
        return emitter.emit(painted.pixels, state, before, painted.direct, painted.told)

    def stages(self, show: CompiledShow) -> tuple[Stage, ...]:
        """The order of power for the show, to be asked what each does to one channel."""
        return self._fit(show).stages

    def guard(self, universes: Bytes, show: CompiledShow, state: PlaybackState) -> None:
        """Makes guarded fixtures safe in universes (U, 512) that were rendered before, for example a frame that is sent
        again because the next one failed."""
        self._fit(show).guard(universes.reshape(-1), state)

    def paint(self, show: CompiledShow, state: PlaybackState, time_ns: int, steady_ns: int = 0) -> Painted:
        """What the running looks paint on the cells, before masters."""
        self._fit(show)
        painting = state.painting(time_ns)
        stack, now = self._resolver.stack(show, painting), now_of(painting, steady_ns)
        pixels = self._mixer.mix(stack, now, lambda group: self._mask_of(show, group))
        direct = self._mixer.direct
        for picture in (pixels, *(one.rest for one in direct.values())):
            tint(picture, painting.tint)
            for group, tinted in painting.group_tints.items():
                cells = self._cells_of(show, group)
                if cells is not None and tinted.amount > 0.0:
                    part = picture[:, cells]
                    tint(part, tinted)
                    picture[:, cells] = part
        return Painted(pixels, direct, told_of(stack, now, show.groups, show.rig))

    def _mask_of(self, show: CompiledShow, group: str) -> Mask | None:
        """The cells of a group's fixtures among all."""
        cells = self._cells_of(show, group)
        if cells is None:
            return None
        there = np.zeros(show.rig.cell_count, dtype=np.bool_)
        there[cells] = True
        return there

    def _cells_of(self, show: CompiledShow, group: str) -> Index | None:
        """The cells of a group's fixtures; None where there is no such group."""
        if group not in show.groups:
            return None
        if group not in self._group_cells:
            self._group_cells[group] = cells_of_group(show, group)
        return self._group_cells[group]

    def _fit(self, show: CompiledShow) -> Emitter:
        old = self._show
        if old is None or show.rig is not old.rig:
            self._mixer = Mixer(np.zeros((3, show.rig.cell_count), dtype=np.float32))
        if (
            self._emitter is None
            or old is None
            or show.emission is not old.emission
            or show.rig is not old.rig
            or show.groups is not old.groups
            or show.parked is not old.parked
        ):
            self._emitter = Emitter(show.rig, show.emission, show.groups, show.parked)
            self._group_cells.clear()
        self._show = show
        return self._emitter


def cells_of_group(show: CompiledShow, group: str) -> Index:
    """The places of all cells of a group's fixtures."""
    return as_slice(np.flatnonzero(np.isin(show.rig.fixture_of, show.groups[group])))
