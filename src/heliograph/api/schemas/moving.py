"""What moves numbers and colours of lines: drives and ribbons."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from heliograph.api.schemas.base import Strict
from heliograph.core.look.line import SEED_MAX

Word = Annotated[str, StringConstraints(max_length=120)]
Seed = Annotated[int, Field(ge=0, le=SEED_MAX)]


class SpeedBody(Strict):
    """One cycle takes `value` seconds or beats; a clip may also run `value` times its own speed. Negative:
    backward."""

    value: float
    unit: Literal["s", "beat", "times"]


WaveName = Literal["sine", "triangle", "square", "saw up", "saw down", "steps", "drift"]
OverName = Literal["", "address", "row", "column", "snake", "shuffle", "distance"]
SourceName = Literal["wave", "curve", "beat", "sound", "input"]
ShapeName = Literal["straight", "eased", "steps"]
Share = Annotated[float, Field(ge=0.0, le=1.0)]
Point = tuple[Share, Share]
Seconds = Annotated[float, Field(ge=0.0, le=60.0)]


class DriveBody(Strict):
    """What moves one number of a line between `low` and `high` in its unit; see `core/look/drive`. The period may be
    typed. What is left out is as it is, or as a new drive begins."""

    source: SourceName | None = None
    wave: WaveName | None = None
    low: float | None = Field(None, allow_inf_nan=False)
    high: float | None = Field(None, allow_inf_nan=False)
    period: SpeedBody | Word | None = None
    phase: Share | None = None
    duty: Share | None = None
    points: list[Point] | None = Field(None, min_length=2, max_length=32)
    smooth: bool | None = None
    by: Literal["time", "cycle"] | None = None
    rounds: int | None = Field(None, ge=0, le=10_000)
    turns: bool | None = None
    decay: float | None = Field(None, ge=0.01, le=10.0)
    of: Word | None = None
    shape: ShapeName | None = None
    steps: int | None = Field(None, ge=2, le=256)
    inverse: bool | None = None
    rise: Seconds | None = None
    fall: Seconds | None = None
    over: OverName | None = None
    spread: float | None = Field(None, ge=0.0, le=16.0)
    x: Share | None = None
    y: Share | None = None
    seed: Seed | None = None
    alternate: bool | None = None


Drives = Annotated[dict[Word, DriveBody | None], Field(max_length=64)]
"""By "opacity", "speed", "shift", "cycle" or "params.<name>"; None takes a drive away."""


class DriveView(BaseModel):
    source: SourceName = "wave"
    wave: WaveName
    low: float
    high: float
    period: SpeedBody
    phase: float
    duty: float
    points: list[Point] = Field([(0.0, 0.0), (0.5, 1.0), (1.0, 0.0)])
    smooth: bool = False
    by: Literal["time", "cycle"] = "time"
    rounds: int = 0
    turns: bool = False
    decay: float = 0.5
    of: str = ""
    shape: ShapeName = "straight"
    steps: int = 4
    inverse: bool = False
    rise: float = 0.0
    fall: float = 0.0
    over: OverName
    spread: float
    x: float = 0.5
    y: float = 0.5
    seed: int
    alternate: bool = False


Value = Annotated[float, Field(ge=0.0, le=255.0)]
At = Annotated[float, Field(ge=0.0, le=86_400.0)]
KnotBody = tuple[At, Value, Value, Value, bool]
"""Time in the ribbon's unit, red, green, blue 0..255, whether it goes on eased."""


class RibbonBody(Strict):
    """A colour of the ramp over time; what is left out is as it is, or as a new ribbon begins. The length may be
    typed. `loosen`: the knot of that number becomes points of the threads; `fasten`: points at a time become a knot."""

    knots: list[KnotBody] | None = Field(None, min_length=1, max_length=64)
    length: SpeedBody | Word | None = None
    rounds: int | None = Field(None, ge=0, le=10_000)
    turns: bool | None = None
    loosen: int | None = Field(None, ge=0, le=63)
    fasten: At | None = None
    threads: dict[Literal["red", "green", "blue"], list[tuple[At, Value]]] | None = None


Ribbons = Annotated[dict[Annotated[str, StringConstraints(pattern=r"^[0-7]$")], RibbonBody | None], Field(max_length=8)]
"""By the place of the colour in the ramp, from "0"; None lets it stand."""


class RibbonView(BaseModel):
    knots: list[KnotBody]
    length: SpeedBody
    rounds: int
    turns: bool
    threads: dict[str, list[tuple[float, float]]]


class RibbonChart(BaseModel):
    """Evenly along a ribbon: colours 0..255 and their light 0..1. `threads`: by emitter, its value where it goes its
    own way, None elsewhere."""

    colours: list[tuple[float, float, float]]
    light: list[float]
    threads: dict[str, list[float | None]]


class DriveChart(BaseModel):
    """Values evenly over a page of time that lasts `length`: `asked`, and `reached` after smoothing."""

    asked: list[float]
    reached: list[float]
    lowest: float
    highest: float
    length: SpeedBody
    page: int
    by_chance: bool


class DriveCopy(Strict):
    """`to`: the number it shall move too; `line`: of another line of the look, None for the same."""

    to: Word
    line: UUID | None = None
    rev: int | None = None
