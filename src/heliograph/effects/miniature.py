"""An effect as a small moving picture on a matrix of a given shape, with its own colours and speed: how it looks before
it is chosen."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import RAMP_STEPS, ramp_table
from heliograph.effects.orders import canvas_for
from heliograph.effects.registry import Canvas, Effect, Moment, complete_params

SIDE_MOST = 64
"""Squares of the longer side; larger matrices are shown smaller."""

RATE = 12
"""Pictures a second."""

SECONDS_MOST = 4.0
BEATS_A_SECOND = 2.0
SEED = 3

Pictures = npt.NDArray[np.uint8]


def miniature(effect: Effect, width: int, height: int) -> Pictures:
    """(pictures, height, width, 3) bytes, `RATE` of them a second: a cycle of it, or the beginning of a long one."""
    seconds = seconds_of(effect)
    count = max(round(min(seconds, SECONDS_MOST) * RATE), 1) if effect.moves else 1
    return pictures_at(effect, *shape_of(width, height), [number / RATE / seconds for number in range(count)])


def seconds_of(effect: Effect) -> float:
    """How long a cycle of it lasts as it begins, beats at 120 a minute."""
    return effect.speed.value / (BEATS_A_SECOND if effect.speed.unit == "beat" else 1.0)


def pictures_at(effect: Effect, width: int, height: int, phases: Sequence[float]) -> Pictures:
    """(phases, height, width, 3) bytes: the effect as it begins, square by square."""
    canvas = _canvas(width, height)
    params = complete_params(effect, effect.begins)
    prepared = effect.prepare(canvas, effect.choices(params), SEED)
    table = ramp_table(effect.ramp)
    pictures = np.zeros((len(phases), canvas.height, canvas.width, 3), dtype=np.uint8)
    for number, phase in enumerate(phases):
        moment = Moment(phase, params)
        place, cover = effect.paint(prepared, slice(0, canvas.count), moment)
        index = np.broadcast_to(np.asarray(place), canvas.count)
        if index.dtype != np.intp:
            index = np.rint(index * (RAMP_STEPS - 1)).astype(np.intp)
        light = np.clip(table[:, index] * cover, 0.0, 1.0)
        pictures[number] = (light.T * 255.0 + 0.5).astype(np.uint8).reshape(canvas.height, canvas.width, 3)
    return pictures


def shape_of(width: int, height: int) -> tuple[int, int]:
    """Columns and rows of the miniature of a matrix."""
    smaller = min(1.0, SIDE_MOST / max(width, height))
    return max(round(width * smaller), 1), max(round(height * smaller), 1)


def _canvas(columns: int, rows: int) -> Canvas:
    y, x = np.mgrid[0:rows, 0:columns].astype(np.float32)
    return canvas_for(x.ravel() + np.float32(0.5), y.ravel() + np.float32(0.5), columns, rows)
