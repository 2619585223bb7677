"""Drawn pictures: colours of squares, clear where nothing is set; how they are kept, and the tools that draw them.

A picture is (rows, columns, 4) uint8: red, green, blue and cover, 255 where a colour is set and 0 where it is clear.
"""

from __future__ import annotations

import base64
import binascii
import zlib
from collections.abc import Iterable
from typing import Literal, get_args

import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError

Picture = npt.NDArray[np.uint8]
Square = tuple[int, int]
"""Column and row from 0."""

Colour = tuple[int, int, int] | None
"""Red, green, blue 0 to 255; None for clear."""

Tool = Literal["pen", "line", "rectangle", "fill", "erase", "move", "mirror across", "mirror down"]
TOOLS: tuple[Tool, ...] = get_args(Tool)

_LEVEL = 6


def clear(columns: int, rows: int) -> Picture:
    return np.zeros((rows, columns, 4), dtype=np.uint8)


def packed(picture: Picture) -> str:
    """The stored form: its bytes row by row, deflated (zlib), base64."""
    return base64.b64encode(zlib.compress(np.ascontiguousarray(picture).tobytes(), _LEVEL)).decode()


def unpacked(text: str, columns: int, rows: int) -> Picture:
    """The picture of a stored form; InputError where it is not one of that size. No more is inflated than it holds."""
    size = columns * rows * 4
    try:
        inflating = zlib.decompressobj()
        raw = inflating.decompress(base64.b64decode(text, validate=True), size + 1)
    except (binascii.Error, ValueError, zlib.error) as error:
        raise InputError("A drawn picture cannot be read.", where="picture") from error
    if len(raw) != size:
        raise InputError(f"A drawn picture is not of {columns} x {rows} squares.", where="picture")
    return np.frombuffer(raw, dtype=np.uint8).reshape(rows, columns, 4)


def drawn(picture: Picture, tool: Tool, squares: Iterable[Square], colour: Colour) -> Picture:
    """The picture once a tool was used: *pen* and *erase* on each square, *line* and *rectangle* (filled) between the
    first and the last, *fill* what hangs together with the first in its colour, *move* by as much as from the first to
    the last (what leaves is gone), *mirror* all of it. Squares outside are passed over."""
    made = picture.copy()
    rows, columns = made.shape[:2]
    given = list(squares)
    if tool == "mirror across":
        return made[:, ::-1].copy()
    if tool == "mirror down":
        return made[::-1].copy()
    if not given:
        return made
    value = np.array([0, 0, 0, 0] if colour is None or tool == "erase" else [*colour, 255], dtype=np.uint8)
    (x, y), (to_x, to_y) = given[0], given[-1]
    if tool == "move":
        return _moved(made, to_x - x, to_y - y)
    if tool == "rectangle":
        made[max(min(y, to_y), 0) : max(y, to_y) + 1, max(min(x, to_x), 0) : max(x, to_x) + 1] = value
        return made
    if tool == "fill":
        if 0 <= x < columns and 0 <= y < rows:
            made[_alike(made, x, y)] = value
        return made
    where = _between(given[0], given[-1]) if tool == "line" else given
    inside = [(column, row) for column, row in where if 0 <= column < columns and 0 <= row < rows]
    if inside:
        xs, ys = zip(*inside, strict=True)
        made[list(ys), list(xs)] = value
    return made


def _moved(picture: Picture, across: int, down: int) -> Picture:
    made = np.zeros_like(picture)
    rows, columns = picture.shape[:2]
    if abs(across) >= columns or abs(down) >= rows:
        return made
    made[max(down, 0) : rows + min(down, 0), max(across, 0) : columns + min(across, 0)] = picture[
        max(-down, 0) : rows + min(-down, 0), max(-across, 0) : columns + min(-across, 0)
    ]
    return made


def _between(a: Square, b: Square) -> list[Square]:
    """The squares of a straight line from one to another, both ends among them: one in each column or row of its longer
    way."""
    steps = max(abs(b[0] - a[0]), abs(b[1] - a[1]), 1)
    part = np.arange(steps + 1) / steps
    xs = np.floor(a[0] + (b[0] - a[0]) * part + 0.5).astype(int)
    ys = np.floor(a[1] + (b[1] - a[1]) * part + 0.5).astype(int)
    return list(zip(xs.tolist(), ys.tolist(), strict=True))


def _alike(picture: Picture, x: int, y: int) -> npt.NDArray[np.bool_]:
    """(rows, columns): what hangs together with a square, side by side, in its colour. Runs of rows at a time, so that
    a picture of 250,000 squares is filled in a few thousand steps."""
    same = (picture == picture[y, x]).all(axis=2)
    found = np.zeros(same.shape, dtype=bool)
    rows, columns = same.shape
    waiting = [(x, y)]
    while waiting:
        column, row = waiting.pop()
        if found[row, column] or not same[row, column]:
            continue
        line = same[row]
        left = column - int(np.argmin(line[column::-1])) + 1 if not line[: column + 1].all() else 0
        right = column + int(np.argmin(line[column:])) if not line[column:].all() else columns
        found[row, left:right] = True
        for other in (row - 1, row + 1):
            if 0 <= other < rows:
                open_there = same[other, left:right] & ~found[other, left:right]
                begins = np.flatnonzero(open_there & ~np.concatenate([[False], open_there[:-1]]))
                waiting.extend((left + int(one), other) for one in begins)
    return found
