"""Another line of the same effect: parameters, colours and speed drawn anew within what reads well."""

from __future__ import annotations

import colorsys
import random
from typing import Any

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.effects.registry import Effect

LEAST, MOST = 0.45, 2.2
"""A number stays within so much of its default: what is far from it seldom reads."""

TURN = 180.0
"""Angles go all round."""

SPEEDS_S = (2.0, 3.0, 4.0, 6.0, 8.0, 12.0)
SPEEDS_BEATS = (2.0, 4.0, 8.0, 16.0)


def surprised(effect: Effect, seed: int) -> dict[str, Any]:
    """{"params", "ramp", "speed"}: always the same for a seed."""
    draw = random.Random(f"{effect.name} {seed}")  # for looks, not for secrets
    params = {one.name: _drawn(one, draw) for one in effect.parameters if one.kind != "text"}
    in_beats = effect.speed.unit == "beat" or draw.random() < 0.3
    value = draw.choice(SPEEDS_BEATS if in_beats else SPEEDS_S)
    backward = -1.0 if draw.random() < 0.2 else 1.0
    speed = Speed(backward * value, "beat" if in_beats else "s")
    return {"params": params, "ramp": _ramp(effect, draw), "speed": speed}


def _drawn(one: Parameter, draw: random.Random) -> float | str:
    if one.kind == "choice":
        return draw.choice(one.drawn or one.choices)
    default = float(one.default)
    if one.unit == "degrees":
        drawn = draw.uniform(-TURN, TURN) if one.maximum >= TURN else draw.uniform(one.minimum, one.maximum) / 2
    elif default == 0.0:
        drawn = draw.uniform(one.minimum, one.maximum) * 0.3
    else:
        drawn = default * draw.uniform(LEAST, MOST)
    least, most = max(one.minimum, -1e6), min(one.maximum, 1e6)
    return float(round(min(max(drawn, least), most)))


def _ramp(effect: Effect, draw: random.Random) -> tuple[Stop, ...]:
    """Colours that go together: neighbours in hue, or a pair across the circle; of several the bright end is where the
    effect's own ramp has it."""
    count = max(len(effect.ramp), draw.choice((1, 2, 3)))
    hue = draw.random()
    step = draw.choice((0.06, 0.1, 0.5 / max(count - 1, 1)))
    falls = _light(effect.ramp[0]) >= _light(effect.ramp[-1])
    stops = []
    for number in range(count):
        at = number / max(count - 1, 1)
        light = 1.0 if count == 1 else 1.0 - 0.6 * at if falls else 0.25 + 0.75 * at
        red, green, blue = colorsys.hsv_to_rgb((hue + step * number) % 1.0, draw.uniform(0.55, 1.0), light)
        stops.append(Stop(round(at, 3), round(red * 255), round(green * 255), round(blue * 255)))
    return tuple(stops)


def _light(stop: Stop) -> int:
    return max(stop.red, stop.green, stop.blue)
