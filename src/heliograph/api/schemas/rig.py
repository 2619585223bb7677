"""Profiles and fixtures."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict


class RangeBody(Strict):
    """What the values `first`..`last` of a channel do."""

    first: int = Field(ge=0, le=255)
    last: int = Field(ge=0, le=255)
    kind: Literal["closed", "dim", "open", "strobe", "default", "named"]
    name: str = Field("", max_length=60)


class ChannelBody(Strict):
    attribute: Name
    home: int = Field(0, ge=0, le=255)
    safe: int | None = Field(None, ge=0, le=255)
    fine: bool = False
    ranges: list[RangeBody] = Field(default_factory=list, max_length=64)
    kelvin: int = Field(6500, ge=1667, le=25_000)


class BlockBody(Strict):
    name: Name
    shared: list[ChannelBody] = Field(default_factory=list, max_length=512)
    cell_count: int = 0
    cell_channels: list[ChannelBody] = Field(default_factory=list, max_length=512)
    runs_on: bool = False


class ModeBody(Strict):
    name: Name
    blocks: list[BlockBody] = Field(min_length=1, max_length=8)


class ProfileBody(Strict):
    id: UUID
    maker: Name
    name: Name
    kind: Literal["lamp", "strip", "bar", "laser", "other"] = "other"
    guarded: bool = False
    modes: list[ModeBody] = Field(min_length=1, max_length=64)


class NewMode(Strict):
    mode: ModeBody
    rev: int | None = None


class BlockView(BaseModel):
    """Words for the channels: `shared` ones, then those of `each` of its cells."""

    name: str
    shared: list[str]
    cells: int
    each: list[str]


class ModeView(BaseModel):
    name: str
    footprint: int
    cells: int
    runs_on: bool
    blocks: list[BlockView]


class ProfileView(BaseModel):
    id: str
    rev: int
    maker: str
    name: str
    kind: str
    guarded: bool
    modes: list[ModeView]


class FixtureView(BaseModel):
    """`address` "U1.1" to `end`; both "" where unpatched. `conflict` names fixtures it shares channels with.

    Its first cell begins `cell_offset` channels after its address, each is `cell_size` channels long.
    """

    id: str
    rev: int
    number: int
    name: str
    profile: str
    mode: str
    footprint: int
    cells: int
    address: str
    end: str
    spans: list[tuple[int, int, int]]
    conflict: list[int]
    extra: str
    response: str
    emitters: list[str]
    cell_offset: int
    cell_size: int


class AddText(Strict):
    text: str = Field(max_length=500)


class AddFixtures(Strict):
    """`ids`: one new UUID for each fixture."""

    text: str = Field(max_length=500)
    ids: list[UUID] = Field(min_length=1, max_length=2000)


class PlannedFixture(BaseModel):
    number: int
    name: str
    address: str
    end: str
    note: str


class AddPlan(BaseModel):
    """What the typed line would do. `problem` is why it cannot be done, "" if it can."""

    count: int
    profile: str
    mode: str
    cells: int
    channels: int
    fixtures: list[PlannedFixture]
    problem: str
    repair: str


class FixturePatch(Strict):
    number: int | None = Field(None, ge=1, le=999_999)
    name: Name | None = None
    address: str | None = Field(None, max_length=40)
    rev: int | None = None


class FixtureColour(Strict):
    """How these fixtures make colour: the use of their extra emitters, their response."""

    ids: list[UUID] = Field(min_length=1, max_length=20_000)
    extra: Literal["replace", "add", "match", "leave"] | None = None
    response: Literal["as is", "gamma 2.2", "CIE lightness"] | None = None


class NewGroup(Strict):
    id: UUID
    name: Name
    selection: str = Field("all", max_length=500)


class GroupPatch(Strict):
    name: Name | None = None
    selection: str | None = Field(None, max_length=500)
    rev: int | None = None


class GroupView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    fixtures: list[str]


class Ids(Strict):
    ids: list[UUID] = Field(min_length=1, max_length=20_000)
