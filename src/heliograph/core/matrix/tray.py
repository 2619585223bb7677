"""The tray: cells that stand on no square of a matrix, as runs."""

from __future__ import annotations

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass


@dataclass(frozen=True, slots=True)
class Run:
    """Cells `first` to `last` of a fixture, counted from 1."""

    fixture: str
    first: int
    last: int


def runs_left(fixtures: Iterable[tuple[str, int]], placed: Mapping[str, Iterable[int]]) -> Iterator[Run]:
    """`fixtures`: (id, how many cells) in the order of the rig; `placed`: cells that have a square, by fixture."""
    for fixture, count in fixtures:
        taken = sorted({n for n in placed.get(fixture, ()) if 1 <= n <= count})
        begin = 1
        for cell in (*taken, count + 1):
            if cell > begin:
                yield Run(fixture, begin, cell - 1)
            begin = cell + 1
