"""Swell: an oscillation along the cells, each a little later than the one before."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.waves import SHAPES, oscillation
from heliograph.effects.orders import ORDERS
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register

WAYS = ("across", "down", "out", *ORDERS)


class Prepared(NamedTuple):
    """`along` (n,): where on the way each point lies, 0 to 1."""

    shape: str
    along: Floats


def prepare(canvas: Canvas, choices: Mapping[str, str], _seed: int) -> Prepared:
    way = choices["along"]
    x, y = canvas.from_middle
    if way == "across":
        along = canvas.x / np.float32(canvas.width)
    elif way == "down":
        along = canvas.y / np.float32(canvas.height)
    elif way == "out":
        out = np.hypot(x, y)
        along = out / np.float32(max(float(out.max(initial=0.0)), 0.5))
    else:
        order = canvas.orders[way]
        along = (order.rank + np.float32(0.5)) / np.float32(order.steps)
    return Prepared(choices["shape"], along.astype(np.float32))


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Each cell goes once through the ramp and back within a phase of 1; `wavelengths` of them lie on the way, moved on
    by `offset` percent of one."""
    waves = np.asarray(moment.number("wavelengths", part), dtype=np.float32)
    late = np.asarray(moment.number("offset", part) / 100.0, dtype=np.float32)
    at = np.float32(moment.phase % 1.0) - prepared.along[part] * waves + late
    return Stretch(oscillation(prepared.shape, at).astype(np.float32), 1.0)


SWELL = register(
    Effect(
        name="Swell",
        says="an oscillation along the cells, each a little later than the one before",
        words=("wave", "sine", "ocean", "oscillator", "rainbow"),
        parameters=(
            Parameter("shape", "choice", "sine", choices=SHAPES),
            Parameter("along", "choice", "across", choices=WAYS),
            Parameter("wavelengths", "number", 2.0, 0.0, 64.0, "waves", each=True),
            Parameter("offset", "number", 0.0, -100.0, 100.0, "% of one", each=True),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(4, 1),
        ramp=(Stop(0.0, 0, 36, 52), Stop(1.0, 96, 240, 186)),
    )
)
