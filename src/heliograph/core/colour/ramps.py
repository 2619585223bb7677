"""Colour in the program: display-referred RGB, float32 0..1, premultiplied by coverage; ramps."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import pairwise
from typing import Any

import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError

Floats = npt.NDArray[np.float32]

RAMP_STEPS = 1024
"""Entries of a ramp's table: finer than the 255 steps between two 8-bit stops four wide."""

STOPS_MAX = 8


@dataclass(frozen=True, slots=True, order=True)
class Stop:
    """One colour of a ramp: `at` 0..1, red, green and blue 0..255."""

    at: float
    red: int
    green: int
    blue: int

    def __post_init__(self) -> None:
        if not 0.0 <= self.at <= 1.0:
            raise InputError(f"A stop at {self.at:g} is off the ramp.", where="ramp", repair="Places are 0 to 1.")
        for name, value in (("red", self.red), ("green", self.green), ("blue", self.blue)):
            if not 0 <= value <= 255:
                raise InputError(f"{name} {value} is outside 0 to 255.", where="ramp")


def check_ramp(stops: Sequence[Stop]) -> None:
    """Raises InputError unless there are 1 to 8 stops in order of their places."""
    if not 1 <= len(stops) <= STOPS_MAX:
        raise InputError(f"A ramp has 1 to {STOPS_MAX} colours, not {len(stops)}.", where="ramp")
    if any(a.at > b.at for a, b in pairwise(stops)):
        raise InputError("The colours of a ramp must stand in order of their places.", where="ramp")


def stops_from_json(data: Sequence[Any]) -> tuple[Stop, ...]:
    """Stops from [[at, r, g, b], ...]."""
    return tuple(Stop(float(at), int(r), int(g), int(b)) for at, r, g, b in data)


def stops_to_json(stops: Sequence[Stop]) -> list[list[float]]:
    return [[stop.at, stop.red, stop.green, stop.blue] for stop in stops]


@lru_cache(maxsize=512)
def ramp_table(stops: tuple[Stop, ...]) -> Floats:
    """(3, 1024) float32 0..1: planes of the ramp, linear between stops, flat outside. Do not write to it."""
    check_ramp(stops)
    places = np.linspace(0.0, 1.0, RAMP_STEPS)
    at = [stop.at for stop in stops]
    columns = [
        np.interp(places, at, [getattr(stop, name) / 255.0 for stop in stops]) for name in ("red", "green", "blue")
    ]
    table = np.stack(columns).astype(np.float32)
    table.setflags(write=False)
    return table


def table_of_colours(places: Sequence[float], colours: Sequence[Sequence[float]]) -> Floats:
    """(3, 1024) as `ramp_table`, of colours 0..255 that are no whole numbers; made anew each time."""
    steps = np.linspace(0.0, 1.0, RAMP_STEPS)
    planes = [np.interp(steps, places, [one[plane] / 255.0 for one in colours]) for plane in range(3)]
    return np.stack(planes).astype(np.float32)


def rolled(table: Floats, shift: float) -> Floats:
    """The table begun `shift` of its length later, round its end: a place then has the colour that much further on."""
    steps = round(shift * RAMP_STEPS) % RAMP_STEPS
    return np.roll(table, -steps, axis=1) if steps else table


def ramp_at(stops: tuple[Stop, ...], place: float) -> Floats:
    """(3,) float32: the ramp's colour at one place 0..1, exactly (no table)."""
    at = [stop.at for stop in stops]
    return np.array(
        [np.interp(place, at, [getattr(stop, name) / 255.0 for stop in stops]) for name in ("red", "green", "blue")],
        dtype=np.float32,
    )


def to_bytes(levels: Floats) -> npt.NDArray[np.uint8]:
    """0..1 to 0..255, nearest (half up), clipped. The common conversion (standards 7.5)."""
    return (np.clip(levels, 0.0, 1.0) * np.float32(255.0) + np.float32(0.5)).astype(np.uint8)
