"""Slats: soft-edged parallel bars that travel."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.waves import round_of
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register
from heliograph.effects.shaping import bars, way_across


class Prepared(NamedTuple):
    canvas: Canvas
    x: Floats
    y: Floats


def prepare(canvas: Canvas, _choices: Mapping[str, str], _seed: int) -> Prepared:
    return Prepared(canvas, *canvas.from_middle)


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Bars `spacing` percent of the way apart, `width` percent of that wide; a phase of 1 moves each to where the next
    one stood. The ramp lies across each bar."""
    along, _ = way_across(prepared.x[part], prepared.y[part], prepared.canvas, moment.moved["angle"])
    spacing = np.asarray(moment.number("spacing", part) / 100.0, dtype=np.float32)
    at = round_of(along / spacing - np.float32(moment.phase % 1.0))
    return bars(at, moment.number("width", part) / 100.0, moment.number("edge", part) / 100.0)


SLATS = register(
    Effect(
        name="Slats",
        says="soft-edged parallel bars that travel",
        words=("bars", "stripes", "lines", "blinds", "barber"),
        parameters=(
            Parameter("width", "number", 50.0, 1.0, 100.0, "% of the spacing", each=True),
            Parameter("spacing", "number", 34.0, 2.0, 200.0, "% of the way", each=True),
            Parameter("angle", "number", 30.0, -360.0, 360.0, "degrees"),
            Parameter("edge", "number", 25.0, 0.0, 100.0, "% of the spacing", each=True),
        ),
        prepare=prepare,
        paint=paint,
        ramp=(Stop(0.0, 255, 90, 40), Stop(0.5, 255, 200, 80), Stop(1.0, 255, 90, 40)),
        smallest=(8, 1),
    )
)
