"""The show as a whole, the engine's commands, events, the pass code."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict
from heliograph.api.schemas.chases import ChaseView
from heliograph.api.schemas.clocks import ClockView
from heliograph.api.schemas.cue_lists import CueListView
from heliograph.api.schemas.looks import ClipView, LookView, RampView
from heliograph.api.schemas.matrices import MatrixView
from heliograph.api.schemas.outputs import OutputView
from heliograph.api.schemas.pages import FavouriteView, PageView
from heliograph.api.schemas.plans import PlanView
from heliograph.api.schemas.presets import PresetView
from heliograph.api.schemas.profiles import ProfileView
from heliograph.api.schemas.rig import FixtureView, GroupView
from heliograph.api.schemas.scores import ScoreView
from heliograph.api.schemas.walks import MarkView
from heliograph.core.roles import Role


class ShowInfo(BaseModel):
    id: str
    name: str
    revision: int


class ShowListed(ShowInfo):
    """`changed_s`, `deleted_s`: Unix time of its last edit and of its deletion, None where there was none."""

    is_open: bool
    is_template: bool
    fixtures: int
    changed_s: float | None
    deleted_s: float | None


class NewShow(Strict):
    """`like`: the show or template it starts from; without one it is empty."""

    id: UUID
    name: Name
    like: UUID | None = None


class LaserView(BaseModel):
    """A guarded fixture. `fault`: why it cannot be armed, "" where it can; `warnings`: what to know before."""

    id: str
    number: int
    name: str
    armed: bool
    fault: str
    warnings: list[str]


class LeftView(BaseModel):
    """Addresses ("U3.5 to 24") that a guarded fixture left: they stay at its safe values."""

    fixture: str
    number: int
    name: str
    addresses: list[str]


class LasersView(BaseModel):
    """`armed_until`: Unix time until which lasers stay armed without anybody's browser."""

    lasers: list[LaserView]
    left: list[LeftView]
    armed_until: float | None


class SavedShow(BaseModel):
    """A file that waits to be fetched at /api/show/file/{token}."""

    token: str
    name: str
    bytes: int


class NewTemplate(Strict):
    id: UUID
    name: Name


class RenameShow(Strict):
    name: Name


class ParkedView(BaseModel):
    universe: int
    channel: int
    value: int


class ParkBody(Strict):
    """ "7.53" -> 0..255, or None to release it."""

    values: dict[str, int | None] = Field(max_length=5_000)


class WholeShow(BaseModel):
    """`version` names this answer: GET /api/show/changes tells what is other since."""

    show: ShowInfo
    version: str
    profiles: list[ProfileView]
    fixtures: list[FixtureView]
    groups: list[GroupView]
    plans: list[PlanView]
    matrices: list[MatrixView]
    canvases: list[MatrixView]
    """Groups and selections that lines are painted over, each as a row of its cells."""
    looks: list[LookView]
    outputs: list[OutputView]
    clips: list[ClipView]
    ramps: list[RampView]
    chases: list[ChaseView]
    presets: list[PresetView]
    cue_lists: list[CueListView]
    scores: list[ScoreView]
    clocks: list[ClockView]
    """One at most: the clock of the show."""
    pages: list[PageView]
    favourites: list[FavouriteView]
    marks: list[MarkView]
    parked: list[ParkedView]
    undo: str
    redo: str


class PutChange(BaseModel):
    """An object that is new or other, and its place in its part."""

    place: int
    now: dict[str, Any]


class PartChanges(BaseModel):
    """Of one part of a show: what is new or other, in the order of places; ids that are gone; all ids in their order,
    where those that stayed changed theirs."""

    put: list[PutChange]
    gone: list[str]
    order: list[str] | None


class ShowChanges(BaseModel):
    """`whole`: where the version asked from is not known any more; else what changed, by part."""

    whole: WholeShow | None
    parts: dict[str, PartChanges]
    show: ShowInfo
    version: str
    undo: str
    redo: str


class Stepped(BaseModel):
    revision: int
    label: str


class CardHealth(BaseModel):
    name: str
    address: str
    up: bool


class HealthLine(BaseModel):
    text: str
    good: bool


class Health(BaseModel):
    """`says`: all of it in sentences, what is not well first. `database_ms`: how long it took to answer, None where it
    does not. `spool_behind`: frames by which what a restart would go on from is behind what is sent; `spool_copy_s`:
    age of its copy on disk."""

    says: list[HealthLine]

    database_ms: float | None
    database_bytes: int
    spool_behind: int | None
    spool_copy_s: float | None
    cards: list[CardHealth]
    kept_s: float
    kept_bytes: int


class Event(BaseModel):
    at: str
    process: str
    level: str
    text: str


class PassBody(Strict):
    code: str = Field(max_length=200)


class Entered(BaseModel):
    role: Role


class CodeView(BaseModel):
    role: Role
    code: str


class SessionView(BaseModel):
    """`device` in the words of its browser; times in Unix seconds."""

    id: str
    role: Role
    device: str
    made_s: float
    seen_s: float


class AccessView(BaseModel):
    """`asks_pass`: others than this machine may come, with a code. `address`: how they reach it."""

    role: Role
    asks_pass: bool
    codes: list[CodeView]
    sessions: list[SessionView]
    address: str
