"""Reading the frames of a clip in the order they are shown, from a video or a picture."""

from __future__ import annotations

import contextlib
from collections.abc import Iterator
from pathlib import Path

import av
import av.error
from PIL import Image

from heliograph.media.probe import ClipFacts, is_picture
from heliograph.media.scale import picture_of

TOLERANCE_NS = 20_000
"""Time stamps of a container are rounded: to 11 us at 90 kHz, the coarsest that is common."""


def frames_of(source: Path, facts: ClipFacts) -> Iterator[tuple[int, Image.Image]]:
    """(index among `facts.times`, RGB or RGBA image). Ends early where the file is damaged."""
    return _pictures(source, facts) if is_picture(source) else _video(source, facts)


def _pictures(source: Path, facts: ClipFacts) -> Iterator[tuple[int, Image.Image]]:
    with Image.open(source) as image, contextlib.suppress(OSError, EOFError, ValueError):
        for index in range(len(facts.times)):
            image.seek(index)
            yield index, image.convert("RGBA" if facts.clear else "RGB")


def _video(source: Path, facts: ClipFacts) -> Iterator[tuple[int, Image.Image]]:
    with av.open(str(source)) as container:
        stream = container.streams.video[0]
        stream.thread_type = "AUTO"
        base = stream.time_base
        assert base is not None  # the probe demuxed it
        unit = 1e9 * base.numerator / base.denominator
        first: int | None = None
        index = -1
        with contextlib.suppress(av.error.FFmpegError):
            for frame in container.decode(stream):
                if frame.pts is not None:
                    first = frame.pts if first is None else first
                    at = round((frame.pts - first) * unit)
                    # A frame goes where its time is: a dropped one must not shift all that follow.
                    index = max(int(facts.times.searchsorted(at + TOLERANCE_NS, "right")) - 1, index + 1)
                else:
                    index += 1
                if index >= len(facts.times):
                    return
                yield index, picture_of(frame, facts.clear)
