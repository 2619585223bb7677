"""Where fixtures lie in the universes: positions of every channel, counting on, free places, conflicts."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError
from heliograph.core.patch.blocks import FOLLOWS, Places, lying_at, run_mode, runs_of
from heliograph.core.patch.dmx import SLOTS, UNIVERSE_MAX, Address, address_at
from heliograph.core.profiles.channel import fine_pairs
from heliograph.core.profiles.profile import Block, Mode

Positions = npt.NDArray[np.int64]


@dataclass(frozen=True, slots=True)
class PlacedBlock:
    """One block at its address. `shared` (s,) and `cells` (cell_count, channels) are absolute positions, all of
    them -1 where the block is off or has no address."""

    block: Block
    shared: Positions
    cells: Positions

    @property
    def end(self) -> int:
        """The position after its last channel."""
        return (int(self.cells[-1, -1]) if self.cells.size else int(self.shared[-1])) + 1

    @property
    def positions(self) -> Positions:
        """All positions in channel order, flat."""
        return np.concatenate([self.shared, self.cells.reshape(-1)])

    @property
    def first(self) -> int:
        """The position of its first channel; -1 where it is nowhere."""
        return int(self.shared[0]) if len(self.shared) else int(self.cells[0, 0])

    @property
    def is_placed(self) -> bool:
        return self.first >= 0


def nowhere(block: Block) -> PlacedBlock:
    """A block that is off or has no address."""
    shared = np.full(len(block.shared), -1, dtype=np.int64)
    return PlacedBlock(block, shared, np.full((block.cell_count, len(block.cell_channels)), -1, dtype=np.int64))


def place_block(block: Block, start: int) -> PlacedBlock:
    """Lays a block out from the absolute position `start`.

    A block that runs on moves a cell that would be split to channel 1 of the next universe, unless it splits cells:
    then only a cell whose 16-bit channel would be torn apart moves (standards 1.5, common practice).
    Raises InputError where a block that may not run on would cross a universe.
    """
    room = SLOTS - start % SLOTS
    if not block.runs_on:
        if block.footprint > room:
            raise _past_end(block, start)
        flat = start + np.arange(block.footprint, dtype=np.int64)
    else:
        flat = _running_on(block, start, room)
    if flat[-1] >= UNIVERSE_MAX * SLOTS:
        raise InputError(f"The fixture would end past universe {UNIVERSE_MAX}, the last there is.", where="address")
    split = len(block.shared)
    return PlacedBlock(block, flat[:split], flat[split:].reshape(block.cell_count, len(block.cell_channels)))


def _running_on(block: Block, start: int, room: int) -> Positions:
    shared = len(block.shared)
    if shared > room:
        start, room = start + room, SLOTS
    head = start + np.arange(shared, dtype=np.int64)
    size = len(block.cell_channels)
    if not block.cell_count:
        return head
    first_fit = (room - shared) // size
    per_universe = SLOTS // size
    if block.splits:
        starts = _dense_starts(block, start + shared)
        return np.concatenate([head, (starts[:, None] + np.arange(size, dtype=np.int64)).reshape(-1)])
    cell = np.arange(block.cell_count, dtype=np.int64)
    later = cell - first_fit
    next_universe = (start // SLOTS + 1) * SLOTS
    cell_start = np.where(
        later < 0,
        start + shared + cell * size,
        next_universe + later // per_universe * SLOTS + later % per_universe * size,
    )
    cells = cell_start[:, None] + np.arange(size, dtype=np.int64)
    return np.concatenate([head, cells.reshape(-1)])


def _dense_starts(block: Block, start: int) -> Positions:
    """First positions of cells that follow each other byte by byte over the ends of universes."""
    size = len(block.cell_channels)
    pairs = fine_pairs(block.cell_channels)
    if not pairs:
        return start + np.arange(block.cell_count, dtype=np.int64) * size
    starts = np.empty(block.cell_count, dtype=np.int64)
    for cell in range(block.cell_count):
        if any((start + coarse) // SLOTS != (start + fine) // SLOTS for coarse, fine in pairs.items()):
            start = (start // SLOTS + 1) * SLOTS
        starts[cell] = start
        start += size
    return starts


def _past_end(block: Block, start: int) -> InputError:
    at = address_at(start)
    end = at.channel + block.footprint - 1
    repair = f"The last place in U{at.universe} is U{at.universe}.{SLOTS - block.footprint + 1}."
    if at.universe < UNIVERSE_MAX:
        repair = f"The next place that holds it is U{at.universe + 1}.1."
    return InputError(
        f"{at} + {block.footprint} channels ends at {end}: a universe has {SLOTS}.", where="address", repair=repair
    )


def place_mode(mode: Mode, start: Address | None, places: Places = ()) -> tuple[PlacedBlock, ...]:
    """Places all blocks: each follows on after the one before, unless `places` say otherwise."""
    placed: list[PlacedBlock] = []
    position = start.position if start else None
    for index, block in enumerate(mode.blocks):
        place = places[index] if index < len(places) else FOLLOWS
        if place.address is not None:
            position = place.address.position
        if position is None or not place.lies:
            placed.append(nowhere(block))
            continue
        one = place_block(block, position)
        placed.append(one)
        position = one.end
    return tuple(placed)


def all_positions(placed: Iterable[PlacedBlock]) -> Positions:
    """Every absolute position of a placed mode, in channel order; blocks that are nowhere are left out."""
    found = [one.positions for one in placed if one.is_placed]
    return np.concatenate(found) if found else np.empty(0, dtype=np.int64)


def channel_positions(placed: Iterable[PlacedBlock]) -> Positions:
    """The absolute position of each channel of the mode, in order; -1 where it is nowhere."""
    return np.concatenate([one.positions for one in placed])


class Occupancy:
    """Which positions are taken. Grows as needed; used to count on and to find free places."""

    def __init__(self) -> None:
        self._taken = np.zeros(SLOTS * 8, dtype=bool)

    def _reach(self, end: int) -> None:
        if end > self._taken.size:
            grown = np.zeros(max(end, self._taken.size * 2), dtype=bool)
            grown[: self._taken.size] = self._taken
            self._taken = grown

    def take(self, positions: Positions) -> None:
        self._reach(int(positions.max(initial=-1)) + 1)
        self._taken[positions] = True

    def take_run(self, start: int, end: int) -> bool:
        """Takes start..end - 1 if all of it is free; False where it is not, and nothing is taken."""
        self._reach(end)
        if self._taken[start:end].any():
            return False
        self._taken[start:end] = True
        return True

    def is_free(self, positions: Positions) -> bool:
        return not bool(self.among(positions).any())

    def among(self, positions: Positions) -> npt.NDArray[np.bool_]:
        """Which of them are taken."""
        self._reach(int(positions.max(initial=-1)) + 1)
        return self._taken[positions]

    def end(self) -> int:
        """The position after the last one taken; 0 where nothing is."""
        taken = np.flatnonzero(self._taken)
        return int(taken[-1]) + 1 if taken.size else 0


def count_on(mode: Mode, start: int) -> tuple[PlacedBlock, ...]:
    """Places a mode at `start` or, where a block would cross its universe, at the next one's channel 1."""
    try:
        return place_mode(mode, address_at(start))
    except InputError:
        universe_start = (start // SLOTS + 1) * SLOTS
        if universe_start >= UNIVERSE_MAX * SLOTS:
            raise
        return place_mode(mode, address_at(universe_start))


def place_many(mode: Mode, count: int, start: int, taken: Occupancy) -> list[Address]:
    """Addresses of `count` fixtures counting on from `start`, stepping over what is taken.

    Returns the starts in order; `taken` is filled with them. Raises InputError past the last universe.
    """
    starts: list[Address] = []
    position = start
    for _ in range(count):
        placed = count_on(mode, position)
        positions = all_positions(placed)
        while not taken.is_free(positions):
            position = _after_obstacle(taken, positions)
            placed = count_on(mode, position)
            positions = all_positions(placed)
        taken.take(positions)
        starts.append(address_at(int(positions[0])))
        position = max(one.end for one in placed)
    return starts


def place_in_runs(
    mode: Mode, places: Places, count: int, start: int, own: dict[int, int], taken: Occupancy
) -> tuple[list[Address | None], list[Places]]:
    """Addresses of `count` fixtures whose blocks may have addresses of their own: each run of blocks counts on by
    itself. `own`: block -> absolute start of its run; one that is not named goes to the next free universe.

    Returns the fixtures' addresses (None where all its blocks have their own) and the places of their blocks.
    """
    runs = runs_of(mode, places)
    starts: list[Address | None] = [None] * count
    if runs[0]:
        starts = list(place_many(run_mode(mode, runs[0]), count, start, taken))
    every = [list(places) for _ in range(count)]
    for run in runs[1:]:
        if not run:
            continue
        free = -(-taken.end() // SLOTS) * SLOTS
        for one, address in zip(
            every, place_many(run_mode(mode, run), count, own.get(run[0], free), taken), strict=True
        ):
            one[run[0]] = lying_at(address)
    return starts, [tuple(one) for one in every]


def _after_obstacle(taken: Occupancy, positions: Positions) -> int:
    return int(positions[taken.among(positions)][-1]) + 1


def overlaps(spans: Sequence[tuple[str, Positions]]) -> list[tuple[str, str, Address, int]]:
    """Pairs of names that share channels: (first, second, first shared address, how many)."""
    owner: dict[int, str] = {}
    shared: dict[tuple[str, str], list[int]] = {}
    for name, positions in spans:
        for position in positions.tolist():
            other = owner.setdefault(position, name)
            if other != name:
                shared.setdefault((other, name), []).append(position)
    return [(a, b, address_at(min(found)), len(found)) for (a, b), found in shared.items()]
