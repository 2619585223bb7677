"""A run: one playing of a look. One look may have several at once, each with its own level and phases."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from heliograph.core.playing.level import FULL, Level
from heliograph.core.playing.phase import PhaseAnchor, Rate, start_phase

HAND = "hand"
"""Whose a run is that somebody started by hand."""


@dataclass(frozen=True, slots=True)
class Run:
    """`id` is never used twice while an engine's state lives. `since_ns`, `since_beat`: when it began. `phases`: each
    line's, by its id. `by`: who started it. `ends`: it is gone once its level has arrived. `from_start`: its lines are
    as far as if they had begun with it, however late they are first looked at."""

    id: str
    look: str
    since_ns: int
    level: Level = FULL
    phases: Mapping[str, PhaseAnchor] = field(default_factory=dict)
    by: str = HAND
    ends: bool = False
    since_beat: float = 0.0
    from_start: bool = False

    def is_over(self, time_ns: int) -> bool:
        return self.ends and self.level.arrived(time_ns)

    def with_phases(self, rates: Mapping[str, Rate], time_ns: int, beat: float) -> Run:
        """A phase for every line that is new, and those whose speed changed anchored anew; itself where nothing did.
        `rates`: of each line, by its id."""
        phases: dict[str, PhaseAnchor] = {}
        for line, rate in rates.items():
            anchor = self.phases.get(line)
            first = (self.since_ns, self.since_beat) if self.from_start and not self.phases else (time_ns, beat)
            moved = start_phase(rate, *first) if anchor is None else anchor.at_rate(rate, time_ns, beat)
            if moved is not anchor:
                phases[line] = moved
        return replace(self, phases={**self.phases, **phases}) if phases else self
