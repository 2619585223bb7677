"""What the engine measures of itself, summed up once a second."""

from __future__ import annotations

import resource
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any


def stolen_ticks() -> int:
    """Ticks the machine was taken away from us (hypervisor), all cores together."""
    try:
        return int(Path("/proc/stat").read_text().split("\n", 1)[0].split()[8])
    except (OSError, IndexError, ValueError):
        return 0


STOLEN_TICKS = 2
"""Ticks of 10 ms: as long as a frame, so that it may well have cost one."""


@dataclass(slots=True)
class Stats:
    """Times in milliseconds. `late` is how far after its deadline a frame's first packet left. `skipped_stolen`: frames
    left out in seconds in which the machine was taken away from us."""

    second_ns: int = field(default_factory=time.monotonic_ns)
    frames: int = 0
    render: float = 0.0
    send: float = 0.0
    late_sum: float = 0.0
    late_max: float = 0.0
    cpu_s: float = 0.0
    stolen: int = field(default_factory=stolen_ticks)
    skipped: int = 0
    skipped_stolen: int = 0
    summary: dict[str, Any] = field(default_factory=dict)

    def add(self, render_ns: int, send_ns: int, late_ns: int) -> None:
        self.frames += 1
        self.render += render_ns / 1e6
        self.send += send_ns / 1e6
        late = late_ns / 1e6
        self.late_sum += late
        self.late_max = max(self.late_max, late)

    def due(self, now_ns: int) -> bool:
        return now_ns - self.second_ns >= 1_000_000_000

    def sum_up(self, now_ns: int, skipped: int) -> dict[str, Any]:
        """Closes the second and begins the next."""
        span = (now_ns - self.second_ns) / 1e9
        usage = resource.getrusage(resource.RUSAGE_SELF)
        cpu, stolen, n = usage.ru_utime + usage.ru_stime, stolen_ticks(), max(self.frames, 1)
        if stolen - self.stolen >= STOLEN_TICKS:
            self.skipped_stolen += skipped - self.skipped
        self.skipped = skipped
        self.summary = {
            "frames_per_s": round(self.frames / span, 2),
            "render_ms": round(self.render / n, 3),
            "send_ms": round(self.send / n, 3),
            "late_ms": round(self.late_sum / n, 3),
            "late_max_ms": round(self.late_max, 3),
            "skipped": skipped,
            "skipped_stolen": self.skipped_stolen,
            "processor_share": round((cpu - self.cpu_s) / span, 4) if self.cpu_s else 0.0,
            "stolen_ticks": stolen - self.stolen,
        }
        self.second_ns, self.frames, self.cpu_s, self.stolen = now_ns, 0, cpu, stolen
        self.render = self.send = self.late_sum = self.late_max = 0.0
        return self.summary
