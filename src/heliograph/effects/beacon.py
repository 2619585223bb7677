"""Beacon: one bar with a fading tail that travels and turns back, or a beam that rotates."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Any

import numpy as np

from heliograph.effects.registry import Canvas, Effect, Floats, Parameter, Stretch, register

FORMS = ("bar", "beam")
TURNS = ("turning back", "going on")


def paint(canvas: Canvas, part: slice, phase: float, params: Mapping[str, Any]) -> Stretch:
    """A bar across the matrix, `width` percent of its way wide, with a tail of `tail` percent behind it.

    Turning back, a phase of 1 is there and back; going on, once across. A beam turns about the middle,
    one round a phase. The ramp runs along the tail, its first colour at the head.
    """
    width, tail = params["width"] / 100.0, params["tail"] / 100.0
    x = canvas.x[part] - np.float32(canvas.width / 2)
    y = canvas.y[part] - np.float32(canvas.height / 2)
    angle = math.radians(params["angle"])
    if params["form"] == "beam":
        turn = (np.arctan2(y, x) - np.float32(angle)) / np.float32(2 * math.pi)
        behind = _behind(phase % 1.0, turn.astype(np.float32))
        return _lit(behind - np.floor(behind), width, tail, 1e-6)
    length = abs(canvas.width * math.cos(angle)) + abs(canvas.height * math.sin(angle))
    way = x * np.float32(math.cos(angle)) + y * np.float32(math.sin(angle))
    along: Floats = (way / np.float32(length) + np.float32(0.5)).astype(np.float32)
    edge = 1.0 / length
    if params["turn"] == "going on":
        return _lit(_behind(phase % 1.0 * (1 + width + tail), along), width, tail, edge)
    there = phase % 1.0 * 2.0
    if there < 1.0:
        return _lit(_behind(there * (1 + width), along), width, tail, edge)
    return _lit(_behind((there - 1.0) * (1 + width), np.float32(1.0) - along), width, tail, edge)


def _behind(head: float, along: Floats) -> Floats:
    behind: Floats = np.subtract(np.float32(head), along, dtype=np.float32)
    return behind


def _lit(behind: Floats, width: float, tail: float, edge: float) -> Stretch:
    """`behind` 0 at the head, growing backward; the bar is full for `width`, then fades over `tail`.

    The head rises over `edge`, about one square, so that a slanted bar shows no steps.
    """
    faded = (behind - np.float32(width)) / np.float32(max(tail, 1e-6))
    rising = behind / np.float32(edge) + np.float32(1.0)
    cover = np.clip(np.minimum(np.float32(1.0) - faded, rising), 0.0, 1.0).astype(np.float32)
    place = np.clip(faded, 0.0, 1.0).astype(np.float32)
    return Stretch(place, cover)


BEACON = register(
    Effect(
        name="Beacon",
        says="one bar with a fading tail that travels and turns back, or a beam that rotates",
        words=("scanner", "sweep", "comet", "lighthouse", "bar"),
        parameters=(
            Parameter("form", "choice", "bar", choices=FORMS),
            Parameter("width", "number", 10.0, 1.0, 100.0, "% of the way"),
            Parameter("tail", "number", 30.0, 0.0, 100.0, "% of the way"),
            Parameter("angle", "number", 0.0, -360.0, 360.0, "degrees"),
            Parameter("turn", "choice", "turning back", choices=TURNS),
        ),
        paint=paint,
        smallest=(4, 1),
    )
)
