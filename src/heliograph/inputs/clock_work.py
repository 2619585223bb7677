"""The clock at work: what is due is handed to the engine, each moment once, whoever of both was away meanwhile."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from heliograph.core.errors import HeliographError
from heliograph.core.playing.clock import Clock, Occurrence, clock_from_json, next_due, what_should_run, zone_of
from heliograph.core.playing.cues import Action
from heliograph.core.playing.typed_actions import write_actions
from heliograph.ipc.messages.base import Request
from heliograph.ipc.messages.engine import AskStatus, ClockDue, OneMove

WEEK_S = 7 * 86_400.0
"""What was missed longer ago is not done any more."""

WAIT_S = 60.0
"""So long is waited for the show that the start of the day is about."""

LATE_S = 60.0
AGAIN_S = 3_600.0
"""Where nothing is due for days, it is looked again so often."""

JUMP_S = 2.0
"""A wall clock that moves so far against the steady one has jumped."""

Ask = Callable[[Request[Any]], Any]


@dataclass(frozen=True, slots=True)
class StartOfDay:
    """What is done once, where an engine begins with nothing: `first`, a handle, "" for none; and whether what the
    clock would have done until now is done; once the `show` is there, "" for any."""

    first: str = ""
    catch_up: bool = False
    show: str = ""


class Wall:
    """The time on the wall, which may be set; and whether it jumps by itself."""

    def __init__(self, real: Callable[[], float] = time.time, steady: Callable[[], float] = time.monotonic) -> None:
        self._real, self._steady = real, steady
        self._offset = 0.0
        self._apart = real() - steady()
        self.jumped_s = 0.0

    def now(self) -> float:
        return self._real() + self._offset

    def when(self, real_s: float) -> float:
        """What the wall said when this machine's clock said that."""
        return real_s + self._offset

    def set(self, now_s: float | None) -> None:
        self._offset = 0.0 if now_s is None else now_s - self._real()

    def look(self) -> float:
        """How far the machine's clock jumped since this was asked last; 0 where it did not."""
        apart = self._real() - self._steady()
        moved, self._apart = apart - self._apart, apart
        if abs(moved) < JUMP_S:
            return 0.0
        self.jumped_s = moved
        return moved


class ClockWork:
    """`step` is to be called a few times a second, from one thread; `adopt` from any, between steps."""

    def __init__(
        self,
        ask: Ask,
        wall: Wall,
        log: Any,
        start: StartOfDay | None = None,
        has_show: Callable[[str], bool] = lambda _show: True,
    ) -> None:
        self._has_show, self._since_s = has_show, time.monotonic()
        self._ask, self.wall, self._log, self._start = ask, wall, log, start or StartOfDay()
        self._clock: Clock | None = None
        self._saved_s = 0.0
        self._changed = False
        self._next: Occurrence | None = None
        self._look_again_s = 0.0
        self.done_s: float | None = None

    def adopt(self, section: dict[str, Any] | None, changed: bool) -> None:
        """The rules of the show; `changed`: they are others than those this process, or the one before it, had: what
        they would have done before they were saved is not done, what became due on their way here is."""
        self._clock = clock_from_json(section) if section else None
        self._saved_s = float(section["saved_s"]) if section else 0.0
        self._changed = self._changed or changed
        self._next, self._look_again_s = None, 0.0

    def step(self) -> None:
        now = self.wall.now()
        moved = self.wall.look()
        if moved:
            self._log.warning(f"this machine's clock jumped by {said_long(moved)}", event_for_people=True)
            self._next, self._look_again_s = None, 0.0
        try:
            if self.done_s is None:
                self._begin(now)
            if self._changed and self.done_s is not None:
                self._hand(max(self.done_s, min(now, self.wall.when(self._saved_s))), [], [])
                self._changed = False
            self._due(now)
        except HeliographError:
            self.done_s = None  # asked again: an engine that comes back knows what it did

    def faults(self) -> list[str]:
        """What is wrong with the time of this machine."""
        found = []
        if self._saved_s > self.wall.now() + LATE_S:
            said = datetime.fromtimestamp(self.wall.now()).strftime("%d %b %Y %H:%M")
            found.append(f"This machine's clock says {said}, before this show was saved: set it right.")
        if self.wall.jumped_s:
            found.append(f"This machine's clock jumped by {said_long(self.wall.jumped_s)}.")
        return found

    def _begin(self, now: float) -> None:
        """Where the engine knows of no moment yet: the start of the day, once."""
        done = float(self._ask(AskStatus()).state.clock_s)
        if done > 0.0:
            self.done_s = max(done, now - WEEK_S)
            return
        if not self._has_show(self._start.show) and time.monotonic() - self._since_s < WAIT_S:
            return
        left = what_should_run(self._clock, now - WEEK_S, now) if self._clock and self._start.catch_up else []
        first = [OneMove(handle=self._start.first)] if self._start.first else []
        says = ["start of the day"] if first else []
        self._hand(now, [*first, *(_move(action) for _, action in left)], [*says, *self._said(left, now)])
        self._changed = False

    def _due(self, now: float) -> None:
        if self._clock is None or self.done_s is None:
            return
        if self._next is None and now >= self._look_again_s:
            self._next = next_due(self._clock, self.done_s)
            self._look_again_s = now + AGAIN_S
        if self._next is None or now < self._next.at:
            return
        left = what_should_run(self._clock, self.done_s, now)
        at = max((one.at for one, _ in left), default=self._next.at)
        self._hand(at, [_move(action) for _, action in left], self._said(left, now))
        self._next, self._look_again_s = None, 0.0

    def _hand(self, at_s: float, moves: list[OneMove], says: list[str]) -> None:
        state = self._ask(ClockDue(at_s=at_s, moves=moves, says=says)).state
        self.done_s = float(state.clock_s)

    def _said(self, left: list[tuple[Occurrence, Action]], now: float) -> list[str]:
        assert self._clock is not None or not left
        found = []
        for one, action in left:
            assert self._clock is not None
            shown = datetime.fromtimestamp(one.at, zone_of(self._clock.place.zone)).strftime("%H:%M")
            late = f", {said_long(now - one.at)} late" if now - one.at > LATE_S else ""
            named = f"{one.rule.name}: " if one.rule.name else ""
            found.append(f"clock, {shown}{late}: {named}{write_actions([_written(action)])}")
        return found


def _move(action: Action) -> OneMove:
    return OneMove(handle=action.handle, value=action.value, over_s=action.over_s)


def _written(action: Action) -> dict[str, Any]:
    return {"handle": action.handle, "words": action.words, "value": action.value, "over_s": action.over_s}


def said_long(seconds: float) -> str:
    """`3 min`, `1 h 20 min`, `4 s`; with a sign where it is negative."""
    sign, whole = ("-" if seconds < 0 else ""), round(abs(seconds))
    if whole < 60:
        return f"{sign}{whole} s"
    hours, minutes = divmod(whole // 60, 60)
    parts = [f"{hours} h"] if hours else []
    parts += [f"{minutes} min"] if minutes else []
    return sign + " ".join(parts)
