"""The 512 channels of a universe in lines folded at the fixture, so that equal emitters stand beneath each other.

What all cells share stands first; cells follow, as many on a line as there is room for, and go on beneath the first of
them. Small fixtures that are alike stand side by side.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from itertools import groupby

from heliograph.core.patch.dmx import SLOTS

Owned = tuple[int, str, str]
"""The number of the fixture, its cell ("" for what all share), the emitter or attribute."""

COLUMNS = 26
"""Channels on one line."""

WORD = 3
"""Letters of an attribute over its column; an emitter has its first."""

EMITTERS = frozenset(("red", "green", "blue", "white", "amber", "lime", "cyan", "magenta", "yellow", "indigo"))


@dataclass(frozen=True, slots=True)
class Line:
    """`fixtures`: "402" or "601-604", "" where it goes on from the line before. `spans`: (first channel, its column,
    how many). `head`: (column, word) over the line, where it is another than before."""

    fixtures: str
    spans: tuple[tuple[int, int, int], ...]
    head: tuple[tuple[int, str], ...] = ()


@dataclass(frozen=True, slots=True)
class _Part:
    """Channels of one fixture that follow each other: `sizes` of what they are made of, the shared part first."""

    fixture: int
    first: int
    shared: int
    cells: tuple[int, ...]
    words: tuple[str, ...]

    @property
    def size(self) -> int:
        return self.shared + sum(self.cells)

    @property
    def shape(self) -> tuple[int, tuple[int, ...], tuple[str, ...]]:
        return self.shared, self.cells, self.words


def lines_of(owners: Mapping[int, Owned], columns: int = COLUMNS) -> list[Line]:
    """`owners`: by channel 1..512. Channels that nobody owns stand on lines of their own after all others, without a
    head: a value can be put there before a fixture is."""
    lines: list[Line] = []
    before: tuple[tuple[int, str], ...] = ()
    for _, run in groupby(_parts(owners), key=lambda part: part.shape):
        parts = list(run)
        found = _beside(parts, columns) if parts[0].size * 2 <= columns else list(_folded(parts, columns))
        head = _head(parts[0], columns, parts[0].size * 2 <= columns and len(parts) > 1)
        if head != before:
            found[0] = Line(found[0].fixtures, found[0].spans, head)
        before = head
        lines += found
    return lines + list(_free(owners, columns))


def _free(owners: Mapping[int, Owned], columns: int) -> Iterator[Line]:
    left = [n for n in range(1, SLOTS + 1) if n not in owners]
    for _, run in groupby(enumerate(left), key=lambda one: one[1] - one[0]):
        channels = [n for _, n in run]
        for at in range(0, len(channels), columns):
            some = channels[at : at + columns]
            yield Line("", ((some[0], 0, len(some)),))


def _parts(owners: Mapping[int, Owned]) -> Iterator[_Part]:
    channels = [n for n in range(1, SLOTS + 1) if n in owners]
    # Neighbours of one fixture: a gap, or another fixture, begins a new part.
    run: list[int] = []
    for n in channels:
        if run and (n != run[-1] + 1 or owners[n][0] != owners[run[-1]][0]):
            yield from _split(run, owners)
            run = []
        run.append(n)
    if run:
        yield from _split(run, owners)


def _split(run: Sequence[int], owners: Mapping[int, Owned]) -> Iterator[_Part]:
    """A fixture's channels; what it shares after its cells begins a part of its own."""
    cells = [(cell, list(own)) for cell, own in groupby(run, key=lambda n: owners[n][1])]
    while cells:
        shared = cells.pop(0)[1] if cells[0][0] == "" else []
        own: list[list[int]] = []
        while cells and cells[0][0] != "":
            own.append(cells.pop(0)[1])
        words = tuple(_word(owners[n][2]) for n in (*shared, *(own[0] if own else ())))
        first = shared[0] if shared else own[0][0]
        yield _Part(owners[run[0]][0], first, len(shared), tuple(map(len, own)), words)


def _word(label: str) -> str:
    return label[:1].upper() if label in EMITTERS else label[:WORD]


def _beside(parts: Sequence[_Part], columns: int) -> list[Line]:
    size = parts[0].size
    across = columns // size
    lines = []
    for at in range(0, len(parts), across):
        some = parts[at : at + across]
        spans = tuple((part.first, n * size, size) for n, part in enumerate(some))
        low, high = some[0].fixture, some[-1].fixture
        lines.append(Line(f"{low}" if low == high else f"{low}-{high}", spans))
    return lines


def _folded(parts: Sequence[_Part], columns: int) -> Iterator[Line]:
    for part in parts:
        said = str(part.fixture)
        for spans in _rows(part, columns):
            yield Line(said, spans)
            said = ""


def _rows(part: _Part, columns: int) -> Iterator[tuple[tuple[int, int, int], ...]]:
    size = max(part.cells, default=0)
    begin = part.shared if part.shared + size <= columns else 0
    channel = part.first
    row: list[tuple[int, int, int]] = []
    left = part.shared
    while left:  # what is shared may be longer than a line
        count = min(left, columns)
        row = [(channel, 0, count)]
        channel, left = channel + count, left - count
        if left or not begin:
            yield tuple(row)
            row = []
    at = begin
    for cell in part.cells:
        for count in (cell,) if cell <= columns else [min(columns, cell - n) for n in range(0, cell, columns)]:
            if at + count > columns:
                yield tuple(row)
                row, at = [], begin
            row.append((channel, at, count))
            channel, at = channel + count, at + count
    if row:
        yield tuple(row)


def _head(part: _Part, columns: int, beside: bool) -> tuple[tuple[int, str], ...]:
    if beside:
        words = part.words if len(part.words) == part.size else part.words[: part.size]
        return tuple((n * part.size + k, word) for n in range(columns // part.size) for k, word in enumerate(words))
    shared, own = part.words[: part.shared], part.words[part.shared :]
    begin = part.shared if part.shared + len(own) <= columns else 0
    head = [(n, word) for n, word in enumerate(shared[:columns])] if begin or not own else []
    size = len(own)
    if size and size <= columns:
        count = min(len(part.cells), (columns - begin) // size)
        head += [(begin + n * size + k, word) for n in range(count) for k, word in enumerate(own)]
    return tuple(head)
