"""The rig's cells by how they make colour, and the real dimmers above them. Arrays only; see `rig.py`."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.dimming import DimmerDrive
from heliograph.core.colour.extraction import EMITTER_ATTRIBUTES, INTENSITY, ExtraUse, Recipe
from heliograph.core.colour.response import Response
from heliograph.core.patch.places import PlacedBlock
from heliograph.core.profiles.attributes import BRIGHTNESS, DIMMER, HUE
from heliograph.core.profiles.channel import Channel, fine_pairs
from heliograph.core.profiles.profile import Mode

Ints = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class ColourGroup:
    """Cells (n,) that make colour in the same way. `fine`: the planes that have fine channels."""

    recipe: Recipe
    response: Response
    cells: Ints
    fine: tuple[int, ...] = ()

    @property
    def is_identity(self) -> bool:
        """The colour asked for is the value sent."""
        return self.recipe.is_plain and self.response == "as is" and not self.fine


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


Dimmer = tuple[DimmerDrive, int, int]
"""How a dimmer is driven, and the columns of its coarse and its fine channel (-1 where there is none)."""


@dataclass(frozen=True, slots=True)
class BlockPlan:
    """What of a block makes colour, worked out once for all fixtures of its mode."""

    cell_count: int
    recipe: Recipe
    fine: tuple[int, ...]
    shared_dimmer: Dimmer | None
    own_dimmer: Dimmer | None


def block_plans(mode: Mode, extra: ExtraUse) -> tuple[BlockPlan, ...]:
    """The plans of a mode's blocks for one use of extra emitters."""
    plans = []
    for block in mode.blocks:
        driven = driven_columns(block.cell_channels)
        fine = tuple(plane for plane, (_, low) in driven.items() if low >= 0)
        own = None if INTENSITY in driven else _dimmer(block.cell_channels)
        recipe = recipe_of(block.cell_channels, extra)
        plans.append(BlockPlan(block.cell_count, recipe, fine, _dimmer(block.shared), own))
    return tuple(plans)


@dataclass(slots=True)
class CellSorter:
    """Collects fixtures one by one, in the order of their cells."""

    _groups: dict[tuple[Recipe, Response, tuple[int, ...]], list[Ints]] = field(default_factory=dict)
    _rows: list[tuple[int, int, int, bool, DimmerDrive]] = field(default_factory=list)
    _of_cell: list[Ints] = field(default_factory=list)
    _cells: int = 0

    def add(
        self, fixture: int, plans: Sequence[BlockPlan], placed: tuple[PlacedBlock, ...], response: Response
    ) -> None:
        """Takes a fixture in: the `plans` of its mode's blocks, and where they lie (nothing where it is unplaced)."""
        first = self._cells
        there = [one.is_placed for one in placed] or [False] * len(plans)
        shared = [
            self._shared(fixture, plan, placed[n]) if there[n] and plan.shared_dimmer else -1
            for n, plan in enumerate(plans)
        ]
        base = next((index for index in shared if index >= 0), -1)
        used = False
        for number, plan in enumerate(plans):
            cells = first + np.arange(plan.cell_count, dtype=np.int64)
            self._groups.setdefault((plan.recipe, response, plan.fine), []).append(cells)
            above = (shared[number] if shared[number] >= 0 else base) if there[number] else -1
            used = used or (above >= 0 and plan.cell_count > 0)
            columns = np.full((plan.cell_count, 2), -1, dtype=np.int64)
            if there[number] and plan.own_dimmer and plan.cell_count:
                columns[:, 0] = self._own(fixture, plan, placed[number], above >= 0)
            columns[:, 1] = above
            self._of_cell.append(columns)
            first += plan.cell_count
        self._cells = first
        if not used:  # a dimmer above no cell is not the pixels' to open
            del self._rows[len(self._rows) - sum(index >= 0 for index in shared) :]

    def _shared(self, fixture: int, plan: BlockPlan, place: PlacedBlock) -> int:
        assert plan.shared_dimmer is not None  # only asked where there is one
        drive, coarse, low = plan.shared_dimmer
        fine = int(place.shared[low]) if low >= 0 else -1
        self._rows.append((int(place.shared[coarse]), fine, fixture, False, drive))
        return len(self._rows) - 1

    def _own(self, fixture: int, plan: BlockPlan, place: PlacedBlock, inner: bool) -> Ints:
        assert plan.own_dimmer is not None  # only asked where there is one
        drive, coarse, low = plan.own_dimmer
        begun = len(self._rows)
        for row in place.cells.tolist():
            self._rows.append((row[coarse], row[low] if low >= 0 else -1, fixture, inner, drive))
        return np.arange(begun, len(self._rows), dtype=np.int64)

    def groups(self) -> tuple[ColourGroup, ...]:
        return tuple(
            ColourGroup(recipe, response, np.concatenate(parts), fine)
            for (recipe, response, fine), parts in self._groups.items()
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


def driven_columns(channels: Sequence[Channel]) -> dict[int, tuple[int, int]]:
    """Plane -> columns of the channel that carries it and of its fine one (-1 where there is none).

    What is left alone is not driven; neither are hue and the like without a hue.
    """
    pairs = fine_pairs(channels)
    columns: dict[int, tuple[int, int]] = {}
    has_hue = any(c.attribute == HUE and not c.alone for c in channels)
    for column, channel in enumerate(channels):
        attribute = channel.attribute
        if has_hue and attribute == DIMMER and all(c.attribute != BRIGHTNESS for c in channels):
            attribute = BRIGHTNESS
        if channel.fine or channel.alone or attribute not in EMITTER_ATTRIBUTES:
            continue
        plane = EMITTER_ATTRIBUTES.index(attribute)
        if (attribute.startswith("HSB") and not has_hue) or plane in columns:
            continue
        columns[plane] = (column, pairs.get(column, -1))
    return columns


def recipe_of(channels: Sequence[Channel], extra: ExtraUse) -> Recipe:
    """How a cell with these channels makes a colour; the use of extra emitters counts only where there are some."""
    emitters = tuple(sorted(driven_columns(channels)))
    kelvin = next((c.kelvin for c in channels if c.attribute == "ColorAdd_W"), 6500)
    recipe = Recipe(emitters, extra, kelvin)
    counts = recipe.extras and not recipe.is_white_only and not recipe.is_hue
    return recipe if counts else Recipe(emitters)


def _dimmer(channels: Sequence[Channel]) -> Dimmer | None:
    """The first dimmer that is driven."""
    coarse = next((n for n, c in enumerate(channels) if c.attribute == DIMMER and not (c.fine or c.alone)), None)
    if coarse is None:
        return None
    low = fine_pairs(channels).get(coarse, -1)
    return DimmerDrive(channels[coarse].ranges, low >= 0), coarse, low
