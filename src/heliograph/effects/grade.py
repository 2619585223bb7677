"""Grade: a gradient along a line, from a point, or around it."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

import numpy as np

from heliograph.effects.registry import Canvas, Effect, Floats, Parameter, Stretch, register

FORMS = ("line", "point", "around")


def paint(canvas: Canvas, part: slice, phase: float, params: Mapping[str, Any]) -> Stretch:
    """The ramp laid over the matrix `repeats` times; a phase of 1 moves it on by one whole ramp.

    `spread` 100 % lays the ramp once over the whole matrix (along the angle, or out to the corner),
    less makes it shorter. Angle 0 runs to the right, 90 down.
    """
    x = canvas.x[part] - np.float32(canvas.width / 2)
    y = canvas.y[part] - np.float32(canvas.height / 2)
    angle = math.radians(params["angle"])
    if params["form"] == "line":
        length = abs(canvas.width * math.cos(angle)) + abs(canvas.height * math.sin(angle))
        along = (x * np.float32(math.cos(angle)) + y * np.float32(math.sin(angle))) / np.float32(length) + np.float32(
            0.5
        )
    elif params["form"] == "point":
        along = np.hypot(x, y) / np.float32(max(math.hypot(canvas.width, canvas.height) / 2, 0.5))
    else:
        along = (np.arctan2(y, x) - np.float32(angle)) / np.float32(2 * math.pi)
    scale = params["repeats"] * 100.0 / params["spread"]
    place = (along * np.float32(scale) - np.float32(phase % 1.0)).astype(np.float32)
    return Stretch(_folded(place, phase, scale), 1.0)


def _folded(place: Floats, phase: float, scale: float) -> Floats:
    """Into 0..1. A still gradient that fits once keeps its end at the end; everything else goes round."""
    stands = phase == 0.0 and scale <= 1.0
    return np.clip(place, 0.0, 1.0) if stands else place - np.floor(place)


GRADE = register(
    Effect(
        name="Grade",
        says="a gradient along a line, from a point, or around it",
        words=("gradient", "rainbow", "wheel", "fade", "sweep"),
        parameters=(
            Parameter("form", "choice", "line", choices=FORMS),
            Parameter("angle", "number", 0.0, -360.0, 360.0, "degrees"),
            Parameter("spread", "number", 100.0, 5.0, 400.0, "% of the matrix"),
            Parameter("repeats", "number", 1.0, 1.0, 32.0, "times"),
        ),
        paint=paint,
        smallest=(2, 1),
    )
)
