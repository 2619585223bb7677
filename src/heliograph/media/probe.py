"""Looking into an uploaded file before it is kept: is it a video or a picture, how large, how long."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import av
import av.error
import numpy as np
import numpy.typing as npt
from PIL import Image, UnidentifiedImageError

from heliograph.core.errors import InputError
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.media.folder import PictureFolder, is_folder
from heliograph.media.transparent import has_hidden_cover

SIDE_MAX = 4_096
"""Longest side of a clip: pictures that are larger are scaled to it on import, videos are refused."""

PICTURE_MAX = 100_000_000
"""Pixels of one picture on import: 300 MB while it is scaled; a small file may claim far more."""

ANIMATION_MAX = 2_000_000_000
"""Pixels of all frames of an animated picture: about half a minute of decoding."""

FRAMES_MAX = 400_000
"""Frames of one clip: almost four hours at 30 a second."""

STILL_NS = NS_PER_S
"""One round of a picture that does not move."""

PICTURE_FORMATS = ("PNG", "JPEG", "WEBP")
"""Read by Pillow; videos and GIF are read by PyAV."""

Times = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class ClipFacts:
    """`width`, `height` as shown, turned upright and with square pixels. `times` (n,): when each frame is
    shown, ns from the first; `duration_ns`: one round of the loop. `clear`: parts may be see-through. `keys`: indexes
    of frames that can be decoded by themselves, the first among them."""

    kind: str
    width: int
    height: int
    times: Times
    duration_ns: int
    clear: bool = False
    keys: Times = field(default_factory=lambda: np.zeros(1, dtype=np.int64))

    @property
    def rate(self) -> float:
        """Frames a second on average; 0 for a still picture."""
        return 0.0 if len(self.times) < 2 else len(self.times) * NS_PER_S / self.duration_ns


def probe(path: Path, name: str) -> ClipFacts:
    """Facts of a clip; InputError with a sentence where it cannot be used."""
    if is_folder(path):
        return _folder_facts(path, name)
    picture = _picture_facts(path, name)
    return picture if picture is not None else _video_facts(path, name)


def _folder_facts(path: Path, name: str) -> ClipFacts:
    with PictureFolder(path, name) as folder:
        width, height, clear = folder.facts()
        each = round(NS_PER_S / folder.rate)
        times = np.arange(len(folder.entries), dtype=np.int64) * each
        keys = np.arange(len(times), dtype=np.int64)
        return ClipFacts("pictures", width, height, times, len(times) * each, clear, keys)


def is_picture(path: Path) -> bool:
    """Whether Pillow reads it: by its content, whatever its name says."""
    try:
        with Image.open(path) as image:
            return image.format in PICTURE_FORMATS
    except (UnidentifiedImageError, Image.DecompressionBombError):
        return False
    except (OSError, ValueError, SyntaxError):
        return False


def _picture_facts(path: Path, name: str) -> ClipFacts | None:
    limit, Image.MAX_IMAGE_PIXELS = Image.MAX_IMAGE_PIXELS, None  # ours is checked below, with a sentence
    try:
        with Image.open(path) as image:
            if image.format not in PICTURE_FORMATS:
                return None
            width, height = image.size
            frames = int(getattr(image, "n_frames", 1))
            if width * height > PICTURE_MAX:
                raise InputError(
                    f"'{name}' is {width} x {height}: {PICTURE_MAX // 1_000_000} million pixels are the most.",
                    where="file",
                    repair=f"Scale it down; more than {SIDE_MAX} a side never shows.",
                )
            if frames > 1 and (width * height * frames > ANIMATION_MAX or max(width, height) > SIDE_MAX):
                raise InputError(
                    f"'{name}' grows to {width * height * frames * 4 / 1024**3:.1f} GiB when it is decoded "
                    f"({frames} frames of {width} x {height}).",
                    where="file",
                    repair="Export it as a video (mp4), or smaller.",
                )
            times, duration = _picture_times(image, frames)
            image.seek(0)
            image.load()
            clear = image.has_transparency_data
            return ClipFacts("picture" if frames == 1 else "animation", width, height, times, duration, clear)
    except UnidentifiedImageError:
        return None
    except (OSError, ValueError, SyntaxError, EOFError) as error:
        raise InputError(
            f"'{name}' cannot be read as a picture: {_plain(error)}.", where="file", repair="Save it again as PNG."
        ) from error
    finally:
        Image.MAX_IMAGE_PIXELS = limit


def _picture_times(image: Image.Image, frames: int) -> tuple[Times, int]:
    if frames == 1:
        return np.zeros(1, dtype=np.int64), STILL_NS
    lengths = []
    for index in range(frames):
        image.seek(index)
        image.load()
        lengths.append(max(round(float(image.info.get("duration") or 100) * 1e6), 10_000_000))
    ends = np.cumsum(np.array(lengths, dtype=np.int64))
    return np.concatenate([[0], ends[:-1]]).astype(np.int64), int(ends[-1])


def _video_facts(path: Path, name: str) -> ClipFacts:
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
            times, duration_ns, keys = _times(container, stream, name)
            width, height = upright_size(stream, first)
            kind = "animation" if container.format.name == "gif" else "video"
            clear = "a" in first.format.name.replace("gray", "").replace("pal", "") or has_hidden_cover(stream)
            return ClipFacts(kind, width, height, times, duration_ns, clear, keys)
    except (av.error.FFmpegError, StopIteration) as error:
        raise InputError(
            f"'{name}' cannot be read as a video or a picture: {_plain(error)}.",
            where="file",
            repair="Export it again as mp4 (H.264), or as PNG.",
        ) from error


def upright_size(stream: av.VideoStream, frame: av.VideoFrame) -> tuple[int, int]:
    """Size as shown: turned as the recorder noted, with square pixels."""
    shape = stream.sample_aspect_ratio
    width, height = int(frame.width), int(frame.height)
    if shape and shape > 0:
        width = max(round(width * float(shape)), 1)
    return (height, width) if frame.rotation % 180 else (width, height)


def _times(container: av.container.InputContainer, stream: av.VideoStream, name: str) -> tuple[Times, int, Times]:
    stamps = sorted(set(_stamps(container, stream)))
    if not stamps:
        raise InputError(f"'{name}' holds no frames.", where="file")
    if len(stamps) > FRAMES_MAX:
        raise InputError(f"'{name}' has {len(stamps)} frames: {FRAMES_MAX} are the most.", where="file")
    base = stream.time_base
    assert base is not None  # a stream that demuxes has one
    unit = NS_PER_S * base.numerator / base.denominator
    first = stamps[0][0]
    times = np.array([round((pts - first) * unit) for pts, _, _ in stamps], dtype=np.int64)
    keys = np.array([0, *(n for n, stamp in enumerate(stamps) if n and stamp[2])], dtype=np.int64)
    last = stamps[-1][1] * unit
    if last <= 0:
        last = float(np.median(np.diff(times))) if len(times) > 1 else NS_PER_S / 25
    return times, int(times[-1] + max(round(last), 1)), keys


def _stamps(container: av.container.InputContainer, stream: av.VideoStream) -> Iterator[tuple[int, int, bool]]:
    """Time, length and whether it is a key frame, of each packet."""
    for packet in container.demux(stream):
        if packet.pts is not None and packet.size:
            yield packet.pts, packet.duration or 0, packet.is_keyframe


def _plain(error: Exception) -> str:
    text = getattr(error, "strerror", None) or str(error)
    return str(text).strip().rstrip(".").lower() or "its content is damaged"
