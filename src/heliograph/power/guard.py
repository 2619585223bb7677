"""The guard, above everything: safe values on every guarded fixture that is not armed, on all of them in blackout, and
on addresses that one has left."""

from __future__ import annotations

from typing import ClassVar

import numpy as np

from heliograph.core.lasers.guarding import without_shared
from heliograph.core.lasers.hanging import LeftGuard
from heliograph.core.playing.state import PlaybackState
from heliograph.power.chain import Chain
from heliograph.power.stage import NOTHING, Bytes, Grounds, Written


class Guard:
    name: ClassVar[str] = "guard"

    def __init__(self, grounds: Grounds) -> None:
        self._grounds = grounds
        self._left_of: tuple[LeftGuard, ...] = ()
        self._left: Written = NOTHING

    def apply(self, flat: Bytes, state: PlaybackState) -> None:
        emission = self._grounds.emission
        flat[emission.twice_at] = emission.twice_value
        if state.blackout or not state.armed:
            flat[emission.guard_at] = emission.guard_value
        else:
            emitting = without_shared(state.armed, emission.guard_shared)
            for fixture, span in emission.guard_spans.items():
                if fixture not in emitting:
                    flat[emission.guard_at[span]] = emission.guard_value[span]
        at, safe = self._left_addresses(state)
        flat[at] = safe

    def explain(self, chain: Chain, state: PlaybackState, at: int) -> None:
        emission, position = self._grounds.emission, self._grounds.position(at)
        there = np.flatnonzero(emission.twice_at == at)
        if there.size:
            value = int(emission.twice_value[there[0]])
            said = f"It goes to the same place on the wire as a laser's universe: it stays at the safe value {value}."
            chain.becomes("guard", value, said)
        emitting = frozenset() if state.blackout else without_shared(state.armed, emission.guard_shared)
        for fixture, span in emission.guard_spans.items():
            there = np.flatnonzero(emission.guard_at[span] == at)
            if not there.size or fixture in emitting:
                continue
            value = int(emission.guard_value[span][there[-1]])
            if fixture not in state.armed:
                kind, said = "guard", "A laser that is not armed"
            elif state.blackout:
                kind, said = "blackout", "Blackout makes a laser safe"
            else:
                kind, said = "guard", "It shares channels with a laser that is not armed"
            chain.becomes(kind, value, f"{said}: its safe value is {value}.")
        for one in state.left:
            safe = dict(one.values).get(position)
            if safe is not None:
                said = f"Laser {one.number} {one.name} lay here: the address stays at its safe value {safe}."
                chain.becomes("left", safe, said)

    def _left_addresses(self, state: PlaybackState) -> Written:
        if state.left is not self._left_of:
            self._left_of = state.left
            pairs = [pair for one in state.left for pair in one.values]
            places = np.array([position for position, _ in pairs], dtype=np.int64)
            self._left = self._grounds.places(places, np.array([value for _, value in pairs], dtype=np.uint8))
        return self._left
