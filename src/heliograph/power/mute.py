"""Universes whose outputs are all muted carry their dark: nothing lit, homes kept, guarded fixtures safe."""

from __future__ import annotations

from typing import ClassVar

import numpy as np

from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import PlaybackState
from heliograph.power.stage import Grounds, Writing, Written


class Mute(Writing):
    name: ClassVar[str] = "mute"

    def __init__(self, grounds: Grounds) -> None:
        super().__init__(grounds)
        at = np.flatnonzero(np.repeat(grounds.emission.muted, SLOTS))
        self._dark = at, grounds.emission.dark.reshape(-1)[at]

    def written(self, state: PlaybackState) -> Written:
        return self._dark

    def says(self, state: PlaybackState, at: int, value: int) -> tuple[str, str]:
        return "muted", f"Every output that sends it is muted: it carries its dark, {value}."
