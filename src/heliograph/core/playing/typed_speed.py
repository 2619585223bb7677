"""A speed as it is typed: "4 s", "8 beats", "2 bars", "150 %", "-2 bars" or "2 bars backward"."""

from __future__ import annotations

import re

from heliograph.core.errors import InputError
from heliograph.core.playing.tempo import Speed

BEATS_A_BAR = 4
_WORDS = re.compile(r"^(.*?)\s*(backward)?$")
_PERCENT = re.compile(r"^(-?\d+(?:[.,]\d+)?)\s*%$")
_TIME = re.compile(r"^(-?\d+(?:[.,]\d+)?)\s*(s|sec|seconds?|b|beats?|bars?)?$")


def read_speed(text: str) -> Speed:
    """A number alone is seconds. InputError where it is no speed, or one that is not possible."""
    words = _WORDS.match(text.strip().lower())
    assert words is not None
    said, sign = words[1], -1.0 if words[2] else 1.0
    percent = _PERCENT.match(said)
    if percent:
        return Speed(sign * _number(percent[1]) / 100.0, "times")
    time = _TIME.match(said)
    if time is None:
        raise InputError(
            f"'{text[:40]}' is no speed.",
            where="speed",
            repair="Type seconds like 4 s, beats like 8 beats or -2 bars (backward), of a clip also 150 %.",
        )
    value, unit = sign * _number(time[1]), time[2] or "s"
    if unit.startswith("bar"):
        return Speed(value * BEATS_A_BAR, "beat")
    return Speed(value, "beat" if unit.startswith("b") else "s")


def _number(text: str) -> float:
    return float(text.replace(",", "."))
