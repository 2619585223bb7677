"""A frame scaled onto a matrix: each square the mean of the area it covers."""

from __future__ import annotations

import av
import numpy as np
import numpy.typing as npt
from av.video.reformatter import Colorspace
from PIL import Image

from heliograph.core.matrix.fitting import Fitting
from heliograph.media.planes import colours_of, reduced

Bytes = npt.NDArray[np.uint8]

HD_LINES = 720
"""A video that does not tell its colour matrix: ITU-R BT.709 from so many lines on, BT.601 below (common practice)."""

UNTOLD = 2
"""AVCOL_SPC_UNSPECIFIED."""

EXACT_PIXELS = 700_000
"""Up to so many, areas are weighed exactly; above, a pixel at a border counts whole or not, by its middle (Pillow's box
filter), at a tenth of the cost of a picture that is much larger than what it is scaled to."""

Box = tuple[float, float, float, float]

_TURNS = {90: Image.Transpose.ROTATE_270, 180: Image.Transpose.ROTATE_180, 270: Image.Transpose.ROTATE_90}


def picture_of(frame: av.VideoFrame, clear: bool, size: tuple[int, int] | None = None) -> Image.Image:
    """The frame turned upright, as RGB or RGBX or, where parts are `clear`, RGBA: as the scaler leaves it, not copied.
    Where the squares it is for are told (`size`, of the frame as shown), it may come smaller than it is.

    Not scaled by the video scaler itself: making packed RGB it halves the colour's horizontal resolution,
    so that on a 4 x 4 matrix pairs of cells shared one hue (measured: 145 of 255 off).
    """
    space = None
    if frame.colorspace == UNTOLD:
        space = Colorspace.ITU709 if frame.height >= HD_LINES else Colorspace.ITU601
    turn = _TURNS.get(-frame.rotation % 360)
    small = None
    if size is not None and not clear:
        small = reduced(frame, *(size[::-1] if frame.rotation % 180 else size))
    if small is not None:
        image = colours_of(small, space)
    else:
        plane = frame.reformat(format="rgba", src_colorspace=space).planes[0]
        mode = "RGBA" if clear else "RGBX"
        whole = (frame.width, frame.height)
        image = Image.frombuffer(mode, whole, memoryview(plane), "raw", mode, plane.line_size, 1)  # type: ignore[arg-type]
    return image.transpose(turn) if turn else image


def scale_to(image: Image.Image, width: int, height: int, fitting: Fitting, aspect: float = 0.0) -> Bytes:
    """(height, width, 3) uint8, or 4 with the cover where the picture has clear parts or does not fill.

    `aspect`: width over height as shown, where it is not that of the pixels.
    """
    aspect = aspect or image.width / image.height
    if fitting.rotate:
        image = image.transpose(_TURNS[fitting.rotate])
        aspect = 1.0 / aspect if fitting.rotate % 180 else aspect
    scaled = _fitted(image, width, height, fitting, aspect)
    if fitting.mirror in ("across", "both"):
        scaled = scaled.transpose(Image.Transpose.FLIP_LEFT_RIGHT)
    if fitting.mirror in ("down", "both"):
        scaled = scaled.transpose(Image.Transpose.FLIP_TOP_BOTTOM)
    return np.asarray(scaled if scaled.mode == "RGBA" else scaled.convert("RGB"))


def _fitted(image: Image.Image, width: int, height: int, fitting: Fitting, aspect: float) -> Image.Image:
    wanted = width / height
    if fitting.fit == "stretch":
        return _resized(image, width, height)
    if fitting.fit == "fill":
        across = image.width if aspect <= wanted else image.width * wanted / aspect
        down = image.height if aspect >= wanted else image.height * aspect / wanted
        left, top = (image.width - across) / 2, (image.height - down) / 2
        return _resized(image, width, height, (left, top, left + across, top + down))
    columns = width if aspect >= wanted else max(round(height * aspect), 1)
    rows = height if aspect <= wanted else max(round(width / aspect), 1)
    part = _resized(image, columns, rows)
    part = part if part.mode == "RGBA" else part.convert("RGB").convert("RGBA")  # RGBX's fourth byte is no cover
    whole = Image.new("RGBA", (width, height))
    whole.paste(part, ((width - columns) // 2, (height - rows) // 2))
    return whole


def _resized(image: Image.Image, width: int, height: int, box: Box | None = None) -> Image.Image:
    """The part `box` (left, top, right, bottom) of an image, each pixel the mean of the area it covers."""
    left, top, right, bottom = box or (0.0, 0.0, float(image.width), float(image.height))
    if image.mode != "RGB" or image.width * image.height > EXACT_PIXELS:
        return image.resize((width, height), Image.Resampling.BOX, box=(left, top, right, bottom))
    pixels = np.asarray(image).reshape(image.height, image.width * 3)
    rows = _areas(top, bottom, height, image.height) @ pixels.astype(np.float32)
    means = _areas(left, right, width, image.width) @ rows.reshape(height, image.width, 3)
    return Image.fromarray(np.rint(means).astype(np.uint8))


def _areas(first: float, last: float, count: int, of: int) -> npt.NDArray[np.float32]:
    """(count, of): how much of each of `count` equal stretches between two places each of `of` pixels is."""
    edges = np.linspace(first, last, count + 1)[:, None]
    pixel = np.arange(of)[None, :]
    shared = np.minimum(edges[1:], pixel + 1.0) - np.maximum(edges[:-1], pixel)
    whole = np.maximum(shared, 0.0)
    weights: npt.NDArray[np.float32] = (whole / whole.sum(axis=1, keepdims=True)).astype(np.float32)
    return weights
