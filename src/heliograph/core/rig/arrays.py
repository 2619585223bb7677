"""The rig as arrays: every cell of every fixture, where its channels lie, and who owns a channel.

Built from the show's `rig` section by the engine (to send) and by the web process (to decode what was sent).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.extraction import EMITTER_ATTRIBUTES, ExtraUse
from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import packed_array
from heliograph.core.patch.blocks import Places, places_of
from heliograph.core.patch.dmx import SLOTS, Address
from heliograph.core.patch.places import PlacedBlock, place_mode
from heliograph.core.profiles.channel import Channel
from heliograph.core.profiles.profile import Mode, mode_from_json
from heliograph.core.rig.cells import BlockPlan, CellSorter, ColourGroup, Dimmers, block_plans, driven_columns

Ints = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class RigFixture:
    """A fixture with its mode; `first_cell` is the index of its first cell in the rig's arrays."""

    id: str
    number: int
    name: str
    mode: Mode
    guarded: bool
    address: Address | None
    first_cell: int
    placed: tuple[PlacedBlock, ...]
    places: Places = ()


@dataclass(frozen=True, slots=True)
class Rig:
    """`emitters`, `fines` (N, planes) int64: absolute positions of what carries each cell's colour (planes of
    `extraction`) and of the fine channels, -1 where it has none. `fixture_of` (N,): each cell's fixture, as its
    place in `fixtures`.

    `colours`: the cells by how they make colour. `universes` (U,) int64: the show universes that carry a
    channel, sorted. `inverted`: positions of channels whose values are inverted on the wire, sorted.
    """

    fixtures: Mapping[str, RigFixture]
    emitters: Ints
    fines: Ints
    fixture_of: Ints
    colours: tuple[ColourGroup, ...]
    dimmers: Dimmers
    universes: Ints
    inverted: Ints

    @property
    def cell_count(self) -> int:
        return int(self.emitters.shape[0])

    @property
    def rgb(self) -> Ints:
        """(N, 3): the positions of red, green and blue."""
        return self.emitters[:, :3]


@dataclass(frozen=True, slots=True)
class Owner:
    """Who owns a channel. `cell` is "" for a shared one; `label` is the emitter or attribute."""

    fixture: RigFixture
    cell: str
    channel: Channel

    @property
    def label(self) -> str:
        return self.channel.label

    @property
    def written(self) -> str:
        """`405:5` for a cell, `405:0` for the shared part."""
        return f"{self.fixture.number}:{self.cell or 0}"


def build_rig(section: Mapping[str, Any]) -> Rig:
    """Builds the arrays from {"modes": {hash: {mode, guarded}}, "fixtures": [...]}.

    A fixture may say how it uses extra emitters (`extra`), its `response` and where its `blocks` lie; else
    replace, as is, and as its mode says.
    """
    modes = {key: (mode_from_json(value["mode"]), bool(value["guarded"])) for key, value in section["modes"].items()}
    columns = {key: _ModeColumns(mode) for key, (mode, _) in modes.items()}
    plans: dict[tuple[str, str], tuple[BlockPlan, ...]] = {}
    fixtures: dict[str, RigFixture] = {}
    emitters: list[Ints] = []
    fines: list[Ints] = []
    seen: set[int] = set()
    inverted: list[Ints] = []
    sorter = CellSorter()
    counts: list[int] = []
    first = 0
    for data in section["fixtures"]:
        mode, guarded = modes[data["mode"]]
        address = Address(data["universe"], data["channel"]) if data.get("universe") else None
        places = places_of(mode, data.get("blocks") or ())
        try:
            placed = place_mode(mode, address, places)
        except InputError:  # a mode that grew past its universe: unplaced, the patch doctor names it
            placed, address = (), None
        if not any(one.is_placed for one in placed):
            placed = ()
        fixtures[data["id"]] = RigFixture(
            data["id"], data["number"], data["name"], mode, guarded, address, first, placed, places
        )
        coarse, fine = columns[data["mode"]].positions(placed)
        emitters.append(coarse)
        fines.append(fine)
        inverted.extend(columns[data["mode"]].inverted(placed))
        extra: ExtraUse = data.get("extra") or "replace"
        if (data["mode"], extra) not in plans:
            plans[data["mode"], extra] = block_plans(mode, extra)
        sorter.add(len(counts), plans[data["mode"], extra], placed, data.get("response") or "as is")
        counts.append(mode.cell_count)
        for one in placed:
            if one.is_placed:
                seen.update(range(one.first // SLOTS + 1, (one.end - 1) // SLOTS + 2))
        first += mode.cell_count
    nothing = np.empty((0, len(EMITTER_ATTRIBUTES)), dtype=np.int64)
    return Rig(
        fixtures,
        np.concatenate(emitters) if emitters else nothing,
        np.concatenate(fines) if fines else nothing,
        np.repeat(np.arange(len(counts), dtype=np.int64), counts),
        sorter.groups(),
        sorter.dimmers(),
        np.array(sorted(seen), dtype=np.int64),
        np.unique(np.concatenate(inverted)) if inverted else np.empty(0, dtype=np.int64),
    )


class _ModeColumns:
    """What of a mode's channels carries colour, worked out once for all its fixtures."""

    def __init__(self, mode: Mode) -> None:
        self._driven = [driven_columns(block.cell_channels) for block in mode.blocks]
        self._count = mode.cell_count
        self._inverts = any(c.invert for block in mode.blocks for c in (*block.shared, *block.cell_channels))

    def positions(self, placed: tuple[PlacedBlock, ...]) -> tuple[Ints, Ints]:
        """(cells, planes) of coarse and of fine channels."""
        coarse = np.full((self._count, len(EMITTER_ATTRIBUTES)), -1, dtype=np.int64)
        fine = coarse.copy()
        row = 0
        for one, driven in zip(placed, self._driven, strict=False):
            rows = slice(row, row + one.block.cell_count)
            row = rows.stop
            for plane, (column, low) in driven.items():
                coarse[rows, plane] = one.cells[:, column]
                if low >= 0:
                    fine[rows, plane] = one.cells[:, low]
        return coarse, fine

    def inverted(self, placed: tuple[PlacedBlock, ...]) -> list[Ints]:
        if not self._inverts:
            return []
        found = []
        for one in placed:
            if one.is_placed:
                found.append(one.shared[[c.invert for c in one.block.shared]] if len(one.shared) else one.shared)
                turned = [n for n, c in enumerate(one.block.cell_channels) if c.invert]
                found.append(one.cells[:, turned].reshape(-1))
        return found


@dataclass(frozen=True, slots=True)
class PlacedCells:
    """A matrix's placements that exist in the rig, in address order (the strand).

    `cell` (n,) indexes the rig's cells; `x`, `y` (n,) float32 are the left and top edges of what they cover, `w`, `h`
    its size, in squares.
    """

    cell: Ints
    x: npt.NDArray[np.float32]
    y: npt.NDArray[np.float32]
    w: npt.NDArray[np.float32]
    h: npt.NDArray[np.float32]


def placed_cells(rig: Rig, packed: Mapping[str, Any]) -> PlacedCells:
    """Resolves packed placements; those whose fixture or cell is gone are left out."""
    array = packed_array(packed)
    known = [rig.fixtures.get(name) for name in packed["fixtures"]]
    first = np.array([f.first_cell if f else -1 for f in known] or [0], dtype=np.int64)
    count = np.array([f.mode.cell_count if f else 0 for f in known] or [0], dtype=np.int64)
    local = np.array([int(name) - 1 if name.isdigit() else -1 for name in packed["cells"]] or [0], dtype=np.int64)
    fixture = array[:, 0].astype(np.int64)
    name = local[array[:, 1].astype(np.int64)]
    good = (name >= 0) & (name < count[fixture])
    cell = first[fixture[good]] + name[good]
    where = rig.emitters[cell].astype(np.uint64).min(axis=1, initial=np.iinfo(np.uint64).max)
    order = np.lexsort((cell, where))
    x, y, w, h = (np.ascontiguousarray(array[good, column][order]) for column in range(2, 6))
    return PlacedCells(cell[order], x, y, w, h)


def owners_of(rig: Rig, universe: int) -> dict[int, list[Owner]]:
    """Channel 1..512 -> who owns it; two or more where fixtures overlap."""
    low, high = (universe - 1) * SLOTS, universe * SLOTS
    found: dict[int, list[Owner]] = {}
    for fixture in rig.fixtures.values():
        cell_number = 0
        for placed in fixture.placed:
            if not placed.is_placed:
                cell_number += placed.block.cell_count
                continue
            for position, channel in zip(placed.shared.tolist(), placed.block.shared, strict=True):
                if low <= position < high:
                    found.setdefault(position - low + 1, []).append(Owner(fixture, "", channel))
            if placed.cells.size and not (placed.cells.max() < low or placed.cells.min() >= high):
                for row, positions in enumerate(placed.cells.tolist(), start=cell_number + 1):
                    for position, channel in zip(positions, placed.block.cell_channels, strict=True):
                        if low <= position < high:
                            found.setdefault(position - low + 1, []).append(Owner(fixture, str(row), channel))
            cell_number += placed.block.cell_count
    return found
