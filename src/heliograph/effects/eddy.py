"""Eddy: water turning into itself around a point."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.waves import round_of
from heliograph.effects.registry import Canvas, Effect, Moment, Stretch, register
from heliograph.effects.shaping import band, distance


def prepare(canvas: Canvas, _choices: Mapping[str, str], _seed: int) -> Canvas:
    return canvas


def paint(canvas: Canvas, part: slice, moment: Moment) -> Stretch:
    """`arms` spirals that wind `turns` times from the centre to the farther side, each `width` percent of its share; a
    phase of 1 is one whole turn. The ramp lies across each arm."""
    x = canvas.x[part] - np.float32(canvas.width * moment.moved["x"] / 100.0)
    y = canvas.y[part] - np.float32(canvas.height * moment.moved["y"] / 100.0)
    half = np.float32(max(canvas.width, canvas.height) / 2)
    out = distance(x, y) / half
    arms = np.float32(round(moment.moved["arms"]))
    winding = np.asarray(moment.number("turns", part), dtype=np.float32) * out
    turn = np.arctan2(y, x) / np.float32(2 * math.pi) + winding - np.float32(moment.phase % 1.0)
    at = round_of(turn * arms)
    width = np.asarray(moment.number("width", part) / 100.0, dtype=np.float32)
    cover = band(at, width, np.float32(0.6))
    place = np.clip(np.abs(at - np.float32(0.5)) * np.float32(2.0) / np.maximum(width, np.float32(1e-4)), 0.0, 1.0)
    return Stretch(np.float32(1.0) - place.astype(np.float32), cover)


EDDY = register(
    Effect(
        name="Eddy",
        says="water turning into itself around a point",
        words=("spiral", "swirl", "vortex", "whirlpool", "galaxy"),
        parameters=(
            Parameter("arms", "number", 2.0, 1.0, 12.0, "arms"),
            Parameter("turns", "number", 1.0, -8.0, 8.0, "turns", each=True),
            Parameter("width", "number", 60.0, 1.0, 100.0, "% of its share", each=True),
            Parameter("x", "number", 50.0, -50.0, 150.0, "% across"),
            Parameter("y", "number", 50.0, -50.0, 150.0, "% down"),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(8, 8),
        ramp=(Stop(0.0, 4, 50, 90), Stop(1.0, 150, 235, 225)),
    )
)
