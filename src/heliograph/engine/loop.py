"""The frame loop: take commands, render, spool, send, publish; 44 times a second on fixed deadlines.

It does not stop: a frame that fails is counted, its cause is logged once, and the last good one is sent again.

It renders and sends and does nothing else: no database, no HTTP. Commands are functions put into a
queue by the control thread; they run between two frames, so nothing here needs a lock.
"""

from __future__ import annotations

import gc
import queue
import threading
import time
import traceback
from collections import deque
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any

import numpy as np

from heliograph.core.errors import HeliographError
from heliograph.core.handles.advancing import advance_all, next_due_ns
from heliograph.core.lasers.guarding import still_armed, universes_of
from heliograph.core.lasers.hanging import (
    Hanging,
    LeftGuard,
    left_of,
    of_older_state,
    remembered,
    stale_of,
    without,
)
from heliograph.core.look.line import Line
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.patch.places import channel_positions
from heliograph.core.playing import scores
from heliograph.core.playing.lists import changed
from heliograph.core.playing.state import Acting, PlaybackState
from heliograph.core.playing.tempo import ShowClock
from heliograph.core.rig.arrays import Rig, RigFixture
from heliograph.engine.arming import Leases
from heliograph.engine.clock import Deadlines, Lead, run_in_real_time, sleep_until
from heliograph.engine.darkness import Darkness
from heliograph.engine.routes import Route
from heliograph.engine.sender import Sender
from heliograph.engine.spool import Spool
from heliograph.engine.stats import Stats
from heliograph.engine.touching import lapse
from heliograph.engine.wall_time import told_time
from heliograph.engine.watching import Event
from heliograph.ipc.frames import FrameWriter
from heliograph.ipc.patience import COMMAND_S
from heliograph.render.compiled import CompiledShow, empty_show
from heliograph.render.renderer import Bytes, Renderer

EVENTS_WAITING = 100
"""Sentences that wait for the event log; more in one second are not told."""

NEVER_NS = 2**63
"""Later than any show time."""

DARK_FRAMES = 6
"""So often it is looked which heads are dark: seven times a second."""

COLLECT_FRAMES = 440
"""Garbage is collected every ten seconds in the slack after a frame, never at a moment Python chooses."""


COMMANDS_NS = 2_000_000
"""So much of a frame is given to commands; what does not fit waits for the next. Urgent ones are all taken."""


@dataclass(slots=True)
class _Command:
    """`turn`: whoever takes it first, the loop to run it or its asker who gives up, leaves nothing to the other.
    `steps`: what is left of it to do in later frames."""

    run: Callable[[Engine], Any]
    done: threading.Event = field(default_factory=threading.Event)
    turn: threading.Lock = field(default_factory=threading.Lock)
    steps: Iterator[None] | None = None
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
        self.changes = 0
        """Commands taken ever: of two states of one frame, the one of more commands is the newer."""
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
        self._urgent_commands: queue.SimpleQueue[_Command] = queue.SimpleQueue()
        self._begun: deque[_Command] = deque()
        self._lead = Lead()
        self.stopping = threading.Event()
        self.leases = Leases()
        self.made_safe = 0
        """How often all lasers were made safe on purpose: who asked to arm before that is too late."""
        self.away = 0
        """Lasers remembered at places to which nothing is sent now."""
        self.touched: dict[str, int] = {}
        """When each finger on a pad was kept last, on the steady clock."""
        self.drags: dict[str, Sequence[tuple[float, ...]]] = {}
        self.dragging = threading.Lock()
        self.held_of: Rig | None = None
        """Of which rig all are that are held by hand."""
        self.events: deque[Event] = deque(maxlen=EVENTS_WAITING)
        self.failed_frames = 0
        self._causes: set[str] = set()
        self._good = np.zeros_like(self.show.emission.dark)
        self._urgent = False
        self._darkness = Darkness()
        self._settled: tuple[PlaybackState, Mapping[str, tuple[Line, ...]], int] | None = None
        self.handed_over = False

    def between_frames(self, run: Callable[[Engine], Any], urgent: bool = False) -> Any:
        """Runs a function in the loop's thread before the next frame, or before one after it where many wait, and
        returns its result. One that gives an iterator is gone on with, frame by frame, until that is at its end.
        Raises TimeoutError where the loop does not come to it: it is not run any more then."""
        command = _Command(run)
        (self._urgent_commands if urgent else self._commands).put(command)
        if not command.done.wait(COMMAND_S) and command.turn.acquire(blocking=False):
            raise TimeoutError("the frame loop did not take the command")
        command.done.wait()  # it has been begun
        if command.error is not None:
            raise command.error
        return command.result

    def adopt(
        self, show: CompiledShow, routes: list[Route] | None, *, resume: bool = False, switched: bool = False
    ) -> None:
        """Puts a compiled show to work; `routes` where outputs or universes changed. `switched`: it is another show,
        and nothing stays armed. Between frames only."""
        last = self.show
        if show.rig is not last.rig or show.outputs is not last.outputs or switched:
            self._guard_over(last, show, switched)
        if not np.array_equal(self._frames.universes, show.universes):
            self._frames.relayout(show.universes.astype("<u2"))  # may fail for want of room: before anything changes
        mine, theirs = show.ground.lists, last.ground.lists
        others = [key for key in self.state.lists if mine.get(key) is not theirs.get(key)]
        now = self.clock.at(self.deadlines.due_ns)
        self.state = changed(self.state, others, now)
        others = [key for key in self.state.scores if show.ground.scores.get(key) is not last.ground.scores.get(key)]
        self.state = scores.changed(self.state, show.ground.scores, others, now)
        self.show = show
        if switched:
            self.state = self.state.of_show(show.looks, show.groups, show.ground.lists, show.ground.scores)
        if show.emission is not last.emission:
            self._good = show.emission.dark.copy()
        if routes is not None:
            if resume:
                self.sender.resume(routes)
            else:
                self.sender.swap(routes)
            self._keys = tuple(self.sender.sequence_keys())
            self._sent = np.zeros(show.universes.size, dtype=np.uint8)
        self.sender.hold_safe(self.state.left)
        self._forget_lines(show)

    def sent_value(self, fixture: RigFixture, channel: int) -> int:
        """The byte that was rendered last for a channel of a fixture's mode (from 1); 0 where it has no address."""
        positions = channel_positions(fixture.placed) if fixture.placed else ()
        position = int(positions[channel - 1]) if channel <= len(positions) else -1
        row = np.flatnonzero(self.show.universes == position // SLOTS + 1)
        return int(self._good[row[0], position % SLOTS]) if position >= 0 and row.size else 0

    def take(self, state: PlaybackState) -> None:
        """Goes on from another state; what is no longer armed there has no lease. Between frames only."""
        if state.armed != self.state.armed:
            self.leases.keep(state.armed)
        self.state = state

    def _forget_lines(self, show: CompiledShow) -> None:
        """What hands hold of lines that are gone is let go of."""
        if not self.state.held:
            return
        known = {line.id for lines in show.lines.values() for line in lines}
        held = {key: one for key, one in self.state.held.items() if key in known}
        if len(held) < len(self.state.held):
            self.state = replace(self.state, held=held)

    def _guard_over(self, last: CompiledShow, show: CompiledShow, switched: bool) -> None:
        """What the guard makes of another rig or other outputs."""
        armed, state = self.state.armed, self.state
        hung = remembered(of_older_state(state.hung, state.left, show.outputs), show.rig, show.outputs)
        left = self._left_of(hung, show)
        after = (show.rig, show.outputs)
        stay = frozenset() if switched else still_armed(armed, (last.rig, last.outputs), after, left)
        if stay != armed:
            names = [last.rig.fixtures[name].name for name in sorted(armed - stay) if name in last.rig.fixtures]
            self.events.append(Event(f"made safe, because its patch or output changed: {', '.join(names)}"))
        for one in left:
            if one not in state.left:
                where = one.said[0]
                self.events.append(Event(f"laser {one.number} {one.name} left {where}: the address stays safe"))
        if stay != armed:
            self.disarm(armed - stay)
        if left != state.left or hung != state.hung:
            self.state = replace(self.state, left=left, hung=hung)

    def _left_of(self, hung: tuple[Hanging, ...], show: CompiledShow) -> tuple[LeftGuard, ...]:
        left = left_of(hung, show.rig, show.outputs)
        known = {one.fixture for one, _ in stale_of(hung, show.rig, show.outputs)}
        self.away = len(known - {one.fixture for one in left})
        return left

    def said_gone(self, fixture: str) -> None:
        """Somebody says that a laser ("": each) is gone from where it lay: what is known of it is where it is sent now.
        Between frames only."""
        show = self.show
        hung = remembered(without(self.state.hung, fixture) if fixture else (), show.rig, show.outputs)
        self.state = replace(self.state, hung=hung, left=self._left_of(hung, show))

    def disarm(self, fixtures: frozenset[str]) -> None:
        """Makes fixtures safe from the next frame on. Between frames only."""
        self.take(replace(self.state, armed=self.state.armed - fixtures))

    def run(self) -> None:
        """Loops until `stopping`; makes everything dark that is sent, and ends it, on the way out."""
        gc.collect()
        gc.freeze()
        gc.disable()
        run_in_real_time()
        self.deadlines = Deadlines(time.monotonic_ns() + 5_000_000)
        try:
            while not self.stopping.is_set():
                self._one_frame()
            if self.handed_over:
                self.disarm(self.state.armed)
                self._one_frame()
            else:
                self.sender.close(self._wait_for_slot)
        finally:
            gc.enable()

    def hand_over(self) -> None:
        """Stops without making dark: another engine goes on in the same place at once."""
        self.handed_over = True
        self.stopping.set()

    def _wait_for_slot(self) -> None:
        self.deadlines.next(time.monotonic_ns())
        sleep_until(self.deadlines.due_ns)

    def _one_frame(self) -> None:
        due = self.deadlines.due_ns
        sleep_until(due - self._lead.ns)
        before = self.state
        self._take_commands()
        begun = time.monotonic_ns()
        self._lapse(begun)
        self._urgent = self._darkens(before)
        show_ns = self.clock.at(due)
        self.state = told_time(self.state, self.clock, show_ns, self.frame)
        universes = self._rendered(show_ns, due)
        if self.state.lists and self.frame % DARK_FRAMES == 0:
            self._see_dark(universes)
        rendered = time.monotonic_ns()
        sleep_until(due)
        sending = time.monotonic_ns()
        self.frame += 1
        try:
            self.sender.count_up(self._urgent)
            self.spool.write(self.frame, self.clock, self.state, self._keys, self.sender.sequence_bytes())
            self.sender.send(universes, self._sent)
            self._frames.write(self.frame, show_ns, due, self._sent, universes, self.show.tag)
        except Exception as error:  # the next frame is another chance; the lights must not stay as they are
            self._note_failed(error)
        done = time.monotonic_ns()
        self._lead.add(rendered - begun)
        self.stats.add(rendered - begun, done - sending, sending - due)
        if self.stats.due(done):
            self.stats.sum_up(done, self.deadlines.skipped)
            self._lost_cards()
        if self.frame % COLLECT_FRAMES == 0:
            gc.collect(1)
        self.deadlines.next(done)

    def _rendered(self, show_ns: int, due: int) -> Bytes:
        """The frame's universes (U, 512); the last good ones, guarded anew, where rendering fails."""
        try:
            self._advance(show_ns)
            universes = self._renderer.render(self.show, self.state, show_ns, steady_ns=due)
        except Exception as error:
            self._note_failed(error)
            self._renderer = Renderer()
            universes = self._good.copy()
            self._renderer.guard(universes, self.show, self.state)
            return universes
        np.copyto(self._good, universes)
        return universes

    def _see_dark(self, universes: Bytes) -> None:
        """Heads that are dark now go home, or to where their next cue wants them, from the next frame on."""
        try:
            self.take(self._darkness.seen(self.show, self.state, universes))
        except Exception as error:
            self._note_failed(error)

    def _advance(self, show_ns: int) -> None:
        """The state as it is at this moment. Between two events nothing is asked: neither runs nor lines are others."""
        settled = self._settled
        if settled is not None and settled[0] is self.state and settled[1] is self.show.lines and show_ns < settled[2]:
            return
        show = self.show
        self.take(advance_all(self.state, show.ground, show.lines, show_ns, self._note_refused))
        ending = any(run.ends for run in self.state.runs) or bool(self.state.acting)
        due = None if ending else next_due_ns(self.state, show.ground, show.lines)
        self._settled = None if ending else (self.state, show.lines, NEVER_NS if due is None else due)

    def _note_refused(self, acting: Acting, error: HeliographError) -> None:
        """What a cue could not do is told; its list goes on."""
        self.events.append(Event(f"a cue could not move {acting.handle}: {error.what}", bad=True))

    def _note_failed(self, error: Exception) -> None:
        """Counts a frame that failed; each cause is told once."""
        self.failed_frames += 1
        trace = traceback.extract_tb(error.__traceback__)
        where = f" ({Path(trace[-1].filename).name} {trace[-1].lineno})" if trace else ""
        cause = f"{type(error).__name__}: {error}{where}"[:300]
        if cause not in self._causes and len(self._causes) < EVENTS_WAITING:
            self._causes.add(cause)
            self.events.append(Event(f"a frame failed, the last good one is sent again: {cause}", bad=True))

    def _lapse(self, now_ns: int) -> None:
        """Makes safe what nobody holds armed any more."""
        over = self.leases.over(now_ns, time.time())
        if over:
            self.disarm(over)
            self.events.append(Event("lasers made safe: the time is over, or the browser that armed them is gone"))
        if self.state.fingers:
            lapse(self, now_ns)

    def _lost_cards(self) -> None:
        """A laser whose network card fails is not armed when it comes back."""
        if not self.state.armed:
            return
        lost = {universe for route in self.sender.routes if route.failing for universe in route.shown.tolist()}
        fixtures = self.show.rig.fixtures
        cut = {name for name in self.state.armed if name in fixtures and universes_of(fixtures[name]) & lost}
        if cut:
            self.disarm(frozenset(cut))
            self.events.append(Event("lasers made safe: sending to them fails"))

    def _darkens(self, before: PlaybackState) -> bool:
        """Whether this frame makes dark or safe what the last one lit: it goes out at once, whatever the rates."""
        state = self.state
        if state is before:
            return False
        return (state.blackout and not before.blackout) or bool(before.armed - state.armed) or state.left != before.left

    def _take_commands(self) -> None:
        """All that are urgent, then as many as fit: the first always, and what was begun before the others."""
        while (command := _next(self._urgent_commands)) is not None:
            self._run(command)
        until = time.monotonic_ns() + COMMANDS_NS
        while True:
            command = self._begun.popleft() if self._begun else _next(self._commands)
            if command is None:
                return
            self._run(command, until)
            if time.monotonic_ns() >= until:
                return

    def _run(self, command: _Command, until: int | None = None) -> None:
        """Runs it; one that has steps as far as there is time."""
        if command.steps is None and not command.turn.acquire(blocking=False):
            return  # whoever asked has given up
        try:
            if command.steps is None:
                command.result = command.run(self)
                command.steps = command.result if isinstance(command.result, Iterator) else None
            for _ in command.steps or ():
                if until is not None and time.monotonic_ns() >= until:
                    self._begun.append(command)
                    return
        except Exception as error:  # handed to whoever asked; the loop goes on
            command.error = error
        self.changes += 1
        command.done.set()


def _next(commands: queue.SimpleQueue[_Command]) -> _Command | None:
    try:
        return commands.get_nowait()
    except queue.Empty:
        return None
