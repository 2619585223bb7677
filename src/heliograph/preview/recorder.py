"""The last minutes of sent frames, each with the state and the show it was made from: any of them can be shown again
and asked why. Bounded in memory: the oldest go first.
"""

from __future__ import annotations

import zlib
from bisect import bisect_left
from collections import deque
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import PlaybackState
from heliograph.ipc.frames import SentFrame
from heliograph.preview.moment import Moment
from heliograph.render.compiled import CompiledShow

BYTES_MAX = 128 * 1024**2
"""Packed frames kept: more than ten minutes of the demo's 11 universes (2.5 KB a frame, measured), some three of 512
that all move (61 KB a frame, measured with Mist under a Relay)."""

SECONDS_MAX = 600
SHOWS_MAX = 64
"""Compiled shows kept to explain old frames: dragging one slider makes one a frame, which share nearly all."""

EVERY_FRAME_UP_TO = 64
"""Universes up to which every frame is kept; of more every fourth: packing 512 takes 2.5 ms (measured), and this
process must stay behind everything else."""

_PACK_LEVEL = 1


@dataclass(frozen=True, slots=True)
class Kept:
    """One frame, packed. `exact`: its state is known to be the one it was rendered from."""

    number: int
    show_ns: int
    steady_ns: int
    tag: int
    universes: np.ndarray[Any, Any]
    sent: bytes
    packed: bytes
    state: PlaybackState
    exact: bool

    def frame(self) -> SentFrame:
        """The frame as it was sent."""
        count = len(self.universes)
        data = np.frombuffer(zlib.decompress(self.packed), dtype=np.uint8).reshape(count, SLOTS)
        sent = np.frombuffer(self.sent, dtype=np.uint8)
        return SentFrame(self.number, self.show_ns, self.steady_ns, self.universes, sent, data, self.tag)


class Recorder:
    """Call `add` from one thread; reading from another sees whole frames only."""

    def __init__(self, most_bytes: int = BYTES_MAX, most_s: float = SECONDS_MAX) -> None:
        self._most_bytes, self._most_ns = most_bytes, int(most_s * 1e9)
        self._kept: deque[Kept] = deque()
        self._shows: dict[int, CompiledShow] = {}
        self.bytes = 0

    def wants(self, number: int, universes: int) -> bool:
        last = self._kept[-1].number if self._kept else -1
        return number != last and (universes <= EVERY_FRAME_UP_TO or number % 4 == 0 or number < last)

    def add(self, frame: SentFrame, state: PlaybackState, show: CompiledShow, exact: bool) -> None:
        """Keeps a frame. One that is older than the last is of another engine: everything before it goes."""
        if self._kept and frame.number <= self._kept[-1].number:
            self._kept.clear()
            self.bytes = 0
        last = self._kept[-1] if self._kept else None
        same = last is not None and np.array_equal(last.universes, frame.universes)
        universes = last.universes if last is not None and same else frame.universes
        packed = zlib.compress(frame.data.tobytes(), _PACK_LEVEL)
        known = exact and frame.tag == show.tag
        if known and frame.tag not in self._shows:
            self._shows[frame.tag] = show
            while len(self._shows) > SHOWS_MAX:
                del self._shows[next(iter(self._shows))]
        self._kept.append(
            Kept(
                frame.number,
                frame.show_ns,
                frame.steady_ns,
                frame.tag,
                universes,
                frame.sent.tobytes(),
                packed,
                state,
                known,
            )
        )
        self.bytes += len(packed) + len(frame.sent)
        while self.bytes > self._most_bytes or frame.steady_ns - self._kept[0].steady_ns > self._most_ns:
            gone = self._kept.popleft()
            self.bytes -= len(gone.packed) + len(gone.sent)

    def span(self) -> tuple[Kept, Kept, int] | None:
        """The oldest, the newest, and how many there are."""
        if not self._kept:
            return None
        return self._kept[0], self._kept[-1], len(self._kept)

    def at(self, *, frame: int | None = None, steady_ns: int | None = None, after: bool = False) -> Kept | None:
        """The kept frame of that number or moment, or the nearest one before it (or `after` it); the oldest or the
        newest where there is none on that side."""
        kept = list(self._kept)
        if not kept:
            return None
        values = [one.number for one in kept] if frame is not None else [one.steady_ns for one in kept]
        wanted = frame if frame is not None else steady_ns
        index = bisect_left(values, wanted if wanted is not None else values[-1])
        if index < len(values) and values[index] == wanted:
            return kept[index]
        return kept[min(index, len(kept) - 1)] if after else kept[max(index - 1, 0)]

    def moment(self, one: Kept) -> tuple[Moment, CompiledShow | None]:
        """The frame with its state and, where it is still known, its show."""
        return Moment(one.frame(), one.state, one.exact), self._shows.get(one.tag)

    def facts(self, now_ns: int) -> Mapping[str, Any]:
        """How far back it reaches, for people."""
        span = self.span()
        if span is None:
            return {"frames": 0, "bytes": 0, "first": 0, "last": 0, "seconds": 0.0}
        first, last, count = span
        return {
            "frames": count,
            "bytes": self.bytes,
            "first": first.number,
            "last": last.number,
            "seconds": round((now_ns - first.steady_ns) / 1e9, 2),
        }
