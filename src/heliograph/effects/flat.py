"""Flat: one colour everywhere."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from heliograph.effects.registry import Canvas, Effect, Parameter, Stretch, register


def paint(_canvas: Canvas, _part: slice, _phase: float, params: Mapping[str, Any]) -> Stretch:
    """The ramp's colour at `place` percent, fully covering."""
    return Stretch(params["place"] / 100.0, 1.0)


FLAT = register(
    Effect(
        name="Flat",
        says="one colour everywhere",
        words=("colour", "solid", "fill", "plain"),
        parameters=(Parameter("place", "number", 0.0, 0.0, 100.0, "% of the ramp"),),
        paint=paint,
        moves=False,
    )
)
