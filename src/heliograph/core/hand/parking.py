"""Parked channels: held by the show itself at what the wire carries, until they are released.

Whatever plays, is held by hand or blacked out leaves them alone; mute and the guard are above them. Common practice, no
published source.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from heliograph.core.patch.dmx import Address


@dataclass(frozen=True, slots=True)
class Parked:
    """`values`: absolute position -> 0..255 on the wire."""

    values: Mapping[int, int] = field(default_factory=dict)


NOTHING_PARKED = Parked()


def plan_parked(rows: Sequence[Mapping[str, Any]]) -> Parked:
    """`rows`: {"universe", "channel", "value"}."""
    values = {Address(row["universe"], row["channel"]).position: int(row["value"]) for row in rows}
    return Parked(values) if values else NOTHING_PARKED
