"""Looks, lines, effects and clips."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field, StringConstraints

from heliograph.api.schemas.base import Name, Strict

Word = Annotated[str, StringConstraints(max_length=120)]
Params = Annotated[dict[Word, float | Word], Field(max_length=64)]
"""Of an effect, by name."""

StopBody = tuple[float, int, int, int]
Ramp = Annotated[list[StopBody], Field(min_length=1, max_length=8)]

BlendName = Literal["over", "add", "multiply", "lighten", "darken"]


class SpeedBody(Strict):
    """One cycle takes `value` seconds or beats; a clip may also run `value` times its own speed. Negative:
    backward."""

    value: float
    unit: Literal["s", "beat", "times"]


class FittingBody(Strict):
    """How a clip lies on its matrix, and which part of it plays (`out_s` 0: to its end)."""

    fit: Literal["fill", "fit", "stretch"] = "fill"
    rotate: Literal[0, 90, 180, 270] = 0
    mirror: Literal["none", "across", "down", "both"] = "none"
    in_s: float = Field(0.0, ge=0.0, le=86_400.0)
    out_s: float = Field(0.0, ge=0.0, le=86_400.0)


class LineBody(Strict):
    """`saved_ramp`: the id of a saved ramp that is used in place of `ramp`, or ""."""

    id: UUID
    paints: Literal["effect", "clip"]
    matrix: UUID
    effect: Word = ""
    clip: Word = ""
    ramp: list[StopBody] = Field(default_factory=lambda: [(0.0, 255, 255, 255)], min_length=1, max_length=8)
    saved_ramp: Word = ""
    speed: SpeedBody = Field(default_factory=lambda: SpeedBody(value=4.0, unit="s"))
    opacity: float = 1.0
    blend: BlendName = "over"
    mute: bool = False
    solo: bool = False
    fitting: FittingBody = Field(default_factory=lambda: FittingBody.model_validate({}))
    params: Params = Field(default_factory=dict)


class NewLine(LineBody):
    """`above`: the line it comes to lie upon; without one it lies on top."""

    above: UUID | None = None


class LineMoves(Strict):
    """Fields of a line that may be moved before they are stored."""

    ramp: list[StopBody] | None = Field(None, min_length=1, max_length=8)
    speed: SpeedBody | None = None
    opacity: float | None = Field(None, allow_inf_nan=False)
    blend: BlendName | None = None
    mute: bool | None = None
    solo: bool | None = None
    params: Params | None = None


class LinePatch(LineMoves):
    matrix: UUID | None = None
    effect: Word | None = None
    clip: Word | None = None
    saved_ramp: Word | None = None
    fitting: FittingBody | None = None
    rev: int | None = None


class NewLook(Strict):
    id: UUID
    name: Name
    lines: list[LineBody] = Field(default_factory=list, max_length=64)


class LookPatch(Strict):
    name: Name | None = None
    order: list[UUID] | None = Field(None, max_length=64)
    rev: int | None = None


class LookView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    lines: list[dict[str, Any]]


class ClipView(BaseModel):
    """`rate`: frames a second on average, 0 for a still picture."""

    id: str
    rev: int
    name: str
    kind: str
    content: str
    width: int
    height: int
    frames: int
    duration_s: float
    rate: float
    bytes: int
    used_by: list[str]


class ClipAdded(BaseModel):
    """`id`: the clip with this content: the new one, or one that was there already. `said`: what to know of it."""

    revision: int
    id: str
    said: str


class ClipPatch(Strict):
    name: Name
    rev: int | None = None


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


class NewRamp(Strict):
    id: UUID
    name: Name
    stops: list[StopBody] = Field(min_length=1, max_length=8)


class RampPatch(Strict):
    name: Name | None = None
    stops: list[StopBody] | None = Field(None, min_length=1, max_length=8)
    rev: int | None = None


class RampView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    stops: list[StopBody]
    used_by: int
