"""Fixtures and groups."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict
from heliograph.api.schemas.plans import PlanItem


class CellRun(BaseModel):
    """`count` cells from `cell` on (of the block, from 1), whose first channels lie a cell's size apart from `position`
    on (absolute, from 0)."""

    cell: int
    count: int
    position: int


class BlockPlaceView(BaseModel):
    """Where one block of a fixture lies: `lies` is its one field (`after Base`, `first`, `U10.1`, "" for nowhere),
    `address` what comes of it, `apart` whether it has an address of its own. `shared` channels, then `cells` of
    `size` channels each; `splits`: pixels may begin in one universe and end in the next. `runs`: where its cells begin;
    none where it lies nowhere."""

    name: str
    lies: str
    apart: bool
    address: str
    spans: list[tuple[int, int, int]]
    footprint: int
    shared: int
    cells: int
    size: int
    splits: bool
    runs: list[CellRun]


class FixtureView(BaseModel):
    """`lies`: what of its blocks lies otherwise than its mode has it (`without Halo; Ring at U10.1`). `address` "U1.1"
    to `end`; both "" where unpatched. `conflict` names fixtures it shares channels with."""

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
    lies: str
    blocks: list[BlockPlaceView]


class SelectText(Strict):
    text: str = Field(max_length=500)


class Selected(BaseModel):
    """What a typed selection means. `parts`: "<fixture id>:<cell>" where not every fixture is chosen whole, 0 being
    the shared part. `problem` is why it cannot be read, "" if it can."""

    fixtures: list[str]
    parts: list[str]
    cells: int
    emitter: str
    problem: str
    repair: str


class AddText(Strict):
    """`plan`: that on which it is asked where they would hang."""

    text: str = Field(max_length=500)
    plan: UUID | None = None


class AddFixtures(Strict):
    """`ids`: one new UUID for each fixture. `plan`: they are placed on it, below everything that is there."""

    text: str = Field(max_length=500)
    ids: list[UUID] = Field(min_length=1, max_length=2000)
    plan: UUID | None = None


class PlannedFixture(BaseModel):
    number: int
    name: str
    address: str
    end: str
    note: str


class SuggestionView(BaseModel):
    """What stands on it, and the line it makes. `makes`: the profile of its words has to be made first (`POST
    /api/fixtures/profile`)."""

    label: str
    text: str
    makes: bool


class ProfileOfWords(Strict):
    """`id`: of the profile that is made of what the line describes."""

    id: UUID
    text: str = Field(max_length=500)


class AddRun(BaseModel):
    """Channels `first` to `last` of a universe, of the fixtures `numbers`: "401-408"."""

    first: int
    last: int
    numbers: str


class AddRuler(BaseModel):
    """A universe that something new would lie in. `taken`: runs of fixtures that touch; `coming`: each new one;
    `free`: channels that nothing covers then."""

    universe: int
    taken: list[AddRun]
    coming: list[AddRun]
    free: int


class AddPlan(BaseModel):
    """What the typed line would do. `problem` is why it cannot be done, "" if it can. `suggests`: what may stand next,
    and `suggested` what that is. `rulers`: of the first universes it comes to lie in. `hang`: where they would hang on
    the plan that was asked for. `says`: what holds of it, in sentences."""

    count: int
    profile: str
    mode: str
    cells: int
    channels: int
    fixtures: list[PlannedFixture]
    problem: str
    repair: str
    suggested: str
    suggests: list[SuggestionView]
    rulers: list[AddRuler]
    hang: list[PlanItem]
    says: list[str]


class FixturePatch(Strict):
    number: int | None = Field(None, ge=1, le=999_999)
    name: Name | None = None
    address: str | None = Field(None, max_length=40)
    lies: str | None = Field(None, max_length=500)
    rev: int | None = None


class ToNumber(Strict):
    """New numbers from `first` on, in the order of the ids."""

    do: Literal["number"]
    first: int = Field(ge=1, le=999_999)
    step: int = Field(1, ge=1, le=1000)


class ToName(Strict):
    """New names: `{n}` counts from 1, `{number}` is the fixture's number, `{name}` its present name."""

    do: Literal["name"]
    pattern: Name


class ToMode(Strict):
    """Another mode, of the same or another profile."""

    do: Literal["mode"]
    profile: UUID
    mode: Name


class Copies(Strict):
    """`times` copies of each, numbered from `first` on, at the next free places; `new_ids`: one for each copy."""

    do: Literal["copy"]
    times: int = Field(1, ge=1, le=200)
    first: int | None = Field(None, ge=1, le=999_999)
    pattern: str = Field("", max_length=120)
    new_ids: list[UUID] = Field(default_factory=list, max_length=2000)


class TypedChange(Strict):
    """A change as it is typed: `401 every 2nd`, `Tower {n}`, `2 x, from 401, {name}`, `RGB pixel strip, 50 RGB`.
    `new_ids`: one for each copy, in the order of the plan."""

    do: Literal["typed"]
    kind: Literal["number", "name", "mode", "copy"]
    text: str = Field(max_length=300)
    new_ids: list[UUID] = Field(default_factory=list, max_length=2000)


class BatchBegin(Strict):
    ids: list[UUID] = Field(min_length=1, max_length=20_000)
    kind: Literal["number", "name", "mode", "copy"]


class BatchLine(BaseModel):
    text: str


class Batch(Strict):
    """One thing done to many fixtures in one step."""

    ids: list[UUID] = Field(min_length=1, max_length=20_000)
    change: ToNumber | ToName | ToMode | Copies | TypedChange = Field(discriminator="do")


class FixtureBlock(Strict):
    """Where block `block` (from 0) of these fixtures lies: `after Base`, `U10.1` (the others count on from it), or ""
    for nowhere."""

    ids: list[UUID] = Field(min_length=1, max_length=20_000)
    block: int = Field(ge=0, le=7)
    lies: str = Field(max_length=140)


class FixtureColour(Strict):
    """How these fixtures make colour: the use of their extra emitters, their response."""

    ids: list[UUID] = Field(min_length=1, max_length=20_000)
    extra: Literal["replace", "add", "match", "leave"] | None = None
    response: Literal["as is", "gamma 2.2", "CIE lightness"] | None = None


class NewGroup(Strict):
    """By hand: what `selection` says now. By rule: the same, read anew whenever the rig changes."""

    id: UUID
    name: Name
    selection: str = Field("all", max_length=500)
    by_rule: bool = False
    folder: str = Field("", max_length=60)


class GroupPatch(Strict):
    name: Name | None = None
    selection: str | None = Field(None, max_length=500)
    by_rule: bool | None = None
    folder: str | None = Field(None, max_length=60)
    rev: int | None = None


class GroupView(BaseModel):
    """`fixtures` in order. `cells`: "<fixture id>:<cell>" where it holds cells, not whole fixtures; ":0" is a
    fixture's shared part. `emitter`: the one it is about, "" for all. `rule`: the selection it follows, "" by hand.
    """

    id: str
    rev: int
    place: int
    name: str
    folder: str
    rule: str
    emitter: str
    fixtures: list[str]
    cells: list[str]


class Ids(Strict):
    ids: list[UUID] = Field(min_length=1, max_length=20_000)


class DeletionPlan(BaseModel):
    """What would go, a sentence each."""

    says: list[str]
