"""Looks, layers, effects and clips."""

from __future__ import annotations

from typing import Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict

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
