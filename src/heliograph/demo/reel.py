"""Draws the demo's clip "Storm reel": a sea at night under a squall, 720p, twenty seconds that loop without a seam.

`python -m heliograph.demo.reel FILE` writes it; every movement runs a whole number of times per loop.
"""

from __future__ import annotations

import math
import sys
from fractions import Fraction
from pathlib import Path

import av
import numpy as np
import numpy.typing as npt
from PIL import Image

WIDTH, HEIGHT, RATE, SECONDS = 1280, 720, 25, 20
DRAWN = (640, 360)
"""Drawn at half the size and enlarged: soft shapes lose nothing, and it takes a quarter of the time."""

BT709 = 1
"""AVCOL_SPC_BT709: told, so that nobody has to guess."""

FLASHES = ((0.18, 0.3), (0.235, 0.62), (0.71, 0.44))
"""When in the loop (0..1) lightning strikes, and where across the picture."""

Picture = npt.NDArray[np.uint8]


def frame_at(turn: float) -> Picture:
    """(360, 640, 3) uint8 at `turn` 0..1 of the loop."""
    x = np.linspace(0.0, 1.0, DRAWN[0], dtype=np.float32)[None, :]
    y = np.linspace(0.0, 1.0, DRAWN[1], dtype=np.float32)[:, None]
    cycle = 2 * math.pi * turn
    heave = 0.055 * np.sin(2 * math.pi * x * 1.5 + 2 * cycle) + 0.03 * np.sin(2 * math.pi * x * 4 - 3 * cycle)
    depth = np.clip((y - 0.42 - heave) / 0.58, 0.0, 1.0)
    sea = np.clip(np.sign(y - 0.42 - heave), 0.0, 1.0)
    crest = np.exp(-(((y - 0.42 - heave) / 0.03) ** 2))
    rollers = 0.5 + 0.5 * np.sin(2 * math.pi * (6 * depth**0.6 + 0.8 * x) - 6 * cycle + 1.2 * np.sin(6.3 * x + cycle))
    cloud = 0.5 + 0.5 * np.sin(7 * x + 3 * np.sin(5 * y + cycle) + cycle) * np.sin(9 * y - 2 * cycle + 4 * x)
    red = (1 - sea) * (10 + 26 * cloud) + sea * (4 + 22 * rollers * (1 - depth))
    green = (1 - sea) * (14 + 30 * cloud) + sea * (26 + 108 * rollers * (1 - 0.7 * depth))
    blue = (1 - sea) * (34 + 58 * cloud) + sea * (54 + 96 * rollers * (1 - 0.5 * depth))
    image = np.stack(np.broadcast_arrays(red, green, blue), axis=2) + 190 * crest[:, :, None] * (
        0.5 + 0.5 * cloud[:, :, None]
    )
    for when, where in FLASHES:
        since = (turn - when) % 1.0
        if since < 0.05:
            bolt = np.exp(-(((x - where - 0.05 * np.sin(14 * y)) / 0.09) ** 2)) * (1 - 0.7 * y)
            image += (230 * (1 - since / 0.05) * bolt)[:, :, None]
    picture: Picture = np.clip(image, 0, 255).astype(np.uint8)
    return picture


def write_reel(path: Path) -> None:
    """Encodes the clip as H.264 in mp4."""
    with av.open(str(path), "w", format="mp4") as container:
        stream = container.add_stream("libx264", rate=Fraction(RATE))
        stream.width, stream.height, stream.pix_fmt = WIDTH, HEIGHT, "yuv420p"
        stream.codec_context.colorspace = BT709
        stream.options = {"preset": "veryfast", "crf": "20"}
        for index in range(RATE * SECONDS):
            drawn = Image.fromarray(frame_at(index / (RATE * SECONDS)))
            large = np.asarray(drawn.resize((WIDTH, HEIGHT), Image.Resampling.BILINEAR))
            picture = av.VideoFrame.from_ndarray(large, format="rgb24")
            picture = picture.reformat(format="yuv420p", dst_colorspace="ITU709")
            picture.colorspace, picture.pts = BT709, index
            container.mux(stream.encode(picture))
        container.mux(stream.encode())


if __name__ == "__main__":
    write_reel(Path(sys.argv[1]))
