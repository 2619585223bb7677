"""Incoming universes laid on a matrix as somebody else would send them to its cells."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from heliograph.core.look.feeds import Universes
from heliograph.core.patch.dmx import SLOTS

Ints = npt.NDArray[np.int64]

COLOURS = 4
"""Red, green, blue and white, of which the last adds to all: the first planes of a rig's emitters."""


@dataclass(frozen=True, slots=True)
class Laid:
    """The incoming `numbers`, in order, and `at` (4, cells): where each cell's colours lie among their channels, one
    universe after another, -1 where a cell has no such emitter."""

    numbers: tuple[int, ...]
    at: Ints


def laid_on(incoming: Universes, emitters: Ints) -> Laid:
    """`emitters` (cells, planes): absolute positions of what carries the cells' colours, -1 for none. The lowest of
    their universes is read from the number that is told; the others count on with ours."""
    positions = emitters[:, :COLOURS].T
    there = positions >= 0
    used = np.unique(positions[there] // SLOTS)
    if not used.size:
        return Laid((), np.full(positions.shape, -1, dtype=np.int64))
    row = np.searchsorted(used, np.where(there, positions // SLOTS, used[0]))
    at = np.where(there, row * SLOTS + positions % SLOTS, -1)
    return Laid(tuple(incoming.first + int(one - used[0]) for one in used), at)
