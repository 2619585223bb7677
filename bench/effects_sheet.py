"""Every effect as it begins, at three moments on four sizes, on one sheet: `python -m bench.effects_sheet
docs/screenshots/effects.png`. To be looked at: is one dull, broken at an edge, or like another?"""

from __future__ import annotations

import argparse
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont

from heliograph.effects import EFFECTS
from heliograph.effects.miniature import Pictures, pictures_at

SIZES = ((48, 1), (6, 4), (72, 10), (200, 100))
PHASES = (0.17, 0.5, 0.83)
ROW, LABEL, GAP = 108, 66, 8
WIDTHS = (200, 54, 216, 340)
"""Of each size on the sheet, as wide as all its moments."""

GROUND, TEXT = (13, 19, 22), (226, 232, 230)


def sheet() -> Image.Image:
    """Two columns of effects; of each the four sizes beside one another, the moments beneath one another."""
    names = sorted(EFFECTS)
    half = (len(names) + 1) // 2
    across = LABEL + sum(WIDTHS) + GAP * len(WIDTHS)
    picture = Image.new("RGB", (2 * across + 2 * GAP, half * (ROW + GAP) + GAP), GROUND)
    pen = ImageDraw.Draw(picture)
    font = ImageFont.load_default(13)
    for place, name in enumerate(names):
        left, top = GAP + place // half * across, GAP + place % half * (ROW + GAP)
        pen.text((left, top), name, TEXT, font)
        left += LABEL
        for (width, height), wide in zip(SIZES, WIDTHS, strict=True):
            moments = pictures_at(EFFECTS[name], width, height, PHASES)
            picture.paste(_fitted(moments, wide), (left, top))
            left += wide + GAP
    return picture


def _fitted(moments: Pictures, wide: int) -> Image.Image:
    """Moments beneath one another; large ones beside one another where they would be too high."""
    count, rows, columns, _ = moments.shape
    high = ROW // count - 3
    scale = min(wide / columns, high / rows)
    side_by_side = columns >= 200
    if side_by_side:
        scale = min(wide / count / columns, ROW / rows)
    size = max(round(columns * scale), 1), max(round(rows * scale), 6)
    whole = Image.new("RGB", (wide, ROW), GROUND)
    for number, one in enumerate(np.asarray(moments)):
        small = Image.fromarray(one).resize(size, Image.Resampling.NEAREST)
        whole.paste(small, (number * (size[0] + 2), 0) if side_by_side else (0, number * (size[1] + 3)))
    return whole


if __name__ == "__main__":
    parser = argparse.ArgumentParser(description="Draws all effects on one sheet")
    parser.add_argument("target", type=Path)
    sheet().save(parser.parse_args().target, optimize=True)
