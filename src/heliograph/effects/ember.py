"""Ember: a glow that rises and dies away. Without memory: the same phase is the same glow everywhere."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.effects.mist import LATTICE, lattice
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register
from heliograph.effects.shaping import noise_on

TONGUE = 0.22
"""The width of a tongue, of the shorter side."""

ROUND = 4.0
"""Steps of the noise a tongue rises in one cycle."""

DRIFT = 0.137
"""Steps sideways in one cycle, so that what comes round is another fire: seen only as a breath of air."""


class Prepared:
    """How tongues lie on the squares, and the last whole grid: a frame asks for the same one in each of its blocks."""

    def __init__(self, canvas: Canvas, seed: int) -> None:
        self.canvas, self.table = canvas, lattice(seed)
        size = np.float32(max(min(canvas.width, canvas.height) * TONGUE, 1.5))
        self._columns = (np.arange(canvas.width, dtype=np.float32) + np.float32(0.5)) / size
        self._rows = (np.float32(canvas.height - 0.5) - np.arange(canvas.height, dtype=np.float32)) / size
        self.square = canvas.y.astype(np.intp) * canvas.width + canvas.x.astype(np.intp)
        self._last: tuple[float | None, Floats] = (None, self._rows[:0])

    def tongues(self, phase: float) -> Floats:
        """(squares,) float32 0..1: where it burns at a phase, row by row; slow large ones torn by fast small ones."""
        known, grid = self._last
        if known != phase:
            rise = np.float32(phase * ROUND % LATTICE)
            drift = np.float32(phase * DRIFT % LATTICE)
            slow = noise_on(self.table, self._columns + drift, self._rows * np.float32(0.6) - rise)
            beside, twice = self._columns * np.float32(2.0) + np.float32(37.0) - drift, rise * np.float32(2.0)
            fast = noise_on(self.table, beside, self._rows - twice)
            grid = (slow * np.float32(0.65) + fast * np.float32(0.35)).reshape(-1)
            self._last = phase, grid
        return grid

    def jump(self, phase: float) -> np.float32:
        """0..1: how high all of it stands at a phase."""
        at = np.array([phase * 16 % LATTICE], dtype=np.float32)
        beside = np.array([11.5 + phase * DRIFT % LATTICE], dtype=np.float32)
        return np.float32(noise_on(self.table, beside, at)[0, 0])


def prepare(canvas: Canvas, _choices: Mapping[str, str], seed: int) -> Prepared:
    return Prepared(canvas, seed)


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Hot below, cooler above: at `height` percent of the matrix the glow is gone. `draught` percent: how much it is
    torn; `flicker` percent: how much all of it jumps. The ramp runs from cold to hot."""
    canvas = prepared.canvas
    wild = prepared.tongues(moment.phase).take(prepared.square[part])
    flicker = np.asarray(moment.number("flicker", part) / 100.0, dtype=np.float32)
    above = (np.float32(canvas.height) - canvas.y[part]) / np.float32(canvas.height)
    height = np.maximum(np.asarray(moment.number("height", part) / 100.0, dtype=np.float32), np.float32(1e-3))
    height = height * (np.float32(1.0) - flicker * np.float32(0.5) * (np.float32(1.0) - prepared.jump(moment.phase)))
    draught = np.asarray(moment.number("draught", part) / 100.0, dtype=np.float32)
    heat = np.float32(1.15) - above / height + (wild - np.float32(0.5)) * np.float32(2.2) * draught
    heat = np.clip(heat, 0.0, 1.0).astype(np.float32)
    return Stretch(heat, np.clip(heat * np.float32(2.5), 0.0, 1.0).astype(np.float32))


EMBER = register(
    Effect(
        name="Ember",
        says="a glow that rises and dies away",
        words=("fire", "flame", "torch", "candle", "burn"),
        parameters=(
            Parameter("height", "number", 80.0, 5.0, 300.0, "% of the matrix", each=True),
            Parameter("draught", "number", 60.0, 0.0, 100.0, "%", each=True),
            Parameter("flicker", "number", 30.0, 0.0, 100.0, "%", each=True),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(1, 6),
        ramp=(Stop(0.0, 40, 2, 0), Stop(0.35, 170, 24, 0), Stop(0.7, 255, 120, 10), Stop(1.0, 255, 226, 150)),
        speed=Speed(3.0),
    )
)
