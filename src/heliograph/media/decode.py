"""Decoding a clip ahead: every frame area-scaled to a matrix, into a mapped file the engine reads."""

from __future__ import annotations

import mmap
import os
import shutil
import struct
from collections.abc import Callable
from pathlib import Path

import av
import av.error
import numpy as np
import numpy.typing as npt
from PIL import Image

from heliograph.core.errors import InputError
from heliograph.engine.clips import HEADER, HEADER_SIZE, MAGIC, READY_AT
from heliograph.media.probe import probe

FRAMES_BYTES_MAX = 4 * 1024**3
"""Bytes of one clip at one size: 20 minutes at 30 a second on 36,000 squares."""

DISK_RESERVE = 512 * 1024**2


def decode_to(source: Path, target: Path, width: int, height: int, going_on: Callable[[], bool]) -> int:
    """Writes `target` while decoding, so that it can be shown from the first frame on; returns the frames.

    A file that is not finished is made anew by the next call. `going_on` False stops early.
    """
    facts = probe(source, source.name)
    count = len(facts.times)
    first = HEADER_SIZE + 8 * count
    size = first + count * width * height * 3
    if size > FRAMES_BYTES_MAX:
        raise InputError(
            f"{count} frames at {width} x {height} take {size / 1024**3:.1f} GiB: 4 GiB are the most.",
            where="clip",
            repair="Use a shorter clip or a smaller matrix.",
        )
    if shutil.disk_usage(target.parent).free < size + DISK_RESERVE:
        raise InputError("The disk is too full to decode the clip.", where="clip", repair="Make room on the disk.")
    mapped = _map(target, size)
    times = np.frombuffer(mapped, "<i8", count, HEADER_SIZE)
    times[:] = facts.times
    frames = np.frombuffer(mapped, np.uint8, count * width * height * 3, first).reshape(count, height, width, 3)
    known = struct.unpack_from("<I", mapped, READY_AT)[0]
    HEADER.pack_into(mapped, 0, MAGIC, width, height, count, known, facts.duration_ns)
    ready = 0
    with av.open(str(source)) as container:
        stream = container.streams.video[0]
        stream.thread_type = "AUTO"
        try:
            for frame in container.decode(stream):
                if ready >= count or not going_on():
                    break
                frames[ready] = scale_to(frame, width, height)
                ready += 1
                struct.pack_into("<I", mapped, READY_AT, max(ready, known))
        except av.error.FFmpegError:
            pass  # a damaged end: what was decoded stays, the last good frame is held
    if ready and ready < count and going_on():
        frames[ready:] = frames[ready - 1]
        ready = count
        struct.pack_into("<I", mapped, READY_AT, ready)
    return ready


def scale_to(frame: av.VideoFrame, width: int, height: int) -> npt.NDArray[np.uint8]:
    """(height, width, 3) uint8: each pixel the mean of the area it covers (Pillow's box filter).

    Not by the video scaler itself: making packed RGB it halves the colour's horizontal resolution,
    so that on a 4 x 4 matrix pairs of cells shared one hue (measured: 145 of 255 off).
    """
    picture = Image.fromarray(frame.to_ndarray(format="rgb24"))
    return np.asarray(picture.resize((width, height), Image.Resampling.BOX))


def _map(target: Path, size: int) -> mmap.mmap:
    """The file at its full size. One left unfinished is filled again in place: the engine may have it
    mapped, and shortening a mapped file would kill its reader."""
    if target.exists() and target.stat().st_size != size:
        target.unlink()
    with open(target, "r+b" if target.exists() else "w+b") as file:
        os.posix_fallocate(file.fileno(), 0, size)
        return mmap.mmap(file.fileno(), size)


def is_finished(target: Path) -> bool:
    """Whether a frames file is there and holds all its frames."""
    try:
        with open(target, "rb") as file:
            head = file.read(HEADER.size)
    except OSError:
        return False
    if len(head) < HEADER.size:
        return False
    magic, _, _, count, ready, _ = HEADER.unpack(head)
    return bool(magic == MAGIC and count and ready == count)
