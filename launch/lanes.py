"""Programs in lanes side by side: what they print comes line by line, and all of them can be ended at once."""

from __future__ import annotations

import re
import subprocess
import threading
import time
import traceback
from collections.abc import Sequence
from dataclasses import dataclass
from pathlib import Path

from launch.steps import ROOT

_COUNTS = re.compile(r"(\d+) (passed|failed|skipped|errors?)\b")


@dataclass(frozen=True, slots=True)
class Task:
    """One program of a lane. `log`: what came of its tests, where it is pytest. `final`: what it finds wrong is never
    tried again, and ends the run."""

    name: str
    command: Sequence[str]
    folder: Path = ROOT
    log: Path | None = None
    final: bool = False


@dataclass(frozen=True, slots=True)
class Done:
    """A program that has ended. `counts`: what its last line says it counted."""

    task: Task
    code: int
    took_s: float
    counts: dict[str, int]


class Lanes:
    """Runs tasks and keeps what came of them."""

    def __init__(self, env: dict[str, str], ends_at_s: float) -> None:
        """`ends_at_s`: the moment (monotonic) at which all that still runs is ended."""
        self.planned: list[Task] = []
        self.done: list[Done] = []
        self.ended_because = ""
        self._env = {**env, "PYTHONUNBUFFERED": "1"}
        self._ends_at_s = ends_at_s
        self._running: list[subprocess.Popen[str]] = []
        self._lock = threading.Lock()

    def run(self, lanes: Sequence[Sequence[Task]]) -> None:
        """All lanes side by side, each one task after another; returns when all have ended."""
        self.planned += [task for lane in lanes for task in lane]
        threads = [threading.Thread(target=self._lane, args=(lane,), name="lane") for lane in lanes]
        for thread in threads:
            thread.start()
        try:
            for thread in threads:
                thread.join(max(self._ends_at_s - time.monotonic(), 0))
            if any(thread.is_alive() for thread in threads):
                self.end("it has come to its limit of time")
        except BaseException:
            self.end("it was ended")
            raise
        finally:
            for thread in threads:
                thread.join()

    def missing(self) -> list[Task]:
        """What was to run and of which nothing is known."""
        ended = {id(done.task) for done in self.done}
        return [task for task in self.planned if id(task) not in ended]

    def end(self, because: str) -> None:
        """Ends what runs and begins nothing more; the first reason is kept."""
        with self._lock:
            self.ended_because = self.ended_because or because
            for process in self._running:
                process.kill()

    def say(self, text: str) -> None:
        with self._lock:
            print(text, flush=True)

    def _lane(self, lane: Sequence[Task]) -> None:
        for task in lane:
            try:
                going_on = self._one(task)
            except Exception as error:  # a lane that falls silent would look like one that passed
                self.say(traceback.format_exc())
                self.end(f"{task.name} could not be run to its end: {error}")
                return
            if not going_on:
                return

    def _one(self, task: Task) -> bool:
        """Runs it, each line it prints with its name before it; False where the run is over."""
        self.say(f"== {task.name}: begun")
        begun, last = time.monotonic(), ""
        with self._lock:
            if self.ended_because:
                return False
            process = self._begun(task)
        with process:
            for line in process.stdout or ():
                last = line if line.strip() else last
                self.say(f"{task.name} | {line.rstrip()}")
        took = time.monotonic() - begun
        counts: dict[str, int] = {}
        for count, what in _COUNTS.findall(last):
            counts[what] = counts.get(what, 0) + int(count)
        with self._lock:
            self._running.remove(process)
            over = bool(self.ended_because)
            self.done.append(Done(task, process.returncode, took, counts))
        said = "ended" if over else "FAILED" if process.returncode else "ok"
        self.say(f"== {task.name}: {said} ({took:.1f} s)")
        if process.returncode and task.final and not over:
            self.end(f"{task.name} failed")
        return not self.ended_because

    def _begun(self, task: Task) -> subprocess.Popen[str]:
        process = subprocess.Popen(
            task.command,
            cwd=task.folder,
            env=self._env,
            stdout=subprocess.PIPE,
            stderr=subprocess.STDOUT,
            text=True,
            errors="replace",
        )
        self._running.append(process)
        return process
