"""Vanes: wedges that rotate about a centre."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.core.waves import round_of
from heliograph.effects.registry import Canvas, Effect, Moment, Stretch, register
from heliograph.effects.shaping import bars


def prepare(canvas: Canvas, _choices: Mapping[str, str], _seed: int) -> Canvas:
    return canvas


def paint(canvas: Canvas, part: slice, moment: Moment) -> Stretch:
    """`count` wedges, each `width` percent of its share; a phase of 1 is one whole turn. `x` and `y`: the centre, in
    percent of the matrix. The ramp lies across each wedge."""
    x = canvas.x[part] - np.float32(canvas.width * moment.moved["x"] / 100.0)
    y = canvas.y[part] - np.float32(canvas.height * moment.moved["y"] / 100.0)
    count = np.float32(round(moment.moved["count"]))
    turn = np.arctan2(y, x) / np.float32(2 * math.pi) - np.float32(moment.phase % 1.0)
    at = round_of(turn * count)
    return bars(at, moment.number("width", part) / 100.0, moment.number("edge", part) / 100.0)


VANES = register(
    Effect(
        name="Vanes",
        says="wedges that rotate about a centre",
        words=("wheel", "fan", "radar", "rays", "windmill", "propeller"),
        parameters=(
            Parameter("count", "number", 3.0, 1.0, 32.0, "wedges"),
            Parameter("width", "number", 45.0, 1.0, 100.0, "% of its share", each=True),
            Parameter("edge", "number", 30.0, 0.0, 100.0, "% of its share", each=True),
            Parameter("x", "number", 50.0, -50.0, 150.0, "% across"),
            Parameter("y", "number", 50.0, -50.0, 150.0, "% down"),
        ),
        prepare=prepare,
        paint=paint,
        ramp=(Stop(0.0, 255, 80, 150), Stop(1.0, 110, 70, 255)),
        smallest=(5, 5),
        speed=Speed(8.0),
    )
)
