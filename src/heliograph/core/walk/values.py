"""The channel values of a test walk: what of a fixture's channels a lit cell needs."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from heliograph.core.colour.dimming import DimmerDrive, dimmer_values
from heliograph.core.hand.values import INTENSITIES, HandValues, channels_of
from heliograph.core.patch.dmx import parse_address
from heliograph.core.patch.places import channel_positions
from heliograph.core.profiles.attributes import BRIGHTNESS, DIMMER, HUE, SATURATION
from heliograph.core.profiles.channel import Channel
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.arrays import Rig, RigFixture
from heliograph.core.walk.moment import ALL_EMITTERS, Walk


def walk_values(rig: Rig, walk: Walk) -> HandValues:
    """What the walk puts where. `positions` absolute, each once."""
    found: dict[int, int] = {}
    level = walk.level
    for name, cells in walk.cells.items():
        fixture = rig.fixtures.get(name)
        if fixture is not None and fixture.placed:
            found.update(_fixture(fixture, None if cells is None else frozenset(cells), walk.emitter, level))
    if walk.channels:
        wanted = [parse_address(one).position for one in walk.channels]
        for fixture in rig.fixtures.values():
            if fixture.placed:
                found.update(_opened_for(fixture, frozenset(wanted)))
        found.update((position, round(255 * level)) for position in wanted)
    return HandValues(np.array(list(found), dtype=np.int64), np.array(list(found.values()), dtype=np.uint8))


def _fixture(
    fixture: RigFixture, cells: frozenset[int] | None, emitter: str, level: float
) -> Iterator[tuple[int, int]]:
    positions = channel_positions(fixture.placed).tolist()
    for number, value in mode_values(fixture.mode, cells, emitter, level):
        if positions[number - 1] >= 0:
            yield positions[number - 1], value


def mode_values(
    mode: Mode, cells: frozenset[int] | None, emitter: str, level: float = 1.0
) -> Iterator[tuple[int, int]]:
    """(channel of the mode from 1, value) of a fixture whose `cells` (None: all) are lit in one or all emitters."""
    fine_of = channels_of(mode).fine_of
    for number, cell, channel in numbered_channels(mode):
        if channel.alone or not (cell == 0 or cells is None or cell in cells):
            continue
        value = _value(channel, number in fine_of, emitter, level)
        if value is not None:
            yield number, 255 - value if channel.invert else value


HUES = {"ColorAdd_R": 0, "ColorAdd_G": 85, "ColorAdd_B": 170}
"""Of 255, for lamps that are driven by hue: thirds of the circle."""


def _value(channel: Channel, has_fine: bool, emitter: str, level: float) -> int | None:
    """None for a channel that a walk leaves as it rests."""
    if channel.attribute == HUE:
        return HUES.get(emitter, 0) if not channel.fine else 0
    if channel.attribute == SATURATION:
        return 255 if emitter in HUES else 0
    if channel.is_emitter:
        wanted = emitter in (ALL_EMITTERS, channel.attribute)
        return max(round(255 * level) if wanted else 0, channel.off)
    if channel.attribute in INTENSITIES:
        if channel.attribute == BRIGHTNESS:
            return round(255 * level) if emitter == ALL_EMITTERS or emitter in HUES else 0
        if channel.fine:
            return 255 if level else 0
        open_at = np.array([1.0 if level else 0.0], dtype=np.float32)
        return int(dimmer_values(DimmerDrive(channel.ranges, has_fine), open_at)[0]) >> 8
    return channel.highlight if level else None


def _opened_for(fixture: RigFixture, wanted: frozenset[int]) -> Iterator[tuple[int, int]]:
    """Dimmers of a fixture that owns one of the positions: else its colours could not show."""
    positions = channel_positions(fixture.placed).tolist()
    mine = wanted.intersection(positions)
    if not mine:
        return
    mode = channels_of(fixture.mode)
    reached = {cell for number, cell, _ in numbered_channels(fixture.mode) if positions[number - 1] in mine}
    for number, cell, channel in numbered_channels(fixture.mode):
        at = positions[number - 1]
        if at < 0 or at in mine or channel.alone or channel.attribute != DIMMER or (cell and cell not in reached):
            continue
        value = _value(channel, number in mode.fine_of, ALL_EMITTERS, 1.0)
        if value is not None:
            yield at, 255 - value if channel.invert else value


def numbered_channels(mode: Mode) -> Iterator[tuple[int, int, Channel]]:
    """(channel of the mode from 1, its cell from 1 or 0 where it is shared, channel)."""
    number = cell = 0
    for block in mode.blocks:
        for channel in block.shared:
            number += 1
            yield number, 0, channel
        for _ in range(block.cell_count):
            cell += 1
            for channel in block.cell_channels:
                number += 1
                yield number, cell, channel
