"""Phase: how far a line is in its cycles. Kept as an anchor (phase, since, rate), so that a change of speed never
jumps, also where a drive moves the speed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

from heliograph.core.look.drive import Drive
from heliograph.core.look.levels import travelled
from heliograph.core.playing.tempo import PhaseUnit, clock_of


class Rate(NamedTuple):
    """The clock a phase runs by, cycles a second or a beat (negative backward), and what drives that as a factor."""

    unit: PhaseUnit
    rate: float
    drive: Drive | None = None


@dataclass(frozen=True, slots=True)
class PhaseAnchor:
    """Phase in cycles: `phase` where the clock of its unit (seconds or beats) read `since`, signed `rate` a unit, times
    what `drive` makes of it."""

    phase: float
    since: float
    unit: PhaseUnit
    rate: float
    drive: Drive | None = None

    def phase_at(self, time_ns: int, beat: float) -> float:
        clock = clock_of(self.unit, time_ns, beat)
        if self.drive is None:
            return self.phase + (clock - self.since) * self.rate
        return self.phase + (travelled(self.drive, clock) - travelled(self.drive, self.since)) * self.rate

    def at_rate(self, rate: Rate, time_ns: int, beat: float) -> PhaseAnchor:
        """The same phase now, going on at another rate; itself where nothing changed."""
        if rate.unit == self.unit and rate.rate == self.rate and (rate.drive is self.drive or rate.drive == self.drive):
            return self
        return PhaseAnchor(self.phase_at(time_ns, beat), clock_of(rate.unit, time_ns, beat), *rate)


def start_phase(rate: Rate, time_ns: int, beat: float) -> PhaseAnchor:
    """Phase 0 now."""
    return PhaseAnchor(0.0, clock_of(rate.unit, time_ns, beat), *rate)
