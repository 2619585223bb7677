"""Work on a matrix as a whole: mirror, turn lines along, open and close gaps, squares typed as numbers.

Everything here returns new placements; cells off the matrix (see `matrix.within`) keep their places.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import replace
from typing import Literal

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import CellKey, Placement

Axis = Literal["left to right", "top to bottom"]
Line = Literal["row", "column"]

CELLS_TYPED_MAX = 250_000
FAULTS_SHOWN = 20


def mirrored(placements: Iterable[Placement], width: int, height: int, axis: Axis) -> list[Placement]:
    """What stood at the left stands at the right, or what stood at the top at the bottom."""

    def mirror(one: Placement) -> Placement:
        if not _inside(one, width, height):
            return one
        if axis == "left to right":
            return replace(one, x=width - one.x - one.w)
        return replace(one, y=height - one.y - one.h)

    return [mirror(one) for one in placements]


def shifted(
    placements: Iterable[Placement], width: int, height: int, line: Line, index: int, by: int
) -> list[Placement]:
    """One row or column moved along by squares; what leaves at one end comes in at the other."""
    _check_line(line, index, width, height)

    def shift(one: Placement) -> Placement:
        if not _inside(one, width, height) or one.square[1 if line == "row" else 0] != index:
            return one
        if line == "row":
            return replace(one, x=(one.x + by) % width)
        return replace(one, y=(one.y + by) % height)

    return [shift(one) for one in placements]


def gap_opened(placements: Iterable[Placement], line: Line, index: int) -> list[Placement]:
    """An empty row or column before `index`: all from there on move by one."""
    return _moved(placements, line, index, 1)


def gap_closed(placements: Sequence[Placement], line: Line, index: int) -> list[Placement]:
    """The empty row or column `index` taken out. Raises InputError where a cell stands on it."""
    at = 1 if line == "row" else 0
    standing = [one for one in placements if one.square[at] == index]
    if standing:
        raise InputError(
            f"{len(standing)} {'cell stands' if len(standing) == 1 else 'cells stand'} on {line} {index + 1}.",
            where="index",
            repair="Only an empty one can be closed: put its cells into the tray first.",
        )
    return _moved(placements, line, index, -1)


def _moved(placements: Iterable[Placement], line: Line, index: int, by: int) -> list[Placement]:
    if line == "row":
        return [replace(one, y=one.y + by) if one.y >= index else one for one in placements]
    return [replace(one, x=one.x + by) if one.x >= index else one for one in placements]


def sheet_of(placements: Iterable[Placement], width: int, height: int, say: Callable[[Placement], str]) -> str:
    """The squares as CSV, row by row; "" where nothing stands."""
    rows = [[""] * width for _ in range(height)]
    for one in placements:
        if _inside(one, width, height):
            x, y = one.square
            rows[y][x] = say(one)
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows(rows)
    return out.getvalue()


def read_sheet(text: str) -> list[list[str]]:
    """Rows of typed squares, by comma, semicolon or tab. Raises InputError where there are too many or none."""
    first = text.lstrip("\ufeff").strip("\r\n")
    if not first.strip():
        raise InputError("There is nothing in it.", where="text", repair="Paste rows such as 101:1, 101:2, 101:3.")
    mark = max("\t;,", key=first.split("\n", 1)[0].count)
    rows = [[part.strip() for part in row] for row in csv.reader(io.StringIO(first), delimiter=mark)]
    squares = sum(len(row) for row in rows)
    if squares > CELLS_TYPED_MAX:
        raise InputError(f"{squares:,} squares are too many: {CELLS_TYPED_MAX:,} are the most.", where="text")
    return rows


_CELL = re.compile(r"(\d+)(?::(\d+))?")


def placed_as_typed(
    placements: Sequence[Placement],
    typed: Sequence[Sequence[str]],
    at: tuple[int, int],
    by_number: Mapping[tuple[int, int], CellKey],
) -> list[Placement]:
    """The placements after squares were typed from `at` on. Raises InputError with every square that is wrong."""
    result = {one.key: one for one in placements}
    faults: list[str] = []
    seen: dict[CellKey, str] = {}
    taken: dict[tuple[int, int], CellKey | None] = {}
    for dy, row in enumerate(typed):
        for dx, text in enumerate(row):
            if not text:
                continue
            square = (at[0] + dx, at[1] + dy)
            said = f"row {dy + 1}, column {dx + 1}"
            match = _CELL.fullmatch(text)
            key = by_number.get((int(match[1]), int(match[2] or 1))) if match else None
            if text == "-":
                taken[square] = None
            elif key is None:
                faults.append(f"{said}: there is no cell '{text[:20]}'")
            elif key in seen:
                faults.append(f"{said}: {text} stands at {seen[key]} already")
            else:
                seen[key], taken[square] = said, key
    if faults:
        more = f"; and {len(faults) - FAULTS_SHOWN} more" if len(faults) > FAULTS_SHOWN else ""
        raise InputError(
            "; ".join(faults[:FAULTS_SHOWN]) + more + ".",
            where="text",
            repair="Write 101:5, or 101 for its first cell.",
        )
    for one in placements:
        if one.square in taken and one.key in result:
            del result[one.key]
    for square, key in taken.items():
        if key is not None:
            result[key] = Placement(key, float(square[0]), float(square[1]))
    return list(result.values())


def _inside(one: Placement, width: int, height: int) -> bool:
    return one.x >= 0 and one.y >= 0 and one.x + one.w <= width and one.y + one.h <= height


def _check_line(line: Line, index: int, width: int, height: int) -> None:
    most = height if line == "row" else width
    if not 0 <= index < most:
        raise InputError(f"There is no {line} {index + 1}: there are {most}.", where="index")
