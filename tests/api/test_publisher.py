"""The publisher hands the show to every process by itself: one that is away keeps nothing from the others."""

from __future__ import annotations

import threading
from dataclasses import replace
from types import SimpleNamespace
from typing import Any

import msgspec

from heliograph.api.publisher import Published, Publisher
from heliograph.core.errors import UnavailableError
from heliograph.ipc.messages.base import Done
from heliograph.ipc.messages.engine import AskClips, AskStatus, ClipAsked, ClipsAsked
from heliograph.ipc.messages.media import WantClips
from heliograph.ipc.messages.receiver import Listen
from heliograph.ipc.messages.show import Adopt, HandSections, Missing, OfferManifest
from heliograph.ipc.sections import content_hash


class Process:
    """As much of a process as the publisher asks of it."""

    def __init__(self) -> None:
        self.away = False
        self.listens, self.sections, self.manifest = dict[str, Any](), dict[str, Any](), dict[str, str]()
        self.adopted: list[tuple[int, str]] = []
        self.clips: Any = None
        self.painted: list[ClipAsked] = []

    def ask(self, request: Any) -> Any:
        if self.away:
            raise UnavailableError("It is away.")
        match request:
            case OfferManifest():
                missing = [one for one in request.manifest.values() if one not in self.sections]
                revision, show = self.adopted[-1] if self.adopted else (0, "")
                return Missing(missing, self.manifest, revision, show)
            case HandSections():
                self.sections |= {content_hash(one): one for one in request.sections}
            case Adopt():
                assert set(request.manifest.values()) <= set(self.sections)
                self.manifest = request.manifest
                self.adopted.append((request.revision, request.show))
            case AskClips():
                return ClipsAsked(clips=self.painted)
            case AskStatus():
                return SimpleNamespace(cid="00" * 16)
            case Listen():
                self.listens = msgspec.to_builtins(request)
            case WantClips():
                self.clips = msgspec.to_builtins(request.clips)
        return Done()


CLIP = {"id": "c", "content": "ab" * 32, "suffix": ".mp4"}
LOOK = {"id": "l", "lines": [{"paints": "clip", "clip": "c", "matrix": "m", "fitting": {"fit": "fit"}}]}
SECTIONS: dict[str, Any] = {
    "look:l": LOOK,
    "clip:c": CLIP,
    "matrix:m": {"id": "m", "width": 4, "height": 3},
}


def published() -> Published:
    hashes = {key: content_hash(section) for key, section in SECTIONS.items()}
    return Published({"id": "s", "revision": 3}, SECTIONS, hashes)


class Stand:
    def __init__(self) -> None:
        self.engine, self.preview, self.media, self.receiver = Process(), Process(), Process(), Process()
        self.inputs = Process()
        engine: Any = self.engine
        preview: Any = self.preview
        media: Any = self.media
        receiver: Any = self.receiver
        inputs: Any = self.inputs
        self.publisher = Publisher(engine, preview, media, receiver, inputs, lambda _: None)
        self.publisher.current, self.publisher._dirty = published(), False

    def rounds(self, count: int) -> None:
        """Runs the publisher for a few of its rounds."""
        seen = threading.Semaphore(0)
        watched = self.publisher._to_preview

        def counted() -> None:
            try:
                watched()
            finally:
                seen.release()

        counted.__name__ = watched.__name__
        self.publisher._to_preview = counted  # type: ignore[method-assign]
        self.publisher._stop.clear()
        self.publisher.start()
        for _ in range(count):
            assert seen.acquire(timeout=20)
            self.publisher._wake.set()
        self.publisher.stop()


def test_everybody_gets_the_show_and_the_media_process_what_to_decode() -> None:
    stand = Stand()
    chosen = ClipAsked("cd-9x9-fill-0-none.frames", 7, "cd" * 32, ".mov", 9, 9, {"fit": "fill"})
    stand.engine.painted = [ClipAsked(f"{'ab' * 32}-4x3-fit-0-none.frames", 1_500_000_000), chosen]
    stand.rounds(1)
    assert stand.engine.manifest == stand.preview.manifest == published().hashes
    of_line = {"content": "ab" * 32, "suffix": ".mp4", "width": 4, "height": 3, "fitting": {"fit": "fit"}}
    by_hand = {"content": "cd" * 32, "suffix": ".mov", "width": 9, "height": 9, "fitting": {"fit": "fill"}}
    assert stand.media.clips == [{**of_line, "asked_ns": 1_500_000_000}, {**by_hand, "asked_ns": 7}]


def test_an_edit_that_comes_to_the_same_show_still_tells_its_revision_once() -> None:
    """Whoever waits for the engine to have what was stored would wait for ever."""
    stand = Stand()
    stand.rounds(2)
    assert stand.engine.adopted == [(3, "s")]
    stand.publisher.current = replace(stand.publisher.current, show={"id": "s", "revision": 4})
    stand.rounds(2)
    assert stand.engine.adopted == stand.preview.adopted == [(3, "s"), (4, "s")]


def test_one_that_is_away_keeps_nothing_from_the_others_and_catches_up() -> None:
    for name in ("engine", "media", "preview"):
        stand = Stand()
        gone: Process = getattr(stand, name)
        gone.away = True
        stand.rounds(2)
        for other in {"engine", "preview"} - {name}:
            assert getattr(stand, other).manifest == published().hashes, (name, other)
        assert (stand.media.clips is None) is (name == "media")
        gone.away = False
        stand.rounds(1)
        assert gone.manifest == published().hashes or gone.clips is not None


def test_with_the_database_away_the_last_show_is_still_handed_over() -> None:
    stand = Stand()
    stand.publisher._read = _fails  # type: ignore[method-assign]
    stand.rounds(1)
    assert stand.engine.manifest == published().hashes


def _fails() -> None:
    raise UnavailableError("The database does not answer.")


def test_an_edit_counts_as_handed_over_only_when_the_engine_has_taken_it() -> None:
    stand = Stand()
    stand.publisher._read = lambda: setattr(stand.publisher, "_dirty", False)  # type: ignore[method-assign]
    assert stand.publisher.wait_handed(0), "nothing was edited yet"
    stand.publisher.changed()
    assert not stand.publisher.wait_handed(0)
    stand.engine.away = True
    stand.rounds(2)
    assert not stand.publisher.wait_handed(0)
    stand.engine.away = False
    stand.rounds(1)
    assert stand.publisher.wait_handed(1)
    assert stand.engine.manifest == published().hashes


def test_what_could_not_be_published_is_published_again(monkeypatch: Any) -> None:
    """An edit that was stored while reading the show failed, for whatever reason, reaches the engine later."""
    from contextlib import nullcontext

    from heliograph.api import publisher as module

    stand = Stand()
    failures = iter([RuntimeError("made up for a test"), UnavailableError("It is away."), None])
    show = {"id": "s", "revision": 4}

    def running_show() -> dict[str, Any]:
        failure = next(failures)
        if failure is not None:
            raise failure
        return show

    monkeypatch.setattr(module, "connected", nullcontext)
    monkeypatch.setattr("heliograph.store.rows.running_show", running_show)
    monkeypatch.setattr("heliograph.store.rows.whole_show", lambda _show: {})
    monkeypatch.setattr("heliograph.store.rows.saved_s", lambda _show: 0.0)
    monkeypatch.setattr(module, "with_members", lambda _tables: [])
    monkeypatch.setattr(module, "all_sections", lambda _tables: {"rig": {"modes": {}, "fixtures": []}, **SECTIONS})
    stand.publisher._dirty = True
    for _ in range(2):
        try:
            stand.publisher._read()
        except (RuntimeError, UnavailableError):
            assert stand.publisher._dirty
    stand.publisher._read()
    assert not stand.publisher._dirty
    assert stand.publisher.current.show == show
