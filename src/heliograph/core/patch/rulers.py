"""The universes that new fixtures would come to lie in, as rulers: what lies there already, what would, what is left.

A span is (universe, first channel, last channel), channels from 1 to 512.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from heliograph.core.patch.dmx import SLOTS

Span = tuple[int, int, int]
Spread = tuple[int, Sequence[Span]]
"""A fixture's number, and what it covers."""


@dataclass(frozen=True, slots=True)
class Run:
    """Channels `first` to `last` of the fixtures `numbers`: "401-408"."""

    first: int
    last: int
    numbers: str


@dataclass(frozen=True, slots=True)
class Ruler:
    """`taken`: runs of fixtures that touch; `coming`: each new one; `free`: channels that nothing covers then."""

    universe: int
    taken: tuple[Run, ...]
    coming: tuple[Run, ...]
    free: int


def rulers_of(there: Iterable[Spread], coming: Iterable[Spread]) -> list[Ruler]:
    """A ruler for each universe that something new comes to lie in, in order."""
    new = _by_universe(coming)
    old = _by_universe(there, set(new))
    return [_ruler(universe, old.get(universe, []), new[universe]) for universe in sorted(new)]


def _by_universe(spread: Iterable[Spread], only: set[int] | None = None) -> dict[int, list[tuple[int, int, int]]]:
    found: dict[int, list[tuple[int, int, int]]] = {}
    for number, spans in spread:
        for universe, first, last in spans:
            if only is None or universe in only:
                found.setdefault(universe, []).append((first, last, number))
    return {universe: sorted(runs) for universe, runs in found.items()}


def _ruler(universe: int, old: list[tuple[int, int, int]], new: list[tuple[int, int, int]]) -> Ruler:
    covered = 0
    reach = 0
    for first, last, _ in sorted(old + new):
        covered += max(last - max(first - 1, reach), 0)
        reach = max(reach, last)
    runs: list[tuple[int, int, int, int]] = []
    for first, last, number in old:
        if runs and first <= runs[-1][1] + 1:
            begins, end, low, high = runs[-1]
            runs[-1] = (begins, max(end, last), min(low, number), max(high, number))
        else:
            runs.append((first, last, number, number))
    taken = tuple(Run(first, last, f"{low}" if low == high else f"{low}-{high}") for first, last, low, high in runs)
    return Ruler(universe, taken, tuple(Run(first, last, f"{number}") for first, last, number in new), SLOTS - covered)
