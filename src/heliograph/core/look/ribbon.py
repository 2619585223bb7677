"""Colour over time: a ribbon of knots that set the whole colour, and threads of single emitters between them."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, field, replace
from itertools import pairwise
from typing import Any

import numpy as np

from heliograph.core.colour.components import LUMINANCE
from heliograph.core.errors import InputError
from heliograph.core.playing.tempo import Speed
from heliograph.core.waves import smooth

EMITTERS = ("red", "green", "blue")
EIGHT_SECONDS = Speed(8.0)
KNOTS_MAX, POINTS_MAX = 64, 64
LENGTH_MAX = 86_400.0
SAME = 0.005
"""Times nearer than this are one."""

Colour = tuple[float, float, float]


@dataclass(frozen=True, slots=True)
class Knot:
    """The whole colour, 0..255, at a time of the ribbon in its unit; `eased` on the way to the next one."""

    at: float
    red: float
    green: float
    blue: float
    eased: bool = False

    @property
    def colour(self) -> Colour:
        return self.red, self.green, self.blue


@dataclass(frozen=True, slots=True)
class Ribbon:
    """`length` of one round, seconds or beats since the look began; `rounds` (0: without end), back and forth where it
    `turns`. Before its first and after its last knot a colour holds. `threads`: points (time, value 0..255) of one
    emitter that goes its own way between two knots."""

    knots: tuple[Knot, ...]
    length: Speed = EIGHT_SECONDS
    rounds: int = 0
    turns: bool = False
    threads: Mapping[str, tuple[tuple[float, float], ...]] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if self.length.unit == "times" or not 0.02 <= self.length.value <= LENGTH_MAX:
            raise InputError("A ribbon lasts seconds or beats.", where="length", repair="Type 8 s or 16 beats.")
        if not 1 <= len(self.knots) <= KNOTS_MAX:
            raise InputError(f"A ribbon has 1 to {KNOTS_MAX} knots, not {len(self.knots)}.", where="knots")
        for a, b in pairwise(self.knots):
            if b.at <= a.at:
                raise InputError("The knots of a ribbon stand one after another.", where="knots")
        for knot in self.knots:
            self._check_time(knot.at, "knots")
            for name in EMITTERS:
                _check_value(getattr(knot, name), "knots")
        if not 0 <= self.rounds <= 10_000:
            raise InputError(f"{self.rounds} rounds are outside 0 to 10,000.", where="rounds")
        for name, points in self.threads.items():
            if name not in EMITTERS:
                raise InputError(
                    f"There is no emitter '{name}'.", where="threads", repair=f"Use {', '.join(EMITTERS)}."
                )
            if len(points) > POINTS_MAX:
                raise InputError(f"A thread has at most {POINTS_MAX} points.", where="threads")
            for at, value in points:
                self._check_time(at, "threads")
                _check_value(value, "threads")
            if any(b[0] <= a[0] for a, b in pairwise(points)):
                raise InputError("The points of a thread stand one after another.", where="threads")

    def _check_time(self, at: float, where: str) -> None:
        if not 0.0 <= at <= self.length.value:
            raise InputError(f"{at:g} lies outside the ribbon's {self.length.value:g}.", where=where)

    def at(self, since: float) -> Colour:
        """The colour, 0..255, so long after the look began, in the ribbon's unit."""
        return self.colour_at(self.place(since))

    def place(self, since: float) -> float:
        """The time within the ribbon."""
        laps = since / self.length.value
        if self.rounds and laps >= self.rounds:
            ends_back = self.turns and self.rounds % 2 == 0
            return 0.0 if ends_back else self.length.value
        whole = math.floor(laps)
        part = laps - whole
        return (1.0 - part if self.turns and whole % 2 else part) * self.length.value

    def colour_at(self, time: float) -> Colour:
        """The colour, 0..255, at a time of the ribbon."""
        red, green, blue = (self._emitter(name, time) for name in EMITTERS)
        return red, green, blue

    def _emitter(self, name: str, time: float) -> float:
        points = [(knot.at, float(getattr(knot, name)), knot.eased) for knot in self.knots]
        points += [(at, value, False) for at, value in self.threads.get(name, ())]
        points.sort(key=lambda one: one[0])
        if time <= points[0][0]:
            return points[0][1]
        for (a, low, eased), (b, high, _) in pairwise(points):
            if time < b:
                t = (time - a) / (b - a) if b > a else 1.0
                return low + (high - low) * (smooth(t) if eased else t)
        return points[-1][1]


@dataclass(frozen=True, slots=True)
class RibbonChart:
    """Evenly along a ribbon: colours 0..255, and their light 0..1 (Rec. 709 weights). `threads`: by emitter, its value
    0..255 where it goes its own way, None elsewhere."""

    colours: list[Colour]
    light: list[float]
    threads: dict[str, list[float | None]]


def ribbon_chart(ribbon: Ribbon, points: int = 161) -> RibbonChart:
    times = [float(at) for at in np.linspace(0.0, ribbon.length.value, points)]
    colours = [ribbon.colour_at(at) for at in times]
    rounded = [(round(r, 1), round(g, 1), round(b, 1)) for r, g, b in colours]
    light = [float(np.dot(colour, LUMINANCE)) / 255.0 for colour in colours]
    threads = {name: _departs(ribbon, name, times) for name, points in ribbon.threads.items() if points}
    return RibbonChart(rounded, [round(one, 4) for one in light], threads)


def _departs(ribbon: Ribbon, emitter: str, times: Sequence[float]) -> list[float | None]:
    """An emitter's value between the knots around its points, where it leaves the ribbon and comes back to it."""
    knots = [knot.at for knot in ribbon.knots]
    ways = []
    for at, _ in ribbon.threads[emitter]:
        before = max((one for one in knots if one <= at), default=0.0)
        ways.append((before, min((one for one in knots if one > at), default=ribbon.length.value)))
    value = EMITTERS.index(emitter)
    return [
        round(ribbon.colour_at(at)[value], 1) if any(low <= at <= high for low, high in ways) else None for at in times
    ]


def ribbon_from_json(data: Mapping[str, Any]) -> Ribbon:
    """A ribbon from its stored form; InputError where a value is outside its range."""
    length = data["length"]
    return Ribbon(
        tuple(Knot(*knot) for knot in data["knots"]),
        Speed(float(length["value"]), length["unit"]),
        int(data.get("rounds", 0)),
        bool(data.get("turns", False)),
        {
            name: tuple((float(at), float(value)) for at, value in points)
            for name, points in data.get("threads", {}).items()
        },
    )


def ribbon_to_json(ribbon: Ribbon) -> dict[str, Any]:
    return {
        **asdict(ribbon),
        "knots": [[knot.at, knot.red, knot.green, knot.blue, knot.eased] for knot in ribbon.knots],
        "threads": {name: [list(point) for point in points] for name, points in ribbon.threads.items()},
    }


def new_ribbon(stop: Sequence[float]) -> Ribbon:
    """From the stored colour (at, red, green, blue) through one as dark as a tenth of it and back, in 8 s."""
    _, red, green, blue = stop
    dark = (round(red * 0.1), round(green * 0.1), round(blue * 0.1))
    return Ribbon((Knot(0.0, red, green, blue, True), Knot(4.0, *dark, True), Knot(8.0, red, green, blue)))


def loosened(ribbon: Ribbon, number: int) -> Ribbon:
    """The knot becomes a point of each emitter's thread: from there each goes its own way."""
    if not 0 <= number < len(ribbon.knots) or len(ribbon.knots) == 1:
        raise InputError("There is no other knot to hold the ribbon.", where="loosen", repair="Add one first.")
    knot = ribbon.knots[number]
    threads = {
        name: tuple(sorted([*_points_but(ribbon, name, knot.at), (knot.at, float(getattr(knot, name)))]))
        for name in EMITTERS
    }
    return replace(ribbon, knots=tuple(one for one in ribbon.knots if one is not knot), threads=threads)


def fastened(ribbon: Ribbon, at: float) -> Ribbon:
    """Points at a time become one knot of the colour there is then."""
    if not any(len(_points_but(ribbon, name, at)) < len(ribbon.threads.get(name, ())) for name in EMITTERS):
        raise InputError(f"No thread has a point at {at:g}.", where="fasten")
    knots = [knot for knot in ribbon.knots if abs(knot.at - at) > SAME]
    red, green, blue = (round(part, 1) for part in ribbon.colour_at(at))
    knots.append(Knot(at, red, green, blue))
    threads = {name: tuple(_points_but(ribbon, name, at)) for name in EMITTERS}
    return replace(ribbon, knots=tuple(sorted(knots, key=lambda one: one.at)), threads=threads)


def _points_but(ribbon: Ribbon, name: str, at: float) -> list[tuple[float, float]]:
    """The points of a thread that do not stand at a time."""
    return [point for point in ribbon.threads.get(name, ()) if abs(point[0] - at) > SAME]


def _check_value(value: float, where: str) -> None:
    if not 0.0 <= value <= 255.0:
        raise InputError(f"{value:g} is outside 0 to 255.", where=where)
