"""Where each channel's value comes from: laid out off the frame path, once for a rig and its outputs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import DimmerDrive, dimmer_values
from heliograph.core.colour.extraction import UV
from heliograph.core.hand.values import INTENSITIES
from heliograph.core.indexes import Index, as_slice
from heliograph.core.lasers.guarding import sharing
from heliograph.core.lasers.hanging import sent_twice
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.profiles.channel import Channel, fine_pairs
from heliograph.core.profiles.profile import Block
from heliograph.core.rig.arrays import Rig
from heliograph.core.rig.cells import ColourGroup

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
class Beside:
    """Cells (k,) with an emitter that no colour drives, where its values go, and what stands there by itself: `home`
    (k,). A fine channel of it stays at home."""

    plane: int
    cells: Ints
    span: slice
    home: Bytes


@dataclass(frozen=True, slots=True)
class Emission:
    """`source` (U*512,) says for each channel which of `size` values it takes: index 0 is zero, then all reds,
    all greens, all blues, extra emitters, dimmers (coarse, then fine), and from `constants_at` on 0..255.

    `virtual` (N,): cells without a real dimmer. `floor_*`: channels for which 0 would mean something else than
    dark, and their least value. `inverted`: channels that carry 255 less the value. `guard_*`: what the guard
    forces, spans by fixture; `guard_shared`: guarded fixtures on one another's channels. `muted` (U,): universes whose
    outputs are all muted. `dark` (U, 512): nothing lit, homes kept, guarded fixtures safe. `black_*`: every channel
    that makes light, or is nobody's, and what it carries when it makes none. `twice_*`: channels of other
    universes that come to where guarded fixtures hang, and the safe values they always have.
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
    black_at: Ints
    black_value: Bytes
    twice_at: Ints
    twice_value: Bytes
    beside: tuple[Beside, ...] = ()


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
    uv = np.flatnonzero(rig.emitters[:, UV] >= 0) if rig.cell_count else np.empty(0, dtype=np.int64)
    uv_span = slice(at, at + uv.size)
    at += uv.size
    dimmers_at, constants_at = at, at + 2 * dimmers.count
    source = np.zeros(universes.size * SLOTS, dtype=np.int64)
    floors: dict[int, int] = {}
    lights, others = np.zeros(source.size, dtype=bool), np.zeros(source.size, dtype=bool)
    unlit = np.zeros(source.size, dtype=np.uint8)
    guard = _homes_and_guard(rig, universes, source, constants_at, floors, (lights, others, unlit))
    black = lights | ~others
    flat = rig.rgb.T.reshape(-1)
    has = flat >= 0
    source[local(universes, flat[has])] = 1 + np.flatnonzero(has)
    for group in groups:
        cells = group.colour.cells
        for emitter, span in zip(group.colour.recipe.extras, group.extras, strict=True):
            _point(source, universes, rig.emitters[cells, emitter], span.start)
        for emitter, span in group.fines.items():
            _point(source, universes, rig.fines[cells, emitter], span.start)
    beside: tuple[Beside, ...] = ()
    if uv.size:
        places = local(universes, rig.emitters[uv, UV])
        beside = (Beside(UV, uv, uv_span, np.maximum(source[places] - constants_at, 0).astype(np.uint8)),)
        source[places] = uv_span.start + np.arange(uv.size)
    source[local(universes, dimmers.coarse)] = dimmers_at + np.arange(dimmers.count)
    fine = dimmers.fine >= 0
    source[local(universes, dimmers.fine[fine])] = dimmers_at + dimmers.count + np.flatnonzero(fine)
    virtual = np.asarray((dimmers.of_cell < 0).all(axis=1), dtype=bool)
    floor_at, floor_value = np.array(list(floors), dtype=np.int64), np.array(list(floors.values()), dtype=np.uint8)
    inverted = local(universes, rig.inverted)
    dark = np.maximum(source - constants_at, 0).astype(np.uint8)
    for one in beside:
        dark[local(universes, rig.emitters[one.cells, one.plane])] = one.home
    dark[floor_at] = np.maximum(dark[floor_at], floor_value)
    dark[inverted] ^= 255
    dark[guard[0]] = guard[1]
    twice = _sent_twice(rig, universes, outputs)
    dark[twice[0]] = twice[1]
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
        _muted(universes, outputs),
        dark.reshape(universes.size, SLOTS),
        np.flatnonzero(black),
        unlit[black],
        *twice,
        beside,
    )


def _sent_twice(rig: Rig, universes: Ints, outputs: Sequence[Mapping[str, Any]]) -> tuple[Ints, Bytes]:
    found = sent_twice(rig, outputs)
    at = local(universes, np.array(list(found), dtype=np.int64))
    return at, np.array([safe for _, safe in found.values()], dtype=np.uint8)


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
    source[local(universes, positions[there])] = begin + np.flatnonzero(there)


def _homes_and_guard(
    rig: Rig,
    universes: Ints,
    source: Ints,
    constants_at: int,
    floors: dict[int, int],
    black: tuple[npt.NDArray[np.bool_], npt.NDArray[np.bool_], Bytes],
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
            at = local(universes, placed.positions)
            source[at] = constants_at + values.homes
            black[0][at] |= values.lights
            black[1][at] |= ~values.lights
            black[2][at] = np.maximum(black[2][at], values.unlit)
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
    """Of each channel of a block: its home, its safe value, whether it makes light and what it carries then for dark;
    `floors`: (channel from 0, least value)."""

    homes: Ints
    safe: Bytes
    lights: npt.NDArray[np.bool_]
    unlit: Bytes
    floors: tuple[tuple[int, int], ...]


def _block_values(block: Block) -> _BlockValues:
    channels = (*block.shared, *(block.cell_channels * block.cell_count))
    unlit = [*unlit_values(block.shared), *(unlit_values(block.cell_channels) * block.cell_count)]
    return _BlockValues(
        np.array([0 if channel.alone else channel.home for channel in channels], dtype=np.int64),
        np.array([channel.safe or 0 for channel in channels], dtype=np.uint8),
        np.array([value is not None for value in unlit], dtype=bool),
        np.array([value or 0 for value in unlit], dtype=np.uint8),
        tuple((n, c.off) for n, c in enumerate(channels) if c.off and c.is_emitter),
    )


def unlit_values(run: Sequence[Channel]) -> list[int | None]:
    """What each channel of a run carries for dark; None for one that makes no light."""
    pairs = fine_pairs(run)
    coarse_of = {low: high for high, low in pairs.items()}
    found: list[int | None] = []
    for index, channel in enumerate(run):
        value = None
        if channel.attribute in INTENSITIES:
            coarse = coarse_of.get(index, index)
            drive = DimmerDrive(run[coarse].ranges, coarse in pairs)
            both = int(dimmer_values(drive, np.zeros(1, dtype=np.float32))[0])
            value = both & 255 if channel.fine else both >> 8
        elif channel.is_emitter:
            value = 0 if channel.fine or channel.alone else channel.off
        found.append(255 - value if value is not None and channel.invert else value)
    return found


def local(universes: Ints, positions: Ints) -> Ints:
    """Absolute positions -> places in the rendered universes in a row (all of which must be among them)."""
    return np.searchsorted(universes, positions // SLOTS + 1) * SLOTS + positions % SLOTS
