"""Blackout: no intensity and no emission, of looks, by hand and of walks. Where a lamp points and what stands in its
beam stays as it is."""

from __future__ import annotations

from typing import ClassVar

import numpy as np

from heliograph.core.by_hand import INTENSITIES, ModeChannels, channels_of
from heliograph.core.dimming import DimmerDrive, dimmer_values
from heliograph.core.patch import channel_positions
from heliograph.core.playback import PlaybackState
from heliograph.core.profile import Mode
from heliograph.power.stage import NOTHING, Grounds, Writing, Written


class Blackout(Writing):
    """What it writes is the same whenever it is on: made at once with the show."""

    name: ClassVar[str] = "blackout"

    def __init__(self, grounds: Grounds) -> None:
        super().__init__(grounds)
        dark: dict[int, int] = {}
        owned = np.zeros(grounds.emission.universes.size * 512, dtype=bool)
        known: dict[Mode, list[tuple[int, int]]] = {}
        for fixture in grounds.rig.fixtures.values():
            if not fixture.placed:
                continue
            positions = channel_positions(fixture.placed)
            places, _ = grounds.places(positions[positions >= 0], positions[positions >= 0].astype(np.uint8))
            owned[places] = True
            if fixture.mode not in known:
                known[fixture.mode] = dark_values(channels_of(fixture.mode))
            found = positions.tolist()
            dark.update((found[n], value) for n, value in known[fixture.mode] if found[n] >= 0)
        lamps, values = grounds.places(
            np.array(list(dark), dtype=np.int64), np.array(list(dark.values()), dtype=np.uint8)
        )
        # Of a channel that is nobody's it is not known what it does: dark is 0.
        nobodys = np.flatnonzero(~owned)
        self._dark: Written = (
            np.concatenate([lamps, nobodys]),
            np.concatenate([values, np.zeros(nobodys.size, dtype=np.uint8)]),
        )

    def written(self, state: PlaybackState) -> Written:
        return self._dark if state.blackout else NOTHING

    def says(self, state: PlaybackState, at: int, value: int) -> tuple[str, str]:
        return "blackout", f"Blackout: {value}."


def dark_values(mode: ModeChannels) -> list[tuple[int, int]]:
    """(channel from 0, what the wire carries for dark) of all channels that make light."""
    found = []
    for number, channel in enumerate(mode.channels, start=1):
        if channel.attribute in INTENSITIES:
            coarse = mode.coarse_of.get(number, number) if channel.fine else number
            drive = DimmerDrive(mode.channels[coarse - 1].ranges, coarse in mode.fine_of)
            both = int(dimmer_values(drive, np.zeros(1, dtype=np.float32))[0])
            value = both & 255 if channel.fine else both >> 8
        elif channel.is_emitter:
            value = 0 if channel.fine or channel.alone else channel.off
        else:
            continue
        found.append((number - 1, 255 - value if channel.invert else value))
    return found
