"""Grain: a value by chance for each cell, again and again."""

from __future__ import annotations

import math
from collections.abc import Mapping

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.waves import smooth
from heliograph.effects.registry import Canvas, Effect, Moment, Stretch, register
from heliograph.effects.shaping import Draws, cells_of


def prepare(canvas: Canvas, _choices: Mapping[str, str], seed: int) -> Draws:
    return Draws(seed, cells_of(canvas))


def paint(draws: Draws, part: slice, moment: Moment) -> Stretch:
    """`rate` new values a cell within a phase of 1; over the last `smooth` percent of each it goes to the next."""
    time = moment.phase * round(moment.moved["rate"])
    drawn = math.floor(time)
    over = np.asarray(moment.number("smooth", part) / 100.0, dtype=np.float32)
    left = np.float32(1.0 - (time - drawn))
    at = smooth(np.clip(np.float32(1.0) - left / np.maximum(over, np.float32(1e-4)), 0.0, 1.0))
    now, then = draws.of(drawn)[part], draws.of(drawn + 1)[part]
    return Stretch((now + (then - now) * at).astype(np.float32), 1.0)


GRAIN = register(
    Effect(
        name="Grain",
        says="a value by chance for each cell, again and again",
        words=("noise", "static", "random", "snow", "confetti"),
        parameters=(
            Parameter("rate", "number", 4.0, 1.0, 64.0, "values a cycle"),
            Parameter("smooth", "number", 50.0, 0.0, 100.0, "%", each=True),
        ),
        prepare=prepare,
        paint=paint,
        ramp=(Stop(0.0, 12, 14, 20), Stop(1.0, 226, 234, 246)),
    )
)
