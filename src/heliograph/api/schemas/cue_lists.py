"""Cue lists and their cues, as they are typed and as they are shown."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from heliograph.api.schemas.base import Name, Strict
from heliograph.core.playing.cues import ACTIONS_MAX, CUES_MAX, LOOKS_MAX, NUMBER_MAX, PRIORITY_MAX, TIME_MAX

Id = Annotated[str, StringConstraints(max_length=36)]
Words = Annotated[str, StringConstraints(max_length=2_000)]
Short = Annotated[str, StringConstraints(max_length=60)]
Note = Annotated[str, StringConstraints(max_length=500)]
CueName = Annotated[str, StringConstraints(max_length=120, strip_whitespace=True)]
Mark = Literal["", "amber", "sea", "coral", "moss", "violet"]
Order = Literal["along", "turns", "dealt"]
LettingGo = Literal["fade", "at once", "bar", "clip"]


class NewCueList(Strict):
    id: UUID
    name: Name


class CueListPatch(Strict):
    """`rounds`: 0 without end. `main`: Space goes."""

    name: Name | None = None
    priority: int | None = Field(None, ge=0, le=PRIORITY_MAX)
    order: Order | None = None
    rounds: int | None = Field(None, ge=0, le=10_000)
    letting_go: LettingGo | None = None
    release: Short | None = None
    main: bool | None = None
    rev: int | None = None


class CueListCopy(Strict):
    id: UUID


class CueAction(Strict):
    """`words`: what the handle was called when it was chosen."""

    words: str = Field("", max_length=300)
    kind: str = Field("", max_length=20)
    handle: str = Field(min_length=1, max_length=200)
    value: Any = None
    over_s: float = Field(0.0, ge=0.0, le=3_600.0)


class CueFields(Strict):
    """What is typed of a cue: times like "8 s" or "2 beats", what comes "then", looks by name; what it `does` beside,
    "The grand master 80 %; Fog signal: level 40 % in 2 s"."""

    number: float | None = Field(None, gt=0.0, le=NUMBER_MAX)
    name: CueName | None = None
    note: Note | None = None
    mark: Mark | None = None
    looks: Words | None = None
    fade_in: Short | None = None
    fade_out: Short | None = None
    delay: Short | None = None
    curve: Literal["straight", "eased"] | None = None
    then: Short | None = None
    ready: bool | None = None
    does: Words | None = None
    actions: list[CueAction] | None = Field(None, max_length=ACTIONS_MAX)


class NewCue(CueFields):
    """`take`: the looks that run now, at their levels. `after`: behind that cue, else at the end."""

    id: UUID
    take: bool = False
    after: Id = ""


class CuesPatch(CueFields):
    """The same of each of the `cues`."""

    cues: list[Id] = Field(min_length=1, max_length=CUES_MAX)


class ChosenCues(Strict):
    cues: list[Id] = Field(min_length=1, max_length=CUES_MAX)


class CopyCues(ChosenCues):
    ids: list[UUID] = Field(min_length=1, max_length=CUES_MAX)


class MoveCues(ChosenCues):
    """`after`: a cue, "" for first of all."""

    after: Id = ""


class Renumber(Strict):
    cues: list[Id] = Field(default_factory=list, max_length=CUES_MAX)
    first: float = Field(1.0, gt=0.0, le=NUMBER_MAX)
    step: float = Field(1.0, gt=0.0, le=1_000.0)


class CueTable(Strict):
    table: str = Field(max_length=2_000_000)


class CueLookBody(Strict):
    """A stored look of a cue; `gone`: the name of one that was deleted."""

    look: str = Field(max_length=36)
    level: float = Field(1.0, ge=0.0, le=1.0)
    group: str = Field("", max_length=36)
    restart: bool = False
    gone: str = Field("", max_length=200)


class StoredCue(Strict):
    id: str = Field(max_length=36)
    number: float = Field(gt=0.0, le=NUMBER_MAX)
    name: CueName = ""
    note: Note = ""
    mark: Mark = ""
    looks: list[CueLookBody] = Field(default_factory=list, max_length=LOOKS_MAX)
    fade_in: float = Field(0.0, ge=0.0, le=TIME_MAX)
    fade_out: float | None = Field(None, ge=0.0, le=TIME_MAX)
    delay: float = Field(0.0, ge=0.0, le=TIME_MAX)
    unit: Literal["s", "beat"] = "s"
    curve: Literal["straight", "eased"] = "straight"
    then: Literal["hold", "follow", "beat", "bar", "time", "clip"] = "hold"
    wait: float = Field(0.0, ge=0.0, le=TIME_MAX)
    wait_unit: Literal["s", "beat"] = "s"
    from_go: bool = False
    at_s: float = Field(0.0, ge=0.0, le=TIME_MAX)
    ready: bool = False
    actions: list[CueAction] = Field(default_factory=list, max_length=ACTIONS_MAX)


class CueView(BaseModel):
    """A cue as it reads. `gone`: names of looks it plays no more, since they were deleted."""

    id: str
    number: float
    name: str
    note: str
    mark: Mark
    looks: str
    fade_in: str
    fade_out: str
    delay: str
    curve: Literal["straight", "eased"]
    then: str
    ready: bool
    does: str
    actions: list[CueAction]
    plays: list[CueLookBody]
    gone: list[str]


class CueListView(BaseModel):
    """`first`: the cue that a first Go begins. One of all lists is the main one, the first where none was chosen."""

    id: str
    rev: int
    name: str
    cues: list[CueView]
    priority: int
    order: Order
    rounds: int
    letting_go: LettingGo
    release: str
    main: bool
    first: str
