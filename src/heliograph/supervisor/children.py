"""Child processes that are started again when they end: at once the first time, later after a pause."""

from __future__ import annotations

import contextlib
import ctypes
import os
import signal
import subprocess
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import psutil

from heliograph.ipc.heartbeat import hang_note
from heliograph.supervisor.pulse import Pulse

STEADY_S = 10.0
"""A process that lived so long is started again without a pause."""

PAUSES_S = (0.0, 0.2, 0.5, 1.0, 2.0, 5.0)

_PR_SET_PDEATHSIG = 1
_libc = ctypes.CDLL(None)

Make = Callable[[], tuple[list[str], dict[str, Any]]]


@dataclass(slots=True)
class Child:
    """`make` gives command line and Popen options at every start. `stays`: survives a killed supervisor. `pulse`: how
    to tell that it hangs."""

    name: str
    make: Make
    log: Path
    stop_signal: int = signal.SIGTERM
    stays: bool = False
    pulse: Pulse | None = None
    process: subprocess.Popen[Any] | None = None
    started_s: float = 0.0
    fails: int = 0
    due_s: float = 0.0

    def start(self) -> None:
        command, options = self.make()
        end_with_us = None if self.stays else _die_with_parent(self.stop_signal)
        with open(self.log, "ab") as log:
            self.process = subprocess.Popen(
                command,
                stdin=subprocess.DEVNULL,
                stdout=log,
                stderr=log,
                start_new_session=True,
                preexec_fn=end_with_us,
                **options,
            )
        self.started_s = time.monotonic()
        if self.pulse is not None:
            self.pulse.begin(self.started_s)

    def hangs(self, now_s: float) -> bool:
        return self.process is not None and self.pulse is not None and self.pulse.is_silent(now_s)

    def kill(self) -> None:
        """At once, with everything it started: a database's connections are processes in sessions of their own, and
        would keep the next server out of its memory. What was stopped ends by this too."""
        if self.process is None:
            return
        with contextlib.suppress(psutil.Error):
            family = psutil.Process(self.process.pid)
            for member in (*family.children(recursive=True), family):
                with contextlib.suppress(psutil.Error):
                    member.kill()

    @property
    def pid(self) -> int:
        return self.process.pid if self.process else 0

    def ended(self) -> int | None:
        """Exit code once it has ended."""
        return self.process.poll() if self.process else None

    def plan_restart(self, now_s: float) -> None:
        self.fails = 0 if now_s - self.started_s > STEADY_S else self.fails + 1
        self.due_s = now_s + PAUSES_S[min(self.fails, len(PAUSES_S) - 1)]
        self.process = None

    def ask_to_stop(self) -> None:
        if self.process is not None and self.process.poll() is None:
            with contextlib.suppress(ProcessLookupError):
                self.process.send_signal(self.stop_signal)

    def wait(self, seconds: float) -> None:
        if self.process is None:
            return
        try:
            self.process.wait(seconds)
        except subprocess.TimeoutExpired:
            self.process.kill()
            self.process.wait()


def _die_with_parent(number: int) -> Callable[[], None]:
    def before_exec() -> None:
        _libc.prctl(_PR_SET_PDEATHSIG, number, 0, 0, 0)

    return before_exec


def run_beside(command: list[str]) -> None:
    """Runs a program to its end, behind everything else; it ends with us, and Ctrl-C is not for it.

    Raises subprocess.CalledProcessError where it fails.
    """

    def before_exec() -> None:
        os.nice(15)
        _die_with_parent(signal.SIGKILL)()

    subprocess.run(command, check=True, stdin=subprocess.DEVNULL, start_new_session=True, preexec_fn=before_exec)


@dataclass(slots=True)
class Family:
    """All children in starting order; stopped in reverse."""

    log: Any
    children: list[Child] = field(default_factory=list)
    stopping: threading.Event = field(default_factory=threading.Event)

    def add(self, child: Child) -> Child:
        child.start()
        self.children.append(child)
        self._note_pid(child)
        return child

    def _note_pid(self, child: Child) -> None:
        with contextlib.suppress(OSError):
            (child.log.parent.parent / "run" / f"{child.name}.pid").write_text(str(child.pid))

    def _note_hang(self, child: Child) -> None:
        """The next one may want to know why the last one was ended."""
        with contextlib.suppress(OSError):
            hang_note(child.log.parent.parent, child.name).touch()

    def watch(self) -> None:
        """Restarts what ended, until `stopping`."""
        while not self.stopping.wait(0.05):
            now = time.monotonic()
            for child in self.children:
                if child.hangs(now) and child.ended() is None:
                    assert child.pulse is not None
                    says = f"{child.name} hangs ({child.pulse.patience_s:g} s without a sign), it is ended"
                    self.log.warning(says, event_for_people=True)
                    self._note_hang(child)
                    child.kill()
                    child.wait(2.0)
                code = child.ended()
                if code is not None:
                    self.log.warning(f"{child.name} ended ({_say(code)}), it is started again", event_for_people=True)
                    child.plan_restart(now)
                if child.process is None and now >= child.due_s:
                    try:
                        child.start()
                        self._note_pid(child)
                    except OSError as error:
                        self.log.error(f"{child.name} cannot be started: {error}")
                        child.plan_restart(now)

    def stop(self) -> None:
        """Stops everything it started, last first, and nothing else."""
        self.stopping.set()
        engine = [child for child in self.children if child.name == "engine"]  # first: it makes the lamps dark
        for child in engine + [child for child in reversed(self.children) if child not in engine]:
            child.ask_to_stop()
            child.wait(8.0)


def _say(code: int) -> str:
    return signal.Signals(-code).name if code < 0 else f"exit {code}"


def end_left_over(pid_file: Path, mark: str, first: int = signal.SIGTERM) -> None:
    """Ends a process a killed supervisor left behind: only one whose command line carries `mark`. It is asked to by the
    signal `first`."""
    try:
        pid = int(pid_file.read_text())
        words = Path(f"/proc/{pid}/cmdline").read_bytes().decode(errors="replace").split("\0")
    except (OSError, ValueError):
        return
    if mark not in words or pid == os.getpid():
        return
    for number in (first, signal.SIGKILL):
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, number)
        until = time.monotonic() + 3
        while Path(f"/proc/{pid}").exists() and time.monotonic() < until:
            time.sleep(0.02)
