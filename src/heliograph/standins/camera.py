"""A simulated camera: `./heliograph standin camera --to udp://127.0.0.1:7010`.

Sends a moving test picture as an MPEG transport stream: a lamp that wanders over a slope of colours, and the time of
the steady clock in digits. With `--bits 6x3` it is a grid of black and white fields instead that say the steady time in
hundredths of a second in Gray code, the first field the lowest bit, for whoever measures how late a picture is.
"""

from __future__ import annotations

import argparse
import math
import time
from collections.abc import Callable

import av
import numpy as np
import numpy.typing as npt
from PIL import Image, ImageDraw, ImageFont

Picture = npt.NDArray[np.uint8]


def gray_of(steady_s: float, bits: int) -> int:
    """Hundredths of a second, modulo 2^bits, in Gray code: one field changes at a time."""
    count = int(steady_s * 100) % (1 << bits)
    return count ^ (count >> 1)


def time_of(gray: int) -> int:
    """The hundredths of a second that a Gray code says."""
    count = 0
    while gray:
        count ^= gray
        gray >>= 1
    return count


def bits_picture(width: int, height: int, columns: int, rows: int, steady_s: float) -> Picture:
    gray = gray_of(steady_s, columns * rows)
    fields = np.array([255 if gray >> n & 1 else 0 for n in range(columns * rows)], dtype=np.uint8)
    image = Image.fromarray(fields.reshape(rows, columns)).resize((width, height), Image.Resampling.NEAREST)
    return np.dstack([np.asarray(image)] * 3)


def moving_picture(width: int, height: int, steady_s: float) -> Picture:
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    turn = steady_s * 0.7
    lamp_x, lamp_y = width * (0.5 + 0.4 * math.cos(turn)), height * (0.45 + 0.3 * math.sin(2 * turn))
    light = np.exp(-((x - lamp_x) ** 2 + (y - lamp_y) ** 2) / (0.012 * width * width))
    slope = np.stack([20 + 60 * x / width, 40 + 30 * y / height, 90 - 50 * x / width], axis=2)
    picture = np.clip(slope + light[..., None] * np.array([255, 206, 128]), 0, 255).astype(np.uint8)
    image = Image.fromarray(picture)
    ImageDraw.Draw(image).text(
        (width * 0.04, height * 0.76), f"{steady_s:.2f}", font=ImageFont.load_default(height // 6)
    )
    return np.asarray(image)


def send(to: str, rate: int, picture: Callable[[float], Picture], until: Callable[[], bool]) -> int:
    """Sends pictures until `until()`; returns how many."""
    first = picture(time.monotonic())
    sent = 0
    with av.open(to, "w", format="mpegts", options={"flush_packets": "1"}) as container:
        stream = container.add_stream("mpeg2video", rate=rate)
        stream.height, stream.width = first.shape[:2]
        stream.pix_fmt = "yuv420p"
        stream.bit_rate = 6_000_000
        stream.gop_size = max(rate // 2, 1)
        stream.max_b_frames = 0
        begun = time.monotonic()
        while not until():
            frame = av.VideoFrame.from_ndarray(picture(time.monotonic()), format="rgb24")
            frame.pts = sent
            container.mux(stream.encode(frame))
            sent += 1
            time.sleep(max(begun + sent / rate - time.monotonic(), 0.0))
    return sent


def main() -> None:
    parser = argparse.ArgumentParser(prog="heliograph standin camera", description=__doc__.splitlines()[0])
    parser.add_argument("--to", default="udp://127.0.0.1:7010", help="where it sends to")
    parser.add_argument("--rate", type=int, default=25, help="pictures a second")
    parser.add_argument("--size", default="320x180", help="columns x rows")
    parser.add_argument("--bits", default="", help="a grid of black and white fields that say the time, like 6x3")
    parser.add_argument("--seconds", type=float, default=0.0, help="ends after so long; 0 does not end")
    options = parser.parse_args()
    width, height = (int(one) for one in options.size.split("x"))
    ends = time.monotonic() + options.seconds if options.seconds else math.inf
    if options.bits:
        columns, rows = (int(one) for one in options.bits.split("x"))
        drawn = lambda at: bits_picture(width, height, columns, rows, at)  # noqa: E731
    else:
        drawn = lambda at: moving_picture(width, height, at)  # noqa: E731
    print(f"The simulated camera sends {width} x {height} to {options.to}", flush=True)
    send(options.to, options.rate, drawn, lambda: time.monotonic() > ends)


if __name__ == "__main__":
    main()
