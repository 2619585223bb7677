"""Rows of a show file, table by table, as they are written today: ranges are checked here where they are plain."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from heliograph.api.schemas.base import Name, Strict
from heliograph.api.schemas.chases import Time
from heliograph.api.schemas.clocks import StoredRule
from heliograph.api.schemas.cue_lists import LettingGo, Order, StoredCue
from heliograph.api.schemas.lines import KeptValues, Ramp, Sets
from heliograph.api.schemas.looks import NewLook
from heliograph.api.schemas.matrices import Packed, WeaveBody
from heliograph.api.schemas.outputs import OutputBody
from heliograph.api.schemas.pages import KeptValue, StoredItem
from heliograph.api.schemas.plans import Metres, PlanItem, Size
from heliograph.api.schemas.presets import PresetKind
from heliograph.api.schemas.profiles import ProfileBody
from heliograph.api.schemas.scores import NoteBody, StaveBody, StoredEntry, StoredPosition
from heliograph.core.look.chase import FRAMES_MAX
from heliograph.core.pages import ITEMS_MAX, SLUG_MAX
from heliograph.core.playing.clock import RULES_MAX
from heliograph.core.playing.cues import BY_HAND, CUES_MAX, PRIORITY_MAX, TIME_MAX
from heliograph.core.playing.favourites import VALUES_MAX
from heliograph.core.playing.score import BARS_MAX, ENTRIES_MAX, STAVES_MAX
from heliograph.core.show.clip_numbers import NUMBER_MAX


class ProfileRow(ProfileBody):
    manual: str = Field("", pattern=r"^([0-9a-f]{64})?$")
    manual_name: str = Field("", max_length=200)


class FixtureRow(Strict):
    id: UUID
    number: int = Field(ge=1, le=999_999)
    name: Name
    profile: UUID
    mode: Name
    universe: int | None = Field(ge=1, le=63_999)
    channel: int | None = Field(ge=1, le=512)
    extra: Literal["replace", "add", "match", "leave"]
    response: Literal["as is", "gamma 2.2", "CIE lightness"]
    blocks: list[Annotated[str, StringConstraints(max_length=40)]] = Field(default_factory=list, max_length=8)


class GroupRow(Strict):
    id: UUID
    place: int
    name: Name
    fixtures: list[UUID]
    folder: str = Field("", max_length=60)
    rule: str = Field("", max_length=500)
    cells: list[str] = Field(default_factory=list, max_length=250_000)
    emitter: str = Field("", max_length=60)


class PlanRow(Strict):
    id: UUID
    place: int
    name: Name
    items: list[PlanItem] = Field(max_length=50_000)
    picture: str = Field("", pattern=r"^([0-9a-f]{64})?$")
    picture_width_m: Size = 20.0
    picture_height_m: Size = 10.0
    picture_x: Metres = 0.0
    picture_y: Metres = 0.0


class MatrixRow(Strict):
    id: UUID
    place: int
    name: Name
    width: int
    height: int
    placements: Packed
    weave: WeaveBody | None = None
    shares: str = Field("", pattern=r"^([0-9a-f-]{36})?$")


class ClipRow(Strict):
    """What a clip is like is looked into anew; only its name and content count."""

    id: UUID
    name: str = Field(min_length=1, max_length=200)
    content: str = Field(pattern=r"^[0-9a-f]{64}$")
    suffix: str = Field(max_length=6)
    number: int = Field(0, ge=0, le=NUMBER_MAX)


class FrameRow(Strict):
    id: str = Field(pattern=r"^[0-9a-z]{1,32}$")
    fade: Time
    hold: Time
    picture: str = Field(max_length=4_000_000)
    sets: Sets = Field(default_factory=dict)


class ChaseRow(Strict):
    id: UUID
    place: int
    name: Name
    matrix: UUID | Literal[""] = ""
    group: UUID | Literal[""] = ""
    selection: str = Field("", max_length=500)
    columns: int = Field(ge=1, le=250_000)
    rows: int = Field(ge=1, le=250_000)
    unit: Literal["s", "beat"]
    frames: list[FrameRow] = Field(min_length=1, max_length=FRAMES_MAX)
    origin: str = Field("", max_length=500)


class PresetRow(Strict):
    id: UUID
    place: int
    name: Name
    folder: str = Field("", max_length=120)
    kind: PresetKind
    sets: Sets
    kept: KeptValues


class CueListRow(Strict):
    id: UUID
    place: int
    name: Name
    cues: list[StoredCue] = Field(max_length=CUES_MAX)
    priority: int = Field(BY_HAND, ge=0, le=PRIORITY_MAX)
    order: Order = "along"
    rounds: int = Field(1, ge=0, le=10_000)
    letting_go: LettingGo = "fade"
    release_s: float = Field(2.0, ge=0.0, le=TIME_MAX)
    main: bool = False
    seed: int = 0


class ScoreRow(Strict):
    id: UUID
    place: int
    name: Name
    bars: int = Field(ge=1, le=BARS_MAX)
    rounds: int = Field(1, ge=0, le=10_000)
    priority: int = Field(BY_HAND, ge=0, le=PRIORITY_MAX)
    release_s: float = Field(2.0, ge=0.0, le=TIME_MAX)
    staves: list[StaveBody] = Field(max_length=STAVES_MAX)
    entries: list[StoredEntry] = Field(default_factory=list, max_length=ENTRIES_MAX)
    positions: list[StoredPosition] = Field(default_factory=list, max_length=ENTRIES_MAX)
    notes: list[NoteBody] = Field(default_factory=list, max_length=BARS_MAX)


class ClockRow(Strict):
    id: UUID
    place: int
    latitude: float | None = None
    longitude: float | None = None
    zone: str = Field(max_length=60)
    rules: list[StoredRule] = Field(default_factory=list, max_length=RULES_MAX)


class PageRow(Strict):
    id: UUID
    place: int
    name: Name
    slug: str = Field(max_length=SLUG_MAX)
    items: list[StoredItem] = Field(default_factory=list, max_length=ITEMS_MAX)


class FavouriteRow(Strict):
    id: UUID
    place: int
    name: Name
    values: list[KeptValue] = Field(min_length=1, max_length=VALUES_MAX)


class RampRow(Strict):
    id: UUID
    place: int
    name: Name
    stops: Ramp


class LookRow(NewLook):
    place: int


class OutputRow(OutputBody):
    id: UUID
    place: int
    address: str = Field("", max_length=400)
    card_broadcast: str = Field("", max_length=40)


class MarkRow(Strict):
    id: UUID
    place: int
    fixture: UUID
    cell: int = Field(ge=0, le=20_000)
    kind: Literal["good", "dark", "wrong place", "wrong colour"]
    seen: dict[str, Any] = Field(default_factory=dict)


class ParkedRow(Strict):
    id: UUID
    place: int
    universe: int = Field(ge=1, le=63_999)
    channel: int = Field(ge=1, le=512)
    value: int = Field(ge=0, le=255)


MODELS: dict[str, type[BaseModel]] = {
    "profile": ProfileRow,
    "fixture": FixtureRow,
    "group": GroupRow,
    "plan": PlanRow,
    "matrix": MatrixRow,
    "clip": ClipRow,
    "chase": ChaseRow,
    "preset": PresetRow,
    "ramp": RampRow,
    "look": LookRow,
    "cue_list": CueListRow,
    "score": ScoreRow,
    "clock": ClockRow,
    "page": PageRow,
    "favourite": FavouriteRow,
    "output": OutputRow,
    "mark": MarkRow,
    "parked": ParkedRow,
}
