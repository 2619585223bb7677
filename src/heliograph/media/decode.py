"""Decoding a clip ahead: every frame scaled to a matrix, into a mapped file the engine reads."""

from __future__ import annotations

import mmap
import os
import shutil
import struct
from collections.abc import Callable
from pathlib import Path

import numpy as np

from heliograph.core.errors import InputError
from heliograph.core.matrix.fitting import Fitting
from heliograph.media.probe import ClipFacts, probe
from heliograph.media.reading import frames_of
from heliograph.media.scale import scale_to
from heliograph.render.clips import HEADER, HEADER_SIZE, MAGIC, READY_AT

FRAMES_BYTES_MAX = 4 * 1024**3
"""Bytes of one clip at one size: 20 minutes at 30 a second on 36,000 squares."""

DISK_RESERVE = 512 * 1024**2


def decode_to(
    source: Path,
    target: Path,
    width: int,
    height: int,
    going_on: Callable[[], bool],
    fitting: Fitting | None = None,
    facts: ClipFacts | None = None,
) -> int:
    """Writes `target` while decoding, so that it can be shown from the first frame on; returns the frames.

    A file that is not finished is made anew by the next call. `going_on` False stops early. `facts` are
    those of the original where `source` is its proxy. InputError where it would grow too large.
    """
    fitting = fitting or Fitting()
    facts = facts or probe(source, source.name)
    count = len(facts.times)
    depth = 4 if facts.clear or fitting.fit == "fit" else 3
    first = HEADER_SIZE + 8 * count
    size = first + count * width * height * depth
    if size > FRAMES_BYTES_MAX:
        raise InputError(
            f"Its {count} frames at {width} x {height} grow to {size / 1024**3:.1f} GiB: 4 GiB are the most.",
            where="clip",
            repair="Use a shorter clip or a smaller matrix.",
        )
    if shutil.disk_usage(target.parent).free < size + DISK_RESERVE:
        raise InputError("The disk is too full to decode the clip.", where="clip", repair="Make room on the disk.")
    mapped = _map(target, size)
    times = np.frombuffer(mapped, "<i8", count, HEADER_SIZE)
    times[:] = facts.times
    pixels = np.frombuffer(mapped, np.uint8, count * width * height * depth, first)
    frames = pixels.reshape(count, height, width, depth)
    known = struct.unpack_from("<I", mapped, READY_AT)[0]
    HEADER.pack_into(mapped, 0, MAGIC, width, height, count, known, facts.duration_ns, depth)
    ready = 0
    for index, image in frames_of(source, facts):
        if not going_on():
            break
        if index > ready:
            frames[ready:index] = frames[max(ready - 1, 0)]  # frames the file lost: the one before is held
        scaled = scale_to(image, width, height, fitting, facts.width / facts.height)
        frames[index] = scaled if scaled.shape[2] == depth else _with_cover(scaled)
        ready = index + 1
        struct.pack_into("<I", mapped, READY_AT, max(ready, known))
    if ready and ready < count and going_on():
        frames[ready:] = frames[ready - 1]  # a damaged end: the last good frame is held
        ready = count
        struct.pack_into("<I", mapped, READY_AT, ready)
    return ready


def _with_cover(
    rgb: np.ndarray[tuple[int, ...], np.dtype[np.uint8]],
) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    return np.dstack([rgb, np.full(rgb.shape[:2], 255, dtype=np.uint8)])


def _map(target: Path, size: int) -> mmap.mmap:
    """The file at its full size. One left unfinished is filled again in place: the engine may have it
    mapped, and shortening a mapped file would kill its reader."""
    if target.exists() and target.stat().st_size != size:
        target.unlink()
    with open(target, "r+b" if target.exists() else "w+b") as file:
        os.posix_fallocate(file.fileno(), 0, size)
        return mmap.mmap(file.fileno(), size)


def ready_part(target: Path) -> float:
    """How much of a frames file is there, 0..1."""
    try:
        with open(target, "rb") as file:
            head = file.read(HEADER.size)
    except OSError:
        return 0.0
    if len(head) < HEADER.size:
        return 0.0
    magic, _, _, count, ready, _, _ = HEADER.unpack(head)
    return ready / count if magic == MAGIC and count else 0.0


def is_finished(target: Path) -> bool:
    """Whether a frames file is there and holds all its frames."""
    return ready_part(target) >= 1.0
