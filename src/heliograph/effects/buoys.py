"""Buoys: soft lights that ride on a swell; they drift and bob, and pull near ones along."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.core.waves import chance
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register
from heliograph.effects.shaping import distance
from heliograph.effects.whole import LARGE, Kept, Once, drawn_out

COUNT_MOST = 32
PULL = 0.35
"""How much of the way to a near one is given up for it."""

FINE, STEP_MOST = 30.0, 4
"""The way over which a light fades is worked out in so many steps at least, of so many squares at most."""

NEAR = 0.25
"""Of the longer side: so near is near."""


Middles = tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]


class Box(NamedTuple):
    """What a stretch of points lies within, in squares."""

    left: float
    right: float
    top: float
    bottom: float


class Prepared(NamedTuple):
    """`drawn` (6, COUNT_MOST): where each rides and how it goes round, by the seed. `boxes`: where stretches lie."""

    canvas: Canvas
    kept: Kept
    drawn: npt.NDArray[np.float32]
    middles: Once
    boxes: dict[tuple[int, int], Box]


def prepare(canvas: Canvas, _choices: Mapping[str, str], seed: int) -> Prepared:
    each = np.arange(COUNT_MOST)
    drawn = np.stack([chance(seed, each, np.full(COUNT_MOST, one)) for one in range(6)])
    return Prepared(canvas, Kept(canvas), drawn, Once(), {})


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """`count` lights of `size` percent of the longer side about `x`, `y` (percent of the matrix); they ride within
    `reach` percent of it, and are back where they were after a phase of 4. One alone with a reach of 0 stands still.
    Each has its own place on the ramp."""
    canvas = prepared.canvas
    count = round(moment.moved["count"])
    across, down = prepared.middles.at(moment, lambda: where(prepared, count, moment))
    longer = float(max(canvas.width, canvas.height))
    size = np.asarray(moment.number("size", part) / 200.0 * longer, dtype=np.float32)
    soft = np.maximum(np.asarray(moment.number("softness", part) / 100.0, dtype=np.float32), np.float32(1e-3))
    # A light that fades over many squares is worked out on every few of them.
    step = int(min(float(size) * float(soft) / FINE, STEP_MOST)) if size.ndim == soft.ndim == 0 else 1
    if canvas.count >= LARGE and step > 1:
        middles, places = (across, down), _places(count)
        light, place = prepared.kept.at(
            moment, lambda: drawn_out(canvas, lambda x, y: _lights(x, y, middles, places, size, soft), step)
        )
        square = prepared.kept.square[part]
        light, place = light.take(square), place.take(square)
    elif canvas.count >= LARGE:
        light, place = _one_by_one(*_near(prepared, part, (across, down), size), size, soft)
    else:
        light, place = _lights(*_near(prepared, part, (across, down), size), size, soft)
    return Stretch(place / np.maximum(light, np.float32(1e-6)), np.minimum(light, np.float32(1.0)))


def _places(count: int) -> Floats:
    """(count,) where on the ramp each light stands."""
    return np.arange(count, dtype=np.float32) / np.float32(max(count - 1, 1))


def _near(prepared: Prepared, part: slice, middles: Middles, size: Floats) -> tuple[Floats, Floats, Middles, Floats]:
    """The points of a stretch, and the lights that reach any of them: a stretch of a strand keeps to a part of the
    matrix. Each with its place on the ramp; there is one at least."""
    x, y = prepared.canvas.x[part], prepared.canvas.y[part]
    key = (part.start, part.stop)
    box = prepared.boxes.get(key)
    if box is None:
        ends = (float(x.min(initial=np.inf)), float(x.max(initial=-np.inf)))
        box = prepared.boxes[key] = Box(*ends, float(y.min(initial=np.inf)), float(y.max(initial=-np.inf)))
    across, down = middles
    beside = np.maximum(np.maximum(box.left - across, across - box.right), 0.0)
    above = np.maximum(np.maximum(box.top - down, down - box.bottom), 0.0)
    reach = np.hypot(beside, above) <= float(size.max(initial=0.0))
    reach[0] |= not reach.any()
    return x, y, (across[reach], down[reach]), _places(len(across))[reach]


def _lights(x: Floats, y: Floats, middles: Middles, places: Floats, size: Floats, soft: Floats) -> Floats:
    """(2, ...) the light at points, and the lights' places on the ramp times it."""
    across, down = (np.asarray(one, dtype=np.float32).reshape(-1, *[1] * max(x.ndim, y.ndim)) for one in middles)
    edge = np.float32(2.0) / soft
    own = distance(x - across, y - down)
    own *= edge / np.maximum(size, np.float32(1e-3))
    np.subtract(edge, own, out=own)
    np.clip(own, np.float32(0.0), np.float32(2.0), out=own)
    rest = np.float32(3.0) - own
    own *= own
    own *= rest  # four times the soft step of the half
    weights = np.stack([np.ones(len(places), dtype=np.float32), places]) * np.float32(0.25)
    found: Floats = (weights @ own.reshape(len(places), -1)).reshape(2, *own.shape[1:])
    return found


def _one_by_one(x: Floats, y: Floats, middles: Middles, places: Floats, size: Floats, soft: Floats) -> Floats:
    """As `_lights`, on a stretch of a large matrix: light by light what is worked on stays near the processor."""
    edge = np.float32(2.0) / soft
    scale = edge / np.maximum(size, np.float32(1e-3))
    found = np.zeros((2, x.size), dtype=np.float32)
    light, placed = found
    own, other = np.empty_like(x), np.empty_like(x)
    for across, down, place in zip(*middles, places, strict=True):
        np.subtract(x, np.float32(across), out=own)
        np.multiply(own, own, out=own)
        np.subtract(y, np.float32(down), out=other)
        np.multiply(other, other, out=other)
        np.add(own, other, out=own)
        np.sqrt(own, out=own)
        np.multiply(own, scale, out=own)
        np.subtract(edge, own, out=own)
        np.maximum(own, np.float32(0.0), out=own)
        np.minimum(own, np.float32(2.0), out=own)
        np.subtract(np.float32(3.0), own, out=other)
        np.multiply(own, own, out=own)
        np.multiply(own, other, out=own)
        np.add(light, own, out=light)
        np.multiply(own, place, out=own)
        np.add(placed, own, out=placed)
    found *= np.float32(0.25)
    return found


def where(prepared: Prepared, count: int, moment: Moment) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """The middles of the lights in squares: (count,) across and down."""
    canvas, drawn = prepared.canvas, prepared.drawn[:, :count].astype(np.float64)
    reach = moment.moved["reach"] / 100.0
    time = moment.phase / 4.0
    # Whole turns in a phase of 4, other ones across than down: nobody follows another.
    across = 0.5 * np.sin(2 * math.pi * (time * (1 + np.arange(count) % 3) + drawn[0]))
    across += 0.3 * (drawn[1] - 0.5) * 2 * (count > 1)
    down = 0.4 * np.sin(2 * math.pi * (time * (2 + np.arange(count) % 2) + drawn[2]))
    down += 0.1 * np.sin(2 * math.pi * (time * 8 + drawn[3])) + 0.3 * (drawn[4] - 0.5) * 2 * (count > 1)
    apart = np.hypot(across[:, None] - across[None, :], down[:, None] - down[None, :])
    pull = np.exp(-((apart / NEAR) ** 2))
    pull /= pull.sum(axis=1, keepdims=True)
    across += PULL * (pull @ across - across)
    down += PULL * (pull @ down - down)
    middle_x, middle_y = moment.moved["x"] / 100.0, moment.moved["y"] / 100.0
    return canvas.width * (middle_x + reach * across), canvas.height * (middle_y + reach * down)


BUOYS = register(
    Effect(
        name="Buoys",
        says="soft lights that ride on a swell; they drift and bob, and pull near ones along",
        words=("balls", "orbs", "spots", "lava", "blobs", "follow"),
        parameters=(
            Parameter("count", "number", 5.0, 1.0, COUNT_MOST, "lights"),
            Parameter("size", "number", 38.0, 1.0, 200.0, "% of the longer side", each=True),
            Parameter("softness", "number", 80.0, 0.0, 100.0, "%", each=True),
            Parameter("x", "number", 50.0, -50.0, 150.0, "% across"),
            Parameter("y", "number", 50.0, -50.0, 150.0, "% down"),
            Parameter("reach", "number", 75.0, 0.0, 200.0, "% of the matrix"),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(4, 1),
        ramp=(Stop(0.0, 255, 140, 40), Stop(0.5, 235, 60, 90), Stop(1.0, 70, 120, 255)),
        speed=Speed(6.0),
    )
)
