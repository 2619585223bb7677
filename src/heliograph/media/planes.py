"""A video frame made smaller plane by plane, before its colours are worked out: most of the work of a large one."""

from __future__ import annotations

import av
import numpy as np
import numpy.typing as npt
from PIL import Image

Bytes = npt.NDArray[np.uint8]

CHROMA = {
    "yuv420p": (2, 2),
    "yuvj420p": (2, 2),
    "yuv422p": (2, 1),
    "yuvj422p": (2, 1),
    "yuv444p": (1, 1),
    "yuvj444p": (1, 1),
}
"""How many luma samples across and down share one of colour, by pixel format: those of 8 bits with planes apart."""

FACTORS = (8, 4, 2)
OVER = 4
"""Samples across and down that stay for each square: rounding to 8 bits twice is then averaged out."""


def reduced(frame: av.VideoFrame, width: int, height: int) -> av.VideoFrame | None:
    """The frame as yuv444p, smaller by a whole factor so that at least `OVER` samples across and down are left for each
    of `width` x `height` squares; None where there is no such factor, or its planes cannot be taken apart.

    Each sample left is the mean of those it stands for. Working colours out is linear but for its rounding and its
    limits, so that means of planes are means of colours.
    """
    across, down = CHROMA.get(frame.format.name, (0, 0))
    if not across:
        return None
    for factor in FACTORS:
        parts = frame.width % factor == 0 and frame.height % factor == 0
        if parts and frame.width >= OVER * width * factor and frame.height >= OVER * height * factor:
            return _by(frame, factor, across, down)
    return None


def _by(frame: av.VideoFrame, factor: int, across: int, down: int) -> av.VideoFrame:
    planes = [
        _plane(frame, 0).reduce(factor),
        *(_plane(frame, n, across, down).reduce((factor // across, factor // down)) for n in (1, 2)),
    ]
    name = "yuvj444p" if frame.format.name.startswith("yuvj") else "yuv444p"
    small = av.VideoFrame.from_ndarray(np.stack([np.asarray(one) for one in planes]), format=name)
    small.colorspace, small.color_range = frame.colorspace, frame.color_range
    return small


def _plane(frame: av.VideoFrame, number: int, across: int = 1, down: int = 1) -> Image.Image:
    plane = frame.planes[number]
    size = (frame.width // across, frame.height // down)
    return Image.frombuffer("L", size, memoryview(plane), "raw", "L", plane.line_size, 1)  # type: ignore[arg-type]


def colours_of(frame: av.VideoFrame, space: object) -> Image.Image:
    """RGB of a frame of full colour resolution, by planes: packed, the video scaler halves it across."""
    planes = frame.reformat(format="gbrp", src_colorspace=space).planes  # type: ignore[arg-type]
    size = (frame.width, frame.height)
    green, blue, red = (
        Image.frombuffer("L", size, memoryview(one), "raw", "L", one.line_size, 1)  # type: ignore[arg-type]
        for one in planes
    )
    return Image.merge("RGB", (red, green, blue))
