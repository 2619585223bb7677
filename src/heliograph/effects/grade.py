"""Grade: a gradient along a line, from a point, or around it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from heliograph.core.look.parameter import Parameter
from heliograph.effects.registry import EVENING, Canvas, Effect, Floats, Moment, Stretch, register

FORMS = ("line", "point", "around")


class Prepared(NamedTuple):
    """The form, and what of it does not move: x, y from the middle (line), the way out (point), the turn (around)."""

    form: str
    canvas: Canvas
    first: Floats
    second: Floats


def prepare(canvas: Canvas, choices: Mapping[str, str], _seed: int) -> Prepared:
    x, y = canvas.from_middle
    form = choices["form"]
    if form == "point":
        corner = np.float32(max(math.hypot(canvas.width, canvas.height) / 2, 0.5))
        return Prepared(form, canvas, (np.hypot(x, y) / corner).astype(np.float32), y)
    if form == "around":
        return Prepared(form, canvas, np.arctan2(y, x), y)
    return Prepared(form, canvas, x, y)


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """The ramp laid over the matrix `repeats` times; a phase of 1 moves it on by one whole ramp.

    `spread` 100 % lays the ramp once over the whole matrix (along the angle, or out to the corner),
    less makes it shorter. Angle 0 runs to the right, 90 down.
    """
    canvas, first = prepared.canvas, prepared.first[part]
    angle = math.radians(moment.moved["angle"])
    along: Floats
    if prepared.form == "line":
        length = abs(canvas.width * math.cos(angle)) + abs(canvas.height * math.sin(angle))
        way = first * np.float32(math.cos(angle)) + prepared.second[part] * np.float32(math.sin(angle))
        along = (way / np.float32(length) + np.float32(0.5)).astype(np.float32)
    elif prepared.form == "point":
        along = first
    else:
        along = (first - np.float32(angle)) / np.float32(2 * math.pi)
    scale = moment.number("repeats", part) * 100.0 / moment.number("spread", part)
    place = (along * np.asarray(scale, dtype=np.float32) - np.float32(moment.phase % 1.0)).astype(np.float32)
    return Stretch(_folded(place, moment.phase, scale), 1.0)


def _folded(place: Floats, phase: float, scale: float | Floats) -> Floats:
    """Into 0..1. A still gradient that fits once keeps its end at the end; everything else goes round."""
    round_again: Floats = place - np.floor(place)
    if phase != 0.0:
        return round_again
    if isinstance(scale, np.ndarray):
        return np.where(scale <= 1.0, np.clip(place, 0.0, 1.0), round_again)
    return np.clip(place, 0.0, 1.0) if scale <= 1.0 else round_again


GRADE = register(
    Effect(
        name="Grade",
        says="a gradient along a line, from a point, or around it",
        words=("gradient", "rainbow", "wheel", "fade", "sweep"),
        parameters=(
            Parameter("form", "choice", "line", choices=FORMS),
            Parameter("angle", "number", 0.0, -360.0, 360.0, "degrees"),
            Parameter("spread", "number", 100.0, 5.0, 400.0, "% of the matrix", each=True),
            Parameter("repeats", "number", 1.0, 1.0, 32.0, "times", each=True),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(2, 1),
        ramp=EVENING,
    )
)
