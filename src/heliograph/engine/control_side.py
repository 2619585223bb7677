"""The engine's control side: show sections, gestures and commands from the web process.

Runs in control threads. Whatever takes time (compiling, opening sockets) is done here; only the swap
happens between two frames.
"""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path

from heliograph.core.errors import InputError
from heliograph.engine.commands import COMMANDS, state_message
from heliograph.engine.compiled import CompiledShow
from heliograph.engine.loop import Engine
from heliograph.engine.sections import SectionStore
from heliograph.engine.show_keeper import ShowKeeper
from heliograph.ipc.control import Message

CLIP_LOOK_S = 0.2
"""How often a clip whose frames are not there yet is looked for."""


class ControlSide:
    """Answers messages for one engine."""

    def __init__(self, engine: Engine, store: SectionStore, frames: Path, add_card: Callable[[str, int], None]) -> None:
        self._engine = engine
        self._keeper = ShowKeeper(store, frames, self._adopt)
        self._add_card = add_card

    def resume(self) -> None:
        """Starts with the last show known, before the loop runs."""
        if self._keeper.load():
            show = self._keeper.show
            routes = self._engine.sender.prepare(show.outputs, show.universes, show.emission.dark)
            self._engine.adopt(show, routes, resume=self._engine.spool.resumed is not None)

    def answer(self, message: Message, fds: list[int]) -> Message:
        kind = message["do"]
        if kind in COMMANDS:
            command = COMMANDS[kind]
            self._engine.between_frames(lambda engine: command(engine, message))
            return {"state": state_message(self._engine)}
        if kind == "status":
            return self._status()
        if kind == "card":
            for fd in fds:
                self._add_card(message["address"], fd)
            return {}
        handler = self._keeper.handlers.get(kind)
        if handler is None:
            raise InputError(f"The engine knows no command '{kind}'.", where="do")
        return handler(message)

    def _status(self) -> Message:
        engine = self._engine
        outputs = [
            {
                "id": route.output["id"],
                "packets": route.packets_sent,
                "errors": route.errors,
                "last_error": route.last_error,
                "universes": int(route.output["count"]),
            }
            for route in engine.sender.routes
        ]
        return {
            "state": state_message(engine),
            "stats": engine.stats.summary,
            "outputs": outputs,
            "cid": engine.sender.cid.hex(),
            "cells": engine.show.rig.cell_count,
            "revision": self._keeper.store.revision,
        }

    def _adopt(self, show: CompiledShow, last: CompiledShow) -> None:
        routes = None
        if show.outputs != last.outputs or show.emission is not last.emission:
            routes = self._engine.sender.prepare(show.outputs, show.universes, show.emission.dark)
        self._engine.between_frames(lambda engine: engine.adopt(show, routes))

    def watch_clips(self) -> None:
        """Opens clips' frames as the media process makes them; runs in a thread of its own."""
        while not self._engine.stopping.wait(CLIP_LOOK_S):
            self._keeper.open_clips()
