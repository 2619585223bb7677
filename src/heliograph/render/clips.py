"""Decoded clips as the engine reads them: frames already scaled to a matrix, in a mapped file.

Written by the media process, which decodes ahead; the engine only picks the frame of a moment and
copies what it needs. File: header, presentation times (int64 ns), a byte for each frame that is 1 once it is there,
then frames of h x w x 3 bytes, or x 4 where parts of the picture are clear (red, green, blue, cover; not
premultiplied).
"""

from __future__ import annotations

import mmap
import os
import struct
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
import numpy.typing as npt

from heliograph.core.matrix.fitting import frames_name

Bytes = npt.NDArray[np.uint8]

MAGIC = b"HGFRAME3"
HEADER = struct.Struct("<8sIIIIQI")  # magic, width, height, frames, ready, duration ns, bytes a pixel
HEADER_SIZE = 64
READY_AT = 20
"""How many frames are there."""


def frames_path(folder: Path, content: str, width: int, height: int, shape: str) -> Path:
    return folder / frames_name(content, width, height, shape)


def frames_size(count: int, width: int, height: int, depth: int) -> int:
    """Bytes of a file of so many frames."""
    return HEADER_SIZE + count * (9 + width * height * depth)


@dataclass(frozen=True, slots=True)
class Laid:
    """The arrays of a mapped file: when each frame is shown (n,) int64 ns, whether it is `there` (n,) uint8, and
    `frames` (n, h*w, 3 or 4) uint8."""

    times: npt.NDArray[np.int64]
    there: Bytes
    frames: Bytes


def lay_out(mapped: mmap.mmap, count: int, width: int, height: int, depth: int) -> Laid:
    times = np.frombuffer(mapped, "<i8", count, HEADER_SIZE)
    there = np.frombuffer(mapped, np.uint8, count, HEADER_SIZE + 8 * count)
    pixels = np.frombuffer(mapped, np.uint8, count * width * height * depth, HEADER_SIZE + 9 * count)
    return Laid(times, there, pixels.reshape(count, width * height, depth))


@dataclass(slots=True)
class ClipFrames:
    """Frames that may still be arriving: before the first is there, nothing is painted. `asked_ns`: the moment of the
    clip that was asked for last, until all are there: what is decoded first."""

    path: Path
    width: int = 0
    height: int = 0
    duration_ns: int = 0
    asked_ns: int | None = None
    _laid: Laid | None = field(default=None, repr=False)
    _map: mmap.mmap | None = None
    _whole: bool = False

    @staticmethod
    def open(path: Path) -> ClipFrames:
        clip = ClipFrames(path)
        clip.try_open()
        return clip

    @property
    def is_open(self) -> bool:
        return self._map is not None

    def try_open(self) -> bool:
        """Maps the file once it exists; called off the frame path until it does."""
        try:
            with open(self.path, "rb") as file:
                size = os.fstat(file.fileno()).st_size
                if size < HEADER_SIZE:
                    return False
                mapped = mmap.mmap(file.fileno(), size, access=mmap.ACCESS_READ)
        except (OSError, ValueError):
            return False
        magic, width, height, count, _, duration, depth = HEADER.unpack_from(mapped, 0)
        if magic != MAGIC or depth not in (3, 4) or not count or size < frames_size(count, width, height, depth):
            return False
        self.width, self.height, self.duration_ns = width, height, duration
        self._laid = lay_out(mapped, count, width, height, depth)
        self._map = mapped
        return True

    def frame_at(self, position_ns: int) -> Bytes | None:
        """(h*w, 3 or 4) uint8 of the frame shown at `position_ns`, looped; where it is not there yet, the last one
        before it that is."""
        if self._whole:
            return self._shown(position_ns)
        self.asked_ns = position_ns
        if self._map is None or self._laid is None:
            return None
        ready = struct.unpack_from("<I", self._map, READY_AT)[0]
        if ready == len(self._laid.times):
            self._whole, self.asked_ns = True, None
        return self._shown(position_ns) if ready else None

    def has(self, index: int) -> bool:
        """Whether a frame is there."""
        return self._laid is not None and bool(self._laid.there[index])

    def _shown(self, position_ns: int) -> Bytes | None:
        laid = self._laid
        assert laid is not None  # it is open
        index = max(int(np.searchsorted(laid.times, position_ns % self.duration_ns, "right")) - 1, 0)
        if not (self._whole or laid.there[index]):
            before = np.flatnonzero(laid.there[:index])
            before = before if before.size else np.flatnonzero(laid.there)
            if not before.size:
                return None
            index = int(before[-1])
        frame: Bytes = laid.frames[index]
        return frame
