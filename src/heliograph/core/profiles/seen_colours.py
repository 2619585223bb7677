"""Which channel list explains the colours that were seen: another mode, or another order of the emitters.

A person lit a lamp in one emitter after another and said what it showed. A lamp that is set to mode B and gets the
bytes of mode A shows what B makes of them: that is worked out for every mode there is, and for every order.
"""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from itertools import permutations

import numpy as np

from heliograph.core.colour.dimming import DimmerDrive, dimmer_levels
from heliograph.core.hand.values import channels_of
from heliograph.core.profiles.attributes import DIMMER, EMITTERS
from heliograph.core.profiles.profile import Mode
from heliograph.core.walk.values import mode_values, numbered_channels

Seen = Mapping[str, Iterable[str]]
"""Emitter that was lit -> emitters that were seen; none for a lamp that stayed dark."""

LIT = 0.25
"""A level from which on a person names the colour (common practice, no source)."""

ORDERS_MAX = 4
"""Emitters of which every order is tried: four make 24."""


def sent_bytes(mode: Mode, cell: int, emitter: str) -> bytes:
    """What a walk sends to a fixture of the mode: `cell` from 1 in `emitter`, 0 all its cells; else its homes."""
    channels = channels_of(mode).channels
    values = bytearray(0 if one.alone or one.is_emitter or one.attribute == DIMMER else one.home for one in channels)
    for number, value in mode_values(mode, frozenset((cell,)) if cell else None, emitter):
        values[number - 1] = value
    return bytes(values)


def shown(mode: Mode, values: bytes) -> list[frozenset[str]]:
    """What a lamp that is set to `mode` shows of these bytes, cell by cell: its emitters that are lit."""
    data = values.ljust(mode.footprint, b"\0")
    fine_of = channels_of(mode).fine_of
    above = 1.0
    own: dict[int, float] = {}
    lit: dict[int, dict[str, float]] = {}
    for number, cell, channel in numbered_channels(mode):
        value = data[number - 1] ^ (255 if channel.invert else 0)
        if channel.fine:
            continue
        if channel.attribute == DIMMER:
            drive = DimmerDrive(channel.ranges, number in fine_of)
            level = float(dimmer_levels(drive, np.array([value], np.uint8), np.zeros(1, np.uint8))[0])
            if cell:
                own[cell] = level
            else:
                above *= level
        elif channel.attribute in EMITTERS and cell:
            lit.setdefault(cell, {})[channel.attribute] = value / 255
    return [
        frozenset(name for name, level in lit.get(cell, {}).items() if level * own.get(cell, 1.0) * above >= LIT)
        for cell in range(1, mode.cell_count + 1)
    ]


def explains(believed: Mode, other: Mode, seen: Seen, cell: int) -> bool:
    """Whether a lamp set to `other` would have shown what was seen. Of many cells at once the most common counts."""
    for emitter, wanted in seen.items():
        cells = shown(other, sent_bytes(believed, cell, emitter))
        if cell:
            found = cells[cell - 1] if cell <= len(cells) else frozenset()
        else:
            found = Counter(cells).most_common(1)[0][0] if cells else frozenset()
        if found != frozenset(wanted):
            return False
    return bool(seen)


def orders_of(mode: Mode) -> Iterator[tuple[tuple[str, ...], Mode]]:
    """Every other order of the emitters of a mode's cells, with the mode it makes; none for more than four."""
    for index, block in enumerate(mode.blocks):
        places = [n for n, channel in enumerate(block.cell_channels) if channel.is_emitter and not channel.fine]
        if not block.cell_count or not 2 <= len(places) <= ORDERS_MAX or any(c.fine for c in block.cell_channels):
            continue
        for order in permutations(places):
            if list(order) == places:
                continue
            channels = list(block.cell_channels)
            for place, taken in zip(places, order, strict=True):
                channels[place] = block.cell_channels[taken]
            blocks = list(mode.blocks)
            blocks[index] = replace(block, cell_channels=tuple(channels))
            names = tuple(channels[place].attribute for place in places)
            yield names, replace(mode, blocks=tuple(blocks))


def modes_that_explain(believed: Mode, others: Sequence[Mode], seen: Seen, cell: int) -> list[str]:
    """Names of the modes that would show what was seen."""
    return [one.name for one in others if one.name != believed.name and explains(believed, one, seen, cell)]


def orders_that_explain(believed: Mode, seen: Seen, cell: int) -> list[tuple[str, ...]]:
    return [names for names, mode in orders_of(believed) if explains(believed, mode, seen, cell)]
