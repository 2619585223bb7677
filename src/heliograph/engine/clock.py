"""Frame deadlines: start + n x period on the steady clock. A missed slot is skipped and counted, never replayed.

Rescheduling from "now" instead drifts: measured 42 Hz where 44 were wanted.
"""

from __future__ import annotations

import contextlib
import os
import time
from dataclasses import dataclass, field

from heliograph.core.playing.frames import PERIOD_NS

LEAD_MAX_NS = 16_000_000
"""Rendering starts at most so long before its deadline; a longer render misses it and is counted."""

LEAD_MARGIN_NS = 1_500_000


@dataclass(slots=True)
class Deadlines:
    """Counts frames on a fixed grid from `start_ns`."""

    start_ns: int
    period_ns: int = PERIOD_NS
    number: int = 0
    skipped: int = 0

    @property
    def due_ns(self) -> int:
        return self.start_ns + self.number * self.period_ns

    def next(self, now_ns: int) -> None:
        """Moves on to the next deadline still ahead."""
        self.number += 1
        behind = (now_ns - self.due_ns) // self.period_ns
        if behind > 0:
            self.skipped += behind
            self.number += behind


@dataclass(slots=True)
class Lead:
    """How early to begin rendering: the longest of the last renders and a margin."""

    recent: list[int] = field(default_factory=lambda: [0] * 32)
    at: int = 0

    def add(self, render_ns: int) -> None:
        self.recent[self.at % len(self.recent)] = render_ns
        self.at += 1

    @property
    def ns(self) -> int:
        return min(max(self.recent) + LEAD_MARGIN_NS, LEAD_MAX_NS)


def sleep_until(steady_ns: int) -> None:
    """Sleeps until the steady clock reads `steady_ns` (measured here: 60 us late in the median)."""
    wait = steady_ns - time.monotonic_ns()
    if wait > 0:
        time.sleep(wait / 1e9)


LOOP_PRIORITY = 10
CONTROL_PRIORITY = 5
"""Control threads too: one that is pushed aside while it holds the interpreter's lock holds the loop up."""


def run_in_real_time(priority: int = LOOP_PRIORITY) -> bool:
    """Puts the calling thread, and threads it starts, ahead of ordinary processes where the system permits it.

    A browser that draws in software on the same two cores made an ordinary thread miss frames; the
    kernel's own limit keeps 5 % of each second for everybody else.
    """
    with contextlib.suppress(OSError, AttributeError):
        os.sched_setscheduler(0, os.SCHED_RR, os.sched_param(priority))
        return True
    return False
