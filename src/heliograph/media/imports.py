"""What is made of an upload once: its thumbnail, a picture scaled to what is kept, a proxy of a large video."""

from __future__ import annotations

import contextlib
import os
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path

import av
import av.error
import numpy as np
from PIL import Image

from heliograph.core.errors import InputError
from heliograph.media.folder import is_folder
from heliograph.media.probe import SIDE_MAX, ClipFacts, is_picture, probe
from heliograph.media.reading import Reader
from heliograph.media.scale import picture_of

THUMB = (128, 72)
THUMB_LOOK = 60
"""Frames decoded at most to reach a thumbnail's moment: key frames may lie far apart."""

PROXY_OVER = 1920 * 1088
"""Pixels above which a video gets a proxy: decoding ahead, 4K is slower than its own 30 a second (bench/clips.py)."""

PROXY_SIDE = 1280


def scaled_on_import(path: Path, facts: ClipFacts, name: str) -> tuple[ClipFacts, str]:
    """A still picture with a side over 4,096 is replaced in place by a scaled one; what was done, in a sentence."""
    if facts.kind != "picture" or max(facts.width, facts.height) <= SIDE_MAX:
        return facts, ""
    limit, Image.MAX_IMAGE_PIXELS = Image.MAX_IMAGE_PIXELS, None
    try:
        with Image.open(path) as image:
            image.draft("RGB", (SIDE_MAX, SIDE_MAX))
            kept = image.convert("RGBA" if facts.clear else "RGB")
        kept.thumbnail((SIDE_MAX, SIDE_MAX), Image.Resampling.BOX)
        temporary = path.with_suffix(".scaled")
        kept.save(temporary, "PNG", compress_level=1)
        os.replace(temporary, path)
    except OSError as error:
        raise InputError(f"'{name}' cannot be scaled: {error}.", where="file", repair="Scale it down first.") from error
    finally:
        Image.MAX_IMAGE_PIXELS = limit
    said = f"'{name}' is {facts.width} x {facts.height}: it is kept at {kept.width} x {kept.height}."
    return probe(path, name), said


def write_thumbnail(source: Path, target: Path, facts: ClipFacts) -> None:
    """A small PNG of a frame a third into the clip."""
    image = _typical(source, facts)
    if image is None:
        return
    image.thumbnail(THUMB, Image.Resampling.BOX)
    temporary = target.with_suffix(".new")
    image.save(temporary, "PNG")
    os.replace(temporary, target)


def _typical(source: Path, facts: ClipFacts) -> Image.Image | None:
    if is_picture(source) or is_folder(source):
        return next((picture() for _, picture in Reader(source, facts).frames()), None)
    with contextlib.suppress(av.error.FFmpegError), av.open(str(source)) as container:
        stream = container.streams.video[0]
        wanted_s = facts.duration_ns / 3e9
        container.seek(int(wanted_s * 1e6))  # to the key frame before it
        found = None
        for frame, _ in zip(container.decode(stream), range(THUMB_LOOK), strict=False):
            found = frame
            if frame.time is not None and frame.time >= wanted_s:
                break
        return picture_of(found, facts.clear).convert("RGB") if found is not None else None
    return None


def needs_proxy(facts: ClipFacts) -> bool:
    return facts.kind == "video" and facts.width * facts.height > PROXY_OVER and len(facts.times) > 1


def write_proxy(
    source: Path, target: Path, facts: ClipFacts, going_on: Callable[[], bool], told: Callable[[float], None]
) -> bool:
    """The same frames at the same times, the longer side 1,280, full colour resolution. False where it was stopped."""
    scale = PROXY_SIDE / max(facts.width, facts.height)
    size = (max(round(facts.width * scale / 2) * 2, 2), max(round(facts.height * scale / 2) * 2, 2))
    temporary = target.with_suffix(".making")
    with av.open(str(temporary), "w", format="mp4") as container:
        stream = container.add_stream("libx264", rate=Fraction(30))
        stream.width, stream.height, stream.pix_fmt = *size, "yuv444p"
        stream.codec_context.time_base = stream.time_base = Fraction(1, 90_000)
        stream.options = {"preset": "veryfast", "crf": "12", "bf": "0"}
        for index, picture in Reader(source, facts).frames():
            if not going_on():
                break
            frame = av.VideoFrame.from_ndarray(
                np.asarray(picture().resize(size, Image.Resampling.BOX).convert("RGB")), format="rgb24"
            )
            frame = frame.reformat(format="yuv444p", dst_colorspace="ITU709")
            frame.pts, frame.time_base = round(int(facts.times[index]) * 9 / 100_000), Fraction(1, 90_000)
            frame.colorspace = 1  # told, so that nobody has to guess: BT.709
            container.mux(stream.encode(frame))
            told((index + 1) / len(facts.times))
        container.mux(stream.encode())
    if not going_on():
        temporary.unlink(missing_ok=True)
        return False
    os.replace(temporary, target)
    return True
