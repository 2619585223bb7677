"""Decoded clips as the engine reads them: frames already scaled to a matrix, in a mapped file.

Written by the media process, which decodes ahead; the engine only picks the frame of a moment and
copies what it needs. File: header, presentation times (int64 ns), then frames of h x w x 3 bytes, or
x 4 where parts of the picture are clear (red, green, blue, cover; not premultiplied).
"""

from __future__ import annotations

import mmap
import os
import struct
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
import numpy.typing as npt

Bytes = npt.NDArray[np.uint8]

MAGIC = b"HGFRAME2"
HEADER = struct.Struct("<8sIIIIQI")  # magic, width, height, frames, ready, duration ns, bytes a pixel
HEADER_SIZE = 64
READY_AT = 20


def frames_path(folder: Path, content: str, width: int, height: int, shape: str) -> Path:
    """Where the frames of a clip (by its content's hash) for a matrix size and a fitting are kept."""
    return folder / f"{content}-{width}x{height}-{shape}.frames"


@dataclass(slots=True)
class ClipFrames:
    """Frames that may still be arriving: before the first is there, nothing is painted."""

    path: Path
    width: int = 0
    height: int = 0
    duration_ns: int = 0
    times: npt.NDArray[np.int64] = field(default_factory=lambda: np.empty(0, dtype=np.int64))
    frames: Bytes = field(default_factory=lambda: np.empty((0, 0, 3), dtype=np.uint8), repr=False)
    _map: mmap.mmap | None = None

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
        first = HEADER_SIZE + 8 * count
        if magic != MAGIC or depth not in (3, 4) or size < first + count * width * height * depth or not count:
            return False
        self.width, self.height, self.duration_ns = width, height, duration
        self.times = np.frombuffer(mapped, "<i8", count, HEADER_SIZE)
        pixels = np.frombuffer(mapped, np.uint8, count * width * height * depth, first)
        self.frames = pixels.reshape(count, -1, depth)
        self._map = mapped
        return True

    def frame_at(self, position_ns: int) -> Bytes | None:
        """(h*w, 3 or 4) uint8 of the frame shown at `position_ns`, looped; the last one there is if it is not yet."""
        if self._map is None:
            return None
        ready = struct.unpack_from("<I", self._map, READY_AT)[0]
        if ready == 0:
            return None
        index = int(np.searchsorted(self.times, position_ns % self.duration_ns, "right")) - 1
        frame: Bytes = self.frames[min(max(index, 0), ready - 1)]
        return frame
