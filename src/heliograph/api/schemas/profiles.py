"""Profiles: as they are written, and as they are shown."""

from __future__ import annotations

from typing import Annotated, Literal, Self
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints, model_validator

from heliograph.api.schemas.base import Name, Strict
from heliograph.core.errors import InputError
from heliograph.core.profiles.profile import AFTER

Kind = Literal["lamp", "strip", "bar", "head", "laser", "other"]

PICTURE_MAX = 24_000
"""Characters of a range's picture: a PNG of 64 x 64 as data URL."""


class RangeBody(Strict):
    """What the values `first`..`last` of a channel do."""

    first: int = Field(ge=0, le=255)
    last: int = Field(ge=0, le=255)
    kind: Literal["closed", "dim", "open", "strobe", "default", "named"] = "named"
    name: str = Field("", max_length=60)
    attribute: str = Field("", max_length=60)
    colour: str = Field("", pattern=r"^(#[0-9a-fA-F]{6})?$")
    picture: str = Field("", max_length=PICTURE_MAX, pattern=r"^(data:image/png;base64,[A-Za-z0-9+/=]+)?$")


class ChannelBody(Strict):
    attribute: Name
    home: int = Field(0, ge=0, le=255)
    safe: int | None = Field(None, ge=0, le=255)
    fine: bool = False
    ranges: list[RangeBody] = Field(default_factory=list, max_length=64)
    kelvin: int = Field(6500, ge=1667, le=25_000)
    highlight: int | None = Field(None, ge=0, le=255)
    in_fade: Literal["fades", "start", "half-way", "end"] = "fades"
    invert: bool = False
    merge: Literal["HTP", "LTP"] = "LTP"
    alone: bool = False
    physical: tuple[float, float] | None = None


class LayoutBody(Strict):
    kind: Literal["line", "upright", "grid", "ring", "free"] = "line"
    columns: Annotated[int, Field(ge=1, le=1000)] = 1
    centre: bool = False
    points: Annotated[tuple[tuple[float, float], ...], Field(max_length=20_000)] = ()


class LaidCells(Strict):
    layout: LayoutBody
    count: int = Field(ge=0, le=20_000)


class BlockBody(Strict):
    name: Name
    shared: list[ChannelBody] = Field(default_factory=list, max_length=512)
    cell_count: int = 0
    cell_channels: list[ChannelBody] = Field(default_factory=list, max_length=512)
    runs_on: bool = False
    lies: str = Field(AFTER, max_length=140)
    cell_names: list[Annotated[str, StringConstraints(max_length=60)]] = Field(default_factory=list, max_length=20_000)
    layout: LayoutBody = LayoutBody()
    hides: bool = False
    splits: bool = False


class ModeBody(Strict):
    """`was`: the name it had before, so that its fixtures follow; not stored."""

    name: Name
    blocks: list[BlockBody] = Field(min_length=1, max_length=8)
    firmware: str = Field("", max_length=200)
    was: str = Field("", max_length=120)

    @model_validator(mode="after")
    def _where_blocks_lie(self) -> Self:
        """`after`, with or without the name of the block before, or "" for nowhere: addresses are the fixtures'."""
        before = ""
        for block in self.blocks:
            block.lies = _lies(block, before)
            before = block.name
        return self


def _lies(block: BlockBody, before: str) -> str:
    said = " ".join(block.lies.split())
    if not said:
        return ""
    if said.lower() in (AFTER, "first" if not before else AFTER, f"{AFTER} {before}".lower()):
        return AFTER
    right = f"{AFTER} {before}" if before else "first"
    raise InputError(
        f"Block {block.name} cannot lie '{said}' in a profile: addresses are the fixtures'.",
        where="lies",
        repair=f"Write '{right}', or nothing: then it is nowhere until a fixture says where.",
    )


class ProfileFields(Strict):
    maker: Name
    name: Name
    kind: Kind = "other"
    guarded: bool = False
    notes: str = Field("", max_length=4000)
    origin: str = Field("", max_length=200)
    verified: bool = False
    modes: list[ModeBody] = Field(min_length=1, max_length=64)


class ProfileBody(ProfileFields):
    id: UUID


class ProfileChange(ProfileFields):
    """A profile as it shall be. `rev`: the one the editor began with."""

    rev: int | None = None


class NewMode(Strict):
    mode: ModeBody
    rev: int | None = None


class MendMode(Strict):
    """Puts right what the patch doctor named of a mode."""

    mode: str = Field(max_length=120)
    what: Literal["stays dark", "never dark", "not safe"]


class GuardBody(Strict):
    """Whether a profile is guarded. `fixtures`: those that were listed and are meant, where the guard is taken away."""

    guarded: bool
    fixtures: list[UUID] = Field(default_factory=list, max_length=20_000)


class GuardedFixture(BaseModel):
    id: str
    number: int
    name: str
    address: str


WayView = tuple[int, int, float, float]
"""Values on the wire from the first to the last stand for levels from the one to the other; of a 16-bit channel the
values are coarse x 256 + fine."""


class RangeView(RangeBody):
    """A range as faders need it: on the wire it is `low` to `high`, and chosen by `value`."""

    low: int
    high: int
    value: int


class PartView(BaseModel):
    """A part of a channel's values that does something else: the attribute, and what its values stand for."""

    attribute: str
    label: str
    step: float
    ways: list[WayView]


class ChannelView(BaseModel):
    """A channel as faders need it. `fine` names the place in its run (from 0) of its fine channel, -1 for none;
    `step` is the smallest part 0..1 of its way that it can move by. `ways`: which values stand for which levels."""

    attribute: str
    label: str
    fine: int
    is_fine: bool
    step: float
    emitter: str
    physical: tuple[float, float] | None
    ranges: list[RangeView]
    ways: list[WayView]
    parts: list[PartView]


class BlockView(BaseModel):
    """Its `shared` channels, then those of `each` of its cells. `points`: where cells sit on the face, 0..1."""

    name: str
    shared: list[ChannelView]
    cells: int
    each: list[ChannelView]
    names: list[str]
    points: list[tuple[float, float]]
    hides: bool
    runs_on: bool
    splits: bool
    lies: str


class ModeView(BaseModel):
    name: str
    footprint: int
    cells: int
    runs_on: bool
    firmware: str
    emitters: list[str]
    blocks: list[BlockView]


class ProfileView(BaseModel):
    id: str
    rev: int
    maker: str
    name: str
    kind: str
    guarded: bool
    verified: bool
    manual_name: str
    kept: bool
    modes: list[ModeView]


class WholeProfile(ProfileFields):
    """A profile with everything, as the editor takes it. `fixtures`: how many of the show use it."""

    id: str
    rev: int
    manual_name: str
    fixtures: int


class ChangedFixture(BaseModel):
    """A fixture before and after a change of many at once. `says`: what is wrong after it, "" if nothing."""

    id: str
    number_before: int
    number: int
    name_before: str
    name: str
    mode_before: str
    mode: str
    footprint_before: int
    footprint: int
    address: str
    end_before: str
    end: str
    says: str


class ChangePlan(BaseModel):
    """What would happen. `problem` is why it cannot be done, "" if it can."""

    fixtures: list[ChangedFixture]
    problem: str
    repair: str


class AttributeView(BaseModel):
    name: str
    word: str


class KeptView(BaseModel):
    id: str
    maker: str
    name: str
    modes: int
