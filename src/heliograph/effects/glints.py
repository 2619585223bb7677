"""Glints: cells flash by chance and die away."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.core.waves import chance
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register
from heliograph.effects.shaping import Draws, cells_of


class Prepared(NamedTuple):
    """`begins` (n,): when in the phase each cell's turn begins."""

    begins: Floats
    draws: Draws


def prepare(canvas: Canvas, _choices: Mapping[str, str], seed: int) -> Prepared:
    cell = cells_of(canvas)
    return Prepared(chance(seed, cell), Draws(seed + 1, cell))


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Within a phase of 1 each cell has one turn; `density` percent of them flash in it. A flash rises over `attack`
    and dies over `decay` percent of the turn; the ramp runs along its dying."""
    base = math.floor(moment.phase)
    age = prepared.begins[part] + np.float32(moment.phase - base)
    next_turn = age >= np.float32(1.0)
    age -= next_turn
    drawn = np.where(next_turn, prepared.draws.of(base + 1)[part], prepared.draws.of(base)[part])
    attack = np.maximum(np.asarray(moment.number("attack", part) / 100.0, dtype=np.float32), np.float32(1e-4))
    decay = np.maximum(np.asarray(moment.number("decay", part) / 100.0, dtype=np.float32), np.float32(1e-4))
    dying = age - attack
    dying /= decay
    np.clip(dying, 0.0, 1.0, out=dying)
    age /= attack
    left = np.float32(1.0) - dying
    left *= left
    light = np.minimum(age, left, out=left)
    light *= drawn < np.asarray(moment.number("density", part) / 100.0, dtype=np.float32)
    return Stretch(dying, light)


GLINTS = register(
    Effect(
        name="Glints",
        says="cells flash by chance and die away",
        words=("sparkle", "twinkle", "stars", "glitter", "random"),
        parameters=(
            Parameter("density", "number", 40.0, 0.0, 100.0, "% of the cells", each=True),
            Parameter("attack", "number", 4.0, 0.0, 100.0, "% of a turn", each=True),
            Parameter("decay", "number", 45.0, 0.0, 100.0, "% of a turn", each=True),
        ),
        prepare=prepare,
        paint=paint,
        ramp=(Stop(0.0, 255, 255, 255), Stop(1.0, 90, 130, 255)),
        speed=Speed(2.0),
    )
)
