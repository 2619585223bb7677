"""Blackout: no intensity and no emission, of looks, by hand and of walks. Where a lamp points and what stands in its
beam stays as it is."""

from __future__ import annotations

from typing import ClassVar

from heliograph.core.playing.state import PlaybackState
from heliograph.power.stage import NOTHING, Writing, Written


class Blackout(Writing):
    """Of a channel that is nobody's it is not known what it does: it is dark at 0."""

    name: ClassVar[str] = "blackout"

    def written(self, state: PlaybackState) -> Written:
        emission = self.grounds.emission
        return (emission.black_at, emission.black_value) if state.blackout else NOTHING

    def says(self, state: PlaybackState, at: int, value: int) -> tuple[str, str]:
        return "blackout", f"Blackout: {value}."
