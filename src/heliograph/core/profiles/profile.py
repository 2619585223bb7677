"""What a fixture is: profile, mode, blocks and cells.

A block is a run of channels: first its shared channels, then its cells, all cells alike. Cells are
derived from the mode and never stored; a cell's key is stable ("1" .. "n"), its name may be anything.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.profiles.cell_layout import LINE, CellLayout, layout_from_json
from heliograph.core.profiles.channel import Channel, channel_from_json, fine_pairs

CELLS_MAX = 20_000
"""Most cells of one fixture: 20,000 RGB cells already run over 118 universes."""

AFTER = "after"
"""How it is stored that a block lies after the one before it."""


@dataclass(frozen=True, slots=True)
class Block:
    """Shared channels, then `cell_count` cells of `cell_channels` each.

    A block never crosses a universe unless it `runs_on`; then a cell is never split, unless it `splits` them: dense,
    as some pixel controllers count. The two bytes of a 16-bit channel always stay together. `follows`: it lies after
    the one before it unless its fixture says otherwise; else it is nowhere until its fixture says where.
    `cell_names` may name some or all cells, in order. `hides`: any light of its cells hides the fixture's own
    background.
    """

    name: str
    shared: tuple[Channel, ...]
    cell_count: int
    cell_channels: tuple[Channel, ...]
    runs_on: bool = False
    follows: bool = True
    cell_names: tuple[str, ...] = ()
    layout: CellLayout = LINE
    hides: bool = False
    splits: bool = False

    def __post_init__(self) -> None:
        if not 0 <= self.cell_count <= CELLS_MAX:
            raise InputError(
                f"Block '{self.name}' has {self.cell_count} cells: 0 to {CELLS_MAX} are possible.", where="cell_count"
            )
        if self.cell_count and not self.cell_channels:
            raise InputError(
                f"Block '{self.name}' has cells without channels.", where="cells", repair="Give a cell its emitters."
            )
        if self.footprint == 0:
            raise InputError(f"Block '{self.name}' has no channels.", where="channels", repair="Give it at least one.")
        if self.footprint > SLOTS and not self.runs_on:
            raise InputError(
                f"Block '{self.name}' has {self.footprint} channels and may not run on: a universe has {SLOTS}.",
                where="channels",
                repair=f"Mark it as running on, or make it at most {SLOTS} channels long.",
            )
        if self.runs_on and max(len(self.shared), len(self.cell_channels)) > SLOTS:
            raise InputError(f"Block '{self.name}' has a cell longer than a universe.", where="channels")
        if self.splits and not self.runs_on:
            raise InputError(
                f"Block '{self.name}' splits pixels and may not run on.",
                where="splits",
                repair="Mark it as running on, or leave its pixels whole.",
            )
        if len(self.cell_names) > self.cell_count:
            raise InputError(
                f"Block '{self.name}' names {len(self.cell_names)} cells and has {self.cell_count}.",
                where="cell_names",
            )
        for channels in (self.shared, self.cell_channels):
            fine_pairs(channels)

    @property
    def footprint(self) -> int:
        """Channels it takes, not counting what is skipped where it runs on."""
        return len(self.shared) + self.cell_count * len(self.cell_channels)


@dataclass(frozen=True, slots=True)
class Mode:
    """A channel list that must equal the one set on the fixture. `firmware`: the versions it fits, in words."""

    name: str
    blocks: tuple[Block, ...]
    firmware: str = ""

    def __post_init__(self) -> None:
        if not self.blocks:
            raise InputError(f"Mode '{self.name}' has no blocks.", repair="Give it at least one.")
        if not any(block.follows for block in self.blocks):
            raise InputError(f"Every block of mode '{self.name}' is nowhere.", repair="At least one lies somewhere.")

    @property
    def footprint(self) -> int:
        return sum(block.footprint for block in self.blocks)

    @property
    def cell_count(self) -> int:
        return sum(block.cell_count for block in self.blocks)

    @property
    def runs_on(self) -> bool:
        return any(block.runs_on for block in self.blocks)


def mode_from_json(data: Mapping[str, Any]) -> Mode:
    """Builds a mode from its stored form; raises InputError where it cannot be one."""
    return Mode(data["name"], tuple(_block(block) for block in data["blocks"]), data.get("firmware") or "")


def _block(data: Mapping[str, Any]) -> Block:
    return Block(
        data["name"],
        tuple(channel_from_json(channel) for channel in data.get("shared", ())),
        int(data.get("cell_count", 0)),
        tuple(channel_from_json(channel) for channel in data.get("cell_channels", ())),
        bool(data.get("runs_on", False)),
        data.get("lies", AFTER) == AFTER,
        tuple(data.get("cell_names") or ()),
        layout_from_json(data.get("layout")),
        bool(data.get("hides", False)),
        bool(data.get("splits", False)),
    )
