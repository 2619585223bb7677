"""How a matrix was woven: read back from where its cells lie, and what weaving it again would move."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import product

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import CellKey, Placement
from heliograph.core.matrix.weaving import Along, Corner, Weave, place

CORNERS: tuple[Corner, ...] = ("top left", "top right", "bottom left", "bottom right")
ALONG: tuple[Along, ...] = ("rows", "columns")


def read_weave(keys: Sequence[CellKey], placements: Sequence[Placement], width: int, height: int) -> Weave | None:
    """The simple weave (no gaps, boards or turns) that lays `keys`, in their order, where `placements` have them."""
    there = set(placements)
    for snake, along, corner in product((0, 1, 2), ALONG, CORNERS):
        weave = Weave(width, height, corner, along, snake)
        try:
            if there and set(place(keys, weave)) == there:
                return weave
        except InputError:  # more cells than squares
            return None
    return None


def moved_by(before: Sequence[Placement], after: Sequence[Placement]) -> int:
    """How many cells a new arrangement moves, places or takes off."""
    was, will = {one.key: one for one in before}, {one.key: one for one in after}
    return sum(1 for key in was.keys() | will.keys() if was.get(key) != will.get(key))


def numbers_as_selection(numbers: Sequence[int]) -> str:
    """Fixture numbers as a typed selection: "101-118, 205"."""
    runs: list[list[int]] = []
    for number in sorted(set(numbers)):
        if runs and runs[-1][1] == number - 1:
            runs[-1][1] = number
        else:
            runs.append([number, number])
    return ", ".join(f"{first}-{last}" if last > first else str(first) for first, last in runs)
