"""One frame: running looks painted on the cells, then turned into channel values.

`Renderer` owns only scratch buffers; what it returns depends on its arguments alone. The buffers it
returns are overwritten by the next frame.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from heliograph.core.colour import RAMP_STEPS, Floats
from heliograph.core.dmx import SLOTS
from heliograph.core.playback import PlaybackState
from heliograph.core.tempo import NS_PER_S
from heliograph.engine.compiled import BLOCK, CompiledLayer, CompiledShow, Index

Bytes = npt.NDArray[np.uint8]
Indexes = npt.NDArray[np.intp]


class Renderer:
    """Renders frames of any compiled show; call it from one thread."""

    def __init__(self) -> None:
        self._show: CompiledShow | None = None
        # Planes, not triples: numpy multiplies a plane by a cover 6 times faster than rows of three (measured).
        self._pixels = np.zeros((3, 0), dtype=np.float32)
        self._scaled = np.zeros((3, 0), dtype=np.float32)
        self._values = np.zeros(257, dtype=np.uint8)
        self._universes = np.zeros((0, SLOTS), dtype=np.uint8)
        self._painted = False
        self._colour = np.empty((3, BLOCK), dtype=np.float32)
        self._painting = np.empty((3, BLOCK), dtype=np.float32)

    def render(self, show: CompiledShow, state: PlaybackState, time_ns: int) -> Bytes:
        """(U, 512) uint8 for the show's universes at `time_ns`. Frozen: the last painted pixels again."""
        if show is not self._show:
            self._fit(show)
        if not (state.freeze and self._painted):
            self._paint(show, state, time_ns)
            self._painted = True
        self._emit(show, state)
        return self._universes

    @property
    def pixels(self) -> Floats:
        """(3, N) float32 planes: what was painted, before masters."""
        return self._pixels

    def _fit(self, show: CompiledShow) -> None:
        cells = show.rig.cell_count
        if self._show is None or show.rig is not self._show.rig:
            kept = self._pixels
            self._pixels = np.zeros((3, cells), dtype=np.float32)
            if self._show is not None:
                _carry_over(self._show, kept, show, self._pixels)
            self._scaled = np.zeros((3, cells), dtype=np.float32)
        if self._show is None or show.emission is not self._show.emission:
            self._values = np.zeros(1 + cells * 3 + 256, dtype=np.uint8)
            self._values[1 + cells * 3 :] = np.arange(256, dtype=np.uint8)
            self._universes = np.zeros((show.universes.size, SLOTS), dtype=np.uint8)
        self._show = show

    def _paint(self, show: CompiledShow, state: PlaybackState, time_ns: int) -> None:
        self._pixels.fill(0.0)
        beat = state.tempo.beat_at(time_ns)
        for look, run in state.running.items():
            for one in show.looks.get(look, ()):
                opacity = one.layer.opacity * run.level
                anchor = run.phases.get(one.layer.id)
                if one.layer.mute or opacity <= 0.0 or anchor is None:
                    continue
                phase = anchor.phase_at(time_ns, beat)
                if one.effect is None:
                    self._paint_clip(one, phase, opacity)
                else:
                    self._paint_effect(one, phase, opacity)

    def _paint_effect(self, one: CompiledLayer, phase: float, opacity: float) -> None:
        assert one.effect is not None
        for part, cells in one.matrix.parts:
            place, cover = one.effect.paint(one.matrix.canvas, part, phase, one.params)
            covered = cover * opacity if isinstance(cover, float) else cover * np.float32(opacity)
            if isinstance(place, float):
                colour: Floats = one.table[:, int(place * (RAMP_STEPS - 1) + 0.5), None]
            else:
                index = table_index(place)
                colour = self._colour[:, : part.stop - part.start]
                for plane, column in zip(colour, one.table, strict=True):
                    np.take(column, index, out=plane, mode="clip")
            self._blend(one.layer.blend, cells, colour, covered)

    def _paint_clip(self, one: CompiledLayer, phase: float, opacity: float) -> None:
        frame = one.clip.frame_at(round(phase * NS_PER_S)) if one.clip is not None else None
        if frame is None:
            return
        for part, cells in one.matrix.parts:
            colour = self._colour[:, : part.stop - part.start]
            np.multiply(frame[one.matrix.square[part]].T, np.float32(1 / 255), out=colour)
            self._blend(one.layer.blend, cells, colour, opacity)

    def _blend(self, blend: str, cells: Index, colour: Floats, cover: float | Floats) -> None:
        """Blends `colour` (3, n) or (3, 1) onto the cells, covering 0..1."""
        if blend == "over" and not isinstance(cover, np.ndarray) and cover >= 1.0:
            self._pixels[:, cells] = colour
            return
        under = self._pixels[:, cells]
        painted = np.multiply(colour, cover, out=self._painting[:, : under.shape[1]])
        if blend == "over":
            under *= np.float32(1.0) - cover if isinstance(cover, np.ndarray) else 1.0 - cover
        under += painted
        if not isinstance(cells, slice):
            self._pixels[:, cells] = under

    def _emit(self, show: CompiledShow, state: PlaybackState) -> None:
        emission = show.emission
        level = 0.0 if state.blackout else state.master
        np.clip(self._pixels, 0.0, 1.0, out=self._scaled)
        self._scaled *= np.float32(255.0 * level)
        self._scaled += np.float32(0.5)
        cells = self._values[1 : emission.constants_at]
        np.copyto(cells, self._scaled.reshape(-1), casting="unsafe")
        flat = self._universes.reshape(-1)
        np.take(self._values, emission.source, out=flat, mode="clip")
        guard(flat, show, state)


def table_index(place: Floats | Indexes) -> Indexes:
    """Places 0..1 as indexes of a ramp's table; indexes stay as they are."""
    if place.dtype == np.intp:
        return place.astype(np.intp, copy=False)
    return np.rint(place * (RAMP_STEPS - 1)).astype(np.intp)


def guard(flat: Bytes, show: CompiledShow, state: PlaybackState) -> None:
    """The last stage: safe values on every guarded fixture that is not armed, above everything before it."""
    emission = show.emission
    if not emission.guard_at.size:
        return
    if not state.armed:
        flat[emission.guard_at] = emission.guard_value
        return
    for fixture, span in emission.guard_spans.items():
        if fixture not in state.armed:
            flat[emission.guard_at[span]] = emission.guard_value[span]


def _carry_over(old: CompiledShow, kept: Floats, new: CompiledShow, pixels: Floats) -> None:
    """Keeps the picture of fixtures that are still there, so that an edit while frozen shows no black frame."""
    for name, fixture in new.rig.fixtures.items():
        before = old.rig.fixtures.get(name)
        if before is not None:
            count = min(before.mode.cell_count, fixture.mode.cell_count)
            here, there = fixture.first_cell, before.first_cell
            pixels[:, here : here + count] = kept[:, there : there + count]
