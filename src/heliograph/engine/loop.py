"""The frame loop: take commands, render, spool, send, publish; 44 times a second on fixed deadlines.

It renders and sends and does nothing else: no database, no HTTP. Commands are functions put into a
queue by the control thread; they run between two frames, so nothing here needs a lock.
"""

from __future__ import annotations

import gc
import queue
import threading
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import numpy as np

from heliograph.core.playback import PlaybackState, advance
from heliograph.core.tempo import ShowClock
from heliograph.engine.clock import Deadlines, Lead, run_in_real_time, sleep_until
from heliograph.engine.compiled import CompiledShow, empty_show
from heliograph.engine.render import Renderer
from heliograph.engine.routes import Route
from heliograph.engine.sender import Sender
from heliograph.engine.spool import Spool
from heliograph.engine.stats import Stats
from heliograph.ipc.frames import FrameWriter

COMMAND_WAIT_S = 2.0
"""A command waits for its frame at most so long: 88 frames."""

COLLECT_FRAMES = 440
"""Garbage is collected every ten seconds in the slack after a frame, never at a moment Python chooses."""


@dataclass(slots=True)
class _Command:
    run: Callable[[Engine], Any]
    done: threading.Event = field(default_factory=threading.Event)
    result: Any = None
    error: Exception | None = None


class Engine:
    """State of the loop. Other threads use `between_frames` and read `state`, `summary`, `frame`."""

    def __init__(self, folder: Path, sender: Sender, spool: Spool) -> None:
        self.show: CompiledShow = empty_show()
        self.sender = sender
        self.spool = spool
        self.stats = Stats()
        self.frame = 0
        self.deadlines = Deadlines(0)
        self.state = PlaybackState()
        self.clock = ShowClock(0, time.monotonic_ns())
        if spool.resumed is not None:
            self.frame = spool.resumed.frame
            self.state = spool.resumed.state
            self.clock = spool.resumed.clock
            sender.sequences.update(spool.resumed.sequences)
        self._keys: tuple[str, ...] = ()
        self._renderer = Renderer()
        self._frames = FrameWriter(folder / "sent.frames", self.show.universes.astype("<u2"))
        self._sent = np.zeros(0, dtype=np.uint8)
        self._commands: queue.SimpleQueue[_Command] = queue.SimpleQueue()
        self._lead = Lead()
        self.stopping = threading.Event()

    def between_frames(self, run: Callable[[Engine], Any]) -> Any:
        """Runs a function in the loop's thread before the next frame and returns its result."""
        command = _Command(run)
        self._commands.put(command)
        if not command.done.wait(COMMAND_WAIT_S):
            raise TimeoutError("the frame loop did not take the command")
        if command.error is not None:
            raise command.error
        return command.result

    def adopt(self, show: CompiledShow, routes: list[Route] | None, *, resume: bool = False) -> None:
        """Puts a compiled show to work; `routes` where outputs or universes changed. Between frames only."""
        self.show = show
        if routes is not None:
            if resume:
                self.sender.resume(routes)
            else:
                self.sender.swap(routes)
            self._keys = tuple(self.sender.sequence_keys())
            self._sent = np.zeros(show.universes.size, dtype=np.uint8)
            if not np.array_equal(self._frames.universes, show.universes):
                self._frames.relayout(show.universes.astype("<u2"))

    def run(self) -> None:
        """Loops until `stopping`; ends all sACN streams on the way out."""
        gc.collect()
        gc.freeze()
        gc.disable()
        run_in_real_time()
        self.deadlines = Deadlines(time.monotonic_ns() + 5_000_000)
        try:
            while not self.stopping.is_set():
                self._one_frame()
            self.sender.close()
        finally:
            gc.enable()

    def _one_frame(self) -> None:
        due = self.deadlines.due_ns
        sleep_until(due - self._lead.ns)
        self._take_commands()
        begun = time.monotonic_ns()
        show_ns = self.clock.at(due)
        self.state = advance(self.state, self.show.layers, show_ns)
        universes = self._renderer.render(self.show, self.state, show_ns)
        rendered = time.monotonic_ns()
        sleep_until(due)
        sending = time.monotonic_ns()
        self.frame += 1
        self.sender.count_up()
        self.spool.write(self.frame, self.clock, self.state, self._keys, self.sender.sequence_bytes())
        self.sender.send(universes, self._sent)
        self._frames.write(self.frame, show_ns, due, self._sent, universes, self.show.tag)
        done = time.monotonic_ns()
        self._lead.add(rendered - begun)
        self.stats.add(rendered - begun, done - sending, sending - due)
        if self.stats.due(done):
            self.stats.sum_up(done, self.deadlines.skipped)
        if self.frame % COLLECT_FRAMES == 0:
            gc.collect(1)
        self.deadlines.next(done)

    def _take_commands(self) -> None:
        while True:
            try:
                command = self._commands.get_nowait()
            except queue.Empty:
                return
            try:
                command.result = command.run(self)
            except Exception as error:  # handed to whoever asked; the loop goes on
                command.error = error
            command.done.set()
