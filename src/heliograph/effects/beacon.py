"""Beacon: one bar with a fading tail that travels and turns back, or a beam that rotates."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register

FORMS = ("bar", "beam")
TURNS = ("turning back", "going on")


class Prepared(NamedTuple):
    """`x`, `y`: of each point from the middle, for a bar; for a beam `x` is its angle about the middle, in radians."""

    canvas: Canvas
    is_beam: bool
    goes_on: bool
    x: Floats
    y: Floats


def prepare(canvas: Canvas, choices: Mapping[str, str], _seed: int) -> Prepared:
    x, y = canvas.from_middle
    beam = choices["form"] == "beam"
    return Prepared(canvas, beam, choices["turn"] == "going on", np.arctan2(y, x) if beam else x, y)


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """A bar across the matrix, `width` percent of its way wide, with a tail of `tail` percent behind it.

    Turning back, a phase of 1 is there and back; going on, once across. A beam turns about the middle,
    one round a phase. The ramp runs along the tail, its first colour at the head.
    """
    canvas, phase = prepared.canvas, moment.phase
    width, tail = moment.number("width", part) / 100.0, moment.number("tail", part) / 100.0
    x = prepared.x[part]
    angle = math.radians(moment.moved["angle"])
    if prepared.is_beam:
        turn = (x - np.float32(angle)) / np.float32(2 * math.pi)
        behind = _behind(phase % 1.0, turn.astype(np.float32))
        return _lit(behind - np.floor(behind), width, tail, 1e-6)
    length = abs(canvas.width * math.cos(angle)) + abs(canvas.height * math.sin(angle))
    way = x * np.float32(math.cos(angle)) + prepared.y[part] * np.float32(math.sin(angle))
    along: Floats = (way / np.float32(length) + np.float32(0.5)).astype(np.float32)
    edge = 1.0 / length
    if prepared.goes_on:
        return _lit(_behind(phase % 1.0 * (1 + width + tail), along), width, tail, edge)
    there = phase % 1.0 * 2.0
    if there < 1.0:
        return _lit(_behind(there * (1 + width), along), width, tail, edge)
    return _lit(_behind((there - 1.0) * (1 + width), np.float32(1.0) - along), width, tail, edge)


def _behind(head: float | Floats, along: Floats) -> Floats:
    behind: Floats = np.subtract(np.asarray(head, dtype=np.float32), along, dtype=np.float32)
    return behind


def _lit(behind: Floats, width: float | Floats, tail: float | Floats, edge: float) -> Stretch:
    """`behind` 0 at the head, growing backward; the bar is full for `width`, then fades over `tail`.

    The head rises over `edge`, about one square, so that a slanted bar shows no steps.
    """
    faded = (behind - np.float32(width)) / np.float32(np.maximum(tail, 1e-6))
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
            Parameter("width", "number", 10.0, 1.0, 100.0, "% of the way", each=True),
            Parameter("tail", "number", 30.0, 0.0, 100.0, "% of the way", each=True),
            Parameter("angle", "number", 0.0, -360.0, 360.0, "degrees"),
            Parameter("turn", "choice", "turning back", choices=TURNS),
        ),
        prepare=prepare,
        paint=paint,
        ramp=(Stop(0.0, 255, 244, 214), Stop(1.0, 120, 70, 20)),
        smallest=(4, 1),
    )
)
