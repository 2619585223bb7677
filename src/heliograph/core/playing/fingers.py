"""Fingers on pads: what each does when it is lifted, and until when it counts by itself."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any, NamedTuple

from heliograph.core.roles import Role

FINGERS_MAX = 256
"""At once, on all tablets together."""


class Lifting(NamedTuple):
    """A handle to a value within `over_s`, when a finger is lifted."""

    handle: str
    value: Any = None
    over_s: float = 0.0


@dataclass(frozen=True, slots=True)
class Finger:
    """A finger on an `item` of a page since a show time and beat; `who` holds it. `lift`: what is done when it goes, by
    the hand `by` with its `role`. `until_beat`: it goes by itself then, and need not be held; None of one that is."""

    item: str
    who: str
    by: str
    role: Role
    since_ns: int
    since_beat: float
    lift: tuple[Lifting, ...] = ()
    until_beat: float | None = None
