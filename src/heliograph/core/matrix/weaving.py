"""Weaves: the order in which squares of a grid are filled, so that it is the order of the wiring.

A weave goes line by line from a corner, along rows or columns, turning back every so many lines; lines may leave
gaps, squares may be skipped, and a board of its own order may be repeated over the grid.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import CellKey, Placement, check_size

Corner = Literal["top left", "top right", "bottom left", "bottom right"]
Along = Literal["rows", "columns"]
Turn = Literal[0, 90, 180, 270]
Square = tuple[int, int]


@dataclass(frozen=True, slots=True)
class Board:
    """A block of squares with an order of its own, repeated over the grid."""

    width: int
    height: int
    corner: Corner = "top left"
    along: Along = "rows"
    snake: int = 0


@dataclass(frozen=True, slots=True)
class Weave:
    """`width` x `height` squares, as they lie on the matrix in the end. `snake`: turns back every so many lines,
    0: never. `gap_columns`, `gap_rows`: after every so many columns or rows (of boards, where a `board` repeats) one
    stays empty, 0: none. `skip`: squares left out, counted from 1 along the way. `flip`: mirrored left to right,
    then `turn`: turned clockwise, in degrees.
    """

    width: int
    height: int
    corner: Corner = "top left"
    along: Along = "rows"
    snake: int = 0
    gap_columns: int = 0
    gap_rows: int = 0
    skip: tuple[tuple[int, int], ...] = ()
    board: Board | None = None
    flip: bool = False
    turn: Turn = 0


def squares_of(weave: Weave) -> list[Square]:
    """All squares a weave fills, in its order. Raises InputError for a size that cannot be a matrix."""
    check_size(weave.width, weave.height)
    width, height = (weave.height, weave.width) if weave.turn in (90, 270) else (weave.width, weave.height)
    board = weave.board or Board(1, 1)
    if not (1 <= board.width <= width and 1 <= board.height <= height):
        raise InputError(
            f"A board of {board.width} x {board.height} does not fit on {width} x {height} squares.",
            where="board",
            repair="Make the board smaller, or the matrix larger.",
        )
    inside = _lines(list(range(board.width)), list(range(board.height)), board.corner, board.along, board.snake)
    starts = _lines(
        _starts(width, board.width, weave.gap_columns),
        _starts(height, board.height, weave.gap_rows),
        weave.corner,
        weave.along,
        weave.snake,
    )
    found = [(x + dx, y + dy) for x, y in starts for dx, dy in inside]
    if weave.skip:
        found = [square for n, square in enumerate(found, start=1) if not _within(n, weave.skip)]
    if weave.flip:
        found = [(width - 1 - x, y) for x, y in found]
    return _turned(found, width, height, weave.turn)


def place(keys: Sequence[CellKey], weave: Weave) -> list[Placement]:
    """Lays cells on a grid in their order. Raises InputError where there are more cells than squares."""
    squares = squares_of(weave)
    if len(keys) > len(squares):
        full = weave.width * weave.height
        only = f"{weave.width} x {weave.height} = {full} squares"
        if len(squares) < full:
            only = f"the {len(squares)} squares that gaps, skipped ones and boards leave of {full}"
        raise InputError(
            f"{len(keys)} cells do not fit on {only}.",
            where="height",
            repair=f"With {weave.width} columns it takes {_rows_for(len(keys), weave)} rows.",
        )
    return [Placement(key, float(x), float(y)) for key, (x, y) in zip(keys, squares, strict=False)]


def say(count: int, weave: Weave) -> str:
    """The sentence for a weave of `count` cells: width first, then height, where it starts and how it goes on."""
    parts = [f"{weave.width} wide, {weave.height} high", f"from the {weave.corner}", _way(weave)]
    if weave.board:
        board = weave.board
        own = _way(Weave(board.width, board.height, board.corner, board.along, board.snake))
        parts.append(f"in boards of {board.width} × {board.height}, each from its {board.corner}, {own}")
    what = ("column of boards", "row of boards") if weave.board else ("column", "row")
    for every, one in zip((weave.gap_columns, weave.gap_rows), what, strict=True):
        if every:
            parts.append(f"a gap after every {one}" if every == 1 else f"a gap after every {every} {_many(one)}")
    if weave.skip:
        skipped = sum(last - first + 1 for first, last in weave.skip)
        parts.append(f"{skipped} {'square' if skipped == 1 else 'squares'} skipped")
    if weave.flip:
        parts.append("mirrored")
    if weave.turn:
        parts.append(f"turned by {weave.turn}°")
    parts.append(f"{count} cells")
    empty = weave.width * weave.height - count
    if empty > 0:
        parts.append(f"{empty} {'square stays' if empty == 1 else 'squares stay'} empty")
    return ", ".join(parts)


def parse_skip(text: str) -> tuple[tuple[int, int], ...]:
    """Reads "5, 9-12" as runs of counted squares; raises InputError for anything else."""
    runs = []
    for part in (part.strip() for part in text.split(",")):
        if not part:
            continue
        first, dash, last = part.partition("-")
        if not (first.strip().isdecimal() and (not dash or last.strip().isdecimal())):
            raise InputError(f"'{part[:40]}' is no square to skip.", where="skip", repair="Write 5 or 9-12.")
        low, high = int(first), int(last) if dash else int(first)
        if not 1 <= low <= high:
            raise InputError(f"'{part[:40]}' skips nothing.", where="skip", repair="Count from 1, the smaller first.")
        runs.append((low, high))
    return tuple(runs)


def _lines(columns: list[int], rows: list[int], corner: Corner, along: Along, snake: int) -> list[Square]:
    """All crossings of columns and rows, line by line."""
    xs = columns[::-1] if corner.endswith("right") else columns
    ys = rows[::-1] if corner.startswith("bottom") else rows
    found: list[Square] = []
    for n, line in enumerate(ys if along == "rows" else xs):
        steps = xs if along == "rows" else ys
        if snake and n // snake % 2:
            steps = steps[::-1]
        found += [(step, line) if along == "rows" else (line, step) for step in steps]
    return found


def _starts(size: int, step: int, gap_every: int) -> list[int]:
    """Where boards of `step` squares begin on `size` squares, one square left free after every `gap_every`."""
    starts, at = [], 0
    while at + step <= size:
        starts.append(at)
        at += step
        if gap_every and len(starts) % gap_every == 0:
            at += 1
    return starts


def _turned(squares: list[Square], width: int, height: int, turn: Turn) -> list[Square]:
    match turn:
        case 90:
            return [(height - 1 - y, x) for x, y in squares]
        case 180:
            return [(width - 1 - x, height - 1 - y) for x, y in squares]
        case 270:
            return [(y, width - 1 - x) for x, y in squares]
        case _:
            return squares


def _within(n: int, runs: Sequence[tuple[int, int]]) -> bool:
    return any(low <= n <= high for low, high in runs)


def _rows_for(count: int, weave: Weave) -> int:
    """Rows that would hold so many cells: by what the present rows hold on average."""
    held = max(len(squares_of(weave)), 1)
    return max(-(-count * weave.height // held), weave.height + 1)


def _way(weave: Weave) -> str:
    if weave.along == "columns":
        plain = "each column down" if weave.corner.startswith("top") else "each column up"
        turning = "up and down"
    else:
        plain = "each row to the right" if weave.corner.endswith("left") else "each row to the left"
        turning = "to and fro"
    if not weave.snake:
        return plain
    return f"{turning} in turn" if weave.snake == 1 else f"{turning}, turning back every {weave.snake}"


def _many(one: str) -> str:
    return one.replace("column", "columns", 1).replace("row ", "rows ") if " of " in one else f"{one}s"
