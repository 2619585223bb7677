"""Times of work on a machine that is shared: taken while the machine itself is at its full pace.

Virtual machines run at half their pace for seconds at a time, whatever runs on them. A small reference pass is timed
before and after each batch; batches during which it was slow are done again.
"""

from __future__ import annotations

import time
from collections.abc import Callable

import numpy as np

TURNS, WANTED, TRIES = 12, 3, 60
SLOWER = 1.2
"""A pass that takes so many times the fastest one says that the machine is elsewhere."""

REST_S = 0.1
_PASSES = 7
_angles = np.linspace(0.0, 9.0, 87_040, dtype=np.float32)
_fastest = [float("inf")]


def median_ms(run: Callable[[int], object]) -> float:
    """The median time of one turn: the least of three batches in quiet moments, or of all where there are none."""
    quiet: list[float] = []
    others: list[float] = []
    if _fastest[0] == float("inf"):
        _settle()
    for batch in range(TRIES):
        before = _pass_ms()
        taken = _batch_ms(run, batch)
        after = _pass_ms()
        if max(before, after) <= SLOWER * _fastest[0]:
            quiet.append(taken)
            if len(quiet) == WANTED:
                break
        else:
            others.append(taken)
            time.sleep(REST_S)
    return min(quiet or others)


def is_quiet() -> bool:
    """Whether the machine is at its full pace at this moment."""
    if _fastest[0] == float("inf"):
        _settle()
    return _pass_ms() <= SLOWER * _fastest[0]


def _batch_ms(run: Callable[[int], object], batch: int) -> float:
    times = []
    for turn in range(TURNS):
        begun = time.perf_counter()
        run(batch * TURNS + turn)
        times.append(time.perf_counter() - begun)
    return float(np.median(times) * 1e3)


def _pass_ms() -> float:
    times = []
    for _ in range(_PASSES):
        begun = time.perf_counter()
        np.sin(_angles)
        times.append(time.perf_counter() - begun)
    found = float(np.median(times) * 1e3)
    _fastest[0] = min(_fastest[0], found)
    return found


def _settle(seconds: float = 4.0) -> None:
    """Meets the fastest pass once."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        _pass_ms()
        time.sleep(0.02)
