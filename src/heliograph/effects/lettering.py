"""A text as a picture of so many rows: by points under 16 rows, else by an open font that has its letters."""

from __future__ import annotations

from functools import lru_cache
from pathlib import Path

import numpy as np
from PIL import Image, ImageDraw, ImageFont, features

from heliograph.effects.pixel_font import ROWS, drawn
from heliograph.effects.registry import Floats

SMOOTH_FROM = 16
"""From so many rows on letters are drawn smoothly."""

FONTS = (
    Path("/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf"),
    Path("/usr/share/fonts/opentype/unifont/unifont.otf"),
    Path("/usr/share/fonts/truetype/unifont/unifont.ttf"),
)
"""The first that has every letter of a text draws it: DejaVu (Latin, Greek, Cyrillic, Arabic, Hebrew and more), then
GNU Unifont (every script of the basic plane). Both are open and come with Debian."""

SQUARES_MAX = 4_000_000
"""A text is cut where its picture would grow beyond this."""

MEASURED, LEAST = 64, 6
"""A size at which a text is measured, and the smallest."""

RIGHT_TO_LEFT = (("\u0590", "\u08ff"), ("\ufb1d", "\ufdff"), ("\ufe70", "\ufeff"))


def runs_leftward(text: str) -> bool:
    """Whether its first letter that has a direction runs from right to left."""
    for character in text:
        if any(first <= character <= last for first, last in RIGHT_TO_LEFT):
            return True
        if character.isalpha():
            return False
    return False


@lru_cache(maxsize=16)
def lettered(text: str, rows: int) -> Floats:
    """(rows, columns) float32 0..1: how much of each square the letters cover. Do not write to it."""
    text = " ".join(text.split()) or " "
    found = _by_points(text, rows) if rows < SMOOTH_FROM else None
    if found is None:
        found = _by_font(text, rows)
    found = found[:, : SQUARES_MAX // rows]
    found.setflags(write=False)
    return found


def _by_points(text: str, rows: int) -> Floats | None:
    """As large as whole points allow, in the middle of the rows; None where a letter is not drawn."""
    points = drawn(text)
    if points is None:
        return None
    if rows < ROWS:  # fewer rows than a letter has: each stands for several
        return points[np.arange(rows) * ROWS // rows].astype(np.float32)
    picture = np.zeros((rows, points.shape[1]), dtype=np.float32)
    above = (rows - ROWS) // 2
    picture[above : above + ROWS] = points
    return picture


def _by_font(text: str, rows: int) -> Floats:
    font = _font_for(text, rows)
    left, top, right, bottom = font.getbbox(text)
    most = SQUARES_MAX // rows
    if right - left > most:  # cut before it is drawn: what is drawn has to fit into memory
        text = text[: max(int(len(text) * most / (right - left)), 1)]
        left, top, right, bottom = font.getbbox(text)
    width, height = min(max(int(right - left), 1), most), max(int(bottom - top), 1)
    image = Image.new("L", (width, height))
    ImageDraw.Draw(image).text((-left, -top), text, fill=255, font=font)
    picture = np.asarray(image, dtype=np.float32) / np.float32(255.0)
    found = np.zeros((rows, width), dtype=np.float32)
    picture = picture[:rows]
    above = (rows - picture.shape[0]) // 2
    found[above : above + picture.shape[0]] = picture
    return found


@lru_cache(maxsize=64)
def _sized(path: Path, size: int) -> ImageFont.FreeTypeFont:
    layout = ImageFont.Layout.RAQM if features.check("raqm") else ImageFont.Layout.BASIC
    return ImageFont.truetype(str(path), size, layout_engine=layout)


def _font_for(text: str, rows: int) -> ImageFont.FreeTypeFont:
    """The first font that has all letters, at the largest size at which the text stays within the rows."""
    there = [path for path in FONTS if path.exists()]
    chosen = next((path for path in there if _has(path, text)), there[0] if there else None)
    # Letters grow with their size: measured once, then at most a few steps down.
    size = max(round(MEASURED * rows / _height(chosen, text, MEASURED)) + 1, LEAST)
    while size > LEAST and _height(chosen, text, size) > rows:
        size -= 1
    return _at(chosen, size)


def _height(path: Path | None, text: str, size: int) -> float:
    _, top, _, bottom = _at(path, size).getbbox(text)
    return max(float(bottom - top), 1.0)


def _at(path: Path | None, size: int) -> ImageFont.FreeTypeFont:
    return _default(size) if path is None else _sized(path, size)


def _default(size: int) -> ImageFont.FreeTypeFont:
    font = ImageFont.load_default(size)
    assert isinstance(font, ImageFont.FreeTypeFont)
    return font


@lru_cache(maxsize=4096)
def _draws(path: Path, character: str) -> bool:
    """Whether a font has a letter: what it has not, it draws as it draws a code point that no letter has."""
    font = _sized(path, 24)
    return bytes(font.getmask(character)) != bytes(font.getmask("\U000eeeee"))


def _has(path: Path, text: str) -> bool:
    return all(one.isspace() or _draws(path, one) for one in set(text))
