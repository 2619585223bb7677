"""Flat: one colour everywhere."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from heliograph.core.look.parameter import Parameter
from heliograph.effects.registry import Canvas, Effect, Moment, Stretch, register


def prepare(_canvas: Canvas, _choices: Mapping[str, str], _seed: int) -> None:
    """Nothing: it is the same everywhere."""


def paint(_prepared: None, part: slice, moment: Moment) -> Stretch:
    """The ramp's colour at `place` percent, fully covering."""
    place = moment.number("place", part)
    return Stretch((place / 100.0).astype(np.float32) if isinstance(place, np.ndarray) else place / 100.0, 1.0)


FLAT = register(
    Effect(
        name="Flat",
        says="one colour everywhere",
        words=("colour", "solid", "fill", "plain"),
        parameters=(Parameter("place", "number", 0.0, 0.0, 100.0, "% of the ramp", each=True),),
        prepare=prepare,
        paint=paint,
        moves=False,
    )
)
