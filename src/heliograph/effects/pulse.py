"""Pulse: everything rises and falls together, or strobes."""

from __future__ import annotations

from collections.abc import Mapping

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.core.waves import SHAPES, oscillation
from heliograph.effects.registry import Canvas, Effect, Moment, Stretch, register


def prepare(_canvas: Canvas, choices: Mapping[str, str], _seed: int) -> str:
    return choices["shape"]


def paint(shape: str, _part: slice, moment: Moment) -> Stretch:
    """One pulse a phase of 1, `depth` percent deep. `duty`: for how much of it a square one is lit. The ramp runs with
    the light."""
    light = float(oscillation(shape, moment.phase, moment.moved["duty"] / 100.0))
    return Stretch(light, 1.0 - moment.moved["depth"] / 100.0 * (1.0 - light))


PULSE = register(
    Effect(
        name="Pulse",
        says="everything rises and falls together, or strobes",
        words=("strobe", "breathe", "blink", "flash", "beat", "heartbeat"),
        parameters=(
            Parameter("shape", "choice", "sine", choices=SHAPES),
            Parameter("duty", "number", 50.0, 1.0, 99.0, "% of a pulse"),
            Parameter("depth", "number", 100.0, 0.0, 100.0, "%"),
        ),
        prepare=prepare,
        paint=paint,
        ramp=(Stop(0.0, 255, 70, 110),),
        speed=Speed(1.0, "beat"),
    )
)
