"""Lines of a look, each kind with what it needs: what is painted, on which matrix, how, how fast. And their blends."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar, Literal, get_args

from heliograph.core.colour.ramps import stops_from_json
from heliograph.core.errors import InputError
from heliograph.core.look.any_line import (
    SPEED,
    AnyLine,
)
from heliograph.core.look.attributes import Values, values_from_json
from heliograph.core.look.canvas import OVER
from heliograph.core.look.chase import ORDERS, Order
from heliograph.core.look.drive import drive_from_json
from heliograph.core.look.feeds import LOST, Lost
from heliograph.core.look.masks import region_from_json, through_from_json
from heliograph.core.look.ribbon import Ribbon, ribbon_from_json
from heliograph.core.matrix.fitting import Fitting, fitting_from_json
from heliograph.core.playing.phase import Rate
from heliograph.core.playing.tempo import PhaseUnit, Speed, phase_rate

Ends = Literal["hold", "clear"]
ROUNDS_MAX = 10_000
SEED_MAX = 2**31 - 1
CLIP = "clip"
"""A hand holds it as {"id", "loop_s"}."""


@dataclass(frozen=True, slots=True, kw_only=True)
class EffectLine(AnyLine):
    """A built-in effect by its name, with its parameters; another `seed` is another of its kind."""

    paints: ClassVar[str] = "effect"
    does: ClassVar[str] = "paints an effect"
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
class ClipLine(AnyLine):
    """A clip by its id. `fitting` says how it lies on the matrix and which part of it plays; `loop_s` is how long that
    part lasts at the clip's own speed. `rounds`: after so many it is at its end, 0 for never; what is shown then is
    said by `ends`: its last picture, or nothing."""

    paints: ClassVar[str] = "clip"
    does: ClassVar[str] = "paints a clip"
    clip: str
    fitting: Fitting = field(default_factory=Fitting)
    loop_s: float = 1.0
    rounds: int = 0
    ends: Ends = "hold"

    def __post_init__(self) -> None:
        super(ClipLine, self).__post_init__()
        if not 0 <= self.rounds <= ROUNDS_MAX:
            raise InputError(f"{self.rounds} rounds are outside 0 to {ROUNDS_MAX}.", where="rounds")
        if self.ends not in get_args(Ends):
            raise InputError(f"A clip does not end by '{self.ends}'.", where="ends", repair="Use hold or clear.")

    def rate_at(self, speed: Speed) -> Rate:
        return Rate(*phase_rate(speed, self.loop_s), self.drives.get(SPEED))


@dataclass(frozen=True, slots=True, kw_only=True)
class RecolourLine(AnyLine):
    """Makes other colours of what lies beneath it in its look, and covers nothing more; see `core/look/recolour`."""

    paints: ClassVar[str] = "recolour"
    does: ClassVar[str] = "recolours"
    timed: ClassVar[bool] = False
    params: Mapping[str, Any] = field(default_factory=dict)

    def __post_init__(self) -> None:
        super(RecolourLine, self).__post_init__()
        if self.emitter:
            raise InputError(
                f"What recolours writes colours, not {self.emitter} alone.",
                where="emitter",
                repair="Paint an effect over it.",
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class FeedLine(AnyLine):
    """A live picture by its `address`; `lost`: what is shown once nothing came any more (see `core/look/feeds`)."""

    paints: ClassVar[str] = "feed"
    does: ClassVar[str] = "shows a live picture"
    timed: ClassVar[bool] = False
    address: str
    fitting: Fitting = field(default_factory=Fitting)
    lost: Lost = "hold"

    def __post_init__(self) -> None:
        super(FeedLine, self).__post_init__()
        if self.lost not in LOST:
            raise InputError(
                f"'{self.lost}' is not shown for what is lost.", where="lost", repair=f"Use {', '.join(LOST)}."
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class ChaseLine(AnyLine):
    """Drawn frames by their chase's id; see `core/look/chase`. `order`: in which they show; `rounds`, `ends` as of a
    clip. `length`: how long a round lasts at the chase's own speed, on the clock of its `unit`. `frame`: a hand holds
    it at that one, from 1, which is never stored; 0 where nobody does."""

    paints: ClassVar[str] = "chase"
    does: ClassVar[str] = "shows a chase"
    chase: str
    order: Order = "along"
    rounds: int = 0
    ends: Ends = "hold"
    seed: int = 0
    length: float = 1.0
    unit: PhaseUnit = "s"
    frame: int = 0

    def __post_init__(self) -> None:
        super(ChaseLine, self).__post_init__()
        if self.order not in ORDERS:
            raise InputError(f"A chase does not go '{self.order}'.", where="order", repair=f"Use {', '.join(ORDERS)}.")
        if not 0 <= self.rounds <= ROUNDS_MAX:
            raise InputError(f"{self.rounds} rounds are outside 0 to {ROUNDS_MAX}.", where="rounds")
        if self.ends not in get_args(Ends):
            raise InputError(f"A chase does not end by '{self.ends}'.", where="ends", repair="Use hold or clear.")
        if not 0 <= self.seed <= SEED_MAX:
            raise InputError(f"A seed of {self.seed} is outside 0 to {SEED_MAX}.", where="seed")

    def rate_at(self, speed: Speed) -> Rate:
        if speed.unit == "times":
            return Rate(self.unit, speed.value / self.length, self.drives.get(SPEED))
        return Rate(*phase_rate(speed), self.drives.get(SPEED))


@dataclass(frozen=True, slots=True, kw_only=True)
class AttributeLine(AnyLine):
    """Sets attributes of the fixtures it is over: those of `values` (its presets, and what was kept) one after another,
    then its own, `params`: by attribute what was typed, as by hand. Drives of "params.<attribute>" are added to that.
    See `core/look/attributes`."""

    paints: ClassVar[str] = "attributes"
    does: ClassVar[str] = "sets attributes"
    timed: ClassVar[bool] = False
    pictured: ClassVar[bool] = False
    params: Mapping[str, str] = field(default_factory=dict)
    values: tuple[Values, ...] = ()


Line = EffectLine | ClipLine | RecolourLine | FeedLine | ChaseLine | AttributeLine

DOES: dict[str, str] = {one.paints: one.does for one in get_args(Line)}
"""Each kind in words: a line that ..."""


@dataclass(frozen=True, slots=True)
class Look:
    """A named stack of lines, bottom first."""

    id: str
    name: str
    lines: tuple[Line, ...]


def _effect_line(data: Mapping[str, Any], **shared: Any) -> Line:
    return EffectLine(
        **shared,
        effect=data["effect"],
        params=data.get("params") or {},
        seed=int(data.get("seed") or 0),
    )


def _clip_line(data: Mapping[str, Any], **shared: Any) -> Line:
    return ClipLine(
        **shared,
        clip=data["clip"],
        fitting=fitting_from_json(data.get("fitting") or {}),
        loop_s=float(data.get("loop_s") or 1.0),
        rounds=int(data.get("rounds") or 0),
        ends=data.get("ends") or "hold",
    )


def _recolour_line(data: Mapping[str, Any], **shared: Any) -> Line:
    return RecolourLine(**shared, params=data.get("params") or {})


def _feed_line(data: Mapping[str, Any], **shared: Any) -> Line:
    return FeedLine(
        **shared,
        address=data["address"],
        fitting=fitting_from_json(data.get("fitting") or {}),
        lost=data.get("lost", "hold"),
    )


def _chase_line(data: Mapping[str, Any], **shared: Any) -> Line:
    return ChaseLine(
        **shared,
        chase=data["chase"],
        order=data.get("order") or "along",
        rounds=int(data.get("rounds") or 0),
        ends=data.get("ends") or "hold",
        seed=int(data.get("seed") or 0),
        length=float(data.get("length") or 1.0),
        unit=data.get("unit") or "s",
    )


def _attribute_line(data: Mapping[str, Any], **shared: Any) -> Line:
    kept = [data["kept"]] if data.get("kept") else []
    values = tuple(values_from_json(one) for one in [*(data.get("values") or ()), *({"kept": one} for one in kept)])
    return AttributeLine(**shared, params=data.get("params") or {}, values=values)


KINDS: dict[str, Callable[..., Line]] = {
    ChaseLine.paints: _chase_line,
    FeedLine.paints: _feed_line,
    EffectLine.paints: _effect_line,
    ClipLine.paints: _clip_line,
    RecolourLine.paints: _recolour_line,
    AttributeLine.paints: _attribute_line,
}
"""Every kind of line, and how it is read: a new one is a class and a row here."""


COMMON_FIELDS = (
    *OVER,
    "ramp",
    "saved_ramp",
    "opacity",
    "blend",
    "only",
    "mute",
    "solo",
    "stencil",
    "through",
    "region",
    "emitter",
    "shift",
    "drives",
    "ribbons",
)
FIELDS: dict[str, tuple[str, ...]] = {
    EffectLine.paints: (*COMMON_FIELDS, "speed", "effect", "params", "seed"),
    ClipLine.paints: (*COMMON_FIELDS, "speed", "clip", "fitting", "rounds", "ends"),
    ChaseLine.paints: (*COMMON_FIELDS, "speed", "chase", "order", "rounds", "ends", "seed"),
    RecolourLine.paints: (*COMMON_FIELDS, "params"),
    FeedLine.paints: (*COMMON_FIELDS, "address", "fitting", "lost"),
    AttributeLine.paints: (*OVER, "opacity", "mute", "solo", "drives", "params", "presets", "kept"),
}
"""What of a stored line may become another, for each kind."""


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
        speed=speed_from_json(data["speed"]) if "speed" in data else Speed(4.0),
        opacity=float(data["opacity"]),
        blend=data["blend"],
        mute=bool(data.get("mute", False)),
        only=data.get("only", ""),
        solo=bool(data.get("solo", False)),
        stencil=bool(data.get("stencil", False)),
        through=through_from_json(data.get("through")),
        region=region_from_json(data.get("region")),
        emitter=data.get("emitter") or "",
        shift=float(data.get("shift", 0.0)),
        ribbons=_ribbons(data),
        drives={name: drive_from_json(one) for name, one in (data.get("drives") or {}).items()},
    )


def _ribbons(data: Mapping[str, Any]) -> dict[str, Ribbon]:
    """Those of colours that the ramp still has: another one may have fewer."""
    there = {str(stop) for stop in range(len(data["ramp"]))}
    return {stop: ribbon_from_json(one) for stop, one in (data.get("ribbons") or {}).items() if stop in there}


def look_from_json(data: Mapping[str, Any]) -> Look:
    return Look(data["id"], data["name"], tuple(line_from_json(line) for line in data["lines"]))


def speed_from_json(data: Mapping[str, Any]) -> Speed:
    return Speed(float(data["value"]), data["unit"])


def speed_to_json(speed: Speed) -> dict[str, Any]:
    return {"value": speed.value, "unit": speed.unit}


PARAMS = "params."
"""What stands before the name of a parameter where fields of a line are named."""
