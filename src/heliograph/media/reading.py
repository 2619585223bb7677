"""Reading the frames of a clip in the order they are shown, from any of them on, from a video or a picture."""

from __future__ import annotations

import contextlib
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from functools import partial
from pathlib import Path

import av
import av.error
import numpy as np
from PIL import Image

from heliograph.media.folder import PictureFolder, is_folder
from heliograph.media.probe import ClipFacts, is_picture
from heliograph.media.scale import picture_of
from heliograph.media.transparent import frames_with_cover, has_hidden_cover

TOLERANCE_NS = 20_000
"""Time stamps of a container are rounded: to 11 us at 90 kHz, the coarsest that is common."""

Picture = Callable[[], Image.Image]
"""Makes the RGB or RGBA image of a frame: work that is left out where the frame is not wanted."""


@dataclass(slots=True)
class Reader:
    """Reads one source. `size`: the squares it is for, so that frames may come smaller than they are; None for whole
    frames. In a `hurry`, frames that no other frame needs may be left out."""

    source: Path
    facts: ClipFacts
    size: tuple[int, int] | None = None
    hurry: bool = False

    def frames(self, start: int = 0) -> Iterator[tuple[int, Picture]]:
        """(index among `facts.times`, picture) from a key frame at or before `start` on. Ends early where the file is
        damaged."""
        if is_folder(self.source):
            return self._folder(start)
        return self._pictures(start) if is_picture(self.source) else self._video(start)

    def _folder(self, start: int) -> Iterator[tuple[int, Picture]]:
        with PictureFolder(self.source, self.source.name) as folder:
            for index, image in folder.pictures(start, self.facts.clear):
                yield index, partial(Image.Image.copy, image)

    def _pictures(self, start: int) -> Iterator[tuple[int, Picture]]:
        mode = "RGBA" if self.facts.clear else "RGB"
        with Image.open(self.source) as image, contextlib.suppress(OSError, EOFError, ValueError):
            for index in range(start, len(self.facts.times)):
                image.seek(index)
                yield index, partial(image.convert, mode)

    def _video(self, start: int) -> Iterator[tuple[int, Picture]]:
        facts = self.facts
        with av.open(str(self.source)) as container, contextlib.suppress(av.error.FFmpegError):
            stream = container.streams.video[0]
            stream.thread_type = "AUTO"
            base = stream.time_base
            assert base is not None  # the probe demuxed it
            unit = 1e9 * base.numerator / base.denominator
            first: int | None = None
            index = -1
            if start:
                first = next((frame.pts for frame in container.decode(stream) if frame.pts is not None), None)
                if first is not None:
                    container.seek(first + int(facts.times[start] / unit), stream=stream)
            hidden = has_hidden_cover(stream)
            for frame in frames_with_cover(container, stream) if hidden else container.decode(stream):
                if frame.pts is not None:
                    first = frame.pts if first is None else first
                    at = round((frame.pts - first) * unit)
                    # A frame goes where its time is: a dropped one must not shift all that follow.
                    index = max(int(facts.times.searchsorted(at + TOLERANCE_NS, "right")) - 1, index + 1)
                else:
                    index += 1
                if index >= len(facts.times):
                    return
                yield index, partial(picture_of, frame, facts.clear, self.size)
                stream.codec_context.skip_frame = "NONREF" if self.hurry else "DEFAULT"


def key_before(facts: ClipFacts, index: int) -> int:
    """The last frame at or before `index` that can be decoded by itself."""
    return int(facts.keys[max(int(np.searchsorted(facts.keys, index, "right")) - 1, 0)])
