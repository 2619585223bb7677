"""Live pictures: one thread a feed that opens it, decodes, and keeps the newest picture for each matrix that shows
it."""

from __future__ import annotations

import threading
import time
from collections.abc import Collection
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import av

from heliograph.core.look.feeds import Feed
from heliograph.core.matrix.fitting import Fitting
from heliograph.media.scale import picture_of, scale_to
from heliograph.render.live import LiveWriter, live_path

OPEN_S, READ_S = 5.0, 3.0
"""So long an opening and a read may take; then it is opened anew."""

AGAIN_S = 1.0
LATE_S = 0.004
"""A picture that was there so soon after the last one had waited: there is a backlog, and only its last one counts."""

SHOWN_AT_LEAST_S = 0.05
LATE_SHOWN_S = 0.1
PIXELS_MAX = 4096 * 2304
OPTIONS = {
    "fflags": "nobuffer",
    "flags": "low_delay",
    "probesize": "200000",
    "analyzeduration": "500000",
    "overrun_nonfatal": "1",
    "rtsp_transport": "tcp",
    "protocol_whitelist": "udp,rtp,rtcp,tcp,http,rtsp",
}


@dataclass(frozen=True, slots=True)
class Size:
    """A matrix that shows the feed."""

    width: int
    height: int
    fitting: Fitting


@dataclass(slots=True)
class Seen:
    """What is said of a feed: pictures a second, how long ago the last one came, what is wrong."""

    rate: float = 0.0
    last_s: float = 0.0
    size: str = ""
    fault: str = ""


class FeedReader:
    """Reads one feed until it is stopped; opens it again whenever it ends or fails."""

    def __init__(self, address: str, feed: Feed, folder: Path, log: Any, file: str = "") -> None:
        self.file = file
        self._address, self.feed, self._folder, self._log = address, feed, folder, log
        self.seen = Seen()
        self._round_from = 0.0
        self._sizes: tuple[Size, ...] = ()
        self._writers: dict[Size, LiveWriter] = {}
        self._stop = threading.Event()
        self._thread = threading.Thread(target=self._run, name="feed", daemon=True)
        self._thread.start()

    def want(self, sizes: Collection[Size]) -> None:
        self._sizes = tuple(sizes)

    def stop(self) -> None:
        self._stop.set()

    def age_s(self) -> float:
        """Since the last picture; -1 before the first."""
        return time.monotonic() - self.seen.last_s if self.seen.last_s else -1.0

    def _run(self) -> None:
        while not self._stop.is_set():
            try:
                if self.feed.clip:
                    self._loop()
                else:
                    self._read()
                    self.seen.fault = "It ended; it is opened again."
            except Exception as error:  # whatever it is, it is said, and tried again
                said = getattr(error, "strerror", None) or str(error) or type(error).__name__
                self.seen.fault = f"It cannot be opened: {said}."
            if self.feed.clip and not self.seen.fault:
                continue
            self.seen.rate = self._round_from = 0.0
            self._stop.wait(AGAIN_S)
        for writer in self._writers.values():
            writer.end()

    def _loop(self) -> None:
        """One round of a file, each picture at its time; those it is too late for are left out."""
        with av.open(self.feed.opens) as container:
            if not container.streams.video:
                raise ValueError("there is no picture in it")
            stream = container.streams.video[0]
            stream.thread_type = "AUTO"
            begun = self._round_from or time.monotonic()
            first: float | None = None
            shown, ends = 0.0, 0.0
            for frame in container.decode(stream):
                at = frame.time or 0.0
                first = at if first is None else first
                ends = at - first + float((frame.duration or 0) * (frame.time_base or 0))
                due = begun + at - first
                if self._stop.wait(max(due - time.monotonic(), 0.0)):
                    return
                now = time.monotonic()
                if now - due < LATE_SHOWN_S or now - shown > 1.0:
                    self._show(frame)
                    self._note(frame, now, shown)
                    shown = now
            if first is None:
                raise ValueError("there is no picture in it")
            late = time.monotonic() - begun - ends > 1.0
            self._round_from = 0.0 if late else begun + max(ends, SHOWN_AT_LEAST_S)

    def _read(self) -> None:
        with av.open(
            self.feed.opens,
            format=self.feed.format or None,
            options=OPTIONS,
            timeout=(OPEN_S, READ_S),
        ) as container:
            if not container.streams.video:
                raise ValueError("there is no picture in it")
            stream = container.streams.video[0]
            stream.thread_type = "SLICE"  # by frames, each thread would hold one back
            shown = asked = 0.0
            for frame in container.decode(stream):
                if self._stop.is_set():
                    return
                now = time.monotonic()
                if frame.width * frame.height > PIXELS_MAX:
                    raise ValueError(f"{frame.width} x {frame.height} is more than 4096 x 2304")
                if now - asked >= LATE_S or now - shown >= SHOWN_AT_LEAST_S:
                    self._show(frame)
                    self._note(frame, now, shown)
                    shown = now
                asked = time.monotonic()

    def _note(self, frame: av.VideoFrame, now: float, last: float) -> None:
        seen = self.seen
        gap = now - last
        if last and gap < 2.0:  # gaps are averaged, not rates: one after a late picture is short
            usual = gap if seen.rate == 0.0 else 0.95 / seen.rate + gap * 0.05
            seen.rate = 1.0 / max(usual, 1e-3)
        seen.last_s, seen.size, seen.fault = now, f"{frame.width} x {frame.height}", ""

    def _show(self, frame: av.VideoFrame) -> None:
        across = max((max(size.width, size.height) for size in self._sizes), default=1)
        image = picture_of(frame, False, (across, across))
        steady_ns = time.monotonic_ns()
        for size in [one for one in self._writers if one not in self._sizes]:
            self._writers.pop(size).end()
        for size in self._sizes:
            pixels = scale_to(image, size.width, size.height, size.fitting)
            writer = self._writers.get(size)
            if writer is None:
                path = live_path(self._folder, self._address, size.width, size.height, size.fitting.shape)
                writer = self._writers[size] = LiveWriter(path, size.width, size.height, pixels.shape[2])
            writer.write(pixels, steady_ns)
