"""Looks, effects, clips and saved ramps."""

from __future__ import annotations

from typing import Annotated, Self
from uuid import UUID

from pydantic import BaseModel, Field, model_validator

from heliograph.api.schemas.base import Name, Strict
from heliograph.api.schemas.lines import LineView, NewLine, Ramp, StopBody
from heliograph.core.show.clip_numbers import NUMBER_MAX

Fade = Annotated[float, Field(ge=0.0, le=3_600.0)]
"""Seconds."""


class NewLook(Strict):
    """`fade_in`, `fade_out`: when it is started and stopped by hand, unless a time is given then."""

    id: UUID
    name: Name
    lines: list[NewLine] = Field(default_factory=list, max_length=64)
    folder: str = Field("", max_length=60)
    note: str = Field("", max_length=2_000)
    fade_in: Fade = 0.0
    fade_out: Fade = 0.0


class LookCopy(Strict):
    id: UUID


class LookPatch(Strict):
    name: Name | None = None
    order: list[UUID] | None = Field(None, max_length=64)
    folder: str | None = Field(None, max_length=60)
    note: str | None = Field(None, max_length=2_000)
    fade_in: Fade | None = None
    fade_out: Fade | None = None
    rev: int | None = None


class LookView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    folder: str
    note: str
    fade_in: float
    fade_out: float
    lines: list[LineView]

    @model_validator(mode="after")
    def _tell_who_stands_aside(self) -> Self:
        alone = any(line.solo and not (line.mute or line.stencil) for line in self.lines)
        for line in self.lines:
            line.aside = alone and not line.solo
        return self


class Flashes(BaseModel):
    """Flashes in the worst second that more than a quarter of a matrix has together (WCAG 2.2, 2.3.1: three are
    allowed); `cells` of `of` have more then. `line`: the one that makes it, from 1, 0 for several together. `red`: by
    the rule of saturated red. `seconds`: so many were looked at."""

    known: bool
    too_many: bool
    rate: int
    cells: int
    of: int
    red: bool
    matrix: str
    name: str
    line: int
    seconds: float


class ClipView(BaseModel):
    """`rate`: frames a second on average, 0 for a still picture."""

    id: str
    rev: int
    number: int
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
    """Its name or its number, or both."""

    name: Name | None = None
    number: int | None = Field(None, ge=1, le=NUMBER_MAX)
    rev: int | None = None


class EffectParameter(BaseModel):
    name: str
    kind: str
    default: float | str
    minimum: float
    maximum: float
    unit: str
    choices: list[str]
    each: bool


class EffectView(BaseModel):
    """`unsuited`: why it does not read well on the matrix that was asked about, "" where it does, or none was."""

    name: str
    says: str
    words: list[str]
    moves: bool
    unsuited: str
    parameters: list[EffectParameter]


class NewRamp(Strict):
    id: UUID
    name: Name
    stops: Ramp


class RampPatch(Strict):
    name: Name | None = None
    stops: Ramp | None = None
    rev: int | None = None


class RampView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    stops: list[StopBody]
    used_by: int


class ColoursWith(BaseModel):
    """Colours that go with another one, by the word for how."""

    word: str
    colours: list[tuple[int, int, int]]


class ColourRead(BaseModel):
    """Red, green and blue 0 to 255; how else it is written; what goes with it."""

    rgb: tuple[int, int, int]
    hex: str
    percent: str
    beside: list[ColoursWith]
