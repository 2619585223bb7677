"""What every line of a look has, whatever it paints."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import ClassVar, Literal, get_args

from heliograph.core.colour.components import COMPONENTS, Component
from heliograph.core.colour.ramps import Stop, check_ramp
from heliograph.core.errors import InputError
from heliograph.core.look.drive import Drive
from heliograph.core.look.emitters import check_emitter
from heliograph.core.look.masks import Region, Through
from heliograph.core.look.ribbon import Ribbon
from heliograph.core.playing.phase import Rate
from heliograph.core.playing.tempo import Speed, phase_rate

Blend = Literal["over", "add", "multiply", "lighten", "darken"]
BLENDS: tuple[Blend, ...] = get_args(Blend)
Only = Literal["", "hue", "saturation", "light"]
OPACITY, SPEED, SHIFT, CYCLE = "opacity", "speed", "shift", "cycle"
"""Drives of these names: how much a line covers, a factor of its speed, a shift of its ramp, where in its cycle it
stands."""


@dataclass(frozen=True, slots=True, kw_only=True)
class AnyLine:
    """One row of a look. `opacity` 0..1. `only`: the one component it writes, "" for the whole colour. `through`,
    `region`: what it is painted through; a `stencil` is there for others to be painted through and paints nothing
    itself. `emitter`: the word of the one emitter its picture's brightness is written to, "" for its colour on all.
    `shift` -1..1: the ramp is shifted by so much of its length, round its end. `cycle`: where in its cycle the
    line stands, None where time moves it. `drives`: what moves its numbers, by "opacity", "speed", "shift", "cycle" or
    "params.<name>". `ribbons`: colours of the ramp that go over time, by their place in it
    from "0".
    """

    timed: ClassVar[bool] = True
    """Whether it has a speed and a place in its cycle."""

    pictured: ClassVar[bool] = True
    """Whether it paints colours; what only sets attributes does not."""

    id: str
    matrix: str
    ramp: tuple[Stop, ...] = (Stop(0.0, 255, 255, 255),)
    speed: Speed = field(default_factory=lambda: Speed(4.0))
    opacity: float = 1.0
    blend: Blend = "over"
    only: Only = ""
    mute: bool = False
    solo: bool = False
    stencil: bool = False
    through: Through | None = None
    region: Region | None = None
    emitter: str = ""
    shift: float = 0.0
    cycle: float | None = None
    drives: Mapping[str, Drive] = field(default_factory=dict)
    ribbons: Mapping[str, Ribbon] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not 0.0 <= self.opacity <= 1.0:
            raise InputError(f"An opacity of {self.opacity * 100:g} % is outside 0 to 100 %.", where="opacity")
        if self.blend not in BLENDS:
            raise InputError(
                f"There is no blend '{self.blend}'.", where="blend", repair=f"There are {', '.join(BLENDS)}."
            )
        if not -1.0 <= self.shift <= 1.0:
            raise InputError(f"A shift of {self.shift:g} is outside -1 to 1.", where="shift")
        if self.only and self.only not in COMPONENTS:
            raise InputError(
                f"A line cannot write only '{self.only}'.",
                where="only",
                repair=f"Use {', '.join(COMPONENTS)}; or none.",
            )
        check_emitter(self.emitter, self.only)
        if self.through is not None and self.through.line == self.id:
            raise InputError("A line is not painted through itself.", where="through.line", repair="Choose another.")
        check_ramp(self.ramp)
        for stop in self.ribbons:
            if not (stop.isdecimal() and int(stop) < len(self.ramp)):
                raise InputError(f"The ramp has no colour {stop}.", where="ribbons", repair="Colours count from 0.")

    @property
    def writes(self) -> Component | None:
        return self.only or None

    @property
    def paints_itself(self) -> bool:
        return not (self.mute or self.stencil)

    def rate_at(self, speed: Speed) -> Rate:
        """The clock its phase runs by at a speed, cycles a second or a beat, and what drives that."""
        return Rate(*phase_rate(speed), self.drives.get(SPEED))

    @property
    def rate(self) -> Rate:
        return self.rate_at(self.speed)
