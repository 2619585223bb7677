"""Keeps the show that other processes hand over: its sections, the gestures that move it, and it compiled.

The engine and the preview process each have one; both get the same messages. Runs in control threads.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Mapping
from pathlib import Path
from typing import Any

from heliograph.core.errors import InputError
from heliograph.engine.clips import ClipFrames
from heliograph.engine.compiled import CompiledShow, compile_show, empty_show
from heliograph.engine.sections import Section, SectionStore
from heliograph.ipc.control import Message

GESTURE_FIELDS = ("ramp", "speed", "direction", "opacity", "params", "blend", "mute", "solo")
"""Fields of a layer that a gesture may move before it is stored."""

Adopt = Callable[[CompiledShow, CompiledShow], None]


class ShowKeeper:
    """`adopt(new, last)` is called with every newly compiled show."""

    def __init__(self, store: SectionStore, frames: Path, adopt: Adopt) -> None:
        self.store = store
        self.show: CompiledShow = empty_show()
        self._frames, self._adopt_show = frames, adopt
        self._lock = threading.Lock()
        self._gestures: dict[str, dict[str, dict[str, Any]]] = {}

    def load(self) -> bool:
        """Compiles the last show known on disk; False where there is none. `adopt` is not called."""
        if not self.store.load():
            return False
        self.show = compile_show(self.store.sections(), self._frames)
        return True

    @property
    def handlers(self) -> dict[str, Callable[[Message], Message]]:
        return {
            "manifest": self._manifest,
            "sections": self._sections,
            "adopt": self._adopt,
            "gesture": self._gesture,
            "end_gesture": self._end_gesture,
        }

    def _manifest(self, message: Message) -> Message:
        return {"missing": self.store.missing(message["manifest"]), "manifest": self.store.manifest}

    def _sections(self, message: Message) -> Message:
        for section in message["sections"]:
            self.store.add(section)
        return {}

    def _adopt(self, message: Message) -> Message:
        manifest = message["manifest"]
        missing = self.store.missing(manifest)
        if missing:
            raise InputError(f"{len(missing)} sections have not arrived.", where="manifest")
        with self._lock:
            before = dict(self.store.manifest)
            self.store.adopt(manifest, int(message["revision"]))
            for look in list(self._gestures):
                if before.get(f"look:{look}") != manifest.get(f"look:{look}"):
                    del self._gestures[look]
            self._recompile()
        return {"revision": self.store.revision}

    def _gesture(self, message: Message) -> Message:
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

    def _end_gesture(self, message: Message) -> Message:
        with self._lock:
            if self._gestures.pop(message["look"], None) is not None:
                self._recompile()
        return {}

    def _recompile(self) -> None:
        last = self.show
        show = compile_show(self._with_gestures(self.store.sections()), self._frames, last)
        self._adopt_show(show, last)
        self.show = show

    def _with_gestures(self, sections: dict[str, Section]) -> dict[str, Section]:
        for look, layers in self._gestures.items():
            section = sections.get(f"look:{look}")
            if section is not None:
                sections[f"look:{look}"] = {
                    **section,
                    "layers": [_moved(layer, layers.get(layer["id"])) for layer in section["layers"]],
                }
        return sections

    def open_clips(self) -> None:
        """Opens clips' frames that the media process has made meanwhile."""
        for layers in self.show.looks.values():
            for one in layers:
                if isinstance(one.clip, ClipFrames) and not one.clip.is_open:
                    one.clip.try_open()


def _moved(layer: Mapping[str, Any], changes: Mapping[str, Any] | None) -> dict[str, Any]:
    if not changes:
        return dict(layer)
    params = {**layer.get("params", {}), **changes.get("params", {})}
    return {**layer, **changes, "params": params}
