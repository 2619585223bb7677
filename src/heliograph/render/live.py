"""Pictures of a feed as the engine reads them: the newest ones, already scaled to a matrix, in a mapped file.

Written by the media process as they arrive. A few are kept, each with the time of the steady clock at which it was
there, so that the preview can show the one that was newest when a frame was sent.
"""

from __future__ import annotations

import contextlib
import hashlib
import mmap
import os
import struct
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import numpy.typing as npt

from heliograph.core.look.feeds import LOST_S

Bytes = npt.NDArray[np.uint8]

MAGIC = b"HGLIVE01"
HEADER = struct.Struct("<8sIIIIQ")  # magic, width, height, bytes a pixel, slots, pictures ever
HEADER_SIZE = 64
COUNT_AT = 24
SLOT = struct.Struct("<Qq")  # counter, odd while it is written; steady time ns
SLOTS = 16
LOST_NS = round(LOST_S * 1e9)
HELD = -1
"""Asked for instead of a time: the picture that was given last, for what is frozen."""


def live_path(folder: Path, opens: str, width: int, height: int, shape: str) -> Path:
    """Where the pictures of a feed for a matrix size and a fitting are kept."""
    name = hashlib.blake2b(opens.encode(), digest_size=12).hexdigest()
    return folder / f"feed-{name}-{width}x{height}-{shape}.live"


class LiveWriter:
    """Owns the file; made anew each time, so that nothing old is taken for new."""

    def __init__(self, path: Path, width: int, height: int, depth: int) -> None:
        self._size = width * height * depth
        size = HEADER_SIZE + SLOTS * (SLOT.size + self._size)
        making = path.with_suffix(".making")
        with open(making, "w+b") as file:
            os.posix_fallocate(file.fileno(), 0, size)
            self._map = mmap.mmap(file.fileno(), size)
            self._inode = os.fstat(file.fileno()).st_ino
        self._path = path
        HEADER.pack_into(self._map, 0, MAGIC, width, height, depth, SLOTS, 0)
        os.replace(making, path)
        self._count = 0

    def end(self) -> None:
        """Takes the file away, unless another writer's stands there: what is shown again begins without a picture."""
        with contextlib.suppress(OSError):
            if self._path.stat().st_ino == self._inode:
                self._path.unlink()

    def write(self, pixels: Bytes, steady_ns: int) -> None:
        at = HEADER_SIZE + self._count % SLOTS * (SLOT.size + self._size)
        SLOT.pack_into(self._map, at, 2 * self._count + 1, steady_ns)
        self._map[at + SLOT.size : at + SLOT.size + self._size] = pixels.tobytes()
        self._count += 1
        SLOT.pack_into(self._map, at, 2 * self._count, steady_ns)
        struct.pack_into("<Q", self._map, COUNT_AT, self._count)


@dataclass(slots=True)
class LiveFrames:
    """Reads a feed's file; nothing is painted before its first picture. `lost`: see `core/look/feeds`."""

    path: Path
    lost: str = "hold"
    _map: mmap.mmap | None = None
    _shape: tuple[int, int] = (0, 0)
    _inode: int = 0
    _given: Bytes | None = None

    @property
    def is_open(self) -> bool:
        return self._map is not None

    def try_open(self) -> bool:
        """Maps the file, also anew where another has taken its place; called off the frame path."""
        try:
            with open(self.path, "rb") as file:
                facts = os.fstat(file.fileno())
                if self._map is not None and facts.st_ino == self._inode:
                    return True
                mapped = mmap.mmap(file.fileno(), facts.st_size, access=mmap.ACCESS_READ)
        except (OSError, ValueError):
            return False
        magic, width, height, depth, slots, _ = HEADER.unpack_from(mapped, 0)
        size = HEADER_SIZE + slots * (SLOT.size + width * height * depth)
        if magic != MAGIC or depth not in (3, 4) or slots != SLOTS or facts.st_size < size:
            return False
        self._shape, self._inode, self._map = (width * height, depth), facts.st_ino, mapped
        return True

    def frame_at(self, steady_ns: int) -> Bytes | None:
        """(h*w, 3 or 4) uint8 of the newest picture there was at a steady time (0: now); None for none yet, and for
        what is lost where that is clear."""
        if steady_ns == HELD:
            if self._given is None:  # compiled anew while it is frozen: the newest one there is stands in
                newest = self._newest(0)
                self._given = None if newest is None else newest[1]
            return self._given
        found = self._newest(steady_ns)
        if found is None:
            return self._given if self.lost == "hold" else None
        stamp, pixels = found
        self._given = pixels
        if steady_ns and steady_ns - stamp > LOST_NS and self.lost != "hold":
            return np.zeros_like(pixels[:, :3]) if self.lost == "black" else None
        return pixels

    def _newest(self, steady_ns: int) -> tuple[int, Bytes] | None:
        mapped = self._map
        if mapped is None:
            return None
        count = struct.unpack_from("<Q", mapped, COUNT_AT)[0]
        squares, depth = self._shape
        size = squares * depth
        for number in range(count - 1, max(count - SLOTS, -1), -1):
            at = HEADER_SIZE + number % SLOTS * (SLOT.size + size)
            counter, stamp = SLOT.unpack_from(mapped, at)
            if counter != 2 * (number + 1) or (steady_ns and stamp > steady_ns):
                continue
            pixels = np.frombuffer(mapped, np.uint8, size, at + SLOT.size).reshape(squares, depth).copy()
            if SLOT.unpack_from(mapped, at)[0] == counter:
                return stamp, pixels
        return None
