"""What a test walk lights, over looks and over what is held by hand."""

from __future__ import annotations

from typing import ClassVar

from heliograph.core.playing.state import PlaybackState
from heliograph.core.walk.moment import Walk
from heliograph.core.walk.values import walk_values
from heliograph.power.stage import NOTHING, Grounds, Writing, Written


class TestWalk(Writing):
    """Worked out anew at each step of the walk."""

    __test__ = False  # no class of tests
    name: ClassVar[str] = "walk"

    def __init__(self, grounds: Grounds) -> None:
        super().__init__(grounds)
        self._of: Walk | None = None
        self._lit: Written = NOTHING

    def written(self, state: PlaybackState) -> Written:
        if state.walk is None:
            return NOTHING
        if state.walk != self._of:
            self._of = state.walk
            found = walk_values(self.grounds.rig, state.walk)
            self._lit = self.grounds.places(found.positions, found.values)
        return self._lit

    def says(self, state: PlaybackState, at: int, value: int) -> tuple[str, str]:
        return "walk", f"Lit by the test walk: {value}."
