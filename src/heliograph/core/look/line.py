"""Lines of a look, each kind with what it needs: what is painted, on which matrix, how, how fast. And their blends."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, ClassVar, Literal, get_args

from heliograph.core.colour.ramps import Stop, check_ramp, stops_from_json
from heliograph.core.errors import InputError
from heliograph.core.matrix.fitting import Fitting, fitting_from_json
from heliograph.core.playing.tempo import PhaseUnit, Speed, phase_rate

Blend = Literal["over", "add", "multiply", "lighten", "darken"]
BLENDS: tuple[Blend, ...] = get_args(Blend)
SEED_MAX = 2**31 - 1


@dataclass(frozen=True, slots=True, kw_only=True)
class _Line:
    """One row of a look. `opacity` 0..1."""

    id: str
    matrix: str
    ramp: tuple[Stop, ...] = (Stop(0.0, 255, 255, 255),)
    speed: Speed = field(default_factory=lambda: Speed(4.0))
    opacity: float = 1.0
    blend: Blend = "over"
    mute: bool = False
    solo: bool = False

    def __post_init__(self) -> None:
        if not 0.0 <= self.opacity <= 1.0:
            raise InputError(f"An opacity of {self.opacity * 100:g} % is outside 0 to 100 %.", where="opacity")
        if self.blend not in BLENDS:
            raise InputError(
                f"There is no blend '{self.blend}'.", where="blend", repair=f"There are {', '.join(BLENDS)}."
            )
        check_ramp(self.ramp)

    def rate_at(self, speed: Speed) -> tuple[PhaseUnit, float]:
        """The clock its phase runs by at a speed, and cycles a second or a beat."""
        return phase_rate(speed)

    @property
    def rate(self) -> tuple[PhaseUnit, float]:
        return self.rate_at(self.speed)


@dataclass(frozen=True, slots=True, kw_only=True)
class EffectLine(_Line):
    """A built-in effect by its name, with its parameters; another `seed` is another of its kind."""

    paints: ClassVar[str] = "effect"
    effect: str
    params: Mapping[str, Any] = field(default_factory=dict)
    seed: int = 0

    def __post_init__(self) -> None:
        super(EffectLine, self).__post_init__()  # slots make the class anew
        if not 0 <= self.seed <= SEED_MAX:
            raise InputError(f"A seed of {self.seed} is outside 0 to {SEED_MAX}.", where="seed")
        if self.speed.unit == "times":
            raise InputError(
                "An effect has no speed of its own to be a multiple of.", where="speed", repair="Type 4 s or 8 beats."
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class ClipLine(_Line):
    """A clip by its id. `fitting` says how it lies on the matrix and which part of it plays; `loop_s` is how long that
    part lasts at the clip's own speed."""

    paints: ClassVar[str] = "clip"
    clip: str
    fitting: Fitting = field(default_factory=Fitting)
    loop_s: float = 1.0

    def rate_at(self, speed: Speed) -> tuple[PhaseUnit, float]:
        return phase_rate(speed, self.loop_s)


Line = EffectLine | ClipLine


@dataclass(frozen=True, slots=True)
class Look:
    """A named stack of lines, bottom first."""

    id: str
    name: str
    lines: tuple[Line, ...]


def _effect_line(data: Mapping[str, Any], **shared: Any) -> Line:
    return EffectLine(
        **shared,
        effect=data.get("effect") or "",
        params=data.get("params") or {},
        seed=int(data.get("seed") or 0),
    )


def _clip_line(data: Mapping[str, Any], **shared: Any) -> Line:
    return ClipLine(
        **shared,
        clip=data.get("clip") or "",
        fitting=fitting_from_json(data.get("fitting") or {}),
        loop_s=float(data.get("loop_s") or 1.0),
    )


KINDS: dict[str, Callable[..., Line]] = {EffectLine.paints: _effect_line, ClipLine.paints: _clip_line}
"""Every kind of line, and how it is read: a new one is a class and a row here."""


def line_from_json(data: Mapping[str, Any]) -> Line:
    """A line from its stored form; raises InputError where a value is outside its range."""
    kind = KINDS.get(data["paints"])
    if kind is None:
        raise InputError(f"A line cannot paint '{data['paints']}'.", where="paints", repair=f"Use {', '.join(KINDS)}.")
    return kind(
        data,
        id=data["id"],
        matrix=data["matrix"],
        ramp=stops_from_json(data["ramp"]),
        speed=speed_from_json(data["speed"]),
        opacity=float(data["opacity"]),
        blend=data["blend"],
        mute=bool(data.get("mute", False)),
        solo=bool(data.get("solo", False)),
    )


def look_from_json(data: Mapping[str, Any]) -> Look:
    return Look(data["id"], data["name"], tuple(line_from_json(line) for line in data["lines"]))


def speed_from_json(data: Mapping[str, Any]) -> Speed:
    return Speed(float(data["value"]), data["unit"])


PARAMS = "params."
"""What stands before the name of a parameter where fields of a line are named."""


def moved_line(line: Line, values: Mapping[str, Any]) -> Line:
    """The line with fields held at other values, each in its stored form; InputError where one takes no such value."""
    changes: dict[str, Any] = {}
    for name, value in values.items():
        if name.startswith(PARAMS):
            changes.setdefault("params", {})[name.removeprefix(PARAMS)] = value
        elif name == "ramp":
            changes["ramp"] = stops_from_json(value)
        elif name == "speed":
            changes["speed"] = speed_from_json(value)
        else:
            changes[name] = value
    if "params" in changes:
        if not isinstance(line, EffectLine):
            raise InputError("Only an effect has parameters.", where="params")
        changes["params"] = {**line.params, **changes["params"]}
    return replace(line, **changes)


def rate_of(line: Line, values: Mapping[str, Any]) -> tuple[PhaseUnit, float]:
    """The line's rate with fields held at other values."""
    return line.rate_at(speed_from_json(values["speed"])) if "speed" in values else line.rate
