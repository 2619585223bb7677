"""Splash: rings of waves from falling drops, that run out and through one another."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.waves import chance
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register
from heliograph.effects.shaping import distance
from heliograph.effects.whole import Kept

DROPS_MOST = 16
RINGS = 8.0
"""Rings that follow the first one of a drop; what comes after them is still."""


FINE = 1024
"""Steps of a ring in the table of rings: a step changes what is lit by less than 1 of 255."""

_RINGS = np.zeros(round(RINGS) * FINE + 2, dtype=np.float32)
_RINGS[1:-1] = np.cos(np.arange(round(RINGS) * FINE) * (2 * math.pi / FINE))
"""The rings of a drop from the outermost inwards; nothing before the first and after the last."""


class Drops(NamedTuple):
    """Each drop (d,) at a moment: where it fell, in squares, and its age, 0 to 1. `rings`: the table of rings, as far
    as they fade alike everywhere."""

    across: Floats
    down: Floats
    age: npt.NDArray[np.float64]
    rings: Floats


class Prepared(NamedTuple):
    canvas: Canvas
    seed: int
    kept: Kept


def prepare(canvas: Canvas, _choices: Mapping[str, str], seed: int) -> Prepared:
    return Prepared(canvas, seed, Kept(canvas))


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """`drops` fall one after another within a phase of 1, each at a place by chance; its rings run out to `reach`
    percent of the longer side, `wavelength` apart, and die away the sooner the more `damping`."""
    canvas = prepared.canvas
    longer = float(max(canvas.width, canvas.height))
    reach = longer * moment.moved["reach"] / 100.0
    each_step = np.float32(FINE) / np.asarray(longer * moment.number("wavelength", part) / 100.0, dtype=np.float32)
    drops: Drops = prepared.kept.at(moment, lambda: _drops(prepared, moment))
    each = isinstance(moment.moved["damping"], np.ndarray)
    fade = np.asarray(moment.number("damping", part) / (-25.0 * FINE), dtype=np.float32)
    x, y = canvas.x[part], canvas.y[part]
    water = np.zeros(x.size, dtype=np.float32)
    for across, down, age in zip(drops.across, drops.down, drops.age, strict=True):
        steps = distance(x - across, y - down)
        np.subtract(np.float32(age * reach), steps, out=steps)
        steps *= each_step
        steps += np.float32(1.5)
        ring = drops.rings.take(steps.astype(np.intp), mode="clip")
        if each:
            steps -= np.float32(1.5)
            steps *= fade
            np.minimum(steps, np.float32(0.0), out=steps)  # before the first ring there is nothing
            ring *= np.exp(steps, out=steps)
        ring *= np.float32(1.0 - age)
        water += ring
    water *= np.float32(1.5)
    lit = np.clip(water, 0.0, 1.0, out=water)
    return Stretch(lit, lit)


def _drops(prepared: Prepared, moment: Moment) -> Drops:
    canvas, damping = prepared.canvas, moment.moved["damping"]
    count = round(moment.moved["drops"])
    number = np.arange(count)
    time = moment.phase + number / count
    fallen = np.floor(time)
    across, down = (chance(prepared.seed, number, fallen, axis) for axis in (1, 2))
    rings = _RINGS
    if not isinstance(damping, np.ndarray):
        inwards = np.maximum(np.arange(_RINGS.size, dtype=np.float32) - np.float32(1.0), np.float32(0.0))
        rings = _RINGS * np.exp(inwards * np.float32(-damping / 25.0 / FINE))
    return Drops(across * np.float32(canvas.width), down * np.float32(canvas.height), time - fallen, rings)


SPLASH = register(
    Effect(
        name="Splash",
        says="rings of waves from falling drops, that run out and through one another",
        words=("ripple", "rain", "water", "rings", "drops", "circles"),
        parameters=(
            Parameter("drops", "number", 4.0, 1.0, DROPS_MOST, "a cycle"),
            Parameter("wavelength", "number", 22.0, 4.0, 100.0, "% of the longer side", each=True),
            Parameter("reach", "number", 90.0, 10.0, 200.0, "% of the longer side"),
            Parameter("damping", "number", 25.0, 0.0, 100.0, "%", each=True),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(8, 8),
        ramp=(Stop(0.0, 8, 60, 110), Stop(1.0, 190, 240, 255)),
    )
)
