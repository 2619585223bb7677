"""A line of a look: what is painted, on which matrix, how, how fast. And its blends."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal, get_args

from heliograph.core.colour.ramps import Stop, check_ramp, stops_from_json
from heliograph.core.errors import InputError
from heliograph.core.matrix.fitting import Fitting, fitting_from_json
from heliograph.core.playing.tempo import PhaseUnit, Speed, phase_rate

Paints = Literal["effect", "clip"]
Blend = Literal["over", "add", "multiply", "lighten", "darken"]
BLENDS: tuple[Blend, ...] = get_args(Blend)


@dataclass(frozen=True, slots=True)
class Line:
    """One row of a look. `opacity` 0..1. `effect` names a built-in effect, `clip` a clip's id.

    `fitting` says how a clip lies on the matrix and which part of it plays; `loop_s` is how long that
    part lasts at the clip's own speed.
    """

    id: str
    paints: Paints
    matrix: str
    effect: str = ""
    clip: str = ""
    ramp: tuple[Stop, ...] = (Stop(0.0, 255, 255, 255),)
    speed: Speed = field(default_factory=lambda: Speed(4.0))
    opacity: float = 1.0
    blend: Blend = "over"
    mute: bool = False
    solo: bool = False
    fitting: Fitting = field(default_factory=Fitting)
    loop_s: float = 1.0
    params: Mapping[str, Any] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not 0.0 <= self.opacity <= 1.0:
            raise InputError(f"An opacity of {self.opacity * 100:g} % is outside 0 to 100 %.", where="opacity")
        if self.blend not in BLENDS:
            raise InputError(
                f"There is no blend '{self.blend}'.", where="blend", repair=f"There are {', '.join(BLENDS)}."
            )
        check_ramp(self.ramp)

    @property
    def rate(self) -> tuple[PhaseUnit, float]:
        """The clock its phase runs by, and cycles a second or a beat."""
        return phase_rate(self.speed, self.loop_s)


@dataclass(frozen=True, slots=True)
class Look:
    """A named stack of lines, bottom first."""

    id: str
    name: str
    lines: tuple[Line, ...]


def line_from_json(data: Mapping[str, Any]) -> Line:
    """A line from its stored form; raises InputError where a value is outside its range."""
    speed = data["speed"]
    return Line(
        id=data["id"],
        paints=data["paints"],
        matrix=data["matrix"],
        effect=data.get("effect") or "",
        clip=data.get("clip") or "",
        ramp=stops_from_json(data["ramp"]),
        speed=Speed(float(speed["value"]), speed["unit"]),
        opacity=float(data["opacity"]),
        blend=data["blend"],
        mute=bool(data.get("mute", False)),
        solo=bool(data.get("solo", False)),
        fitting=fitting_from_json(data.get("fitting") or {}),
        loop_s=float(data.get("loop_s") or 1.0),
        params=data.get("params") or {},
    )


def look_from_json(data: Mapping[str, Any]) -> Look:
    return Look(data["id"], data["name"], tuple(line_from_json(line) for line in data["lines"]))
