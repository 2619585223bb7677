"""Which channels of a universe somebody writes over what looks make: by hand, in a walk, parked."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np
import numpy.typing as npt

from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import PlaybackState
from heliograph.power.stage import Stage, Writing

Ints = npt.NDArray[np.int64]


def marks_of(stages: Iterable[Stage], state: PlaybackState, universes: Ints, universe: int) -> dict[str, list[int]]:
    """Channels 1..512 by the kind of their step in why ("manual", "raw", "highlight", "walk", "parked"): the strongest
    that writes there. `universes` (U,) ascending, as the stages are of."""
    row = int(np.searchsorted(universes, universe))
    if row >= universes.size or universes[row] != universe:
        return {}
    low = row * SLOTS
    kinds: dict[int, str] = {}
    for stage in stages:
        if not isinstance(stage, Writing):
            continue
        at, values = stage.written(state)
        for n in np.flatnonzero((at >= low) & (at < low + SLOTS)).tolist():
            place = int(at[n])
            kinds[place - low + 1] = stage.says(state, place, int(values[n]))[0]
    found: dict[str, list[int]] = {}
    for channel, kind in sorted(kinds.items()):
        found.setdefault(kind, []).append(channel)
    return found
