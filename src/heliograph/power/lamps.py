"""What lamps need that read their channels otherwise: a least value, and values that are turned round."""

from __future__ import annotations

from typing import ClassVar

import numpy as np

from heliograph.core.playing.state import PlaybackState
from heliograph.power.chain import Chain
from heliograph.power.stage import Bytes, Grounds


class Least:
    """Lamps that read 0 as their stored default get their own dark."""

    name: ClassVar[str] = "least"

    def __init__(self, grounds: Grounds) -> None:
        self._at, self._value = grounds.emission.floor_at, grounds.emission.floor_value

    def apply(self, flat: Bytes, state: PlaybackState) -> None:
        if self._at.size:
            flat[self._at] = np.maximum(flat[self._at], self._value)

    def explain(self, chain: Chain, state: PlaybackState, at: int) -> None:
        for where in np.flatnonzero(self._at == at):
            least = int(self._value[where])
            if chain.value < least:
                chain.becomes("least", least, f"The lamp reads 0 otherwise: {least} is its dark.")


class Inverted:
    """Channels that carry 255 less the value."""

    name: ClassVar[str] = "inverted"

    def __init__(self, grounds: Grounds) -> None:
        self._at = grounds.emission.inverted

    def apply(self, flat: Bytes, state: PlaybackState) -> None:
        if self._at.size:
            flat[self._at] ^= 255

    def explain(self, chain: Chain, state: PlaybackState, at: int) -> None:
        if at in self._at:
            chain.becomes("inverted", 255 - chain.value, f"Inverted on the wire: {255 - chain.value}.")
