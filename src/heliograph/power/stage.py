"""What a stage of the order of power is, and the kind most of them are of: values written over what was."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from typing import ClassVar, Protocol

import numpy as np
import numpy.typing as npt

from heliograph.core.hand.parking import Parked
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.playing.state import PlaybackState
from heliograph.core.rig.arrays import Rig
from heliograph.power.chain import Chain
from heliograph.render.emission import Emission, local

Ints = npt.NDArray[np.int64]
Bytes = npt.NDArray[np.uint8]
Written = tuple[Ints, Bytes]
"""Places in the flat universes (n,), and their values (n,)."""

NOTHING: Written = (np.empty(0, dtype=np.int64), np.empty(0, dtype=np.uint8))


class Stage(Protocol):
    """`flat` (U*512,) are the universes in a row; `at` is a channel's place in it."""

    name: ClassVar[str]

    def apply(self, flat: Bytes, state: PlaybackState) -> None: ...

    def explain(self, chain: Chain, state: PlaybackState, at: int) -> None: ...


@dataclass(frozen=True, slots=True)
class Grounds:
    """What stages are made from: parts of a compiled show. `groups`: fixtures (their places in the rig) by group."""

    rig: Rig
    emission: Emission
    groups: Mapping[str, Ints]
    parked: Parked

    def places(self, positions: Ints, values: Bytes) -> Written:
        """Absolute positions as places in the universes; those in none are left out."""
        universes = self.emission.universes
        there = np.isin(positions // SLOTS + 1, universes)
        return local(universes, positions[there]), values[there]

    def position(self, at: int) -> int:
        """The absolute position of a place."""
        return (int(self.emission.universes[at // SLOTS]) - 1) * SLOTS + at % SLOTS


class Writing(ABC):
    """A stage that writes values over those that were, and so explains itself by what it writes."""

    name: ClassVar[str]

    def __init__(self, grounds: Grounds) -> None:
        self.grounds = grounds

    @abstractmethod
    def written(self, state: PlaybackState) -> Written:
        """What it writes in this state. Called every frame: what is costly is kept until the state is another."""

    @abstractmethod
    def says(self, state: PlaybackState, at: int, value: int) -> tuple[str, str]:
        """The kind of the step and a sentence, for a channel that it writes."""

    def apply(self, flat: Bytes, state: PlaybackState) -> None:
        at, values = self.written(state)
        if at.size:
            flat[at] = values

    def explain(self, chain: Chain, state: PlaybackState, at: int) -> None:
        where, values = self.written(state)
        there = np.flatnonzero(where == at)
        if there.size:
            value = int(values[there[-1]])
            chain.becomes(*_in_order(self.says(state, at, value), value))


def _in_order(said: tuple[str, str], value: int) -> tuple[str, int, str]:
    return said[0], value, said[1]
