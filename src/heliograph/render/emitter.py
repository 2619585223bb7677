"""From painted cells to channel values: masters, emitters, dimmers, response, then the stages of power."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

import numpy as np

from heliograph.core.colour.dimming import dimmer_values
from heliograph.core.colour.extraction import HUE, SATURATION, extract
from heliograph.core.colour.ramps import Floats
from heliograph.core.colour.response import respond
from heliograph.core.hand.parking import NOTHING_PARKED, Parked
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import PlaybackState
from heliograph.core.rig.arrays import Rig
from heliograph.power.levels import fixture_levels
from heliograph.power.order import set_by_lines, stages_of
from heliograph.power.settings import Told, ToldMix
from heliograph.power.stage import Bytes, Grounds, Ints
from heliograph.render.direct import Directs, put_on
from heliograph.render.emission import Emission

NOTHING_DIRECT: Directs = {}


class Emitter:
    """Fills the universes of one show; owns only buffers. `scaled` (3, N): after masters, what emitters get."""

    def __init__(
        self, rig: Rig, emission: Emission, groups: Mapping[str, Ints], parked: Parked = NOTHING_PARKED
    ) -> None:
        self.emission, self._rig, self._groups = emission, rig, groups
        self.stages = stages_of(Grounds(rig, emission, groups, parked))
        self._set_by_lines = set_by_lines(self.stages)
        self.universes = np.zeros((emission.universes.size, SLOTS), dtype=np.uint8)
        self._scaled = np.zeros((3, rig.cell_count), dtype=np.float32)
        self._values = np.zeros(emission.size, dtype=np.uint8)
        self._values[emission.constants_at :] = np.arange(256, dtype=np.uint8)
        self._levels_of: tuple[Any, ...] = ()
        self._cell_levels: Floats | float = 1.0

    def emit(
        self,
        pixels: Floats,
        state: PlaybackState,
        before: str = "",
        direct: Directs = NOTHING_DIRECT,
        told: Sequence[Told | ToldMix] = (),
    ) -> Bytes:
        """(U, 512) for painted `pixels` (3, N), what lines say of single emitters, and what they set of attributes.
        `before`: a stage; what it and those above it do is left out."""
        self._set_by_lines.told = told
        self._set_levels(state)
        emission, scaled = self.emission, self._scaled
        alone = state.walk is not None and state.walk.alone
        if alone:
            scaled.fill(0.0)
        else:
            np.clip(pixels, 0.0, 1.0, out=scaled)
        if not isinstance(self._cell_levels, float):
            scaled *= self._cell_levels
        if alone:
            direct = NOTHING_DIRECT
        if direct:
            self._plain(direct)
        self._beside(direct)
        for group in emission.groups:
            rest, extras = extract(group.colour.recipe, scaled[:, group.cells])
            if direct:
                put_on(group.colour.recipe, group.cells, rest, extras, direct, self._dims)
            lit = respond(group.colour.response, rest)
            for plane in range(3):
                if plane in group.fines:
                    lit[plane] = self._split(lit[plane], group.fines[plane])
            scaled[:, group.cells] = lit
            for emitter, span, levels in zip(group.colour.recipe.extras, group.extras, extras, strict=True):
                if emitter not in (HUE, SATURATION):
                    levels = respond(group.colour.response, levels)
                if emitter in group.fines:
                    levels = self._split(levels, group.fines[emitter])
                self._values[span] = levels * np.float32(255.0) + np.float32(0.5)
        scaled *= np.float32(255.0 * (self._cell_levels if isinstance(self._cell_levels, float) else 1.0))
        scaled += np.float32(0.5)
        np.copyto(self._values[1 : 1 + scaled.size], scaled.reshape(-1), casting="unsafe")
        flat = self.universes.reshape(-1)
        np.take(self._values, emission.source, out=flat, mode="clip")
        for stage in self.stages:
            if stage.name == before:
                break
            stage.apply(flat, state)
        return self.universes

    @property
    def _dims(self) -> Floats | float:
        """Masters as far as they are in what is scaled: one for all comes last."""
        return 1.0 if isinstance(self._cell_levels, float) else self._cell_levels

    def _plain(self, direct: Directs) -> None:
        """Single emitters of lamps whose colour is simply sent."""
        for group in self._rig.colours:
            if group.is_identity:
                part = self._scaled[:, group.cells]
                put_on(group.recipe, group.cells, part, part, direct, self._dims)
                self._scaled[:, group.cells] = part

    def _beside(self, direct: Directs) -> None:
        """Emitters that no colour drives: at home, but for what lines say of them."""
        for beside in self.emission.beside:
            one = direct.get(beside.plane)
            if one is None:
                self._values[beside.span] = beside.home
                continue
            dims = self._cell_levels if isinstance(self._cell_levels, float) else self._cell_levels[beside.cells]
            level = beside.home / np.float32(255.0) * (np.float32(1.0) - np.minimum(one.cover[beside.cells], 1.0))
            level += np.clip(one.level[beside.cells], 0.0, 1.0) * dims
            self._values[beside.span] = np.minimum(level, 1.0) * np.float32(255.0) + np.float32(0.5)

    def _split(self, levels: Floats, fine: slice) -> Floats:
        """Writes the low bytes of 16-bit values, and returns the levels that 8 bits make of the high ones."""
        wide = (levels * np.float32(65535.0) + np.float32(0.5)).astype(np.uint16)
        self._values[fine] = wide & 255
        return (wide >> 8).astype(np.float32) / np.float32(255.0)

    def _set_levels(self, state: PlaybackState) -> None:
        """Levels of cells and values of dimmers, made anew only when a master moved."""
        dark = state.walk is not None and state.walk.alone
        key = (state.master, dark, state.masters)
        if key == self._levels_of:
            return
        self._levels_of = key
        emission, dimmers = self.emission, self._rig.dimmers
        levels = fixture_levels(self._rig, self._groups, state)
        if dark:
            levels[:] = 0.0
        cells = levels[self._rig.fixture_of]
        if not emission.virtual.all():  # a real dimmer takes the level, its colours stay; a walk alone takes both
            cells = np.where(emission.virtual, cells, np.float32(0.0 if dark else 1.0))
        alike = emission.groups == () and (not cells.size or bool((cells == cells[0]).all()))
        self._cell_levels = float(cells[0]) if alike and cells.size else 1.0 if not cells.size else cells
        own = np.where(dimmers.inner, np.float32(0.0 if dark else 1.0), levels[dimmers.fixture])
        at = emission.dimmers_at
        for drive, which in dimmers.drives:
            values = dimmer_values(drive, own[which])
            self._values[at + which] = values >> 8
            self._values[at + dimmers.count + which] = values & 255

    def guard(self, flat: Bytes, state: PlaybackState) -> None:
        """The last stage alone, on universes that were rendered before. `flat` (U*512,)."""
        self.stages[-1].apply(flat, state)
