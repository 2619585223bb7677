"""The show as a whole, the engine's commands, events, the pass code."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict
from heliograph.api.schemas.looks import ClipView, LookView, RampView
from heliograph.api.schemas.matrices import MatrixView
from heliograph.api.schemas.outputs import OutputView
from heliograph.api.schemas.plans import PlanView
from heliograph.api.schemas.profiles import ProfileView
from heliograph.api.schemas.rig import FixtureView, GroupView
from heliograph.api.schemas.walks import MarkView


class ShowInfo(BaseModel):
    id: str
    name: str
    revision: int


class ShowListed(ShowInfo):
    is_open: bool
    is_template: bool


class NewShow(Strict):
    """`like`: the show or template it starts from; without one it is empty."""

    id: UUID
    name: Name
    like: UUID | None = None


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
    show: ShowInfo
    profiles: list[ProfileView]
    fixtures: list[FixtureView]
    groups: list[GroupView]
    plans: list[PlanView]
    matrices: list[MatrixView]
    looks: list[LookView]
    outputs: list[OutputView]
    clips: list[ClipView]
    ramps: list[RampView]
    marks: list[MarkView]
    parked: list[ParkedView]
    undo: str
    redo: str


class Stepped(BaseModel):
    revision: int
    label: str


class EngineCommand(Strict):
    """One of the engine's commands, see engine/commands.py."""

    do: Literal[
        "start",
        "stop",
        "master",
        "blackout",
        "freeze",
        "tempo",
        "tap",
        "hold_time",
        "run_time",
        "step_time",
        "set_time",
        "group_master",
        "manual",
        "raw",
        "release",
        "highlight",
        "arm",
    ]
    look: UUID | None = None
    group: UUID | None = None
    level: float | None = None
    on: bool | None = None
    bpm: float | None = None
    frames: int | None = None
    seconds: float | None = None
    values: dict[str, int | None] | None = Field(None, max_length=20_000)
    fixtures: list[UUID] | None = Field(None, max_length=20_000)


class CardHealth(BaseModel):
    name: str
    address: str
    up: bool


class Health(BaseModel):
    """`database_ms`: how long it took to answer, None where it does not. `spool_behind`: frames by which what a restart
    would go on from is behind what is sent; `spool_copy_s`: age of its copy on disk."""

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
