"""Parked channels: held at a value by the show itself, above everything by hand, until they are released.

A parked dimmer or emitter still follows masters and blackout; anything else (a cooling fan, a pan) stays whatever
happens, even through a test walk. The guard is above it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from heliograph.core.attributes import BRIGHTNESS, DIMMER
from heliograph.core.by_hand import channels_of
from heliograph.core.dmx import Address
from heliograph.core.patch import channel_positions
from heliograph.core.rig import Rig


@dataclass(frozen=True, slots=True)
class Parked:
    """`values`: position -> value, of all. `manual`, `raw`: the same by owner, keyed as in `PlaybackState`; `steady`:
    those that make no light."""

    values: Mapping[int, int] = field(default_factory=dict)
    manual: Mapping[str, int] = field(default_factory=dict)
    raw: Mapping[str, int] = field(default_factory=dict)
    steady: Mapping[int, int] = field(default_factory=dict)


NOTHING_PARKED = Parked()


def plan_parked(rig: Rig, rows: Sequence[Mapping[str, Any]]) -> Parked:
    """Who owns what is parked. `rows`: {"universe", "channel", "value"}."""
    values = {Address(row["universe"], row["channel"]).position: int(row["value"]) for row in rows}
    if not values:
        return NOTHING_PARKED
    wanted = np.array(list(values), dtype=np.int64)
    manual: dict[str, int] = {}
    steady: dict[int, int] = {}
    owned: set[int] = set()
    for fixture in rig.fixtures.values():
        if not fixture.placed:
            continue
        positions = channel_positions(fixture.placed)
        for index in np.flatnonzero(np.isin(positions, wanted)).tolist():
            at = int(positions[index])
            channel = channels_of(fixture.mode).channels[index]
            manual[f"{fixture.id}/{index + 1}"] = values[at]
            owned.add(at)
            if not channel.is_emitter and channel.attribute not in (DIMMER, BRIGHTNESS):
                steady[at] = values[at]
    raw = {f"{at // 512 + 1}.{at % 512 + 1}": value for at, value in values.items() if at not in owned}
    return Parked(values, manual, raw, steady)
