"""The level of a drive at a moment, 0 to 1 of its range: its form, its shape, its smoothing, over time and cells."""

from __future__ import annotations

import math
from dataclasses import replace
from functools import lru_cache
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.look.drive import DRIFT, Drive
from heliograph.core.look.smoothing import settled, smoothed_draws
from heliograph.core.waves import Floats, chance, oscillation, smooth

CELLS_APART = 2.0**22
"""Places on the way are told apart so finely: all points of one cell share theirs."""

TABLE = 2048
"""A lap is looked up in so many steps: a sine is off by less than a thousandth of its range between them."""


_BEHIND = np.arange(TABLE)

Indexes = npt.NDArray[np.intp]


class Clocks(NamedTuple):
    """Show time in seconds and beats, the same since the look began, the line's cycle, and how long a beat lasts."""

    time_s: float
    beat: float
    since_s: float = 0.0
    since_beat: float = 0.0
    cycle: float = 0.0
    beat_s: float = 0.5


_CLOCKS = Clocks._fields


def _clock_of(drive: Drive) -> str:
    """The field of `Clocks` that a drive runs by."""
    if drive.source == "curve":
        if drive.by == "cycle":
            return "cycle"
        return "since_s" if drive.period.unit == "s" else "since_beat"
    return "time_s" if drive.period.unit == "s" else "beat"


def _steps(drive: Drive, lap: float) -> tuple[float, float]:
    """Steps of the table of a lap in a unit of its clock, and at its beginning."""
    each = TABLE / lap
    start = drive.phase * each if drive.source == "wave" else 0.0
    by_cycle = drive.source == "curve" and drive.by == "cycle"
    return (each if by_cycle else each / drive.period.value), start


def turns_of(drive: Drive, clocks: Clocks) -> float:
    """How many periods have gone by."""
    clock: float = getattr(clocks, _clock_of(drive))
    if drive.source == "curve" and drive.by == "cycle":
        return clock
    return clock / drive.period.value + (drive.phase if drive.source == "wave" else 0.0)


def value_at(drive: Drive, clocks: Clocks, along: Floats | None = None) -> float | Floats:
    """Its value at a moment in the number's unit; (n,) for cells `along` (n,) 0..1 of the way through them."""
    driver = Driver(drive, along)
    return driver.value(clocks) if along is None else driver.values(clocks)


def level_at(drive: Drive, turns: float, beat_s: float, along: Floats | None = None) -> Any:
    """0..1 of its range, after `turns` periods: a number, or (n,) for cells."""
    driver = Driver(replace(drive, low=0.0, high=1.0), along)
    return driver.at(turns, beat_s) if along is None else driver.all_at(turns, beat_s)


class Driver:
    """A drive made ready for many moments: its levels of a lap lie in a table of values. `along` (n,) 0..1: how far
    through the cells each stands, None where all are alike."""

    __slots__ = (
        "_along",
        "_beat_s",
        "_chance",
        "_clock",
        "_ends",
        "_key",
        "_lap",
        "_late",
        "_offset",
        "_plain",
        "_rate",
        "_table",
        "_view",
        "_whole",
        "arrives",
        "drive",
        "over",
    )

    def __init__(self, drive: Drive, along: Floats | None = None) -> None:
        self.drive = drive
        self._along = along
        self._lap = _lap(drive)
        self._chance = drive.by_chance
        self._ends = drive.source == "curve" and drive.rounds > 0
        self._key = self._beat_s = -1.0
        self._whole = 0.0
        self._late: Indexes | None = None
        self.arrives, self.over = drive.arrives, bool(drive.over)
        # What hundreds of drives ask in each frame is worked out here once.
        self._plain = not (self._chance or self._ends)
        self._clock = _CLOCKS.index(_clock_of(drive))
        self._rate, self._offset = _steps(drive, self._lap)
        if along is not None and not (self._chance or self._ends):
            self._late = np.rint(along * np.float32(drive.spread / self._lap * TABLE)).astype(np.intp) % TABLE

    def value(self, clocks: Clocks) -> float:
        """The one value of all cells at a moment."""
        if self._plain:
            if clocks.beat_s != self._beat_s:
                self._ready(clocks.beat_s)
            at = (clocks[self._clock] * self._rate + self._offset) % TABLE
            left = int(at)
            view = self._view
            value = view[left]
            return value + (view[left + 1] - value) * (at - left)
        return self.at(turns_of(self.drive, clocks), clocks.beat_s)

    def values(self, clocks: Clocks) -> Floats:
        """(n,) float32, a value for each cell."""
        return self.all_at(turns_of(self.drive, clocks), clocks.beat_s)

    def between(self, clocks: Clocks) -> npt.NDArray[np.float64]:
        """(n,) float64, as `values` but between the steps of the table too: what turns a head in 16 bits must not go
        in steps."""
        if self._late is None:  # by chance, or it ends
            return self.values(clocks).astype(np.float64)
        assert self._along is not None
        if clocks.beat_s != self._beat_s:
            self._ready(clocks.beat_s)
        behind = self._along.astype(np.float64) * self.drive.spread
        at = (turns_of(self.drive, clocks) - behind) / self._lap % 1.0 * TABLE
        left = at.astype(np.intp)
        found = self._table.take(left % TABLE).astype(np.float64)
        found += (self._table.take((left + 1) % TABLE) - found) * (at - left)
        return found

    def at(self, turns: float, beat_s: float) -> float:
        if self._chance:
            level = _by_chance(self.drive, turns, None, self._period_s(beat_s))
            return float(self.drive.low + (self.drive.high - self.drive.low) * float(level))
        if beat_s != self._beat_s:
            self._ready(beat_s)
        if self._ends:
            at = min(max(turns, 0.0), self._whole) / self._whole * (TABLE - 1)
            left = min(int(at), TABLE - 2)
            after = left + 1
        else:
            at = turns / self._lap % 1.0 * TABLE
            left = int(at)
            after = left + 1
        view = self._view
        value = view[left]
        return value + (view[after] - value) * (at - int(at))

    def all_at(self, turns: float, beat_s: float) -> Floats:
        if self._chance:
            level = _by_chance(self.drive, turns, self._along, self._period_s(beat_s))
            span = np.float32(self.drive.high - self.drive.low)
            chosen: Floats = (np.float32(self.drive.low) + span * level).astype(np.float32)
            return chosen
        if beat_s != self._beat_s:
            self._ready(beat_s)
        found: Floats
        if self._late is None:  # it ends, or it would be none
            assert self._along is not None
            steps = (TABLE - 1) / self._whole
            late = np.rint(self._along * np.float32(self.drive.spread * steps)).astype(np.intp)
            found = self._table.take(np.clip(round(turns * steps) - late, 0, TABLE - 1))
        else:
            now = int(turns / self._lap % 1.0 * TABLE)
            # The table as it lies behind now, so that each cell reads it at how late it is: one pass over the cells.
            found = self._table.take((now - _BEHIND) & (TABLE - 1)).take(self._late, mode="clip")
        return found

    def _period_s(self, beat_s: float) -> float:
        period = self.drive.period
        return abs(period.value) * (1.0 if period.unit == "s" else beat_s)

    def _ready(self, beat_s: float) -> None:
        """The table for the length of a period there is now: only smoothing hangs on it."""
        self._beat_s = beat_s
        key = float(f"{self._period_s(beat_s):.4g}") if self.drive.smoothed else 0.0
        if key == self._key:
            return
        self._key = key
        self._whole = _whole(self.drive, key) if self._ends else 0.0
        levels = once(self.drive, key) if self._ends else lap(self.drive, key)
        self._table = (np.float32(self.drive.low) + np.float32(self.drive.high - self.drive.low) * levels).astype(
            np.float32
        )
        # Round its end: a place that rounding puts upon the end itself is read like any other.
        self._view = memoryview(np.concatenate([self._table, self._table[:2]]).data)


def asked(drive: Drive, turns: Any) -> Any:
    """The level as it is asked, before smoothing; turns of any size, float32."""
    return shaped(drive, _form(drive, np.asarray(turns, dtype=np.float32)))


def shaped(drive: Drive, level: Any) -> Any:
    if drive.shape == "eased":
        level = smooth(level)
    elif drive.shape == "steps":
        level = np.minimum(np.floor(level * drive.steps), drive.steps - 1) / (drive.steps - 1)
    return 1.0 - level if drive.inverse else level


def _form(drive: Drive, turns: Floats) -> Any:
    if drive.source == "wave":
        return oscillation(drive.wave, turns, drive.duty)
    if drive.source == "beat":
        return np.power(np.float32(0.1), (turns - np.floor(turns)) / np.float32(drive.decay))
    within = turns - np.floor(turns)
    if drive.rounds:
        within = np.where(turns >= drive.rounds, np.float32(1.0), within)
        turns = np.minimum(turns, np.float32(drive.rounds) - np.float32(1e-3))
    if drive.turns:
        within = np.where(np.floor(turns) % 2 == 1, np.float32(1.0) - within, within)
    return curve(drive, within)


def curve(drive: Drive, place: Any) -> Any:
    """The level of a curve at places 0..1 of its length: straight between its points, or by the cubic 3t^2 - 2t^3."""
    at = np.array([one for one, _ in drive.points])
    levels = np.array([level for _, level in drive.points])
    if not drive.smooth:
        return np.interp(place, at, levels)
    place = np.clip(place, at[0], at[-1])
    left = np.clip(np.searchsorted(at, place, side="right") - 1, 0, at.size - 2)
    span = at[left + 1] - at[left]
    t = smooth(np.clip((place - at[left]) / np.where(span > 0.0, span, 1.0), 0.0, 1.0))
    return levels[left] + (levels[left + 1] - levels[left]) * t


def _lap(drive: Drive) -> float:
    """After so many periods everything repeats."""
    return 2.0 if drive.source == "curve" and drive.turns else 1.0


@lru_cache(maxsize=512)
def lap(drive: Drive, period_s: float) -> Floats:
    """(TABLE,) the levels of what repeats, over one lap; smoothed for a period of that length."""
    turns = np.arange(TABLE, dtype=np.float32) * np.float32(_lap(drive) / TABLE)
    levels = np.asarray(asked(drive, turns), dtype=np.float32)
    if not drive.smoothed:
        return levels
    return settled(levels, _lap(drive) * period_s / TABLE, drive.rise, drive.fall, repeats=True)


@lru_cache(maxsize=512)
def once(drive: Drive, period_s: float) -> Floats:
    """(TABLE,) the levels of a curve that ends, until it has settled at its end."""
    whole = _whole(drive, period_s)
    turns = np.linspace(0.0, whole, TABLE, dtype=np.float32)
    levels = np.asarray(asked(drive, turns), dtype=np.float32)
    if not drive.smoothed:
        return levels
    return settled(levels, whole * period_s / (TABLE - 1), drive.rise, drive.fall, repeats=False)


def _whole(drive: Drive, period_s: float) -> float:
    """Periods until a curve that ends stands still."""
    return drive.rounds + (3.0 * max(drive.rise, drive.fall) / period_s if drive.smoothed else 0.0)


@lru_cache(maxsize=512)
def _distances(drive: Drive) -> Floats:
    """(TABLE + 1,) what a driven factor adds up to over a period, in periods."""
    turns = (np.arange(TABLE, dtype=np.float64) + 0.5) / TABLE
    factor = drive.low + (drive.high - drive.low) * np.asarray(asked(drive, turns), dtype=np.float64)
    summed: Floats = np.concatenate([[0.0], np.cumsum(factor) / TABLE])
    return summed


def travelled(drive: Drive, clock: float) -> float:
    """How far something gets by a driven factor from 0 to `clock`, in units of the clock the drive runs by."""
    turns = clock / drive.period.value + drive.phase
    whole, within = math.floor(turns), (turns - math.floor(turns)) * TABLE
    table = _distances(drive)
    left = min(int(within), TABLE - 1)
    part = table[left] + (table[left + 1] - table[left]) * (within - left)
    return float((whole * table[-1] + part) * drive.period.value)


def _by_chance(drive: Drive, turns: float, along: Floats | None, period_s: float) -> Any:
    drawn = math.floor(turns)
    cells = np.zeros(1, dtype=np.int64) if along is None else np.rint(along * CELLS_APART).astype(np.int64)

    def draw(at: float) -> Any:
        """The level after `at` turns, for each cell."""
        whole = math.floor(at)
        now = chance(drive.seed, cells, np.full(cells.size, whole))
        if drive.wave == DRIFT:
            then = chance(drive.seed, cells, np.full(cells.size, whole + 1))
            now = now + (then - now) * np.float32(smooth(at - whole))
        return shaped(drive, now)

    if drive.smoothed:
        found = smoothed_draws(draw, turns, drawn, period_s, drive.rise, drive.fall, by_steps=drive.wave != DRIFT)
    else:
        found = draw(turns)
    return found[0] if along is None else found
