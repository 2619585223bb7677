"""A drive as it is drawn: what is asked over a page of time, what smoothing reaches of it, and where *now* stands."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import NamedTuple

import numpy as np

from heliograph.core.look.drive import Drive
from heliograph.core.look.levels import Clocks, asked, level_at, turns_of
from heliograph.core.playing.tempo import Speed

POINTS = 241
DRAWS = 8
"""So many draws by chance stand on a page; of what repeats two periods do, of what turns or ends all of it."""


class PlaceNow(NamedTuple):
    """The page a drive is on, counted from 0, and how far along it is, 0 to 1."""

    page: int
    place: float


@dataclass(frozen=True, slots=True)
class Chart:
    """`asked`, `reached`: (POINTS,) values evenly over a page that lasts `length`; `lowest`, `highest`: the least and
    the most that is reached. `page`: which one it is; every page looks alike unless `by_chance`."""

    asked: list[float]
    reached: list[float]
    lowest: float
    highest: float
    length: Speed
    page: int
    by_chance: bool


def page_of(drive: Drive) -> int:
    """Periods on a page."""
    if drive.by_chance:
        return DRAWS
    if drive.source == "curve":
        return min(drive.rounds, DRAWS) or (2 if drive.turns else 1)
    return 2


def place_now(drive: Drive, clocks: Clocks) -> PlaceNow:
    turns = turns_of(drive, clocks) / page_of(drive)
    if drive.source == "curve" and drive.rounds and turns >= 1.0:
        return PlaceNow(0, 1.0)
    whole = math.floor(turns)
    return PlaceNow(whole, turns - whole)


def chart_of(drive: Drive, page: int, beat_s: float) -> Chart:
    """A drive that waits for something to arrive stands at its lower end."""
    periods = page_of(drive)
    page = page if drive.by_chance else 0
    turns = np.linspace(page * periods, (page + 1) * periods, POINTS)
    reached = np.array([float(level_at(drive, turn, beat_s)) for turn in turns])
    if drive.by_chance:
        plain = np.array([float(level_at(_without_smoothing(drive), turn, beat_s)) for turn in turns])
    else:
        plain = np.asarray(asked(drive, turns - page * periods), dtype=np.float64)
    span = drive.high - drive.low
    values = [[round(drive.low + span * float(one), 4) for one in levels] for levels in (plain, reached)]
    length = Speed(abs(drive.period.value) * periods, drive.period.unit)
    return Chart(values[0], values[1], min(values[1]), max(values[1]), length, page, drive.by_chance)


def _without_smoothing(drive: Drive) -> Drive:
    return replace(drive, rise=0.0, fall=0.0)
