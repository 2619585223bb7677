"""Requests to the inputs process: what comes from outside, first of all the time."""

from __future__ import annotations

from heliograph.ipc.messages.base import Answer, Request
from heliograph.ipc.messages.show import Adopt, HandSections, OfferManifest


class ClockTold(Answer, frozen=True):
    """The time as the clock has it (Unix time), up to which moment everything that was due is done, and what is wrong
    with this machine's time. `done_s`: None while the engine does not answer."""

    now_s: float
    done_s: float | None
    faults: list[str]


class AskClock(Request[ClockTold], frozen=True, tag="clock"):
    answers = ClockTold


class SetWall(Request[Answer], frozen=True, tag="wall"):
    """From now on it is `now_s` (Unix time), going on from there; None: as the machine's own clock has it."""

    now_s: float | None = None


InputsRequest = AskClock | SetWall | OfferManifest | HandSections | Adopt
