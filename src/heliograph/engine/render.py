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


class Renderer:
    """Renders frames of any compiled show; call it from one thread."""

    def __init__(self) -> None:
        self._show: CompiledShow | None = None
        self._pixels = np.zeros((0, 3), dtype=np.float32)
        self._scaled = np.zeros((0, 3), dtype=np.float32)
        self._values = np.zeros(257, dtype=np.uint8)
        self._universes = np.zeros((0, SLOTS), dtype=np.uint8)
        self._painted = False
        self._colour = np.empty((BLOCK, 3), dtype=np.float32)
        self._place = np.empty(BLOCK, dtype=np.int64)

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
        """(N, 3) float32: what was painted, before masters."""
        return self._pixels

    def _fit(self, show: CompiledShow) -> None:
        cells = show.rig.cell_count
        if self._show is None or show.rig is not self._show.rig:
            kept = self._pixels
            self._pixels = np.zeros((cells, 3), dtype=np.float32)
            if self._show is not None:
                _carry_over(self._show, kept, show, self._pixels)
            self._scaled = np.zeros((cells, 3), dtype=np.float32)
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
                colour: Floats = one.table[int(place * (RAMP_STEPS - 1) + 0.5)]
            else:
                n = part.stop - part.start
                index = self._place[:n]
                np.add(place * np.float32(RAMP_STEPS - 1), np.float32(0.5), out=index, casting="unsafe")
                colour = self._colour[:n]
                np.take(one.table, index, axis=0, out=colour, mode="clip")
            self._blend(one.layer.blend, cells, colour, covered)

    def _paint_clip(self, one: CompiledLayer, phase: float, opacity: float) -> None:
        frame = one.clip.frame_at(round(phase * NS_PER_S)) if one.clip is not None else None
        if frame is None:
            return
        for part, cells in one.matrix.parts:
            colour = self._colour[: part.stop - part.start]
            np.multiply(frame[one.matrix.square[part]], np.float32(1 / 255), out=colour)
            self._blend(one.layer.blend, cells, colour, opacity)

    def _blend(self, blend: str, cells: Index, colour: Floats, cover: float | Floats) -> None:
        """Blends `colour` (n, 3) or (3,) onto the cells, covering 0..1."""
        if isinstance(cover, np.ndarray):
            cover = cover[:, None]
        painted = colour * cover
        if blend == "add":
            self._pixels[cells] += painted
        elif isinstance(cover, np.ndarray) or cover < 1.0:
            under = self._pixels[cells] * (1.0 - cover)
            under += painted
            self._pixels[cells] = under
        else:
            self._pixels[cells] = painted

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
            pixels[fixture.first_cell : fixture.first_cell + count] = kept[
                before.first_cell : before.first_cell + count
            ]
