"""The level of each fixture: grand master times the masters of all groups it is in."""

from __future__ import annotations

from collections.abc import Mapping

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Floats
from heliograph.core.playing.state import PlaybackState
from heliograph.core.rig.arrays import Rig


def fixture_levels(rig: Rig, groups: Mapping[str, npt.NDArray[np.int64]], state: PlaybackState) -> Floats:
    """(F,) 0..1. `groups`: fixtures (their places in the rig) by group."""
    levels = np.full(len(rig.fixtures), state.master, dtype=np.float32)
    for group, level in state.masters.items():
        if group in groups:
            levels[groups[group]] *= np.float32(level)
    return levels
