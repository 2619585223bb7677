"""Relay: one cell, row or column after another."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

import numpy as np

from heliograph.effects.orders import ORDERS
from heliograph.effects.registry import Canvas, Effect, Parameter, Stretch, register


def paint(canvas: Canvas, part: slice, phase: float, params: Mapping[str, Any]) -> Stretch:
    """Each step of the order is lit in its turn; a phase of 1 is one round over all steps.

    `width` steps are lit together; `overlap` percent of a step's time is spent fading into the
    next (0: steps change hard). The ramp runs along the round.
    """
    ranks, steps, place = canvas.orders[params["order"]]
    head = (phase % 1.0) * steps
    width = min(float(params["width"]), float(steps))
    fade = params["overlap"] / 100.0
    behind = np.float32(head) - ranks[part]
    behind += np.float32(steps) * (behind < 0)  # both are 0..steps, so this is the remainder, cheaper
    if fade == 0.0:
        cover = (behind < width).astype(np.float32)
    else:
        # Rises over `fade` of a step, stays for `width`, falls over `fade`: neighbours cross at one half.
        falling = (np.float32(width + fade) - behind) / np.float32(fade)
        rising = behind / np.float32(fade)
        cover = np.minimum(np.minimum(rising, falling), np.float32(1.0))
        np.maximum(cover, np.float32(0.0), out=cover)
    return Stretch(place[part], cover)


RELAY = register(
    Effect(
        name="Relay",
        says="one cell, row or column after another",
        words=("chase", "runner", "sequence", "step", "one by one"),
        parameters=(
            Parameter("order", "choice", "address", choices=ORDERS),
            Parameter("width", "number", 1.0, 1.0, 10_000.0, "steps"),
            Parameter("overlap", "number", 0.0, 0.0, 100.0, "% of a step"),
        ),
        paint=paint,
    )
)
