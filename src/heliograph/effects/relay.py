"""Relay: one cell, row or column after another."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any, NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.effects.orders import ORDERS
from heliograph.effects.registry import Canvas, Effect, Floats, Indexes, Moment, Order, Stretch, register
from heliograph.effects.whole import Once

NEVER = np.float32(1e7)
"""So far behind the round is what never comes."""

HARD = 1e-6
"""Of a step: what fades over less than this does not fade."""


class Prepared(NamedTuple):
    """The way through the cells. `step` (n,): which step's turn each point is lit in; `order.steps` for one whose turn
    never comes."""

    order: Order
    step: Indexes
    once: Once


def prepare(canvas: Canvas, choices: Mapping[str, str], _seed: int) -> Prepared:
    order = canvas.orders[choices["order"]]
    step = np.where(order.rank < 0, np.float32(order.steps), order.rank)
    return Prepared(order, np.rint(step).astype(np.intp), Once())


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Each step of the order is lit in its turn; a phase of 1 is one round over all steps.

    `width` steps are lit together; `overlap` percent of a step's time is spent fading into the
    next (0: steps change hard). The ramp runs along the round.
    """
    _, steps, place = prepared.order
    width = np.minimum(np.float32(steps), np.float32(moment.number("width", part)))
    fade = moment.number("overlap", part) / 100.0
    alike = isinstance(fade, float) and np.ndim(width) == 0  # all points of a step are

    def steps_now() -> Floats:
        past = _past(steps, moment.phase)
        return _covered(past, width, fade) if alike else past

    mine = prepared.once.at(moment, steps_now).take(prepared.step[part])
    return Stretch(place[part], mine if alike else _covered(mine, width, fade))


def _past(steps: int, phase: float) -> Floats:
    """(steps + 1,) how far the round is past each step, and past one that never comes."""
    past: Floats = np.float32((phase % 1.0) * steps) - np.arange(steps + 1, dtype=np.float32)
    past += np.float32(steps) * (past < 0)
    past[steps] = NEVER
    return past


def _covered(behind: Floats, width: Any, fade: Any) -> Floats:
    """0..1 for what the round has gone past by so many steps."""
    if isinstance(fade, float) and fade < HARD:
        hard: Floats = (behind < width).astype(np.float32)
        return hard
    # Rises over `fade` of a step, stays for `width`, falls over `fade`: neighbours cross at one half.
    each = (np.float32(1.0) / np.maximum(np.asarray(fade, dtype=np.float32), np.float32(HARD))).astype(np.float32)
    cover: Floats = behind * each
    np.minimum(cover, np.asarray(width + fade, dtype=np.float32) * each - cover, out=cover)
    np.clip(cover, np.float32(0.0), np.float32(1.0), out=cover)
    if isinstance(fade, np.ndarray) and fade.min(initial=1.0) < HARD:
        cover = np.where(fade < HARD, (behind < width).astype(np.float32), cover)
    return cover


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
        ramp=(Stop(0.0, 70, 255, 130), Stop(1.0, 50, 190, 255)),
        begins={"order": "column", "overlap": 50.0},
        steps=lambda prepared, _params: prepared.order.steps,
    )
)
