"""The rig as arrays: every cell of every fixture, where its channels lie, and who owns a channel.

Built from the show's `rig` section by the engine (to send) and by the web process (to decode what was sent).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.core.cells import CellSorter, ColourGroup, Dimmers
from heliograph.core.dmx import SLOTS, Address
from heliograph.core.errors import InputError
from heliograph.core.extraction import EMITTER_ATTRIBUTES
from heliograph.core.matrix import packed_array
from heliograph.core.patch import PlacedBlock, place_mode
from heliograph.core.profile import EMITTERS, Channel, Mode, mode_from_json

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


@dataclass(frozen=True, slots=True)
class Rig:
    """`emitters` (N, 6) int64: absolute positions of each cell's emitters (planes of `extraction`), -1 where
    it has none. `fixture_of` (N,): each cell's fixture, as its place in `fixtures`.

    `colours`: the cells by how they make colour. `universes` (U,) int64: the show universes that carry a
    channel, sorted.
    """

    fixtures: Mapping[str, RigFixture]
    emitters: Ints
    fixture_of: Ints
    colours: tuple[ColourGroup, ...]
    dimmers: Dimmers
    universes: Ints

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
        return EMITTERS.get(self.channel.attribute, self.channel.attribute)

    @property
    def written(self) -> str:
        """`301:5` for a cell, `301:0` for the shared part."""
        return f"{self.fixture.number}:{self.cell or 0}"


def build_rig(section: Mapping[str, Any]) -> Rig:
    """Builds the arrays from {"modes": {hash: {mode, guarded}}, "fixtures": [...]}.

    A fixture may say how it uses extra emitters (`extra`) and its `response`; else replace, and as is.
    """
    modes = {key: (mode_from_json(value["mode"]), bool(value["guarded"])) for key, value in section["modes"].items()}
    fixtures: dict[str, RigFixture] = {}
    emitters: list[Ints] = []
    seen: list[Ints] = []
    sorter = CellSorter()
    counts: list[int] = []
    first = 0
    for data in section["fixtures"]:
        mode, guarded = modes[data["mode"]]
        address = Address(data["universe"], data["channel"]) if data.get("universe") else None
        placed: tuple[PlacedBlock, ...] = ()
        if address is not None:
            try:
                placed = place_mode(mode, address)
            except InputError:  # a mode that grew past its universe: unplaced, the patch doctor names it
                address = None
        fixtures[data["id"]] = RigFixture(
            data["id"], data["number"], data["name"], mode, guarded, address, first, placed
        )
        emitters.append(_cell_positions(mode, placed))
        sorter.add(len(counts), mode, placed, data.get("extra") or "replace", data.get("response") or "as is")
        counts.append(mode.cell_count)
        seen.extend(np.unique(one.positions // SLOTS) + 1 for one in placed)
        first += mode.cell_count
    return Rig(
        fixtures,
        np.concatenate(emitters) if emitters else np.empty((0, len(EMITTER_ATTRIBUTES)), dtype=np.int64),
        np.repeat(np.arange(len(counts), dtype=np.int64), counts),
        sorter.groups(),
        sorter.dimmers(),
        np.unique(np.concatenate(seen)) if seen else np.empty(0, dtype=np.int64),
    )


def _cell_positions(mode: Mode, placed: tuple[PlacedBlock, ...]) -> Ints:
    parts = []
    for index, block in enumerate(mode.blocks):
        columns = [channel.attribute for channel in block.cell_channels]
        part = np.full((block.cell_count, len(EMITTER_ATTRIBUTES)), -1, dtype=np.int64)
        for target, attribute in enumerate(EMITTER_ATTRIBUTES):
            if placed and attribute in columns:
                part[:, target] = placed[index].cells[:, columns.index(attribute)]
        parts.append(part)
    return np.concatenate(parts) if parts else np.empty((0, len(EMITTER_ATTRIBUTES)), dtype=np.int64)


@dataclass(frozen=True, slots=True)
class PlacedCells:
    """A matrix's placements that exist in the rig, in address order (the strand).

    `cell` (n,) indexes the rig's cells; `x`, `y` (n,) float32 are the squares' left and top edges.
    """

    cell: Ints
    x: npt.NDArray[np.float32]
    y: npt.NDArray[np.float32]


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
    x, y = array[good, 2], array[good, 3]
    where = rig.emitters[cell].astype(np.uint64).min(axis=1, initial=np.iinfo(np.uint64).max)
    order = np.lexsort((cell, where))
    return PlacedCells(cell[order], np.ascontiguousarray(x[order]), np.ascontiguousarray(y[order]))


def owners_of(rig: Rig, universe: int) -> dict[int, list[Owner]]:
    """Channel 1..512 -> who owns it; two or more where fixtures overlap."""
    low, high = (universe - 1) * SLOTS, universe * SLOTS
    found: dict[int, list[Owner]] = {}
    for fixture in rig.fixtures.values():
        cell_number = 0
        for placed in fixture.placed:
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
