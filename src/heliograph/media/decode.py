"""Decoding a clip ahead: every frame scaled to a matrix, into a mapped file the engine reads."""

from __future__ import annotations

import mmap
import os
import shutil
import struct
from collections.abc import Callable
from pathlib import Path

import numpy as np
from PIL import Image

from heliograph.core.errors import InputError
from heliograph.core.matrix.fitting import Fitting
from heliograph.media.filling import Filling
from heliograph.media.probe import ClipFacts, probe
from heliograph.media.reading import Reader
from heliograph.media.scale import scale_to
from heliograph.render.clips import HEADER, MAGIC, READY_AT, frames_size, lay_out

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
    asked: Callable[[], int | None] = lambda: None,
) -> int:
    """Writes `target` while decoding, so that it can be shown from the first frame on; returns the frames there are.

    A file that is not finished is gone on with by the next call. `going_on` False stops early. `facts` are those of the
    original where `source` is its proxy. `asked`: the moment of the clip (ns) that is shown now, None where it is not:
    decoding begins there and keeps up with it. InputError where it would grow too large.
    """
    fitting = fitting or Fitting()
    facts = facts or probe(source, source.name)
    count = len(facts.times)
    depth = 4 if facts.clear or fitting.fit == "fit" else 3
    size = frames_size(count, width, height, depth)
    if size > FRAMES_BYTES_MAX:
        raise InputError(
            f"Its {count} frames at {width} x {height} grow to {size / 1024**3:.1f} GiB: 4 GiB are the most.",
            where="clip",
            repair="Use a shorter clip or a smaller matrix.",
        )
    mapped = _map(target, size)
    laid = lay_out(mapped, count, width, height, depth)
    laid.times[:] = facts.times
    ready = int(np.count_nonzero(laid.there))
    HEADER.pack_into(mapped, 0, MAGIC, width, height, count, ready, facts.duration_ns, depth)

    def keep(index: int, image: Image.Image | None) -> None:
        """A frame as it is scaled. Where the file lost one, the one before it is held, or the first one stands in."""
        nonlocal ready
        if image is None:
            before = index - 1 if index and laid.there[index - 1] else int(np.flatnonzero(laid.there)[0])
            laid.frames[index] = laid.frames[before]
        else:
            scaled = scale_to(image, width, height, fitting, facts.width / facts.height)
            scaled = scaled if scaled.shape[2] == depth else _with_cover(scaled)
            laid.frames[index] = scaled.reshape(-1, depth)
        laid.there[index] = 1
        ready += 1
        struct.pack_into("<I", mapped, READY_AT, ready)

    squares = (height, width) if fitting.rotate % 180 else (width, height)
    Filling(Reader(source, facts, squares), laid.there, keep, going_on, asked).run()
    return ready


def _with_cover(
    rgb: np.ndarray[tuple[int, ...], np.dtype[np.uint8]],
) -> np.ndarray[tuple[int, ...], np.dtype[np.uint8]]:
    return np.dstack([rgb, np.full(rgb.shape[:2], 255, dtype=np.uint8)])


def _map(target: Path, size: int) -> mmap.mmap:
    """The file at its full size. One left unfinished is filled again in place: the engine may have it
    mapped, and shortening a mapped file would kill its reader."""
    if target.exists() and not _goes_on_with(target, size):
        target.unlink()
    if not target.exists() and shutil.disk_usage(target.parent).free < size + DISK_RESERVE:
        raise InputError("The disk is too full to decode the clip.", where="clip", repair="Make room on the disk.")
    with open(target, "r+b" if target.exists() else "w+b") as file:
        os.posix_fallocate(file.fileno(), 0, size)
        return mmap.mmap(file.fileno(), size)


def _goes_on_with(target: Path, size: int) -> bool:
    with open(target, "rb") as file:
        return os.fstat(file.fileno()).st_size == size and file.read(len(MAGIC)) == MAGIC


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
