"""Requests and answers of the API. Ranges are checked here where they are plain, else in core."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]
Square = tuple[int, int]


class Strict(BaseModel):
    model_config = ConfigDict(extra="forbid")


class Fault(BaseModel):
    """What every refused request answers."""

    what: str
    where: str
    repair: str


class Done(BaseModel):
    """An edit is stored; `revision` is the show's new one."""

    revision: int


class ShowInfo(BaseModel):
    id: str
    name: str
    revision: int


class ShowListed(ShowInfo):
    is_open: bool


class NewShow(Strict):
    id: UUID
    name: Name


class RenameShow(Strict):
    name: Name


class ChannelBody(Strict):
    attribute: Name
    home: int = Field(0, ge=0, le=255)
    safe: int | None = Field(None, ge=0, le=255)


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


class ModeView(BaseModel):
    name: str
    footprint: int
    cells: int
    runs_on: bool


class ProfileView(BaseModel):
    id: str
    rev: int
    maker: str
    name: str
    kind: str
    guarded: bool
    modes: list[ModeView]


class FixtureView(BaseModel):
    """`address` "U1.1" to `end`; both "" where unpatched. `conflict` names fixtures it shares channels with."""

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


class Ids(Strict):
    ids: list[UUID] = Field(min_length=1, max_length=20_000)


class Packed(BaseModel):
    """Placements: tables of fixtures and cell names, and float32 (n, 6) base64, see core/matrix.py."""

    fixtures: list[str]
    cells: list[str]
    packed: str


class MatrixView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    width: int
    height: int
    placements: Packed


class WeaveBody(Strict):
    selection: str = Field("all", max_length=500)
    width: int
    height: int
    corner: Literal["top left", "top right", "bottom left", "bottom right"] = "top left"
    along: Literal["rows", "columns"] = "rows"
    snake: bool = False


class NewMatrix(Strict):
    id: UUID
    name: Name
    width: int
    height: int
    weave: WeaveBody | None = None


class MatrixPatch(Strict):
    name: Name | None = None
    width: int | None = None
    height: int | None = None
    rev: int | None = None


class Exchange(Strict):
    a: Square
    b: Square
    rev: int | None = None


class CellBody(Strict):
    fixture: UUID
    cell: str = Field(max_length=40)


class PlaceCell(Strict):
    cell: CellBody
    to: Square
    rev: int | None = None


class Lift(Strict):
    squares: list[Square] = Field(min_length=1, max_length=250_000)
    rev: int | None = None


class WeaveSaid(BaseModel):
    """`sentence` says what the weave does; `problem` why it cannot be done, "" if it can."""

    cells: int
    sentence: str
    problem: str
    repair: str


StopBody = tuple[float, int, int, int]


class SpeedBody(Strict):
    value: float
    unit: Literal["s", "beat"]


class LayerBody(Strict):
    id: UUID
    paints: Literal["effect", "clip"]
    matrix: UUID
    effect: str = ""
    clip: str = ""
    ramp: list[StopBody] = Field(default_factory=lambda: [(0.0, 255, 255, 255)], min_length=1, max_length=8)
    speed: SpeedBody = Field(default_factory=lambda: SpeedBody(value=4.0, unit="s"))
    direction: Literal["forward", "backward"] = "forward"
    opacity: float = 1.0
    blend: Literal["over", "add"] = "over"
    mute: bool = False
    params: dict[str, float | str] = Field(default_factory=dict)


class LayerPatch(Strict):
    matrix: UUID | None = None
    effect: str | None = None
    clip: str | None = None
    ramp: list[StopBody] | None = None
    speed: SpeedBody | None = None
    direction: Literal["forward", "backward"] | None = None
    opacity: float | None = None
    blend: Literal["over", "add"] | None = None
    mute: bool | None = None
    params: dict[str, float | str] | None = None
    rev: int | None = None


class NewLook(Strict):
    id: UUID
    name: Name
    layers: list[LayerBody] = Field(default_factory=list, max_length=64)


class LookPatch(Strict):
    name: Name | None = None
    order: list[UUID] | None = None
    rev: int | None = None


class LookView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    layers: list[dict[str, Any]]


class OutputBody(Strict):
    """`first_number`: the protocol's own number of the first universe (Art-Net counts from 0, sACN from 1)."""

    name: Name
    protocol: Literal["artnet", "sacn"]
    mode: Literal["unicast", "broadcast", "multicast"]
    destination: str = Field("", max_length=253)
    card: str = Field("", max_length=40)
    first_universe: int = Field(1, ge=1, le=63999)
    count: int = Field(1, ge=1, le=32768)
    first_number: int = Field(0, ge=0, le=63999)
    priority: int = Field(100, ge=0, le=200)
    on: bool = True


class NewOutput(OutputBody):
    id: UUID


class OutputPatch(Strict):
    name: Name | None = None
    protocol: Literal["artnet", "sacn"] | None = None
    mode: Literal["unicast", "broadcast", "multicast"] | None = None
    destination: str | None = Field(None, max_length=253)
    card: str | None = Field(None, max_length=40)
    first_universe: int | None = Field(None, ge=1, le=63999)
    count: int | None = Field(None, ge=1, le=32768)
    first_number: int | None = Field(None, ge=0, le=63999)
    priority: int | None = Field(None, ge=0, le=200)
    on: bool | None = None
    rev: int | None = None


class OutputView(BaseModel):
    """`spelled_first`, `spelled_last`: the protocol's numbers in every counting."""

    id: str
    rev: int
    place: int
    name: str
    protocol: str
    mode: str
    destination: str
    address: str
    card: str
    first_universe: int
    count: int
    first_number: int
    priority: int
    on: bool
    spelled_first: str
    spelled_last: str


class ClipView(BaseModel):
    id: str
    rev: int
    name: str
    width: int
    height: int
    frames: int
    duration_s: float
    bytes: int
    used_by: list[str]


class ClipPatch(Strict):
    name: Name
    rev: int | None = None


class WholeShow(BaseModel):
    show: ShowInfo
    profiles: list[ProfileView]
    fixtures: list[FixtureView]
    matrices: list[MatrixView]
    looks: list[LookView]
    outputs: list[OutputView]
    clips: list[ClipView]
    undo: str
    redo: str


class Stepped(BaseModel):
    revision: int
    label: str


class OwnerView(BaseModel):
    """Who owns a channel: `written` "301:5" or "301:0" for the shared part, `label` its emitter or attribute."""

    channel: int
    fixture: int
    name: str
    written: str
    label: str


class Levels(BaseModel):
    """512 values of a universe as sent in frame `frame`; zeros where `sent` is false."""

    universe: int
    frame: int
    sent: bool
    values: list[int]
    owners: list[OwnerView]
    numbers: list[str]


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
    ]
    look: UUID | None = None
    level: float | None = None
    on: bool | None = None
    bpm: float | None = None
    frames: int | None = None
    seconds: float | None = None


class EffectParameter(BaseModel):
    name: str
    kind: str
    default: float | str
    minimum: float
    maximum: float
    unit: str
    choices: list[str]


class EffectView(BaseModel):
    name: str
    says: str
    words: list[str]
    moves: bool
    smallest: tuple[int, int]
    parameters: list[EffectParameter]


class CardView(BaseModel):
    name: str
    address: str
    netmask: str
    broadcast: str
    up: bool


class Event(BaseModel):
    at: str
    process: str
    level: str
    text: str


class PassBody(Strict):
    code: str = Field(max_length=200)
