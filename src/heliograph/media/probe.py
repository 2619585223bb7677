"""Looking into an uploaded video before it is kept."""

from __future__ import annotations

from dataclasses import dataclass
from pathlib import Path

import av
import av.error
import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError
from heliograph.core.tempo import NS_PER_S

SIDE_MAX = 4_096
FRAMES_MAX = 400_000
"""Frames of one clip: almost four hours at 30 a second."""

Times = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class ClipFacts:
    """`times` (n,): when each frame is shown, ns from the first; `duration_ns`: one round of the loop."""

    width: int
    height: int
    times: Times
    duration_ns: int


def probe(path: Path, name: str) -> ClipFacts:
    """Facts of a video; InputError with a sentence where it cannot be used."""
    try:
        with av.open(str(path)) as container:
            if not container.streams.video:
                raise InputError(f"'{name}' has no picture in it.", where="file", repair="Give a video.")
            stream = container.streams.video[0]
            width, height = int(stream.width or 0), int(stream.height or 0)
            if not (1 <= width <= SIDE_MAX and 1 <= height <= SIDE_MAX):
                raise InputError(
                    f"'{name}' is {width} x {height}: {SIDE_MAX} a side is the most.",
                    where="file",
                    repair="Scale it down first.",
                )
            first = next(container.decode(stream), None)
            if first is None:
                raise InputError(f"'{name}' holds no frame that can be decoded.", where="file")
            container.seek(0, stream=stream)
            times, duration_ns = _times(container, stream, name)
    except (av.error.FFmpegError, StopIteration) as error:
        raise InputError(
            f"'{name}' cannot be read as a video: {_plain(error)}.",
            where="file",
            repair="Export it again as mp4 (H.264).",
        ) from error
    return ClipFacts(width, height, times, duration_ns)


def _times(container: av.container.InputContainer, stream: av.VideoStream, name: str) -> tuple[Times, int]:
    stamps = sorted((packet.pts, packet.duration or 0) for packet in container.demux(stream) if packet.pts is not None)
    if not stamps:
        raise InputError(f"'{name}' holds no frames.", where="file")
    if len(stamps) > FRAMES_MAX:
        raise InputError(f"'{name}' has {len(stamps)} frames: {FRAMES_MAX} are the most.", where="file")
    base = stream.time_base
    assert base is not None  # a stream that demuxes has one
    unit = NS_PER_S * base.numerator / base.denominator
    first = stamps[0][0]
    times = np.array([round((pts - first) * unit) for pts, _ in stamps], dtype=np.int64)
    last = stamps[-1][1] * unit
    if last <= 0:
        last = float(np.median(np.diff(times))) if len(times) > 1 else NS_PER_S / 25
    return times, int(times[-1] + max(round(last), 1))


def _plain(error: Exception) -> str:
    text = getattr(error, "strerror", None) or str(error)
    return str(text).strip().rstrip(".").lower() or "its content is damaged"
