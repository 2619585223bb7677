"""Drives: what moves a number of a line by itself. A closed form of show time, beat and what the line does: the same
moment is the same value everywhere, and nothing has to be remembered. Smoothing too: see `core/look/smoothing`."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any, Literal, get_args

from heliograph.core.errors import InputError
from heliograph.core.look.orders import DriveOrder
from heliograph.core.playing.tempo import Speed
from heliograph.core.waves import SHAPES

STEPS, DRIFT = "steps", "drift"
WAVES = (*SHAPES, STEPS, DRIFT)
"""The last two are by chance: another value each period, at once or smoothly."""

Source = Literal["wave", "curve", "beat", "sound", "input"]
SOURCES: tuple[str, ...] = get_args(Source)
ARRIVING = ("sound", "input")
"""Sources that come from outside; as long as nothing arrives they move nothing."""

By = Literal["time", "cycle"]
"""What a curve runs by: seconds or beats since its look began, or the line's own cycle."""

Shape = Literal["straight", "eased", "steps"]
ORDERS: tuple[str, ...] = get_args(DriveOrder)
FOUR_SECONDS = Speed(4.0)
POINTS_MAX = 32
SMOOTHING_MAX_S = 60.0
Point = tuple[float, float]


@dataclass(frozen=True, slots=True, kw_only=True)
class Drive:
    """Goes between `low` and `high` (in the number's own unit) once a `period`.

    A wave is begun `phase` 0..1 of a period earlier; a square is high for `duty` 0..1 of it. A curve goes through its
    `points` (place 0..1 in the period, level 0..1), `smooth` between them or straight, for so many `rounds` (0: without
    end), back and forth where it `turns`, `by` time or cycle. A beat jumps to high at the beginning of each period and
    falls: after `decay` 0..1 of it a tenth is left. Sound and input are named by `of`.

    `shape`: the level goes straight, eased, or in so many `steps`; from high to low where `inverse`. `rise`, `fall`:
    seconds in which nine tenths of a jump are covered. `over`: the order in which cells are later one by one, up to
    `spread` periods from the first to the last ("": alike for all), "distance" counted from the point `x`, `y` 0..1 of
    the matrix. By chance, `over` any order, each cell has its own. `alternate`: of an attribute, every second fixture
    goes the other way.
    """

    low: float
    high: float
    source: Source = "wave"
    wave: str = "sine"
    period: Speed = FOUR_SECONDS
    phase: float = 0.0
    duty: float = 0.5
    points: tuple[Point, ...] = ((0.0, 0.0), (0.5, 1.0), (1.0, 0.0))
    smooth: bool = False
    by: By = "time"
    rounds: int = 0
    turns: bool = False
    decay: float = 0.5
    of: str = ""
    shape: Shape = "straight"
    steps: int = 4
    inverse: bool = False
    rise: float = 0.0
    fall: float = 0.0
    over: str = ""
    spread: float = 1.0
    x: float = 0.5
    y: float = 0.5
    seed: int = 0
    alternate: bool = False

    def __post_init__(self) -> None:
        for name, value, there in (
            ("source", self.source, SOURCES),
            ("wave", self.wave, WAVES),
            ("shape", self.shape, get_args(Shape)),
            ("by", self.by, get_args(By)),
            ("over", self.over, ("", *ORDERS)),
        ):
            if value not in there:
                called = "order" if name == "over" else name
                named = ", ".join(one or "none" for one in there)
                raise InputError(f"There is no {called} '{value}'.", where=name, repair=f"There are {named}.")
        if self.period.unit == "times":
            raise InputError("A drive takes seconds or beats.", where="period", repair="Type 4 s or 8 beats.")
        for name, number, least, most in (
            ("phase", self.phase, 0.0, 1.0),
            ("duty", self.duty, 0.0, 1.0),
            ("decay", self.decay, 0.01, 10.0),
            ("spread", self.spread, 0.0, 16.0),
            ("rise", self.rise, 0.0, SMOOTHING_MAX_S),
            ("fall", self.fall, 0.0, SMOOTHING_MAX_S),
            ("x", self.x, 0.0, 1.0),
            ("y", self.y, 0.0, 1.0),
            ("steps", self.steps, 2, 256),
            ("rounds", self.rounds, 0, 10_000),
        ):
            if not least <= number <= most:
                raise InputError(f"A {name} of {number:g} is outside {least:g} to {most:g}.", where=name)
        self._check_points()

    def _check_points(self) -> None:
        if not 2 <= len(self.points) <= POINTS_MAX:
            raise InputError(f"A curve has 2 to {POINTS_MAX} points, not {len(self.points)}.", where="points")
        for at, level in self.points:
            if not (0.0 <= at <= 1.0 and 0.0 <= level <= 1.0):
                raise InputError(f"A point at {at:g}, {level:g} is outside 0 to 1.", where="points")
        places = [at for at, _ in self.points]
        if places != sorted(places):
            raise InputError("The points of a curve stand in order of their places.", where="points")

    @property
    def by_chance(self) -> bool:
        return self.source == "wave" and self.wave in (STEPS, DRIFT)

    @property
    def arrives(self) -> bool:
        """Whether it waits for something from outside."""
        return self.source in ARRIVING

    @property
    def smoothed(self) -> bool:
        return self.rise > 0.0 or self.fall > 0.0


def drive_from_json(data: Mapping[str, Any]) -> Drive:
    """A drive from its stored form; InputError where a value is outside its range."""
    period = data["period"]
    changes: dict[str, Any] = {"period": Speed(float(period["value"]), period["unit"])}
    if "points" in data:
        changes["points"] = tuple((float(at), float(level)) for at, level in data["points"])
    return Drive(**{**data, **changes})


def drive_to_json(drive: Drive) -> dict[str, Any]:
    return {**asdict(drive), "points": [list(point) for point in drive.points]}
