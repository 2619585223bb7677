"""What is held by hand: highlight, then manual values, then raw ones. Above looks.

Values by hand are what the wire carries. Masters touch intensity and emission only: a manual colour dims with them, a
manual gobo stays.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import DimmerDrive, dimmer_values, value_after
from heliograph.core.colour.ramps import Floats
from heliograph.core.patch.dmx import parse_address
from heliograph.core.patch.places import channel_positions
from heliograph.core.playing.state import PlaybackState
from heliograph.core.profiles.attributes import BRIGHTNESS, DIMMER, SATURATION
from heliograph.core.profiles.channel import Channel, fine_pairs
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.arrays import Rig

Ints = npt.NDArray[np.int64]

INTENSITIES = (DIMMER, BRIGHTNESS)


@dataclass(frozen=True, slots=True)
class HandValues:
    """`positions` (n,) absolute, each once; `values` (n,) uint8."""

    positions: Ints
    values: npt.NDArray[np.uint8]


@dataclass(frozen=True, slots=True)
class ModeChannels:
    """Every channel of a mode in order, its cells written out. `fine_of`: number of a coarse channel (from 1) ->
    number of its fine one; `coarse_of` the other way round."""

    channels: tuple[Channel, ...]
    fine_of: Mapping[int, int]
    coarse_of: Mapping[int, int]
    has_dimmer: bool


@lru_cache(maxsize=256)
def channels_of(mode: Mode) -> ModeChannels:
    channels: list[Channel] = []
    fine_of: dict[int, int] = {}
    for block in mode.blocks:
        for run, times in ((block.shared, 1), (block.cell_channels, block.cell_count)):
            pairs = fine_pairs(run)
            for _ in range(times):
                begin = len(channels) + 1
                fine_of.update((begin + coarse, begin + fine) for coarse, fine in pairs.items())
                channels.extend(run)
    has_dimmer = any(one.attribute in INTENSITIES for one in channels)
    return ModeChannels(tuple(channels), fine_of, {low: high for high, low in fine_of.items()}, has_dimmer)


def hand_values(rig: Rig, state: PlaybackState, levels: Floats) -> HandValues:
    """What is held where. `levels` (F,): each fixture's level after masters."""
    manual: dict[str, dict[int, int]] = {}
    for key, value in state.manual.items():
        name, _, channel = key.partition("/")
        manual.setdefault(name, {})[int(channel)] = value
    found: dict[int, int] = {}
    for index, fixture in enumerate(rig.fixtures.values()):
        held = manual.get(fixture.id)
        if not fixture.placed or (held is None and fixture.id not in state.highlight):
            continue
        positions, channels = channel_positions(fixture.placed).tolist(), channels_of(fixture.mode)
        values = dict(_lit_up(channels)) if fixture.id in state.highlight else {}
        values.update(_after_masters(channels, held or {}, float(levels[index])))
        found.update((positions[n - 1], value) for n, value in values.items() if positions[n - 1] >= 0)
    for key, value in state.raw.items():
        found[parse_address(key).position] = value
    return _values(found)


def _values(found: Mapping[int, int]) -> HandValues:
    return HandValues(np.array(list(found), dtype=np.int64), np.array(list(found.values()), dtype=np.uint8))


def _lit_up(mode: ModeChannels) -> Iterator[tuple[int, int]]:
    """(channel from 1, value): what its profile says; else emitters full and dimmers open, whatever the masters
    say, and everything else as it is."""
    for number, channel in enumerate(mode.channels, start=1):
        value = channel.highlight
        if value is None and not channel.alone:
            if channel.is_emitter or (channel.fine and channel.attribute in INTENSITIES):
                value = 255
            elif channel.attribute in INTENSITIES:
                drive = DimmerDrive(channel.ranges, number in mode.fine_of)
                value = int(dimmer_values(drive, np.ones(1, dtype=np.float32))[0]) >> 8
            elif channel.attribute == SATURATION:
                value = 0
        if value is not None:
            yield number, 255 - value if channel.invert else value


def _after_masters(mode: ModeChannels, held: Mapping[int, int], level: float) -> Iterator[tuple[int, int]]:
    """(channel from 1, value): dimmers follow the level by their ranges, coarse and fine as one value; emitters
    follow it where the fixture has no dimmer. Anything else stays as it is held."""
    for number, value in held.items():
        if number > len(mode.channels):  # of a mode that was longer
            continue
        channel = mode.channels[number - 1]
        turned = 255 if channel.invert else 0
        if channel.attribute in INTENSITIES and not channel.fine:
            low = mode.fine_of.get(number, 0)
            drive = DimmerDrive(channel.ranges, low > 0)
            dimmed = value_after(drive, (value ^ turned) << 8 | (held.get(low, 0) ^ (turned if low else 0)), level)
            yield number, dimmed >> 8 ^ turned
            if low in held:
                yield low, dimmed & 255 ^ turned
        elif channel.attribute in INTENSITIES:
            if mode.coarse_of.get(number) not in held:  # else it went with its coarse one
                yield number, value if level else turned
        elif channel.is_emitter and not (mode.has_dimmer and level):
            yield number, int((value ^ turned) * level + 0.5) ^ turned
        else:
            yield number, value
