"""A score that plays: where it is, and what sounds there."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from heliograph.core.playing.level import FULL, Level
from heliograph.core.playing.list_run import ListClock, rates
from heliograph.core.playing.run import Run
from heliograph.core.playing.score import Voice


@dataclass(frozen=True, slots=True)
class ScoreRun:
    """`of`: which score. `clock` counts its beats. `done`: up to which beat it was looked what sounds: `voices`, with
    their `runs` by key. `fade`: 0 once it is let go of, which it is when it `ends`. `pace`: of everything there is."""

    of: str
    since_ns: int
    clock: ListClock
    done: float = 0.0
    voices: tuple[Voice, ...] = ()
    runs: Mapping[str, Run] = field(default_factory=dict)
    level: Level = FULL
    fade: Level = FULL
    ends: bool = False
    speed: float = 1.0
    pace: float = 1.0
    holds: bool = False

    def position(self, time_ns: int, beat: float) -> float:
        """Beats since its first, rounds counted."""
        return self.clock.gone("beat", time_ns, beat)

    def level_at(self, time_ns: int) -> float:
        return self.level.at(time_ns) * self.fade.at(time_ns)

    def at_rate(
        self,
        time_ns: int,
        beat: float,
        speed: float | None = None,
        holds: bool | None = None,
        pace: float | None = None,
    ) -> ScoreRun:
        """Faster or slower, held or going on, from here."""
        own, stands, whole, rate = rates(self, speed, holds, pace)
        clock = self.clock.at_rate(rate, time_ns, beat)
        return replace(self, clock=clock, speed=own, holds=stands, pace=whole)
