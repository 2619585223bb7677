"""From painted cells to channel values: masters, emitters, dimmers, response, and last the guard.

`plan_emission` lays out, off the frame path, where each channel's value comes from; `Emitter` fills the
universes of a frame from it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.core.by_hand import HandValues, with_parked
from heliograph.core.cells import ColourGroup
from heliograph.core.colour import Floats
from heliograph.core.dimming import dimmer_values
from heliograph.core.dmx import SLOTS
from heliograph.core.extraction import HUE, SATURATION, extract
from heliograph.core.guarding import LeftGuard, sharing, without_shared
from heliograph.core.indexes import Index, as_slice
from heliograph.core.parking import NOTHING_PARKED, Parked
from heliograph.core.playback import PlaybackState
from heliograph.core.profile import Block
from heliograph.core.response import respond
from heliograph.core.rig import Rig
from heliograph.core.walk_values import walk_values

Ints = npt.NDArray[np.int64]
Bytes = npt.NDArray[np.uint8]


@dataclass(frozen=True, slots=True)
class GroupPlan:
    """A group whose colour is not simply sent: its cells, where the values of its extra emitters go, and where the
    low bytes of the planes that have fine channels."""

    colour: ColourGroup
    cells: Index
    extras: tuple[slice, ...]
    fines: Mapping[int, slice]


@dataclass(frozen=True, slots=True)
class Emission:
    """`source` (U*512,) says for each channel which of `size` values it takes: index 0 is zero, then all reds,
    all greens, all blues, extra emitters, dimmers (coarse, then fine), and from `constants_at` on 0..255.

    `virtual` (N,): cells without a real dimmer. `floor_*`: channels for which 0 would mean something else than
    dark, and their least value. `inverted`: channels that carry 255 less the value. `guard_*`: what the guard
    forces, spans by fixture; `guard_shared`: guarded fixtures on one another's channels. `muted` (U,): universes whose
    outputs are all muted. `dark` (U, 512): nothing lit, homes kept, guarded fixtures safe.
    """

    universes: Ints
    source: Ints
    size: int
    groups: tuple[GroupPlan, ...]
    dimmers_at: int
    constants_at: int
    virtual: npt.NDArray[np.bool_]
    floor_at: Ints
    floor_value: Bytes
    inverted: Ints
    guard_at: Ints
    guard_value: Bytes
    guard_spans: Mapping[str, slice]
    guard_shared: Mapping[str, frozenset[str]]
    muted: npt.NDArray[np.bool_]
    dark: Bytes


def plan_emission(rig: Rig, outputs: Sequence[Mapping[str, Any]]) -> Emission:
    covered = [np.arange(o["first_universe"], o["first_universe"] + o["count"], dtype=np.int64) for o in outputs]
    universes = np.unique(np.concatenate([rig.universes, *covered]))
    dimmers = rig.dimmers
    groups: list[GroupPlan] = []
    at = 1 + rig.cell_count * 3
    for colour in rig.colours:
        if colour.is_identity:
            continue
        spans: list[slice] = []
        for _ in (*colour.recipe.extras, *colour.fine):
            spans.append(slice(at, at + colour.cells.size))
            at += colour.cells.size
        extra = len(colour.recipe.extras)
        fines = dict(zip(colour.fine, spans[extra:], strict=True))
        groups.append(GroupPlan(colour, as_slice(colour.cells), tuple(spans[:extra]), fines))
    dimmers_at, constants_at = at, at + 2 * dimmers.count
    source = np.zeros(universes.size * SLOTS, dtype=np.int64)
    floors: dict[int, int] = {}
    guard = _homes_and_guard(rig, universes, source, constants_at, floors)
    flat = rig.rgb.T.reshape(-1)
    has = flat >= 0
    source[_local(universes, flat[has])] = 1 + np.flatnonzero(has)
    for group in groups:
        cells = group.colour.cells
        for emitter, span in zip(group.colour.recipe.extras, group.extras, strict=True):
            _point(source, universes, rig.emitters[cells, emitter], span.start)
        for emitter, span in group.fines.items():
            _point(source, universes, rig.fines[cells, emitter], span.start)
    source[_local(universes, dimmers.coarse)] = dimmers_at + np.arange(dimmers.count)
    fine = dimmers.fine >= 0
    source[_local(universes, dimmers.fine[fine])] = dimmers_at + dimmers.count + np.flatnonzero(fine)
    virtual = np.asarray((dimmers.of_cell < 0).all(axis=1), dtype=bool)
    floor_at, floor_value = np.array(list(floors), dtype=np.int64), np.array(list(floors.values()), dtype=np.uint8)
    inverted = _local(universes, rig.inverted)
    dark = np.maximum(source - constants_at, 0).astype(np.uint8)
    dark[floor_at] = np.maximum(dark[floor_at], floor_value)
    dark[inverted] ^= 255
    dark[guard[0]] = guard[1]
    muted = _muted(universes, outputs)
    unlit = np.repeat(muted, SLOTS) & (source < constants_at)
    source[unlit] = 0
    return Emission(
        universes,
        source,
        constants_at + 256,
        tuple(groups),
        dimmers_at,
        constants_at,
        virtual,
        floor_at,
        floor_value,
        inverted,
        *guard,
        sharing(rig),
        muted,
        dark.reshape(universes.size, SLOTS),
    )


def _muted(universes: Ints, outputs: Sequence[Mapping[str, Any]]) -> npt.NDArray[np.bool_]:
    """(U,): sent by muted outputs only."""
    by_mute = {True: np.zeros(universes.size, dtype=np.bool_), False: np.zeros(universes.size, dtype=np.bool_)}
    for output in outputs:
        if output["on"]:
            first = int(output["first_universe"])
            low, high = np.searchsorted(universes, [first, first + int(output["count"])])
            by_mute[bool(output.get("mute"))][low:high] = True
    return by_mute[True] & ~by_mute[False]


def _point(source: Ints, universes: Ints, positions: Ints, begin: int) -> None:
    """Lets the channels at `positions` (-1: nowhere) take the values from `begin` on."""
    there = positions >= 0
    source[_local(universes, positions[there])] = begin + np.flatnonzero(there)


def _homes_and_guard(
    rig: Rig, universes: Ints, source: Ints, constants_at: int, floors: dict[int, int]
) -> tuple[Ints, Bytes, dict[str, slice]]:
    guard_at: list[Ints] = []
    guard_value: list[Bytes] = []
    spans: dict[str, slice] = {}
    known: dict[int, _BlockValues] = {}
    guarded = 0
    for fixture in rig.fixtures.values():
        before = guarded
        for placed in fixture.placed:
            if not placed.is_placed:
                continue
            values = known.get(id(placed.block)) or known.setdefault(id(placed.block), _block_values(placed.block))
            at = _local(universes, placed.positions)
            source[at] = constants_at + values.homes
            floors.update((int(at[n]), off) for n, off in values.floors)
            if fixture.guarded:
                guard_at.append(at)
                guard_value.append(values.safe)
                guarded += at.size
        if guarded > before:
            spans[fixture.id] = slice(before, guarded)
    where = np.concatenate(guard_at) if guard_at else np.empty(0, dtype=np.int64)
    return where, np.concatenate(guard_value) if guard_value else np.empty(0, dtype=np.uint8), spans


@dataclass(frozen=True, slots=True)
class _BlockValues:
    """Of each channel of a block: its home and its safe value; `floors`: (channel from 0, least value)."""

    homes: Ints
    safe: Bytes
    floors: tuple[tuple[int, int], ...]


def _block_values(block: Block) -> _BlockValues:
    channels = (*block.shared, *(block.cell_channels * block.cell_count))
    return _BlockValues(
        np.array([0 if channel.alone else channel.home for channel in channels], dtype=np.int64),
        np.array([channel.safe or 0 for channel in channels], dtype=np.uint8),
        tuple((n, c.off) for n, c in enumerate(channels) if c.off and c.is_emitter),
    )


def _local(universes: Ints, positions: Ints) -> Ints:
    """Absolute positions -> positions in the rendered universes (all of which must be among them)."""
    return np.searchsorted(universes, positions // SLOTS + 1) * SLOTS + positions % SLOTS


def fixture_levels(rig: Rig, groups: Mapping[str, Ints], state: PlaybackState) -> Floats:
    """(F,) the level of each fixture: grand master times the masters of all groups it is in; 0 in blackout."""
    levels = np.full(len(rig.fixtures), 0.0 if state.blackout else state.master, dtype=np.float32)
    for group, level in state.masters.items():
        if group in groups:
            levels[groups[group]] *= np.float32(level)
    return levels


class Emitter:
    """Fills the universes of one show; owns only buffers. `scaled` (3, N): after masters, what emitters get."""

    def __init__(
        self, rig: Rig, emission: Emission, groups: Mapping[str, Ints], parked: Parked = NOTHING_PARKED
    ) -> None:
        self.emission, self._rig, self._groups, self._parked = emission, rig, groups, parked
        steady = np.array(list(parked.steady), dtype=np.int64)
        steady_values = np.array(list(parked.steady.values()), dtype=np.uint8)
        self._steady = self._of_unmuted(HandValues(steady, steady_values))
        self.universes = np.zeros((emission.universes.size, SLOTS), dtype=np.uint8)
        self._scaled = np.zeros((3, rig.cell_count), dtype=np.float32)
        self._values = np.zeros(emission.size, dtype=np.uint8)
        self._values[emission.constants_at :] = np.arange(256, dtype=np.uint8)
        self._levels_of: tuple[Any, ...] = ()
        self._hand_of: tuple[Any, ...] = ()
        self._hand: tuple[Ints, Bytes] = (np.empty(0, dtype=np.int64), np.empty(0, dtype=np.uint8))
        self._walk_of: tuple[Any, ...] = ()
        self._walked: tuple[Ints, Bytes] = (np.empty(0, dtype=np.int64), np.empty(0, dtype=np.uint8))
        self._cell_levels: Floats | float = 1.0
        self._left_of: tuple[LeftGuard, ...] = ()
        self._left: tuple[Ints, Bytes] = (np.empty(0, dtype=np.int64), np.empty(0, dtype=np.uint8))

    def emit(self, pixels: Floats, state: PlaybackState) -> Bytes:
        """(U, 512) for painted `pixels` (3, N)."""
        self._set_levels(state)
        emission, scaled = self.emission, self._scaled
        alone = state.walk is not None and state.walk.alone
        if alone:
            scaled.fill(0.0)
        else:
            np.clip(pixels, 0.0, 1.0, out=scaled)
        if not isinstance(self._cell_levels, float):
            scaled *= self._cell_levels
        for group in emission.groups:
            rest, extras = extract(group.colour.recipe, scaled[:, group.cells])
            lit = respond(group.colour.response, rest)
            for plane in range(3):
                if plane in group.fines:
                    lit[plane] = self._split(lit[plane], group.fines[plane])
            scaled[:, group.cells] = lit
            for emitter, span, levels in zip(group.colour.recipe.extras, group.extras, extras, strict=True):
                if emitter not in (HUE, SATURATION):
                    levels = respond(group.colour.response, levels)
                if emitter in group.fines:
                    levels = self._split(levels, group.fines[emitter])
                self._values[span] = levels * np.float32(255.0) + np.float32(0.5)
        scaled *= np.float32(255.0 * (self._cell_levels if isinstance(self._cell_levels, float) else 1.0))
        scaled += np.float32(0.5)
        np.copyto(self._values[1 : 1 + scaled.size], scaled.reshape(-1), casting="unsafe")
        flat = self.universes.reshape(-1)
        np.take(self._values, emission.source, out=flat, mode="clip")
        if emission.floor_at.size:
            flat[emission.floor_at] = np.maximum(flat[emission.floor_at], emission.floor_value)
        if emission.inverted.size:
            flat[emission.inverted] ^= 255
        if not alone:
            self._by_hand(flat, state)
        elif self._parked.steady:
            flat[self._steady[0]] = self._steady[1]
        self._walk(flat, state)
        self.guard(flat, state)
        return self.universes

    def _split(self, levels: Floats, fine: slice) -> Floats:
        """Writes the low bytes of 16-bit values, and returns the levels that 8 bits make of the high ones."""
        wide = (levels * np.float32(65535.0) + np.float32(0.5)).astype(np.uint16)
        self._values[fine] = wide & 255
        return (wide >> 8).astype(np.float32) / np.float32(255.0)

    def _set_levels(self, state: PlaybackState) -> None:
        """Levels of cells and values of dimmers, made anew only when a master moved."""
        dark = state.blackout or (state.walk is not None and state.walk.alone)
        key = (state.master, dark, state.masters)
        if key == self._levels_of:
            return
        self._levels_of = key
        emission, dimmers = self.emission, self._rig.dimmers
        levels = fixture_levels(self._rig, self._groups, replace(state, blackout=dark))
        cells = levels[self._rig.fixture_of]
        if not emission.virtual.all():  # a real dimmer takes the level, its colours stay; blackout takes both
            cells = np.where(emission.virtual, cells, np.float32(0.0 if dark else 1.0))
        alike = emission.groups == () and (not cells.size or bool((cells == cells[0]).all()))
        self._cell_levels = float(cells[0]) if alike and cells.size else 1.0 if not cells.size else cells
        own = np.where(dimmers.inner, np.float32(0.0 if dark else 1.0), levels[dimmers.fixture])
        at = emission.dimmers_at
        for drive, which in dimmers.drives:
            values = dimmer_values(drive, own[which])
            self._values[at + which] = values >> 8
            self._values[at + dimmers.count + which] = values & 255

    def _by_hand(self, flat: Bytes, state: PlaybackState) -> None:
        """Highlight, manual, raw and parked values over what looks make; worked out anew only when one changed."""
        parked = self._parked
        if not (state.manual or state.raw or state.highlight or parked.values):
            return
        key = (state.manual, state.raw, state.highlight, state.master, state.masters, state.blackout)
        if key != self._hand_of:
            self._hand_of = key
            levels = fixture_levels(self._rig, self._groups, state)
            self._hand = self._of_unmuted(with_parked(self._rig, state, levels, parked.manual, parked.raw))
        at, values = self._hand
        flat[at] = values

    def _walk(self, flat: Bytes, state: PlaybackState) -> None:
        """What a test walk lights, over everything but the guard; worked out anew at each of its steps."""
        if state.walk is None:
            return
        key = (state.walk, state.blackout)
        if key != self._walk_of:
            self._walk_of = key
            self._walked = self._of_unmuted(walk_values(self._rig, state.walk, state.blackout))
        at, values = self._walked
        flat[at] = values

    def _of_unmuted(self, held: HandValues) -> tuple[Ints, Bytes]:
        """(positions in the universes, values) of what leaves: nothing is held in a muted universe."""
        universes = self.emission.universes
        there = np.isin(held.positions // SLOTS + 1, universes[~self.emission.muted])  # a parked one may have none
        return _local(universes, held.positions[there]), held.values[there]

    def guard(self, flat: Bytes, state: PlaybackState) -> None:
        """The last stage, above everything before it: safe values on every guarded fixture that is not armed, on all of
        them in blackout, and on addresses that one has left. `flat` (U*512,)."""
        emission = self.emission
        if state.left is not self._left_of:
            self._left_of = state.left
            pairs = [pair for one in state.left for pair in one.values]
            places = np.array([position for position, _ in pairs], dtype=np.int64)
            values = np.array([value for _, value in pairs], dtype=np.uint8)
            there = np.isin(places // SLOTS + 1, emission.universes)
            self._left = _local(emission.universes, places[there]), values[there]
        at, safe = self._left
        flat[at] = safe
        if not emission.guard_at.size:
            return
        if state.blackout or not state.armed:
            flat[emission.guard_at] = emission.guard_value
            return
        emitting = without_shared(state.armed, emission.guard_shared)
        for fixture, span in emission.guard_spans.items():
            if fixture not in emitting:
                flat[emission.guard_at[span]] = emission.guard_value[span]
