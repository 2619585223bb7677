"""The rig's cells by how they make colour, and the real dimmers above them. Arrays only; see `rig.py`."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from heliograph.core.dimming import DimmerDrive
from heliograph.core.extraction import EMITTER_ATTRIBUTES, ExtraUse, Recipe
from heliograph.core.patch import PlacedBlock
from heliograph.core.profile import DIMMER, Channel, Mode
from heliograph.core.response import Response

Ints = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class ColourGroup:
    """Cells (n,) that make colour in the same way."""

    recipe: Recipe
    response: Response
    cells: Ints

    @property
    def is_identity(self) -> bool:
        """The colour asked for is the value sent."""
        return self.recipe.is_plain and self.response == "as is"


@dataclass(frozen=True, slots=True)
class Dimmers:
    """Real dimmers above cells: `coarse`, `fine` (d,) absolute positions (fine -1 where there is none),
    `fixture` (d,) the fixture's place in the rig, `inner` (d,) one that dims below another and stays open.

    `drives`: each kind of dimmer with the indexes (k,) of those it drives. `of_cell` (N, 2): indexes of
    the cell's own and its fixture's dimmer, -1 where there is none.
    """

    coarse: Ints
    fine: Ints
    fixture: Ints
    inner: npt.NDArray[np.bool_]
    drives: tuple[tuple[DimmerDrive, Ints], ...]
    of_cell: Ints

    @property
    def count(self) -> int:
        return int(self.coarse.size)


@dataclass(slots=True)
class CellSorter:
    """Collects fixtures one by one, in the order of their cells."""

    _groups: dict[tuple[Recipe, Response], list[Ints]] = field(default_factory=dict)
    _rows: list[tuple[int, int, int, bool, DimmerDrive]] = field(default_factory=list)
    _of_cell: list[Ints] = field(default_factory=list)
    _cells: int = 0

    def add(
        self, fixture: int, mode: Mode, placed: tuple[PlacedBlock, ...], extra: ExtraUse, response: Response
    ) -> None:
        first = self._cells
        shared = [self._shared(fixture, place) for place in placed]
        base = next((index for index in shared if index >= 0), -1)
        used = False
        for number, block in enumerate(mode.blocks):
            recipe = recipe_of(block.cell_channels, extra)
            cells = first + np.arange(block.cell_count, dtype=np.int64)
            self._groups.setdefault((recipe, response), []).append(cells)
            above = (shared[number] if shared[number] >= 0 else base) if placed else -1
            used = used or (above >= 0 and block.cell_count > 0)
            own = self._own(fixture, placed[number], above >= 0) if placed else None
            columns = np.full((block.cell_count, 2), -1, dtype=np.int64)
            if own is not None:
                columns[:, 0] = own
            columns[:, 1] = above
            self._of_cell.append(columns)
            first += block.cell_count
        self._cells = first
        if not used:  # a dimmer above no cell is not the pixels' to open
            del self._rows[len(self._rows) - sum(index >= 0 for index in shared) :]

    def _shared(self, fixture: int, place: PlacedBlock) -> int:
        at = _dimmer_columns(place.block.shared)
        if at is None:
            return -1
        channel = place.block.shared[at[0]]
        fine = int(place.shared[at[1]]) if at[1] >= 0 else -1
        self._rows.append((int(place.shared[at[0]]), fine, fixture, False, DimmerDrive(channel.ranges, fine >= 0)))
        return len(self._rows) - 1

    def _own(self, fixture: int, place: PlacedBlock, inner: bool) -> Ints | None:
        at = _dimmer_columns(place.block.cell_channels)
        if at is None or not place.block.cell_count:
            return None
        drive = DimmerDrive(place.block.cell_channels[at[0]].ranges, at[1] >= 0)
        begun = len(self._rows)
        for row in place.cells.tolist():
            self._rows.append((row[at[0]], row[at[1]] if at[1] >= 0 else -1, fixture, inner, drive))
        return np.arange(begun, len(self._rows), dtype=np.int64)

    def groups(self) -> tuple[ColourGroup, ...]:
        return tuple(
            ColourGroup(recipe, response, np.concatenate(parts))
            for (recipe, response), parts in self._groups.items()
            if sum(part.size for part in parts)
        )

    def dimmers(self) -> Dimmers:
        kinds = list(dict.fromkeys(row[4] for row in self._rows))
        which = np.array([kinds.index(row[4]) for row in self._rows], dtype=np.int64)
        coarse, fine, fixture = (np.array([row[n] for row in self._rows], dtype=np.int64) for n in range(3))
        return Dimmers(
            coarse,
            fine,
            fixture,
            np.array([row[3] for row in self._rows], dtype=bool),
            tuple((kind, np.flatnonzero(which == n)) for n, kind in enumerate(kinds)),
            np.concatenate(self._of_cell) if self._of_cell else np.empty((0, 2), dtype=np.int64),
        )


def recipe_of(channels: Sequence[Channel], extra: ExtraUse) -> Recipe:
    """How a cell with these channels makes a colour; the use of extra emitters counts only where there are some."""
    attributes = [channel.attribute for channel in channels]
    emitters = tuple(n for n, attribute in enumerate(EMITTER_ATTRIBUTES) if attribute in attributes)
    kelvin = next((c.kelvin for c in channels if c.attribute == "ColorAdd_W"), 6500)
    recipe = Recipe(emitters, extra, kelvin)
    return recipe if recipe.extras and not recipe.is_white_only else Recipe(emitters)


def _dimmer_columns(channels: Sequence[Channel]) -> tuple[int, int] | None:
    """Columns of the first dimmer and its fine channel (-1 where there is none)."""
    coarse = next((n for n, c in enumerate(channels) if c.attribute == DIMMER and not c.fine), None)
    if coarse is None:
        return None
    fine = next((n for n, c in enumerate(channels) if c.attribute == DIMMER and c.fine and n > coarse), -1)
    return coarse, fine
