"""Tide: a waterline that rises and falls, with foam along it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.core.waves import chance, oscillation
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register
from heliograph.effects.shaping import way_across

ORIGINS = ("below", "above", "left", "right", "corner", "middle")
RISES = ("by itself", "as driven")
DIRECTIONS = {"below": -90.0, "above": 90.0, "left": 0.0, "right": 180.0}
WAVE = 0.12
"""How far a wholly uneven line swings from an even one, in parts of the way."""

FOAM_AT = 1.0
WATER_TO = 0.82
"""The ramp's last part is foam; what lies under the line has the rest, deep first."""


class Prepared(NamedTuple):
    """`way` (n,): from the origin 0 to the far side 1; `across` (n,): along the waterline; `swing`: where its waves
    begin, by the seed. `itself`: it rises with the phase; `square`: the height of one on the way."""

    canvas: Canvas
    way: Floats
    across: Floats
    swing: float
    itself: bool
    square: float


def prepare(canvas: Canvas, choices: Mapping[str, str], seed: int) -> Prepared:
    x, y = canvas.from_middle
    origin = choices["origin"]
    if origin in DIRECTIONS:
        way, length = way_across(x, y, canvas, DIRECTIONS[origin])
        across = way_across(x, y, canvas, DIRECTIONS[origin] + 90.0).along
    elif origin == "corner":
        out = np.hypot(canvas.x, canvas.height - canvas.y)
        length = math.hypot(canvas.width, canvas.height)
        way = (out / np.float32(length)).astype(np.float32)
        across = (np.arctan2(canvas.height - canvas.y, canvas.x) / np.float32(math.pi / 2)).astype(np.float32)
    else:
        length = max(math.hypot(canvas.width, canvas.height) / 2, 0.5)
        way = (np.hypot(x, y) / np.float32(length)).astype(np.float32)
        across = (np.arctan2(y, x) / np.float32(2 * math.pi)).astype(np.float32)
    return Prepared(canvas, way, across, float(chance(seed, [1])[0]), choices["rises"] == "by itself", 1.0 / length)


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """The line stands at `height` percent of the way, or rises to it and falls within a phase of 1. `foam` percent of
    the way beneath it are foam; less `evenness` makes it wavier."""
    height = np.asarray(moment.number("height", part) / 100.0, dtype=np.float32)
    level = height * oscillation("sine", moment.phase) if prepared.itself else height
    across = prepared.across[part]
    uneven = np.asarray(1.0 - moment.number("evenness", part) / 100.0, dtype=np.float32) * np.float32(WAVE)
    two, turn = np.float32(2 * math.pi), moment.phase % 1.0
    waves = np.sin(two * (across * np.float32(2.0) + np.float32(turn * 2 + prepared.swing)))
    waves += np.float32(0.5) * np.sin(two * (across * np.float32(5.0) - np.float32(turn * 3 + prepared.swing)))
    line = level + waves * uneven
    beneath = line - prepared.way[part]
    cover = np.clip(beneath / np.float32(prepared.square) + np.float32(0.5), 0.0, 1.0).astype(np.float32)
    foam = np.asarray(moment.number("foam", part) / 100.0, dtype=np.float32)
    white = np.clip(np.float32(1.0) - beneath / np.maximum(foam, np.float32(1e-4)), 0.0, 1.0) * (foam > 0)
    deep = np.clip(prepared.way[part] / np.maximum(line, np.float32(1e-4)), 0.0, 1.0) * np.float32(WATER_TO)
    place = deep + (np.float32(FOAM_AT) - deep) * white
    return Stretch(place.astype(np.float32), cover)


TIDE = register(
    Effect(
        name="Tide",
        says="a waterline that rises and falls from any side, with foam along it",
        words=("water", "fill", "level", "sea", "wipe", "vu"),
        parameters=(
            Parameter("origin", "choice", "below", choices=ORIGINS),
            Parameter("rises", "choice", "by itself", choices=RISES, drawn=RISES[:1]),
            Parameter("height", "number", 100.0, 0.0, 100.0, "% of the way", each=True),
            Parameter("foam", "number", 12.0, 0.0, 100.0, "% of the way", each=True),
            Parameter("evenness", "number", 60.0, 0.0, 100.0, "%", each=True),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(1, 4),
        ramp=(Stop(0.0, 2, 22, 60), Stop(0.8, 16, 130, 150), Stop(1.0, 235, 250, 245)),
        speed=Speed(8.0),
    )
)
