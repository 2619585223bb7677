"""Relay: one cell, row or column after another."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np

from heliograph.core.look.parameter import Parameter
from heliograph.effects.orders import ORDERS
from heliograph.effects.registry import Canvas, Effect, Moment, Order, Stretch, register


def prepare(canvas: Canvas, choices: Mapping[str, str], _seed: int) -> Order:
    """The way through the cells."""
    return canvas.orders[choices["order"]]


def paint(order: Order, part: slice, moment: Moment) -> Stretch:
    """Each step of the order is lit in its turn; a phase of 1 is one round over all steps.

    `width` steps are lit together; `overlap` percent of a step's time is spent fading into the
    next (0: steps change hard). The ramp runs along the round.
    """
    ranks, steps, place = order
    head = (moment.phase % 1.0) * steps
    width = np.minimum(np.float32(steps), np.float32(moment.number("width", part)))
    fade = moment.number("overlap", part) / 100.0
    behind = np.float32(head) - ranks[part]
    behind += np.float32(steps) * (behind < 0)  # both are 0..steps, so this is the remainder, cheaper
    if isinstance(fade, float) and fade == 0.0:
        return Stretch(place[part], (behind < width).astype(np.float32))
    # Rises over `fade` of a step, stays for `width`, falls over `fade`: neighbours cross at one half.
    over = np.maximum(np.float32(fade), np.float32(1e-6))
    falling = (np.float32(width + fade) - behind) / over
    rising = behind / over
    cover = np.minimum(np.minimum(rising, falling), np.float32(1.0))
    np.maximum(cover, np.float32(0.0), out=cover)
    if isinstance(fade, np.ndarray):
        cover = np.where(fade == 0.0, (behind < width).astype(np.float32), cover)
    return Stretch(place[part], cover)


RELAY = register(
    Effect(
        name="Relay",
        says="one cell, row or column after another",
        words=("chase", "runner", "sequence", "step", "one by one"),
        parameters=(
            Parameter("order", "choice", "address", choices=ORDERS),
            Parameter("width", "number", 1.0, 1.0, 10_000.0, "steps", each=True),
            Parameter("overlap", "number", 0.0, 0.0, 100.0, "% of a step", each=True),
        ),
        prepare=prepare,
        paint=paint,
    )
)
