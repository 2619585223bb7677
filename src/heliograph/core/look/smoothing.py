"""Smoothing of a drive: first order, a time to rise and a time to fall in which nine tenths of a jump are covered.
Worked out from what was asked before the moment, so that nothing has to be kept from frame to frame."""

from __future__ import annotations

import math
from collections.abc import Callable
from typing import Any

import numpy as np

from heliograph.core.waves import Floats

LAPS = 12
"""What repeats is gone through so often at most until a lap ends where it began."""

BACK = 24
"""Draws by chance are looked back over so many at most: three times the smoothing is within a thousandth."""

BETWEEN = 8
"""Steps in which a draw that drifts is followed."""


def left_of_jump(elapsed_s: float, covers_s: float) -> float:
    """The share of a jump that is still to go: a tenth after `covers_s`."""
    return 0.0 if covers_s <= 0.0 else float(0.1 ** (elapsed_s / covers_s))


def settled(asked: Any, step_s: float, rise: float, fall: float, *, repeats: bool) -> Floats:
    """(n,) levels `step_s` apart, smoothed; from their first one on, or as they come when they have repeated long
    enough."""
    up, down = left_of_jump(step_s, rise), left_of_jump(step_s, fall)
    targets = [float(one) for one in asked]
    level = targets[0]
    out = targets
    for _ in range(LAPS if repeats else 1):
        began = level
        out = []
        for target in targets:
            left = up if target > level else down
            level = target + (level - target) * left
            out.append(level)
        if abs(level - began) < 1e-5:
            break
    return np.array(out, dtype=np.float32)


def smoothed_draws(
    draw: Callable[[float], Any],
    turns: float,
    drawn: int,
    period_s: float,
    rise: float,
    fall: float,
    *,
    by_steps: bool,
) -> Any:
    """The level at `turns` of what is drawn anew each period (`by_steps`) or drifts from one draw to the next."""
    back = min(BACK, math.ceil(3.0 * max(rise, fall) / period_s) + 1)
    steps = 1 if by_steps else BETWEEN
    level = draw(float(drawn - back))
    at = float(drawn - back)
    while at < turns:
        after = min(at + 1.0 / steps, turns)
        target = draw(at if by_steps else (at + after) / 2)
        elapsed = (after - at) * period_s
        up, down = left_of_jump(elapsed, rise), left_of_jump(elapsed, fall)
        level = target + (level - target) * np.where(target > level, np.float32(up), np.float32(down))
        at = after
    return level
