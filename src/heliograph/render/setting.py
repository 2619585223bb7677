"""Lines that set attributes, made ready for their fixtures, and what they say at a moment."""

from __future__ import annotations

from collections.abc import Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from types import MappingProxyType
from typing import TYPE_CHECKING

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import DimmerDrive
from heliograph.core.hand.values import INTENSITIES, ModeChannels, channels_of
from heliograph.core.look.attributes import Values
from heliograph.core.look.levels import Clocks, Driver
from heliograph.core.look.line import PARAMS, AttributeLine, ChaseLine
from heliograph.core.look.setting import Chosen, chosen_among, numbers_of, set_of
from heliograph.core.patch.places import channel_positions
from heliograph.core.profiles.attributes import DEGREES
from heliograph.core.profiles.channel import HALF_WAY, Channel
from heliograph.core.rig.arrays import Rig
from heliograph.power.settings import AnyTold, Settings, Told, ToldMix
from heliograph.render.chases import ChaseFrames
from heliograph.render.driving import Now, clocks_of, driven, phase_of
from heliograph.render.mixing import Playing, Stack
from heliograph.render.painting import painted_lines

if TYPE_CHECKING:
    from heliograph.render.compiled_line import CompiledLine

Ints = npt.NDArray[np.int64]
Floats = npt.NDArray[np.float64]

TAKES = {"start": 1e-6, HALF_WAY: 0.5, "end": 1.0}
"""The weight from which a channel is set that cannot fade."""


@dataclass(frozen=True, slots=True, eq=False)
class Moved:
    """What a drive moves: rows (k,) of its line's settings, `span` (k,) what 1 of its unit is there, and the driver."""

    rows: Ints
    span: Floats
    driver: Driver


@dataclass(frozen=True, slots=True, eq=False)
class Ready:
    """A line that sets attributes, ready for its fixtures: `members` of `rig`, see `chosen_among`; `heads`: how many
    are chosen."""

    settings: Settings
    moved: tuple[Moved, ...]
    rig: Rig
    members: tuple[str, ...]
    heads: int = 0

    def again(self, line: AttributeLine) -> Ready:
        """For the same fixtures, what another line says of them."""
        return ready_for(line, self.rig, self.members)


def ready_for(line: AttributeLine, rig: Rig, members: tuple[str, ...]) -> Ready:
    """The line's rows for the fixtures there are. A drive of an attribute that is not set moves it about its rest."""
    modes = {name: one.mode for name, one in rig.fixtures.items() if one.placed}
    chosen = chosen_among(modes, members, line.emitter)
    values = [*line.values, Values(line.params)]
    held = set_of(chosen, values)
    moved = [name.removeprefix(PARAMS) for name in line.drives if name.startswith(PARAMS)]
    for attribute in moved:
        for one in chosen:
            mode = channels_of(one.mode)
            for number, part in numbers_of(mode, attribute, one.numbers):
                if not part and (one.id, number) not in held:
                    held.update(_at_home(mode, one.id, number))
    rows = _Rows(rig)
    for (name, number), byte in held.items():
        rows.add(name, number, byte, held)
    driven_rows = tuple(_moved(line, one, rows, chosen) for one in moved)
    return Ready(rows.settings(), driven_rows, rig, members, len(chosen))


def frames_ready(
    line: ChaseLine, sets: Sequence[Mapping[str, str]], rig: Rig, members: tuple[str, ...]
) -> tuple[Ready | None, ...]:
    """What each frame of a chase sets, ready for the fixtures it is over; () where none sets anything."""
    if not any(sets):
        return ()
    return tuple(
        ready_for(AttributeLine(id=line.id, matrix=line.matrix, params=one), rig, members) if one else None
        for one in sets
    )


def _at_home(mode: ModeChannels, name: str, number: int) -> dict[tuple[str, int], int]:
    """A channel's rest as bytes on the wire; of what turns both ways the middle is meant by its profile."""
    found = {}
    for channel in (number, mode.fine_of.get(number, 0)):
        if channel:
            one = mode.channels[channel - 1]
            found[name, channel] = one.home ^ (255 if one.invert else 0)
    return found


class _Rows:
    """Collects rows; a fine channel goes with its coarse one."""

    def __init__(self, rig: Rig) -> None:
        self._rig = rig
        self._place = {name: n for n, name in enumerate(rig.fixtures)}
        self._positions: dict[str, Ints] = {}
        self.of: dict[tuple[str, int], int] = {}
        self.rows: list[tuple[int, int, float, bool, float, int]] = []
        self.emitting: list[int] = []
        self.lit: list[int] = []
        self.dimming: list[tuple[DimmerDrive, int]] = []

    def add(self, name: str, number: int, byte: int, held: Mapping[tuple[str, int], int]) -> None:
        fixture = self._rig.fixtures[name]
        mode = channels_of(fixture.mode)
        coarse = mode.coarse_of.get(number)
        if coarse is not None and (name, coarse) in held:
            return
        channel, fine = mode.channels[number - 1], mode.fine_of.get(number, 0)
        positions = self._positions.get(name)
        if positions is None:
            positions = self._positions[name] = channel_positions(fixture.placed)
        at = int(positions[number - 1])
        if at < 0:
            return
        low = int(positions[fine - 1]) if fine and (name, fine) in held else -1
        turned = channel.invert
        value = float(byte ^ (255 if turned else 0))
        if low >= 0:
            value = value * 256.0 + (held[name, fine] ^ (255 if turned else 0))  # a pair is turned as one: see hand
        row = len(self.rows)
        self.of[name, number] = row
        self.rows.append((at, low, value, turned, _takes(channel), self._place[name]))
        if channel.attribute in INTENSITIES and not channel.fine:
            self.dimming.append((DimmerDrive(channel.ranges, low >= 0), row))
        elif channel.is_emitter:
            (self.lit if mode.has_dimmer else self.emitting).append(row)

    def settings(self) -> Settings:
        columns = list(zip(*self.rows, strict=True)) or [()] * 6
        whole = np.int64
        return Settings(
            np.array(columns[0], dtype=whole),
            np.array(columns[1], dtype=whole),
            np.array(columns[2], dtype=np.float64),
            np.array(columns[3], dtype=np.bool_),
            np.array(columns[4], dtype=np.float32),
            np.array(columns[5], dtype=whole),
            np.array(self.emitting, dtype=whole),
            np.array(self.lit, dtype=whole),
            tuple(self.dimming),
        )


def _takes(channel: Channel) -> float:
    return TAKES.get(channel.in_fade, -1.0)


def _moved(line: AttributeLine, attribute: str, rows: _Rows, chosen: list[Chosen]) -> Moved:
    """One head after another is that much later, in the order in which they are chosen."""
    found: list[int] = []
    spans: list[float] = []
    heads: list[int] = []
    for head, one in enumerate(chosen):
        mode = channels_of(one.mode)
        for number, _ in numbers_of(mode, attribute, one.numbers):
            row = rows.of.get((one.id, number))
            if row is None:
                continue
            found.append(row)
            heads.append(head)
            spans.append(_span(mode.channels[number - 1], attribute, rows.rows[row][1] >= 0))
    drive = line.drives[PARAMS + attribute]
    along = np.array(heads, dtype=np.float32) / np.float32(max(len(chosen) - 1, 1))
    if drive.alternate:
        spans = [-span if head % 2 else span for span, head in zip(spans, heads, strict=True)]
    driver = Driver(drive, along if drive.over else None)
    return Moved(np.array(found, dtype=np.int64), np.array(spans, dtype=np.float64), driver)


def _span(channel: Channel, attribute: str, wide: bool) -> float:
    """What one degree (or percent) is in steps of the channel; where the profile has no degrees, one is a percent."""
    most = 65_535.0 if wide else 255.0
    if attribute in DEGREES and channel.physical:
        low, high = channel.physical
        return most / ((high - low) or 1.0)
    return most / 100.0


Groups = Mapping[str, Ints]
"""Places of the fixtures of each group."""


def told_of(stack: Stack, now: Now, groups: Groups = MappingProxyType({}), rig: Rig | None = None) -> list[AnyTold]:
    """What everything that plays sets at a moment, in the order in which it lies over one another."""
    found: list[AnyTold] = []
    for one in stack:
        if isinstance(one, Playing):
            found.extend(_told(one, now, groups, rig))
            continue
        cues = [
            (cue.weight, [said for each in cue.playing for said in _told(each, now, groups, rig)]) for cue in one.cues
        ]
        if one.level > 0.0 and any(said for _, said in cues):
            found.append(ToldMix(cues, one.level, one.list))
    return found


def _told(playing: Playing, now: Now, groups: Groups, rig: Rig | None) -> Iterator[AnyTold]:
    lines, run, level, _, group, home, among = playing
    if level <= 0.0:
        return
    for stored in painted_lines(lines):
        if stored.frames:
            yield from _told_by_frames(stored, playing, now, groups)
            continue
        ready = stored.ready
        if ready is None or not ready.settings.values.size:
            continue
        one = driven(stored, run, now)
        weight = level * one.opacity
        if weight > 0.0:
            values = values_at(ready, clocks_of(one, run, now)) if ready.moved else ready.settings.values
            settings = ready.settings
            if group:
                settings, rows = _part_of(settings, group, groups.get(group))
                values = values[rows]
            if rig is not None and (home or among is not None):
                settings, rows = _part_of(settings, (home, among), _places(rig, home, among), among is not None)
                values = values[rows]
            yield Told(settings, values, weight, run.look, one.line.id)


def _told_by_frames(stored: CompiledLine, playing: Playing, now: Now, groups: Groups) -> Iterator[AnyTold]:
    """What the frames of a chase set: the one that shows by its share over the one before it."""
    one = driven(stored, playing.run, now)
    phase = phase_of(one, playing.run, now)
    if phase is None or not isinstance(one.clip, ChaseFrames) or not isinstance(one.line, ChaseLine):
        return
    shown = one.clip.shown(one.line, phase, one.cycle is None)
    weight = playing.level * one.opacity
    if shown is None or weight <= 0.0:
        return

    def said(frame: int | None, by: float = 1.0) -> list[Told]:
        ready = stored.frames[frame] if frame is not None else None
        if ready is None or not ready.settings.values.size:
            return []
        settings, values = ready.settings, ready.settings.values
        if playing.group:
            settings, rows = _part_of(settings, playing.group, groups.get(playing.group))
            values = values[rows]
        return [Told(settings, values, by, playing.run.look, one.line.id)]

    if shown.before == shown.frame:
        yield from said(shown.frame, weight)
        return
    before = 0.0 if shown.before is None else 1.0 - shown.share
    cues = [(before, said(shown.before)), (shown.share, said(shown.frame))]
    if any(told for _, told in cues):
        yield ToldMix(cues, weight)


_parts: dict[tuple[int, Hashable], tuple[Settings, bytes, Settings, Ints]] = {}
PARTS_KEPT = 256


def _part_of(settings: Settings, named: Hashable, fixtures: Ints | None, unlit: bool = False) -> tuple[Settings, Ints]:
    """The rows of settings that are of some fixtures (places of the rig; None for all): those, and which they are.
    `named`: what they are remembered by. `unlit`: none of those that make light."""
    mark = b"all" if fixtures is None else fixtures.tobytes()
    known = _parts.get((id(settings), named))
    if known is not None and known[0] is settings and known[1] == mark:
        return known[2], known[3]
    if len(_parts) >= PARTS_KEPT:
        _parts.clear()
    everything = np.arange(settings.values.size, dtype=np.int64)
    rows = everything if fixtures is None else np.flatnonzero(np.isin(settings.fixture, fixtures))
    if unlit:
        light = [settings.emitting, settings.lit, np.array([row for _, row in settings.dimming], dtype=np.int64)]
        rows = rows[~np.isin(rows, np.concatenate(light))]
    part = settings.of(rows)
    _parts[id(settings), named] = settings, mark, part, rows
    return part, rows


def _places(rig: Rig, home: frozenset[str], among: frozenset[str] | None) -> Ints:
    """Places of fixtures that are not at `home`, and are `among` those where some are named."""
    return np.array(
        [place for place, name in enumerate(rig.fixtures) if name not in home and (among is None or name in among)],
        dtype=np.int64,
    )


def values_at(ready: Ready, clocks: Clocks) -> Floats:
    """(n,) the values of a line's rows with what its drives add, within what each channel has."""
    settings = ready.settings
    values: Floats = settings.values.copy()
    for one in ready.moved:
        if not one.driver.arrives:
            added = one.driver.between(clocks) if one.driver.over else one.driver.value(clocks)
            values[one.rows] += added * one.span
    return np.clip(values, 0.0, settings.most, out=values)
