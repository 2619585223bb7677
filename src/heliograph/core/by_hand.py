"""What is held by hand: highlight, then manual values, then raw ones. Above looks, below the guard.

Masters and blackout touch intensity and emission only: a manual colour dims with them, a manual gobo stays.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from heliograph.core.colour import Floats
from heliograph.core.dimming import DimmerDrive, dimmer_values, value_after
from heliograph.core.dmx import parse_address
from heliograph.core.patch import all_positions
from heliograph.core.playback import PlaybackState
from heliograph.core.profile import DIMMER, EMITTERS, Channel, Mode
from heliograph.core.rig import Rig

Ints = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class HandValues:
    """`positions` (n,) absolute, each once; `values` (n,) uint8."""

    positions: Ints
    values: npt.NDArray[np.uint8]


def channels_of(mode: Mode) -> list[Channel]:
    """Every channel of a mode in order, its cells written out."""
    return [c for block in mode.blocks for c in (*block.shared, *(block.cell_channels * block.cell_count))]


def hand_values(rig: Rig, state: PlaybackState, levels: Floats) -> HandValues:
    """What is held where. `levels` (F,): each fixture's level after masters, 0 in blackout."""
    manual: dict[str, dict[int, int]] = {}
    for key, value in state.manual.items():
        name, _, channel = key.partition("/")
        manual.setdefault(name, {})[int(channel)] = value
    found: dict[int, int] = {}
    for index, fixture in enumerate(rig.fixtures.values()):
        held = manual.get(fixture.id)
        if not fixture.placed or (held is None and fixture.id not in state.highlight):
            continue
        positions, channels = all_positions(fixture.placed).tolist(), channels_of(fixture.mode)
        if fixture.id in state.highlight:
            found.update(_lit_up(positions, channels))
        for number, value in _after_masters(channels, held or {}, float(levels[index])):
            found[positions[number - 1]] = value
    for key, value in state.raw.items():
        found[parse_address(key).position] = 0 if state.blackout else value
    return HandValues(np.array(list(found), dtype=np.int64), np.array(list(found.values()), dtype=np.uint8))


def _lit_up(positions: list[int], channels: list[Channel]) -> Iterator[tuple[int, int]]:
    """All emitters full and dimmers open, whatever the masters say; everything else as it is."""
    for position, channel in zip(positions, channels, strict=True):
        if channel.attribute in EMITTERS:
            yield position, 255
        elif channel.attribute == DIMMER:
            value = int(dimmer_values(DimmerDrive(channel.ranges, channel.fine), np.ones(1, dtype=np.float32))[0])
            yield position, value & 255 if channel.fine else value >> 8


def _after_masters(channels: Sequence[Channel], held: Mapping[int, int], level: float) -> Iterator[tuple[int, int]]:
    """(channel from 1, value): dimmers follow the level by their ranges, coarse and fine as one value; emitters
    follow it where the fixture has no dimmer. Anything else stays as it is held."""
    has_dimmer = any(one.attribute == DIMMER for one in channels)
    for number, value in held.items():
        if number > len(channels):  # of a mode that was longer
            continue
        channel = channels[number - 1]
        if channel.attribute == DIMMER and not channel.fine:
            low = _fine_of(channels, number)
            drive = DimmerDrive(channel.ranges, low > 0)
            dimmed = value_after(drive, value << 8 | held.get(low, 0), level)
            yield number, dimmed >> 8
            if low in held:
                yield low, dimmed & 255
        elif channel.attribute == DIMMER:
            if not any(_fine_of(channels, other) == number for other in held):  # else it went with its coarse one
                yield number, value if level else 0
        elif channel.attribute in EMITTERS and not (has_dimmer and level):
            yield number, int(value * level + 0.5)
        else:
            yield number, value


def _fine_of(channels: Sequence[Channel], number: int) -> int:
    """The fine channel of the dimmer `number`, 0 where there is none: the next dimmer, if it is a fine one."""
    if channels[number - 1].attribute != DIMMER or channels[number - 1].fine:
        return 0
    later = (n for n in range(number, len(channels)) if channels[n].attribute == DIMMER)
    index = next(later, -1)
    return index + 1 if index >= 0 and channels[index].fine else 0
