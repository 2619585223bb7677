"""When the machine stood still or was taken away while tests ran: what a first failure is judged by."""

from __future__ import annotations

import threading
import time
from dataclasses import dataclass
from pathlib import Path

TICK_S = 0.1
LATE_S = 0.5
"""A thread that does nothing else and is woken so much too late was kept from running."""
STOLEN = 0.25
"""Of a second of all processors, taken by other guests of the host."""


@dataclass(frozen=True, slots=True)
class Stall:
    """Wall times in seconds, and what it was."""

    begun: float
    ended: float
    what: str


class StallMeter:
    """Ticks beside a run."""

    def __init__(self) -> None:
        self.stalls: list[Stall] = []
        self._ended = threading.Event()
        self._thread = threading.Thread(target=self._run, name="stalls", daemon=True)

    def __enter__(self) -> StallMeter:
        self._thread.start()
        return self

    def __exit__(self, *_: object) -> None:
        self._ended.set()
        self._thread.join()

    def between(self, begun: float, ended: float) -> list[Stall]:
        return [one for one in self.stalls if one.begun < ended and one.ended > begun]

    def _run(self) -> None:
        last, second = time.time(), time.time()
        total, stolen = _processor_time()
        while not self._ended.wait(TICK_S):
            now = time.time()
            if now - last - TICK_S > LATE_S:
                self.stalls.append(Stall(last, now, f"nothing ran for {now - last:.1f} s"))
            last = now
            if now - second >= 1:
                then_total, then_stolen, (total, stolen) = total, stolen, _processor_time()
                share = (stolen - then_stolen) / max(total - then_total, 1)
                if share > STOLEN:
                    self.stalls.append(Stall(second, now, f"{share:.0%} of the processors were taken by others"))
                second = now


def _processor_time() -> tuple[int, int]:
    """Ticks of all processors so far, and those of them that others of the host had."""
    words = Path("/proc/stat").read_text().split("\n", 1)[0].split()[1:]
    ticks = [int(word) for word in words[:8]]
    return sum(ticks), ticks[7] if len(ticks) > 7 else 0


def in_words(stalls: list[Stall]) -> str:
    """The longest of them first; "" where there was none."""
    longest = sorted(stalls, key=lambda one: one.begun - one.ended)[:2]
    more = f" and {len(stalls) - 2} more" if len(stalls) > 2 else ""
    return ", ".join(one.what for one in longest) + more
