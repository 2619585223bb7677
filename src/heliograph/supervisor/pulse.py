"""Whether a child still does its work: a process that hangs does not end, so somebody has to look.

Everything is compared with what it was at the last look: no clock but the supervisor's own has to be right.
"""

from __future__ import annotations

import threading
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import psycopg

from heliograph.ipc.frames import FrameReader
from heliograph.ipc.heartbeat import last_beat_s
from heliograph.ipc.patience import ENGINE_SILENT_S, OTHERS_SILENT_S, STARTING_S
from heliograph.ipc.places import fast_folder

OVERSLEPT_S = 1.0
"""Who looks itself so late was stopped or starved, and so were the others: it begins to count anew."""

DATABASE_ASKED_S = 2.0

Sign = Callable[[], Any]


@dataclass(slots=True)
class Pulse:
    """`sign` gives something that changes as long as the process works."""

    sign: Sign
    patience_s: float
    last: Any = None
    since_s: float = 0.0
    looked_s: float = 0.0
    seen: bool = False

    def begin(self, now_s: float) -> None:
        """The process was started."""
        self.last, self.since_s, self.looked_s, self.seen = self.sign(), now_s, now_s, False

    def is_silent(self, now_s: float) -> bool:
        overslept = now_s - self.looked_s > OVERSLEPT_S
        self.looked_s = now_s
        sign = self.sign()
        if sign != self.last:
            self.last, self.since_s, self.seen = sign, now_s, True
        elif overslept:
            self.since_s = now_s
        return now_s - self.since_s > (self.patience_s if self.seen else max(STARTING_S, self.patience_s))


def engine_pulse(data: Path) -> Pulse:
    """The number of the newest frame."""
    reader: list[FrameReader] = []

    def newest() -> int:
        if not reader:
            reader.append(FrameReader(fast_folder(data) / "sent.frames"))
        return reader[0].newest()

    return Pulse(newest, ENGINE_SILENT_S)


def process_pulse(data: Path, process: str) -> Pulse:
    return Pulse(lambda: last_beat_s(data, process), OTHERS_SILENT_S)


class DatabasePulse:
    """Asks the database something, again and again, in a thread: counts the answers."""

    def __init__(self, connect: Callable[[], psycopg.Connection[Any]], stopping: threading.Event) -> None:
        self._connect, self._stopping = connect, stopping
        self.answers = 0
        threading.Thread(target=self._ask, name="database pulse", daemon=True).start()

    def _ask(self) -> None:
        while not self._stopping.wait(DATABASE_ASKED_S):
            try:
                with self._connect() as connection:
                    connection.execute("SELECT 1")
            except (psycopg.Error, OSError):
                continue
            self.answers += 1

    def pulse(self) -> Pulse:
        return Pulse(lambda: self.answers, OTHERS_SILENT_S)
