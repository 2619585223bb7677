"""The engine's control side: show sections, gestures and commands from the web process.

Runs in control threads. Whatever takes time (compiling, opening sockets) is done here; only the swap
happens between two frames.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from heliograph.core.errors import InputError
from heliograph.engine.commands import COMMANDS, state_message
from heliograph.engine.compiled import CompiledShow, compile_show
from heliograph.engine.loop import Engine
from heliograph.engine.sections import Section, SectionStore
from heliograph.ipc.control import Message

CLIP_LOOK_S = 0.2
"""How often a clip whose frames are not there yet is looked for."""

GESTURE_FIELDS = ("ramp", "speed", "direction", "opacity", "params", "blend", "mute")
"""Fields of a layer that a gesture may move before it is stored."""


class ControlSide:
    """Answers messages for one engine."""

    def __init__(self, engine: Engine, store: SectionStore, frames: Path, add_card: Callable[[str, int], None]) -> None:
        self._engine = engine
        self._store = store
        self._frames = frames
        self._add_card = add_card
        self._lock = threading.Lock()
        self._gestures: dict[str, dict[str, dict[str, Any]]] = {}

    def resume(self) -> None:
        """Starts with the last show known, before the loop runs."""
        if self._store.load():
            show = compile_show(self._store.sections(), self._frames)
            routes = self._engine.sender.prepare(show.outputs, show.universes)
            self._engine.adopt(show, routes, resume=self._engine.spool.resumed is not None)

    def answer(self, message: Message, fds: list[int]) -> Message:
        kind = message["do"]
        if kind in COMMANDS:
            command = COMMANDS[kind]
            self._engine.between_frames(lambda engine: command(engine, message))
            return {"state": state_message(self._engine)}
        handlers: dict[str, Callable[[Message, list[int]], Message]] = {
            "status": self._status,
            "manifest": self._manifest,
            "sections": self._sections,
            "adopt": self._adopt,
            "gesture": self._gesture,
            "end_gesture": self._end_gesture,
            "card": self._card,
        }
        if kind not in handlers:
            raise InputError(f"The engine knows no command '{kind}'.", where="do")
        return handlers[kind](message, fds)

    def _status(self, _message: Message, _fds: list[int]) -> Message:
        engine = self._engine
        outputs = [
            {
                "id": route.output["id"],
                "packets": route.packets_sent,
                "errors": route.errors,
                "last_error": route.last_error,
                "universes": len(route.rows),
            }
            for route in engine.sender.routes
        ]
        return {
            "state": state_message(engine),
            "stats": engine.stats.summary,
            "outputs": outputs,
            "cells": engine.show.rig.cell_count,
            "revision": self._store.revision,
        }

    def _manifest(self, message: Message, _fds: list[int]) -> Message:
        return {"missing": self._store.missing(message["manifest"]), "manifest": self._store.manifest}

    def _sections(self, message: Message, _fds: list[int]) -> Message:
        for section in message["sections"]:
            self._store.add(section)
        return {}

    def _adopt(self, message: Message, _fds: list[int]) -> Message:
        manifest = message["manifest"]
        missing = self._store.missing(manifest)
        if missing:
            raise InputError(f"{len(missing)} sections have not arrived.", where="manifest")
        with self._lock:
            before = dict(self._store.manifest)
            self._store.adopt(manifest, int(message["revision"]))
            for look in list(self._gestures):
                if before.get(f"look:{look}") != manifest.get(f"look:{look}"):
                    del self._gestures[look]
            self._recompile()
        return {"revision": self._store.revision}

    def _gesture(self, message: Message, _fds: list[int]) -> Message:
        unknown = set(message["changes"]) - set(GESTURE_FIELDS)
        if unknown:
            raise InputError(f"A gesture cannot move {', '.join(sorted(unknown))}.", where="changes")
        with self._lock:
            before = {look: {k: dict(v) for k, v in layers.items()} for look, layers in self._gestures.items()}
            layer = self._gestures.setdefault(message["look"], {}).setdefault(message["layer"], {})
            changes = dict(message["changes"])
            if "params" in changes:
                changes["params"] = {**layer.get("params", {}), **changes["params"]}
            layer.update(changes)
            try:
                self._recompile()
            except InputError:
                self._gestures = before
                raise
        return {}

    def _end_gesture(self, message: Message, _fds: list[int]) -> Message:
        with self._lock:
            if self._gestures.pop(message["look"], None) is not None:
                self._recompile()
        return {}

    def _card(self, message: Message, fds: list[int]) -> Message:
        for fd in fds:
            self._add_card(message["address"], fd)
        return {}

    def _recompile(self) -> None:
        last = self._engine.show
        show = compile_show(self._with_gestures(self._store.sections()), self._frames, last)
        routes = None
        if show.outputs != last.outputs or show.emission is not last.emission:
            routes = self._engine.sender.prepare(show.outputs, show.universes)
        self._engine.between_frames(lambda engine: engine.adopt(show, routes))

    def _with_gestures(self, sections: dict[str, Section]) -> dict[str, Section]:
        for look, layers in self._gestures.items():
            section = sections.get(f"look:{look}")
            if section is not None:
                sections[f"look:{look}"] = {
                    **section,
                    "layers": [_moved(layer, layers.get(layer["id"])) for layer in section["layers"]],
                }
        return sections

    def watch_clips(self) -> None:
        """Opens clips' frames as the media process makes them; runs in a thread of its own."""
        while not self._engine.stopping.wait(CLIP_LOOK_S):
            for clip in _waiting(self._engine.show):
                clip.try_open()


def _moved(layer: Mapping[str, Any], changes: Mapping[str, Any] | None) -> dict[str, Any]:
    if not changes:
        return dict(layer)
    params = {**layer.get("params", {}), **changes.get("params", {})}
    return {**layer, **changes, "params": params}


def _waiting(show: CompiledShow) -> list[Any]:
    return [one.clip for layers in show.looks.values() for one in layers if one.clip and not one.clip.is_open]
