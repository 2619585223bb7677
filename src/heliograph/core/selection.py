"""Selecting by typing: `301-308`, `301:3-6`, `301:0`, `301-308 /2`, `all`, joined by commas.

`/2` takes every second of what stands before it, `/2+1` every second from the second.
"""

from __future__ import annotations

import re
from collections.abc import Iterable
from dataclasses import dataclass

from heliograph.core.errors import InputError
from heliograph.core.matrix import CellKey
from heliograph.core.rig import Rig, RigFixture

_PART = re.compile(r"^(?:(all)|(\d+)(?:-(\d+))?)(?::(\d+)(?:-(\d+))?)?(?:\s*/\s*(\d+)(?:\s*\+\s*(\d+))?)?$")


@dataclass(frozen=True, slots=True)
class Selection:
    """What was typed: fixtures in order, and their cells in order (none for `301:0`)."""

    fixtures: tuple[RigFixture, ...]
    cells: tuple[CellKey, ...]


def select(rig: Rig, text: str) -> Selection:
    """Reads a typed selection; raises InputError that names the part which cannot be read."""
    by_number = {fixture.number: fixture for fixture in rig.fixtures.values()}
    fixtures: dict[str, RigFixture] = {}
    cells: dict[CellKey, None] = {}
    for part in (p.strip() for p in text.split(",")):
        if not part:
            continue
        match = _PART.match(part)
        if match is None:
            raise InputError(
                f"'{part}' is not a selection.", where="selection", repair="Write 101-118, 101:3-6, 101-118 /2 or all."
            )
        chosen = _numbers(by_number, match, part)
        if match[4] is not None:
            keys = [key for fixture in chosen for key in _cells(fixture, int(match[4]), int(match[5] or match[4]))]
            keys = keys if match[6] is None else keys[int(match[7] or 0) :: int(match[6])]
        else:
            if match[6] is not None:
                chosen = chosen[int(match[7] or 0) :: max(1, int(match[6]))]
            keys = [key for fixture in chosen for key in _cells(fixture, 1, fixture.mode.cell_count)]
        fixtures.update((fixture.id, fixture) for fixture in chosen)
        cells.update((key, None) for key in keys)
    return Selection(tuple(fixtures.values()), tuple(cells))


def _numbers(by_number: dict[int, RigFixture], match: re.Match[str], part: str) -> list[RigFixture]:
    if match[1]:
        return [by_number[number] for number in sorted(by_number)]
    first = int(match[2])
    last = int(match[3] or match[2])
    if match[6] == "0":
        raise InputError(f"'{part}': every 0th is nothing.", where="selection", repair="Use /2 for every second.")
    span: Iterable[int] = sorted(n for n in by_number if min(first, last) <= n <= max(first, last))
    chosen = [by_number[n] for n in span]
    if not chosen:
        raise InputError(f"There is no fixture {part}.", where="selection")
    return chosen if first <= last else chosen[::-1]


def _cells(fixture: RigFixture, first: int, last: int) -> list[CellKey]:
    if first == last == 0:
        return []
    if not 1 <= min(first, last) <= max(first, last) <= max(fixture.mode.cell_count, 1):
        raise InputError(
            f"Fixture {fixture.number} has cells 1 to {fixture.mode.cell_count}, not {max(first, last)}.",
            where="selection",
        )
    if fixture.mode.cell_count == 0:
        return []
    step = 1 if first <= last else -1
    return [CellKey(fixture.id, str(n)) for n in range(first, last + step, step)]
