"""Parked values: what the wire carries whatever else happens, but for mute and the guard.

Common practice, no published source.
"""

from __future__ import annotations

from typing import ClassVar

import numpy as np

from heliograph.core.playing.state import PlaybackState
from heliograph.power.stage import Grounds, Writing, Written


class ParkedValues(Writing):
    name: ClassVar[str] = "parked"

    def __init__(self, grounds: Grounds) -> None:
        super().__init__(grounds)
        values = grounds.parked.values
        self._parked = grounds.places(
            np.array(list(values), dtype=np.int64), np.array(list(values.values()), dtype=np.uint8)
        )

    def written(self, state: PlaybackState) -> Written:
        return self._parked

    def says(self, state: PlaybackState, at: int, value: int) -> tuple[str, str]:
        return "parked", f"Parked at {value}."
