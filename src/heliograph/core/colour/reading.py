"""From sent channel values back to colours: through the response, the emitters and the dimmers."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import dimmer_levels
from heliograph.core.colour.extraction import HUE, SATURATION, recombine
from heliograph.core.colour.ramps import Floats
from heliograph.core.colour.response import asked_of
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.rig.arrays import Rig

Bytes = npt.NDArray[np.uint8]
Ints = npt.NDArray[np.int64]
Flags = npt.NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class SentValues:
    """The values of one frame: `universes` (U,) show numbers, sorted; `sent` (U,) packets that left;
    `data` (U, 512)."""

    universes: npt.NDArray[np.uint16]
    sent: Bytes
    data: Bytes


@dataclass(frozen=True, slots=True)
class CellColours:
    """`rgb` (3, N) 0..1: the colour each cell shows. `whole`, `some` (N,): all, or any, of its channels were sent."""

    rgb: Floats
    whole: Flags
    some: Flags


class _Lookup:
    """Where channels lie in the data of a frame with these universes; -1 in `positions` is nowhere."""

    def __init__(self, positions: Ints, universes: npt.NDArray[np.uint16], inverted: Ints) -> None:
        universe = positions // SLOTS + 1
        row = np.minimum(np.searchsorted(universes, universe), max(len(universes) - 1, 0))
        self.there = (positions >= 0) & (universes[row] == universe) if len(universes) else positions < -1
        self.row = np.where(self.there, row, 0)
        self.flat = np.where(self.there, row * SLOTS + positions % SLOTS, 0)
        self._turned = np.isin(positions, inverted) if inverted.size else None

    def read(self, values: SentValues) -> tuple[Bytes, Flags]:
        """Values, 0 where nothing was sent; and whether each was sent."""
        if not len(values.universes):
            return np.zeros(self.flat.shape, dtype=np.uint8), self.there
        known = self.there & (values.sent > 0)[self.row]
        found = values.data.reshape(-1)[self.flat]
        if self._turned is not None:
            found = np.where(self._turned, 255 - found, found)
        return found * known, known


class ColourReader:
    """Reads frames of one rig; the lookups are made anew only when the universes change."""

    def __init__(self, rig: Rig) -> None:
        self._rig = rig
        there = np.flatnonzero((rig.emitters >= 0).any(axis=0))
        used = max(int(there[-1]) + 1 if there.size else 0, 3)
        self._emitters = np.ascontiguousarray(rig.emitters[:, :used].T)
        self._fines = np.ascontiguousarray(rig.fines[:, :used].T) if (rig.fines >= 0).any() else None
        self._absent = self._emitters < 0
        self._has = ~self._absent.all(axis=0)
        self._universes: npt.NDArray[np.uint16] | None = None

    def read(self, values: SentValues) -> CellColours:
        """For a plain RGB lamp with the response "as is" its colour is the bytes themselves over 255."""
        rig = self._rig
        if self._universes is None or not np.array_equal(self._universes, values.universes):
            self._look_up(values.universes.copy())
        raw, known = self._at.read(values)
        levels = raw.astype(np.float32)
        levels *= np.float32(1 / 255)
        if self._fines is not None:
            low = self._low.read(values)[0]
            wide = (raw.astype(np.float32) * 256 + low) / np.float32(65535.0)
            levels = np.where(self._fines >= 0, wide, levels)
        colours = levels[:3]
        for group in rig.colours:
            if group.is_identity:
                continue
            rgb = asked_of(group.response, levels[:3, group.cells])
            extras = [
                levels[emitter, group.cells]
                if emitter in (HUE, SATURATION)
                else asked_of(group.response, levels[emitter, group.cells])
                for emitter in group.recipe.extras
            ]
            stacked = np.stack(extras) if extras else np.empty((0, group.cells.size), dtype=np.float32)
            colours[:, group.cells] = recombine(group.recipe, rgb, stacked)
        if rig.dimmers.count:
            colours *= self._dimmed(values)
        whole = np.asarray((known | self._absent).all(axis=0) & self._has)
        return CellColours(colours, whole, np.asarray(known.any(axis=0)))

    def _look_up(self, universes: npt.NDArray[np.uint16]) -> None:
        rig, self._universes = self._rig, universes
        self._at = _Lookup(self._emitters, universes, rig.inverted)
        self._coarse = _Lookup(rig.dimmers.coarse, universes, rig.inverted)
        self._fine = _Lookup(rig.dimmers.fine, universes, rig.inverted)
        if self._fines is not None:
            self._low = _Lookup(self._fines, universes, rig.inverted)

    def _dimmed(self, values: SentValues) -> Floats:
        """(N,) the level the real dimmers above each cell give it."""
        dimmers = self._rig.dimmers
        coarse, fine = self._coarse.read(values)[0], self._fine.read(values)[0]
        levels = np.ones(dimmers.count + 1, dtype=np.float32)  # the last stands for "no dimmer", index -1
        for drive, which in dimmers.drives:
            levels[which] = dimmer_levels(drive, coarse[which], fine[which])
        dimmed: Floats = levels[dimmers.of_cell].prod(axis=1)
        return dimmed
