"""What a fixture is: profile, mode, blocks, channels and cells.

A block is a run of channels: first its shared channels, then its cells, all cells alike. Cells are
derived from the mode and never stored; a cell's name is stable ("1" .. "n").
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from itertools import pairwise
from typing import Any, Literal, get_args

from heliograph.core.dmx import SLOTS
from heliograph.core.errors import InputError

EMITTERS: Mapping[str, str] = {
    "ColorAdd_R": "red",
    "ColorAdd_G": "green",
    "ColorAdd_B": "blue",
    "ColorAdd_W": "white",
    "ColorAdd_RY": "amber",
    "ColorAdd_UV": "UV",
}
"""GDTF attribute (DIN SPEC 15800) -> emitter. Amber is ColorAdd_RY: there is no ColorAdd_A."""

CELLS_MAX = 20_000
"""Most cells of one fixture: 20,000 RGB cells already run over 118 universes."""


DIMMER = "Dimmer"
"""GDTF attribute of an intensity; a range of such a channel may also strobe."""

RangeKind = Literal["closed", "dim", "open", "strobe", "default", "named"]


@dataclass(frozen=True, slots=True)
class ValueRange:
    """Values `first`..`last` (0..255, both included) of a channel and what they do there."""

    first: int
    last: int
    kind: RangeKind
    name: str = ""

    def __post_init__(self) -> None:
        if not 0 <= self.first <= self.last <= 255:
            raise InputError(
                f"A value range from {self.first} to {self.last} is not possible.",
                where="ranges",
                repair="Ranges lie within 0 to 255, the first value not above the last.",
            )
        if self.kind not in get_args(RangeKind):
            raise InputError(
                f"'{self.kind}' is no kind of range.", where="ranges", repair=f"Use {', '.join(get_args(RangeKind))}."
            )


@dataclass(frozen=True, slots=True)
class Channel:
    """One channel of a mode. `home` 0..255 is its rest value; `safe` what the guard holds it at.

    `fine` is the low byte of the channel before it that has the same attribute. `ranges` are typed, in
    order, without overlaps; none means the whole of 0..255 does one thing. `kelvin`: the colour
    temperature of a white emitter.
    """

    attribute: str
    home: int = 0
    safe: int | None = None
    fine: bool = False
    ranges: tuple[ValueRange, ...] = ()
    kelvin: int = 6500

    def __post_init__(self) -> None:
        for before, after in pairwise(self.ranges):
            if after.first <= before.last:
                raise InputError(
                    f"{self.attribute}: the ranges {before.first}-{before.last} and {after.first}-{after.last} "
                    "overlap or are out of order.",
                    where="ranges",
                )
        if self.fine and self.attribute != DIMMER:
            raise InputError(
                f"A fine channel of {self.attribute} cannot be driven yet: dimmers only.",
                where="fine",
                repair="List it as a channel of its own that stays at its home value.",
            )

    @property
    def label(self) -> str:
        """The word people use: the emitter's colour, else the attribute itself."""
        word = EMITTERS.get(self.attribute, self.attribute)
        return f"{word} fine" if self.fine else word


@dataclass(frozen=True, slots=True)
class Block:
    """Shared channels, then `cell_count` cells of `cell_channels` each.

    A block never crosses a universe unless it `runs_on`; then a cell is never split.
    """

    name: str
    shared: tuple[Channel, ...]
    cell_count: int
    cell_channels: tuple[Channel, ...]
    runs_on: bool = False

    def __post_init__(self) -> None:
        if not 0 <= self.cell_count <= CELLS_MAX:
            raise InputError(f"Block '{self.name}' has {self.cell_count} cells: 0 to {CELLS_MAX} are possible.")
        if self.cell_count and not self.cell_channels:
            raise InputError(f"Block '{self.name}' has cells without channels.", repair="Give a cell its emitters.")
        if self.footprint == 0:
            raise InputError(f"Block '{self.name}' has no channels.", repair="Give it at least one.")
        if self.footprint > SLOTS and not self.runs_on:
            raise InputError(
                f"Block '{self.name}' has {self.footprint} channels and may not run on: a universe has {SLOTS}.",
                where="channels",
                repair=f"Mark it as running on, or make it at most {SLOTS} channels long.",
            )
        if self.runs_on and max(len(self.shared), len(self.cell_channels)) > SLOTS:
            raise InputError(f"Block '{self.name}' has a cell longer than a universe.")

    @property
    def footprint(self) -> int:
        """Channels it takes, not counting what is skipped where it runs on."""
        return len(self.shared) + self.cell_count * len(self.cell_channels)


@dataclass(frozen=True, slots=True)
class Mode:
    """A channel list that must equal the one set on the fixture."""

    name: str
    blocks: tuple[Block, ...]

    def __post_init__(self) -> None:
        if not self.blocks:
            raise InputError(f"Mode '{self.name}' has no blocks.", repair="Give it at least one.")

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
    return Mode(data["name"], tuple(_block(block) for block in data["blocks"]))


def _block(data: Mapping[str, Any]) -> Block:
    return Block(
        data["name"],
        tuple(_channel(channel) for channel in data.get("shared", ())),
        int(data.get("cell_count", 0)),
        tuple(_channel(channel) for channel in data.get("cell_channels", ())),
        bool(data.get("runs_on", False)),
    )


def _channel(data: Mapping[str, Any]) -> Channel:
    for field in ("home", "safe"):
        value = data.get(field)
        if value is not None and not 0 <= value <= 255:
            raise InputError(f"{field} of {data['attribute']} is {value}: a channel takes 0 to 255.", where=field)
    return Channel(
        data["attribute"],
        int(data.get("home", 0)),
        data.get("safe"),
        bool(data.get("fine", False)),
        tuple(ValueRange(r["first"], r["last"], r["kind"], r.get("name", "")) for r in data.get("ranges", ())),
        int(data.get("kelvin", 6500)),
    )
