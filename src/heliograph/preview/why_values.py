"""The value of a channel after each step of its chain, so that the chain can be drawn."""

from __future__ import annotations

from typing import Any

from heliograph.core.colour.extraction import EMITTER_ATTRIBUTES
from heliograph.power import Step

SHARES = frozenset(("alone on it",))
"""Kinds of steps whose value is a share of the whole, 0..1."""


def value_after(step: Step, plane: int) -> float | None:
    """0..255 of the channel whose emitter is `plane`; None where the step says nothing of it: a white made of three
    colours has no value before it is made."""
    after: Any = step.numbers.get("after")
    if isinstance(after, list):
        return float(after[plane]) * 255.0 if 0 <= plane < len(after) else None
    if isinstance(after, dict):
        share = after.get(EMITTER_ATTRIBUTES[plane]) if plane >= 0 else None
        return None if share is None else float(share) * 255.0
    if isinstance(after, float):
        return after * 255.0
    value = step.numbers.get("value")
    if value is None:
        return None
    return float(value) * 255.0 if step.kind in SHARES else float(value)
