"""A level as a closed form of show time: where it stands, and where it is going. The state changes when somebody moves
it, and not while it moves."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from heliograph.core.errors import InputError

Curve = Literal["straight", "eased"]
"""Eased: slow at both ends, 3t² - 2t³."""

FADE_MAX_S = 3600.0


def check_level(level: float, where: str = "level") -> float:
    """The level, if it is 0 to 1; InputError otherwise."""
    if not 0.0 <= level <= 1.0:
        raise InputError(f"A level of {level * 100:g} % is outside 0 to 100 %.", where=where)
    return level


@dataclass(frozen=True, slots=True)
class Level:
    """`before` until show time `since_ns`, then within `over_ns` to `to`; both 0..1."""

    to: float = 1.0
    before: float = 1.0
    since_ns: int = 0
    over_ns: int = 0
    curve: Curve = "straight"

    def at(self, time_ns: int) -> float:
        if self.over_ns <= 0 or time_ns >= self.since_ns + self.over_ns:
            return self.to
        if time_ns <= self.since_ns:
            return self.before
        share = (time_ns - self.since_ns) / self.over_ns
        if self.curve == "eased":
            share = share * share * (3.0 - 2.0 * share)
        return self.before + (self.to - self.before) * share

    def arrived(self, time_ns: int) -> bool:
        return self.over_ns <= 0 or time_ns >= self.since_ns + self.over_ns

    def moved(self, to: float, time_ns: int, over_s: float = 0.0, curve: Curve = "straight") -> Level:
        """From where it stands now, without a jump, to another level within `over_s` seconds."""
        check_level(to)
        if not 0.0 <= over_s <= FADE_MAX_S:
            raise InputError(f"A fade of {over_s:g} s is outside 0 to {FADE_MAX_S:g} s.", where="over_s")
        return Level(to, self.at(time_ns), time_ns, round(over_s * 1e9), curve)


FULL = Level()
