"""Clips of known colours, made for a test."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path

import av
import numpy as np

BLOCK = 32


def write_clip(path: Path, frames: list[list[list[tuple[int, int, int]]]], rate: int | Fraction = 25) -> None:
    """Each frame is rows of colours; every colour becomes a block of 32 x 32 pixels."""
    height, width = len(frames[0]) * BLOCK, len(frames[0][0]) * BLOCK
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=Fraction(rate))
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        stream.options = {"crf": "1", "preset": "veryfast"}
        for colours in frames:
            small = np.array(colours, dtype=np.uint8)
            image = small.repeat(BLOCK, axis=0).repeat(BLOCK, axis=1)
            container.mux(stream.encode(av.VideoFrame.from_ndarray(image, format="rgb24")))
        container.mux(stream.encode())
