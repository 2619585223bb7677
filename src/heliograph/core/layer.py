"""A layer of a look: what is painted, on which matrix, how, how fast. And its blends."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from heliograph.core.colour import Stop, check_ramp, stops_from_json
from heliograph.core.errors import InputError
from heliograph.core.tempo import Direction, Speed

Paints = Literal["effect", "clip"]
Blend = Literal["over", "add"]


@dataclass(frozen=True, slots=True)
class Layer:
    """One row of a look. `opacity` 0..1. `effect` names a built-in effect, `clip` a clip's id."""

    id: str
    paints: Paints
    matrix: str
    effect: str = ""
    clip: str = ""
    ramp: tuple[Stop, ...] = (Stop(0.0, 255, 255, 255),)
    speed: Speed = field(default_factory=lambda: Speed(4.0))
    direction: Direction = "forward"
    opacity: float = 1.0
    blend: Blend = "over"
    mute: bool = False
    params: Mapping[str, Any] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not 0.0 <= self.opacity <= 1.0:
            raise InputError(f"An opacity of {self.opacity * 100:g} % is outside 0 to 100 %.", where="opacity")
        check_ramp(self.ramp)


@dataclass(frozen=True, slots=True)
class Look:
    """A named stack of layers, bottom first."""

    id: str
    name: str
    layers: tuple[Layer, ...]


def layer_from_json(data: Mapping[str, Any]) -> Layer:
    """A layer from its stored form; raises InputError where a value is outside its range."""
    speed = data["speed"]
    return Layer(
        id=data["id"],
        paints=data["paints"],
        matrix=data["matrix"],
        effect=data.get("effect") or "",
        clip=data.get("clip") or "",
        ramp=stops_from_json(data["ramp"]),
        speed=Speed(float(speed["value"]), speed["unit"]),
        direction=data["direction"],
        opacity=float(data["opacity"]),
        blend=data["blend"],
        mute=bool(data.get("mute", False)),
        params=data.get("params") or {},
    )


def look_from_json(data: Mapping[str, Any]) -> Look:
    return Look(data["id"], data["name"], tuple(layer_from_json(layer) for layer in data["layers"]))
