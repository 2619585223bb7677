"""One frame: running looks painted on the cells, then turned into channel values.

`Renderer` owns only scratch buffers; what it returns depends on its arguments alone. The buffers it
returns are overwritten by the next frame.
"""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Floats
from heliograph.core.playing.state import PlaybackState
from heliograph.power.stage import Stage
from heliograph.render.compiled import CompiledShow
from heliograph.render.emitter import Emitter
from heliograph.render.mixing import Mixer

Bytes = npt.NDArray[np.uint8]


class Renderer:
    """Renders frames of any compiled show; call it from one thread."""

    def __init__(self) -> None:
        self._show: CompiledShow | None = None
        self._mixer = Mixer(np.zeros((3, 0), dtype=np.float32))
        self._emitter: Emitter | None = None
        self._painted = False

    def render(self, show: CompiledShow, state: PlaybackState, time_ns: int, before: str = "") -> Bytes:
        """(U, 512) uint8 for the show's universes at `time_ns`. Frozen: the last painted pixels again. `before`: a
        stage of power; what it and those above it do is left out."""
        emitter = self._fit(show)
        if not (state.freeze and self._painted):
            self.paint(show, state, time_ns)
            self._painted = True
        return emitter.emit(self._mixer.pixels, state, before)

    def stages(self, show: CompiledShow) -> tuple[Stage, ...]:
        """The order of power for the show, to be asked what each does to one channel."""
        return self._fit(show).stages

    def guard(self, universes: Bytes, show: CompiledShow, state: PlaybackState) -> None:
        """Makes guarded fixtures safe in universes (U, 512) that were rendered before, for example a frame that is sent
        again because the next one failed."""
        self._fit(show).guard(universes.reshape(-1), state)

    def paint(self, show: CompiledShow, state: PlaybackState, time_ns: int) -> Floats:
        """(3, N) float32 planes: what the running looks paint on the cells, before masters."""
        self._fit(show)
        running = ((show.looks.get(look, ()), run) for look, run in state.running.items())
        return self._mixer.mix(running, time_ns, state.tempo.beat_at(time_ns))

    def _fit(self, show: CompiledShow) -> Emitter:
        old = self._show
        if old is None or show.rig is not old.rig:
            kept = self._mixer.pixels
            self._mixer = Mixer(np.zeros((3, show.rig.cell_count), dtype=np.float32))
            if old is not None:
                _carry_over(old, kept, show, self._mixer.pixels)
        if (
            self._emitter is None
            or old is None
            or show.emission is not old.emission
            or show.rig is not old.rig
            or show.groups is not old.groups
            or show.parked is not old.parked
        ):
            self._emitter = Emitter(show.rig, show.emission, show.groups, show.parked)
        self._show = show
        return self._emitter


def _carry_over(old: CompiledShow, kept: Floats, new: CompiledShow, pixels: Floats) -> None:
    """Keeps the picture of fixtures that are still there, so that an edit while frozen shows no black frame."""
    for name, fixture in new.rig.fixtures.items():
        before = old.rig.fixtures.get(name)
        if before is not None:
            count = min(before.mode.cell_count, fixture.mode.cell_count)
            here, there = fixture.first_cell, before.first_cell
            pixels[:, here : here + count] = kept[:, there : there + count]
