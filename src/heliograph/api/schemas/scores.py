"""Scores, as they are typed and as they are shown."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from heliograph.api.schemas.base import Name, Strict
from heliograph.core.look.line import SEED_MAX
from heliograph.core.playing.cues import PRIORITY_MAX, TIME_MAX
from heliograph.core.playing.score import BARS_MAX, ENTRIES_MAX, STAVES_MAX

Id = Annotated[str, StringConstraints(max_length=36)]
Short = Annotated[str, StringConstraints(max_length=60)]
Words = Annotated[str, StringConstraints(max_length=300)]
NoteText = Annotated[str, StringConstraints(max_length=80, strip_whitespace=True)]
Mood = Literal["calm", "rising", "full"]
Chosen = Annotated[list[Id], Field(min_length=1, max_length=ENTRIES_MAX)]


class NewScore(Strict):
    """`bars`, `groups`: a stave for each, in that order; for every group where none is named."""

    id: UUID
    name: Name
    bars: int = Field(32, ge=1, le=BARS_MAX)
    groups: list[Id] = Field(default_factory=list, max_length=STAVES_MAX)


class ScorePatch(Strict):
    """`groups`: the staves, in that order; a stave that stays keeps what is written on it. `note`: over a `bar`, from
    1; "" takes it away."""

    name: Name | None = None
    bars: int | None = Field(None, ge=1, le=BARS_MAX)
    rounds: int | None = Field(None, ge=0, le=10_000)
    priority: int | None = Field(None, ge=0, le=PRIORITY_MAX)
    release: Short | None = None
    groups: list[Id] | None = Field(None, max_length=STAVES_MAX)
    bar: int | None = Field(None, ge=1, le=BARS_MAX)
    note: NoteText | None = None
    rev: int | None = None


class ScoreCopy(Strict):
    id: UUID


class NewEntry(Strict):
    """`text`: "Herring run 80 % at 5.1 for 2 bars"."""

    id: UUID
    stave: Id
    text: Words


class EntriesPatch(Strict):
    """The same of each: `place` "5.1 for 2 bars", `plays` a look or preset by its name or "white", `level` "80 %",
    fades "2 beats"."""

    entries: Chosen
    place: Short | None = None
    plays: Words | None = None
    level: Short | None = None
    fade_in: Short | None = None
    fade_out: Short | None = None
    stave: Id | None = None


class ChosenEntries(Strict):
    entries: Chosen


class MoveEntries(ChosenEntries):
    """By `beats`, negative earlier; onto a `stave` where one is named."""

    beats: float = Field(ge=-100_000.0, le=100_000.0)
    stave: Id = ""


class CopyEntries(ChosenEntries):
    """So many `beats` later; right behind them where that is not said."""

    beats: float | None = Field(None, ge=-100_000.0, le=100_000.0)


class RepeatEntries(ChosenEntries):
    every: Short


class NewAccent(Strict):
    """On the beat a `place` names; on the one that is played where none is. `look`: white where none is named."""

    id: UUID
    stave: Id
    place: Short | None = None
    look: Id = ""


class NewPosition(Strict):
    """A `preset` that a stave's heads take from a `place` on."""

    id: UUID
    stave: Id
    preset: Id
    place: Short


class Locate(Strict):
    place: Short


class FillAsked(Strict):
    """Bars `first` to `last` of `staves`. `colours`: ramps; `positions`: presets that may be set at the first bar;
    `lasers`: staves of lasers that may be lit. `keep`: it is written."""

    staves: list[Id] = Field(min_length=1, max_length=STAVES_MAX)
    first: int = Field(ge=1, le=BARS_MAX)
    last: int = Field(ge=1, le=BARS_MAX)
    mood: Mood
    seed: int = Field(ge=0, le=SEED_MAX)
    colours: list[Id] = Field(default_factory=list, max_length=64)
    positions: list[Id] = Field(default_factory=list, max_length=8)
    lasers: list[Id] = Field(default_factory=list, max_length=STAVES_MAX)
    keep: bool = False


class StaveBody(Strict):
    id: Id
    group: Id
    gone: str = Field("", max_length=200)


class StoredEntry(Strict):
    id: Id
    stave: Id
    look: Id = ""
    preset: Id = ""
    white: bool = False
    at: float = Field(ge=0.0, le=BARS_MAX * 4.0)
    length: float = Field(gt=0.0, le=BARS_MAX * 4.0)
    level: float = Field(1.0, ge=0.0, le=1.0)
    fade_in: float = Field(0.0, ge=0.0, le=TIME_MAX)
    fade_out: float = Field(0.0, ge=0.0, le=TIME_MAX)
    accent: bool = False
    filled: bool = False
    gone: str = Field("", max_length=200)


class StoredPosition(Strict):
    id: Id
    stave: Id
    preset: Id = ""
    at: float = Field(ge=0.0, le=BARS_MAX * 4.0)
    filled: bool = False
    gone: str = Field("", max_length=200)


class NoteBody(Strict):
    bar: int = Field(ge=1, le=BARS_MAX)
    text: NoteText


class EntryView(BaseModel):
    """`name` of what it plays, `place` as it is typed; `at`, `length`, fades in beats. `ramp`: colours to draw it in,
    none where they are not known. `gone`: what it plays was deleted."""

    id: str
    stave: str
    name: str
    look: str
    place: str
    begins: str
    ends: str
    at: float
    length: float
    level: float
    fade_in: float
    fade_out: float
    said: dict[str, str]
    follows: bool
    accent: bool
    filled: bool
    gone: bool
    ramp: list[tuple[float, float, float, float]]


class PositionView(BaseModel):
    id: str
    stave: str
    name: str
    begins: str
    at: float
    filled: bool
    gone: bool


class StaveView(BaseModel):
    """`looks`: ids of those that reach it. `heads`: it can take positions."""

    id: str
    group: str
    name: str
    gone: bool
    looks: list[str]


class ScoreView(BaseModel):
    """`beats` of all bars; `bar_beats` of one."""

    id: str
    rev: int
    name: str
    bars: int
    beats: float
    bar_beats: int
    rounds: int
    priority: int
    release: str
    staves: list[StaveView]
    entries: list[EntryView]
    positions: list[PositionView]
    notes: list[NoteBody]


class LeftOutView(BaseModel):
    stave: str
    name: str
    why: str
    at: float
    begins: str


class FillView(BaseModel):
    """What would be written, or was where it is `kept`; `waiting`: looks of which it is still looked at whether they
    flash: asked again. `by_hand`: entries in these bars that stay as they are."""

    entries: list[EntryView]
    positions: list[PositionView]
    left_out: list[LeftOutView]
    waiting: list[str]
    by_hand: int
    kept: bool
    revision: int


class AccentDone(BaseModel):
    revision: int
    there: bool
    begins: str


class AddedEntries(BaseModel):
    revision: int
    count: int
