"""A sign of life: a file whose time of change a process renews from its main loop, and others look at."""

from __future__ import annotations

import os
import time
from pathlib import Path

BEAT_S = 1.0


class Heartbeat:
    """For the process itself. `beat` may be called as often as one likes."""

    def __init__(self, data: Path, process: str) -> None:
        self._path = beat_path(data, process)
        self.hang_note = hang_note(data, process)
        self._next_s = 0.0
        self._path.touch(mode=0o644)

    def beat(self) -> None:
        now = time.monotonic()
        if now >= self._next_s:
            self._next_s = now + BEAT_S / 2
            try:
                os.utime(self._path)
            except OSError:  # the data folder is away or full: not a sign of death
                return


def beat_path(data: Path, process: str) -> Path:
    return data / "run" / f"{process}.beat"


def hang_note(data: Path, process: str) -> Path:
    """There where the last process of this name was ended because it hung; whoever reads it removes it."""
    return data / "run" / f"{process}.hung"


def last_beat_s(data: Path, process: str) -> float | None:
    """When it last beat, in seconds of the file system's clock; None before the first time."""
    try:
        return beat_path(data, process).stat().st_mtime
    except OSError:
        return None
