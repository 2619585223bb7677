"""Which fixtures are dark in a frame: heads go home then, or to where the next cue wants them, and never while lit."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import count

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import DimmerDrive, dimmer_levels
from heliograph.core.hand.values import INTENSITIES, channels_of
from heliograph.core.look.line import AttributeLine
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.patch.places import channel_positions
from heliograph.core.playing.lists import next_of
from heliograph.core.playing.state import PlaybackState
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.arrays import RigFixture
from heliograph.render.compiled import CompiledShow

Bytes = npt.NDArray[np.uint8]


NEW_MAX = 50
"""So many fixtures are looked into anew in one frame (a millisecond); of further ones nothing is said yet."""


class Darkness:
    """Looks at frames of one show at a time: what to look at of each fixture is worked out once."""

    def __init__(self) -> None:
        self._show: CompiledShow | None = None
        self._seen: dict[str, _Lights] = {}
        self._left = 0

    def seen(self, show: CompiledShow, state: PlaybackState, universes: Bytes) -> PlaybackState:
        """The state with what dark fixtures let go of, and which of them stand as their next cue wants; the same object
        where nothing changes. `universes` (U, 512): the frame. While masters, blackout, a walk or freeze keep things
        dark, nothing is said, nor of fixtures whose output is muted: what is dark by that comes back as it was."""
        if not state.lists or state.blackout or state.frozen or state.walk or state.master <= 0.0:
            return state
        if not all(level > 0.0 for level in state.masters.values()):
            return state
        if self._show is None or self._show.emission is not show.emission or self._show.rig is not show.rig:
            self._seen.clear()
        self._show = show
        flat, self._left = universes.reshape(-1), NEW_MAX
        lists = dict(state.lists)
        for key, run in state.lists.items():
            known = show.ground.lists.get(key)
            kept = {one.look.look for part in run.parts for one in part.kept if one.among is None}
            coming = next_of(run, known) if known and not run.fading else None
            ahead = {one.look for one in coming.looks} if coming and coming.ready else set[str]()
            if not kept and not ahead and not run.ready:
                continue
            moved = run.went_home(self._dark(show, flat, _set_by(show, kept)))
            ready = self._dark(show, flat, _set_by(show, ahead))
            lists[key] = moved if ready == moved.ready else replace(moved, ready=ready)
        if all(lists[key] is run for key, run in state.lists.items()):
            return state
        return replace(state, lists=lists)

    def _dark(self, show: CompiledShow, flat: Bytes, fixtures: Iterable[str]) -> frozenset[str]:
        return frozenset(one for one in fixtures if one in show.rig.fixtures and self._is_dark(show, one, flat))

    def _is_dark(self, show: CompiledShow, fixture: str, flat: Bytes) -> bool:
        known = self._seen.get(fixture)
        if known is None:
            if self._left <= 0:
                return False
            self._left -= 1
            known = self._seen[fixture] = _lights_of(show, show.rig.fixtures[fixture])
        return known.dark(flat)


@dataclass(frozen=True, slots=True)
class _Lights:
    """What makes the light of a fixture, as places in the rendered universes: `emitters` (n,), the bytes `off` (n,) at
    which they give none; each dimmer above all of it. `known`: it has an address, and no output of it is muted."""

    emitters: npt.NDArray[np.intp]
    off: Bytes
    dimmers: tuple[tuple[int, int, DimmerDrive], ...]
    known: bool

    def dark(self, flat: Bytes) -> bool:
        """Whether no light leaves it: a dimmer of all of it is closed, or every emitter is at nothing. What has neither
        is never dark: nobody knows."""
        if not self.known:
            return False
        if any(_closed(drive, int(flat[at]) ^ turned) for at, turned, drive in self.dimmers):
            return True
        return bool(self.off.size) and bool((flat[self.emitters] == self.off).all())


def _lights_of(show: CompiledShow, fixture: RigFixture) -> _Lights:
    emission = show.emission
    mode = channels_of(fixture.mode)
    positions = channel_positions(fixture.placed) if fixture.placed else np.empty(0, dtype=np.int64)
    shared = _shared_numbers(fixture.mode)
    emitters: list[int] = []
    off: list[int] = []
    dimmers: list[tuple[int, int, DimmerDrive]] = []
    known = bool(fixture.placed)
    for channel, number, position in zip(mode.channels, count(1), positions.tolist(), strict=False):
        row = int(np.searchsorted(emission.universes, position // SLOTS + 1))
        if position < 0 or row >= emission.universes.size or emission.universes[row] != position // SLOTS + 1:
            continue
        known = known and not bool(emission.muted[row])
        at, turned = row * SLOTS + position % SLOTS, 255 if channel.invert else 0
        if channel.is_emitter:
            emitters.append(at)
            off.append(turned)
        elif channel.attribute in INTENSITIES and not channel.fine and number in shared:
            dimmers.append((at, turned, DimmerDrive(channel.ranges, False)))
    return _Lights(np.array(emitters, dtype=np.intp), np.array(off, dtype=np.uint8), tuple(dimmers), known)


def _closed(drive: DimmerDrive, value: int) -> bool:
    coarse = np.array([value], dtype=np.uint8)
    return float(dimmer_levels(drive, coarse, np.zeros(1, dtype=np.uint8))[0]) <= 0.0


def _set_by(show: CompiledShow, looks: Iterable[str]) -> set[str]:
    """The fixtures of which lines of these looks set attributes."""
    found: set[str] = set()
    for look in looks:
        for one in show.looks.get(look, ()):
            if isinstance(one.line, AttributeLine) and one.ready is not None:
                found.update(member.partition(":")[0] for member in one.ready.members)
    return found


@lru_cache(maxsize=256)
def _shared_numbers(mode: Mode) -> frozenset[int]:
    """Channels of a mode, from 1, that are of whole blocks."""
    found: set[int] = set()
    number = 1
    for block in mode.blocks:
        found.update(range(number, number + len(block.shared)))
        number += len(block.shared) + len(block.cell_channels) * block.cell_count
    return frozenset(found)
