"""The media process: `python -m heliograph.media.process --data DIR`. Decodes clips ahead."""

from __future__ import annotations

import argparse
import contextlib
import os
import signal
import threading
import time
from dataclasses import dataclass, replace
from pathlib import Path
from typing import Any

import av.error
import numpy as np
import orjson

from heliograph.core.errors import HeliographError
from heliograph.core.matrix.fitting import Fitting, fitting_from_json
from heliograph.ipc.control import ControlServer
from heliograph.ipc.heartbeat import Heartbeat
from heliograph.ipc.log import start_log
from heliograph.ipc.messages.base import Answer
from heliograph.ipc.messages.media import AskMedia, ClipWork, MediaRequest, MediaStatus, WantClips, WantedClip
from heliograph.ipc.service_user import drop_rights
from heliograph.media.decode import decode_to, is_finished, ready_part
from heliograph.media.feeds import Feeds
from heliograph.media.imports import needs_proxy, write_proxy
from heliograph.media.probe import ClipFacts, probe
from heliograph.render.clips import frames_path

NICE = 5
"""Behind the engine and the web process."""

DAMAGED = (OSError, ValueError, EOFError, av.error.FFmpegError)
"""What reading a damaged file raises, besides our own errors."""

RETRY_S = 10.0
"""A clip that could not be decoded is tried again so often: room on the disk may have been made meanwhile."""

HUNG = "Decoding this clip hung and was ended. Convert it with another program and add it again."

SHOWN_NS = 3_000_000_000
"""For so long after it was told that a clip is shown, it counts as shown."""

FIRST_ONLY = np.zeros(1, dtype=np.int64)

CACHE_BYTES = 16 * 1024**3
"""Decoded frames that no look uses any more are kept up to so much."""


@dataclass(frozen=True, slots=True)
class Wanted:
    """A clip's frames at one matrix size and fitting."""

    content: str
    suffix: str
    width: int
    height: int
    fitting: Fitting

    @property
    def file(self) -> str:
        return f"{self.content}{self.suffix}"


class Media:
    def __init__(self, folder: Path, log: Any, heart: Heartbeat) -> None:
        self._heart, self._hang_note = heart, heart.hang_note
        self._working = folder / "decoding.json"
        self._hung: set[str] = set()
        self._files, self._frames = folder / "files", folder / "frames"
        self._thumbs, self._proxies = folder / "thumbs", folder / "proxies"
        for one in (self._files, self._frames, self._thumbs, self._proxies):
            one.mkdir(parents=True, exist_ok=True)
        for left in self._proxies.glob("*.making"):  # of a process that was ended meanwhile
            left.unlink(missing_ok=True)
        self._log = log
        self._wanted: list[Wanted] = []
        self._asked: dict[str, tuple[int, int]] = {}
        self._failed: dict[Wanted, tuple[str, float]] = {}
        self._facts: dict[str, ClipFacts] = {}
        self._proxying: dict[str, float] = {}
        self._no_proxy: set[str] = set()
        self._wake = threading.Event()
        self.stopping = False
        self.feeds = Feeds(self._frames, log)

    def answer(self, request: MediaRequest, _fds: list[int]) -> Answer | None:
        match request:
            case WantClips():
                self._want(request.clips)
                self.feeds.want(request.feeds, request.hosts)
                return None
            case AskMedia():
                return self._status()

    def _want(self, clips: list[WantedClip]) -> None:
        wanted = [Wanted(c.content, c.suffix, c.width, c.height, fitting_from_json(c.fitting)) for c in clips]
        now = time.monotonic_ns()
        asked = {self._target(one).name: (c.asked_ns, now) for one, c in zip(wanted, clips, strict=True) if c.asked_ns}
        self._asked = {**{k: v for k, v in self._asked.items() if now - v[1] < SHOWN_NS}, **asked}
        wanted = list(dict.fromkeys(wanted))
        if wanted != self._wanted:
            self._wanted = wanted
            self._failed = {one: what for one, what in self._failed.items() if one in wanted}
            self._wake.set()

    def _status(self) -> MediaStatus:
        proxies = {content: round(part, 3) for content, part in self._proxying.items()}
        clips = [self._said_of(one) for one in self._wanted]
        return MediaStatus(clips=clips, proxies=proxies, feeds=self.feeds.said())

    def _said_of(self, one: Wanted) -> ClipWork:
        """One clip's state. What is ready has no fault: its last frame may be there before the decoder returns."""
        ready = round(ready_part(self._target(one)), 3)
        fault = self._failed[one][0] if one in self._failed and ready < 1.0 else ""
        return ClipWork(one.content, one.width, one.height, one.fitting.shape, ready, fault)

    def run(self) -> None:
        self._after_a_hang()
        while not self.stopping:
            self._heart.beat()
            self._wake.wait(1.0)
            self._wake.clear()
            for one in list(self._wanted):
                if not self.stopping:
                    self._decode(one)
            self._make_proxies()
            self._tidy()

    def stop(self) -> None:
        self.stopping = True
        self.feeds.want([], [])
        self._wake.set()

    def _target(self, one: Wanted) -> Path:
        return frames_path(self._frames, one.content, one.width, one.height, one.fitting.shape)

    def _facts_of(self, one: Wanted) -> ClipFacts:
        if one.content not in self._facts:
            self._facts[one.content] = probe(self._files / one.file, one.file)
        return self._facts[one.content]

    def _proxy(self, one: Wanted) -> Path:
        return self._proxies / f"{one.content}.mp4"

    def _decode(self, one: Wanted) -> None:
        target, proxy = self._target(one), self._proxy(one)
        failed = self._failed.get(one)
        if is_finished(target) or (failed is not None and time.monotonic() < failed[1]):
            return
        if one.content in self._hung:
            self._failed[one] = (HUNG, float("inf"))
            return
        source = proxy if proxy.exists() else self._files / one.file
        self._note_work(one)
        try:
            frames = decode_to(
                source,
                target,
                one.width,
                one.height,
                lambda: self._goes_on(one),
                one.fitting,
                self._facts_of(one) if source != proxy else replace(self._facts_of(one), keys=FIRST_ONLY),
                lambda: self._shown(target.name),
            )
            self._failed.pop(one, None)
            self._log.info(f"clip decoded: {frames} frames for {one.width} x {one.height}", event_for_people=True)
        except HeliographError as error:
            self._fail(one, f"{error.what} {error.repair}".strip())
        except DAMAGED as error:
            if source == proxy:  # the original is there; another copy is made of it
                proxy.unlink(missing_ok=True)
                self._wake.set()
                return
            self._fail(one, f"The clip cannot be decoded: {getattr(error, 'strerror', None) or error}.")
        finally:
            self._working.unlink(missing_ok=True)

    def _shown(self, name: str) -> int | None:
        """The moment of a clip that is shown now, at its own speed since it was told; None where it is not shown."""
        told = self._asked.get(name)
        since = 0 if told is None else time.monotonic_ns() - told[1]
        return None if told is None or since > SHOWN_NS else told[0] + since

    def _goes_on(self, one: Wanted) -> bool:
        """Asked before every frame; each is a sign of life."""
        self._heart.beat()
        return not self.stopping and one in self._wanted

    def _note_work(self, one: Wanted) -> None:
        """Leaves word of what is being decoded: if it hangs, this process is ended and the next one knows why."""
        with contextlib.suppress(OSError):
            self._working.write_bytes(orjson.dumps({"content": one.content}))

    def _after_a_hang(self) -> None:
        hung = self._hang_note.exists()
        self._hang_note.unlink(missing_ok=True)
        try:
            content = orjson.loads(self._working.read_bytes())["content"]
        except (OSError, ValueError, KeyError, TypeError):
            return
        self._working.unlink(missing_ok=True)
        if not hung:
            return
        self._hung.add(content)
        self._no_proxy.add(content)
        self._log.warning("decoding a clip did not end by itself: that clip is left alone", event_for_people=True)

    def _fail(self, one: Wanted, sentence: str) -> None:
        if one not in self._failed or self._failed[one][0] != sentence:
            self._log.warning(f"a clip cannot be decoded: {sentence}", event_for_people=True)
        self._failed[one] = (sentence, time.monotonic() + RETRY_S)

    def _make_proxies(self) -> None:
        """Only while nothing waits for its frames."""
        for one in list(self._wanted):
            proxy = self._proxy(one)
            if one in self._failed or one.content in self._no_proxy or proxy.exists():
                continue
            try:
                facts = self._facts_of(one)
                if not needs_proxy(facts):
                    self._no_proxy.add(one.content)
                elif write_proxy(
                    self._files / one.file,
                    proxy,
                    facts,
                    self._proxy_goes_on,
                    lambda part, content=one.content: self._proxying.update({content: part}),  # type: ignore[misc]
                ):
                    self._log.info(f"a smaller copy of a {facts.width} x {facts.height} clip is made")
            except (HeliographError, *DAMAGED) as error:
                proxy.with_suffix(".making").unlink(missing_ok=True)
                self._no_proxy.add(one.content)
                self._log.warning(f"no smaller copy could be made: {error}")
            finally:
                self._proxying.pop(one.content, None)

    def _proxy_goes_on(self) -> bool:
        self._heart.beat()
        return not self.stopping and not self._wake.is_set()

    def _tidy(self) -> None:
        wanted = {self._target(one) for one in self._wanted}
        idle = sorted(
            (path for path in self._frames.glob("*.frames") if path not in wanted), key=lambda p: p.stat().st_mtime
        )
        total = sum(path.stat().st_size for path in idle)
        for path in idle:
            if total <= CACHE_BYTES:
                return
            total -= path.stat().st_size
            with contextlib.suppress(OSError):
                path.unlink()


def main() -> None:
    parser = argparse.ArgumentParser(description="Heliograph's media process")
    parser.add_argument("--data", type=Path, required=True)
    data: Path = parser.parse_args().data
    log = start_log("media", data / "log")
    with contextlib.suppress(OSError):
        os.nice(NICE)
    drop_rights(data)
    media = Media(data / "media", log, Heartbeat(data, "media"))
    for number in (signal.SIGTERM, signal.SIGINT):
        signal.signal(number, lambda *_: media.stop())
    server = ControlServer(str(data / "run" / "media.sock"), MediaRequest, media.answer)
    server.start()
    media.run()
    server.close()


if __name__ == "__main__":
    main()
