"""What is held by hand, after masters: highlight, then manual values, then raw ones."""

from __future__ import annotations

from typing import Any, ClassVar

from heliograph.core.hand.values import hand_values
from heliograph.core.patch.dmx import address_at
from heliograph.core.patch.places import channel_positions
from heliograph.core.playing.state import PlaybackState
from heliograph.power.levels import fixture_levels
from heliograph.power.stage import NOTHING, Grounds, Writing, Written


class Hand(Writing):
    """Worked out anew only when something held, or a master above it, changed. A walk that keeps all else dark
    keeps this dark too."""

    name: ClassVar[str] = "hand"

    def __init__(self, grounds: Grounds) -> None:
        super().__init__(grounds)
        self._of: tuple[Any, ...] = ()
        self._held: Written = NOTHING

    def written(self, state: PlaybackState) -> Written:
        if not (state.manual or state.raw or state.highlight) or (state.walk is not None and state.walk.alone):
            return NOTHING
        key = (state.manual, state.raw, state.highlight, state.master, state.masters)
        if key != self._of:
            self._of = key
            levels = fixture_levels(self.grounds.rig, self.grounds.groups, state)
            held = hand_values(self.grounds.rig, state, levels)
            self._held = self.grounds.places(held.positions, held.values)
        return self._held

    def says(self, state: PlaybackState, at: int, value: int) -> tuple[str, str]:
        position = self.grounds.position(at)
        address = address_at(position)
        raw = {key.removeprefix("U") for key in state.raw}
        if f"{address.universe}.{address.channel}" in raw:
            kind, said = "raw", "Held by its raw fader"
        elif any(self._holds(key, position) for key in state.manual):
            kind, said = "manual", "Held by hand"
        else:
            kind, said = "highlight", "Highlighted"
        return kind, f"{said}: {value}."

    def _holds(self, key: str, position: int) -> bool:
        name, _, channel = key.partition("/")
        fixture = self.grounds.rig.fixtures.get(name)
        if fixture is None or not fixture.placed:
            return False
        positions = channel_positions(fixture.placed)
        number = int(channel) - 1
        return number < positions.size and int(positions[number]) == position
