"""Tempo and speeds. Time is integer nanoseconds, beats are float64."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Literal

from heliograph.core.errors import InputError

NS_PER_S = 1_000_000_000
BPM_MIN, BPM_MAX = 20.0, 300.0
"""Limits of a tempo (standards 8.2, common practice)."""

SpeedUnit = Literal["s", "beat", "times"]
"""A cycle takes so many seconds or beats; a clip also runs so many times as fast as it was made."""

PhaseUnit = Literal["s", "beat"]


@dataclass(frozen=True, slots=True)
class Tempo:
    """Beats counted from an anchor: `beat` at show time `since_ns`, going on at `bpm`."""

    bpm: float = 120.0
    since_ns: int = 0
    beat: float = 0.0

    def __post_init__(self) -> None:
        if not BPM_MIN <= self.bpm <= BPM_MAX:
            raise InputError(
                f"A tempo of {self.bpm:g} BPM is outside {BPM_MIN:g} to {BPM_MAX:g}.",
                where="tempo",
                repair="Use half or double of it.",
            )

    def beat_at(self, time_ns: int) -> float:
        return self.beat + (time_ns - self.since_ns) * self.bpm / (60.0 * NS_PER_S)

    def changed(self, bpm: float, time_ns: int) -> Tempo:
        """The same beat at `time_ns`, going on at another rate."""
        return Tempo(bpm, time_ns, self.beat_at(time_ns))

    def on_beat(self, time_ns: int) -> Tempo:
        """The nearest whole beat falls on `time_ns` (a tap)."""
        return Tempo(self.bpm, time_ns, float(round(self.beat_at(time_ns))))


@dataclass(frozen=True, slots=True)
class Speed:
    """How long one cycle takes: `value` seconds, or beats; or `value` times the clip's own speed. Negative is
    backward."""

    value: float
    unit: SpeedUnit = "s"

    def __post_init__(self) -> None:
        if self.unit == "times" and not abs(self.value) <= 32.0:
            raise InputError(
                f"{self.value:g} times its own speed is outside -32 to 32.",
                where="speed",
                repair="Type 100 % for the speed it was made at, or beats like 8 beats for one round.",
            )
        if self.unit != "times" and not 0.02 <= abs(self.value) <= 86_400:
            raise InputError(
                f"A cycle of {self.value:g} {self.unit} is outside 0.02 to 86,400, or as much backward.",
                where="speed",
                repair="Type seconds like 4 s, or beats like 8 beats.",
            )


def phase_rate(speed: Speed, loop_s: float = 1.0) -> tuple[PhaseUnit, float]:
    """The clock a phase runs by, and cycles a second or a beat; negative backward.

    `loop_s`: how long one round of a clip lasts at its own speed.
    """
    if speed.unit == "times":
        return "s", speed.value / loop_s
    return speed.unit, 1.0 / speed.value


def clock_of(unit: PhaseUnit, time_ns: int, beat: float) -> float:
    """What the clock of a unit reads: seconds or beats."""
    return time_ns / NS_PER_S if unit == "s" else beat


@dataclass(frozen=True, slots=True)
class ShowClock:
    """Show time over a steady clock: running (`held` False) or held at `show_ns`. Both in nanoseconds."""

    show_ns: int
    steady_ns: int
    held: bool = False

    def at(self, steady_ns: int) -> int:
        return self.show_ns if self.held else self.show_ns + steady_ns - self.steady_ns

    def hold(self, steady_ns: int) -> ShowClock:
        return replace(self, show_ns=self.at(steady_ns), steady_ns=steady_ns, held=True)

    def run(self, steady_ns: int) -> ShowClock:
        return replace(self, show_ns=self.at(steady_ns), steady_ns=steady_ns, held=False)

    def set(self, show_ns: int, steady_ns: int) -> ShowClock:
        return replace(self, show_ns=show_ns, steady_ns=steady_ns)
