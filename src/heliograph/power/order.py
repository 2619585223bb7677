"""The stages in their order: `docs/architecture.md` says why it is this one."""

from __future__ import annotations

from collections.abc import Iterable

from heliograph.power.blackout import Blackout
from heliograph.power.guard import Guard
from heliograph.power.hand import Hand
from heliograph.power.lamps import Inverted, Least
from heliograph.power.mute import Mute
from heliograph.power.parked import ParkedValues
from heliograph.power.settings import SetByLines
from heliograph.power.stage import Grounds, Stage
from heliograph.power.walk import TestWalk

HAND = Hand.name
"""What looks and masters make is what stands before it."""


def stages_of(grounds: Grounds) -> tuple[Stage, ...]:
    """Weakest first: each acts on what those before it made. The guard is the last, above everything."""
    return (
        Least(grounds),
        Inverted(grounds),
        SetByLines(grounds),
        Hand(grounds),
        TestWalk(grounds),
        Blackout(grounds),
        ParkedValues(grounds),
        Mute(grounds),
        Guard(grounds),
    )


def set_by_lines(stages: Iterable[Stage]) -> SetByLines:
    """The stage among them that is told for each frame what lines set."""
    return next(one for one in stages if isinstance(one, SetByLines))
