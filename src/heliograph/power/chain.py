"""The chain of what made one channel: steps that can be done again from their numbers."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any


@dataclass(frozen=True, slots=True)
class Step:
    """One link of the chain: what it is, a sentence, its numbers. Colours are [r, g, b], 0..1."""

    kind: str
    says: str
    numbers: Mapping[str, Any] = field(default_factory=dict)


@dataclass(slots=True)
class Chain:
    """`value`: what the steps come to. `steps` in the order in which they act. `plane`: which emitter the channel is,
    -1 where it is none."""

    value: int
    steps: list[Step]
    plane: int = -1

    def becomes(self, kind: str, value: int, says: str) -> None:
        """One more step, after which the channel has this value."""
        self.value = value
        self.steps.append(Step(kind, says, {"value": value}))
