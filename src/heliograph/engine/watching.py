"""What changes on the engine is written into the event log in words, once a second and away from the frame loop."""

from __future__ import annotations

import threading
from collections.abc import Iterator
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import structlog

from heliograph.core.playing.state import PlaybackState

if TYPE_CHECKING:
    from heliograph.engine.loop import Engine

WATCH_S = 1.0


@dataclass(slots=True)
class Seen:
    """What was last told: outputs that fail with the reason, the state, frames skipped."""

    failing: dict[str, str] = field(default_factory=dict)
    state: PlaybackState = field(default_factory=PlaybackState)
    skipped: int = 0


@dataclass(frozen=True, slots=True)
class Event:
    """A sentence for people; `bad`: something is wrong."""

    says: str
    bad: bool = False


def changes(seen: Seen, failing: dict[str, str], state: PlaybackState, skipped: int) -> Iterator[Event]:
    """What is new since `seen`, which is brought up to date. `failing`: outputs by name with their last error."""
    for name, reason in failing.items():
        if seen.failing.get(name) != reason:
            yield Event(f"output {name} fails: {reason}", bad=True)
    for name in seen.failing.keys() - failing.keys():
        yield Event(f"output {name} sends again")
    before = seen.state
    if state.blackout != before.blackout:
        yield Event("blackout on" if state.blackout else "blackout off")
    if state.freeze != before.freeze:
        yield Event("output frozen" if state.freeze else "output goes on")
    if state.armed != before.armed:
        count = len(state.armed)
        yield Event(f"{count} {'laser' if count == 1 else 'lasers'} armed" if count else "all lasers safe")
    if skipped > seen.skipped:
        many = skipped - seen.skipped
        yield Event(f"{many} {'frame' if many == 1 else 'frames'} skipped: the machine was busy elsewhere", bad=True)
    seen.failing, seen.state, seen.skipped = dict(failing), state, skipped


def watch(engine: Engine, stopping: threading.Event) -> None:
    """Runs in a thread of its own until `stopping`."""
    log = structlog.get_logger("engine")
    seen = Seen(state=engine.state, skipped=engine.deadlines.skipped)
    while not stopping.wait(WATCH_S):
        failing = {str(r.output["name"]): r.last_error for r in list(engine.sender.routes) if r.last_error}
        told = [engine.events.popleft() for _ in range(len(engine.events))]
        for event in (*told, *changes(seen, failing, engine.state, engine.deadlines.skipped)):
            (log.warning if event.bad else log.info)(event.says, event_for_people=True)
