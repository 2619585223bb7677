"""The built-in effects; importing the package registers all of them."""

from heliograph.effects import beacon, flat, grade, mist, relay
from heliograph.effects.registry import EFFECTS, Canvas, Effect, Moment, Stretch, complete_params, effect_named

__all__ = [
    "EFFECTS",
    "Canvas",
    "Effect",
    "Moment",
    "Stretch",
    "beacon",
    "complete_params",
    "effect_named",
    "flat",
    "grade",
    "mist",
    "relay",
]
