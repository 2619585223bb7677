"""A frame scaled onto a matrix: each square the mean of the area it covers (Pillow's box filter)."""

from __future__ import annotations

import av
import numpy as np
import numpy.typing as npt
from av.video.reformatter import Colorspace
from PIL import Image

from heliograph.core.matrix.fitting import Fitting

Bytes = npt.NDArray[np.uint8]

HD_LINES = 720
"""A video that does not tell its colour matrix: ITU-R BT.709 from so many lines on, BT.601 below (common practice)."""

UNTOLD = 2
"""AVCOL_SPC_UNSPECIFIED."""

_TURNS = {90: Image.Transpose.ROTATE_270, 180: Image.Transpose.ROTATE_180, 270: Image.Transpose.ROTATE_90}


def picture_of(frame: av.VideoFrame, clear: bool) -> Image.Image:
    """The frame turned upright, as RGBA, or RGBX where nothing is clear: as the scaler leaves it, not copied.

    Not scaled by the video scaler itself: making packed RGB it halves the colour's horizontal resolution,
    so that on a 4 x 4 matrix pairs of cells shared one hue (measured: 145 of 255 off).
    """
    space = None
    if frame.colorspace == UNTOLD:
        space = Colorspace.ITU709 if frame.height >= HD_LINES else Colorspace.ITU601
    plane = frame.reformat(format="rgba", src_colorspace=space).planes[0]
    mode = "RGBA" if clear else "RGBX"
    size = (frame.width, frame.height)
    image = Image.frombuffer(mode, size, memoryview(plane), "raw", mode, plane.line_size, 1)  # type: ignore[arg-type]
    turn = _TURNS.get(-frame.rotation % 360)
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
        return image.resize((width, height), Image.Resampling.BOX)
    if fitting.fit == "fill":
        across = image.width if aspect <= wanted else image.width * wanted / aspect
        down = image.height if aspect >= wanted else image.height * aspect / wanted
        left, top = (image.width - across) / 2, (image.height - down) / 2
        return image.resize((width, height), Image.Resampling.BOX, box=(left, top, left + across, top + down))
    columns = width if aspect >= wanted else max(round(height * aspect), 1)
    rows = height if aspect <= wanted else max(round(width / aspect), 1)
    part = image.resize((columns, rows), Image.Resampling.BOX)
    part = part if part.mode == "RGBA" else part.convert("RGB").convert("RGBA")  # RGBX's fourth byte is no cover
    whole = Image.new("RGBA", (width, height))
    whole.paste(part, ((width - columns) // 2, (height - rows) // 2))
    return whole
