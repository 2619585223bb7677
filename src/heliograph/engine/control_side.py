"""The engine's control side: show sections, moves and commands from the web process.

Runs in control threads. Whatever takes time (compiling, opening sockets) is done here; only the swap
happens between two frames.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from pathlib import Path

import numpy as np
import structlog

from heliograph.core.errors import InputError, UnavailableError
from heliograph.core.lasers.guarding import arming_fault
from heliograph.core.lasers.hanging import LeftGuard
from heliograph.engine.by_hand import as_values
from heliograph.engine.commands import COMMANDS, listed_handles, values_told
from heliograph.engine.loop import Engine
from heliograph.engine.routes import Route
from heliograph.engine.telling import state_told
from heliograph.engine.watching import Event
from heliograph.ipc.messages.base import Answer
from heliograph.ipc.messages.engine import (
    TOO_LATE,
    Arm,
    AskClips,
    AskHandles,
    AskStatus,
    AskValues,
    ClipsAsked,
    EngineRequest,
    EngineStatus,
    LaserFault,
    OfferCard,
    OutputStats,
    StateAnswer,
    is_urgent,
    makes_safe,
)
from heliograph.ipc.messages.show import Adopt, HandSections, OfferManifest
from heliograph.ipc.sections import SectionStore
from heliograph.render.compiled import CompiledShow
from heliograph.render.show_keeper import ShowKeeper

log = structlog.get_logger("engine")

CLIP_LOOK_S = 0.2
"""How often a clip whose frames are not there yet is looked for."""


class ControlSide:
    """Answers messages for one engine."""

    def __init__(self, engine: Engine, store: SectionStore, frames: Path, add_card: Callable[[str, int], None]) -> None:
        self._engine = engine
        self._keeper = ShowKeeper(store, frames, self._adopt)
        self._add_card = add_card
        self._ready = threading.Event()
        self._lasers_of: tuple[CompiledShow, tuple[LeftGuard, ...], list[LaserFault]] | None = None

    def resume(self) -> None:
        """Starts with the last show known, before the loop runs. One that cannot be compiled (any more) is told, and
        the engine starts empty: whoever hands shows over will hand over another."""
        try:
            if self._keeper.load():
                show = self._keeper.show
                self._engine.adopt(show, self._routes(show), resume=self._engine.spool.resumed is not None)
        except Exception as error:
            log.exception("the last show cannot be used", exc_info=error)
            self._engine.events.append(Event(f"the last show cannot be used: {error}", bad=True))
        self._ready.set()

    def _routes(self, show: CompiledShow) -> list[Route]:
        one = show.emission
        guard = np.concatenate([one.guard_at, one.twice_at]), np.concatenate([one.guard_value, one.twice_value])
        return self._engine.sender.prepare(show.outputs, show.universes, show.emission.dark, guard)

    def answer(self, request: EngineRequest, fds: list[int]) -> Answer | None:
        if not isinstance(request, AskStatus) and not self._ready.is_set():
            raise UnavailableError("The engine is starting.", repair="Try again in a second.")
        match request:
            case AskStatus():
                return self._status()
            case AskClips():
                return ClipsAsked(clips=self._keeper.clips_asked())
            case AskValues():
                return values_told(self._engine, request.handles)
            case AskHandles():
                return listed_handles(self._engine, request.words, request.most)
            case OfferCard():
                for fd in fds:
                    self._add_card(request.address, fd)
                return None
            case OfferManifest() | HandSections() | Adopt():
                return self._keeper.answer(request)
        made_safe = self._engine.made_safe
        ready = as_values(self._engine, request)
        command = COMMANDS[type(ready)]

        def run(engine: Engine) -> Iterator[None] | None:
            if makes_safe(request):
                engine.made_safe += 1
            elif isinstance(request, Arm) and engine.made_safe != made_safe:
                raise InputError(TOO_LATE, where="fixtures", repair="Hold the sign again.")
            return command(engine, ready)

        self._engine.between_frames(run, is_urgent(request))
        return StateAnswer(state=state_told(self._engine))

    def _status(self) -> EngineStatus:
        engine = self._engine
        outputs = [
            OutputStats(
                str(route.output["id"]),
                route.packets_sent,
                route.errors,
                route.last_error,
                int(route.output["count"]),
            )
            for route in engine.sender.routes
        ]
        return EngineStatus(
            state=state_told(engine),
            stats=engine.stats.summary,
            outputs=outputs,
            cid=engine.sender.cid.hex(),
            cells=engine.show.rig.cell_count,
            revision=self._keeper.store.revision,
            failed_frames=engine.failed_frames,
            lasers=self._lasers(engine.show),
        )

    def _lasers(self, show: CompiledShow) -> list[LaserFault]:
        """Every guarded fixture, and why it cannot be armed ("" where it can)."""
        left = self._engine.state.left
        if self._lasers_of is None or self._lasers_of[0] is not show or self._lasers_of[1] is not left:
            rows = [
                LaserFault(one.id, one.number, one.name, arming_fault(one, show.outputs, left))
                for one in show.rig.fixtures.values()
                if one.guarded
            ]
            self._lasers_of = (show, left, rows)
        return self._lasers_of[2]

    def _adopt(self, show: CompiledShow, last: CompiledShow, switched: bool) -> None:
        routes = None
        if show.outputs != last.outputs or show.emission is not last.emission:
            routes = self._routes(show)
        self._engine.between_frames(lambda engine: engine.adopt(show, routes, switched=switched))

    def watch_clips(self) -> None:
        """Opens clips' frames as the media process makes them; runs in a thread of its own."""
        while not self._engine.stopping.wait(CLIP_LOOK_S):
            self._keeper.open_clips()
