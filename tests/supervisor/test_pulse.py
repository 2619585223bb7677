"""Telling a child that hangs from one that is slow to start, or from a machine that slept."""

from __future__ import annotations

from heliograph.ipc.patience import ENGINE_SILENT_S, OTHERS_SILENT_S, STARTING_S
from heliograph.supervisor.pulse import Pulse


class Process:
    def __init__(self, patience_s: float) -> None:
        self.number = 0
        self.pulse = Pulse(lambda: self.number, patience_s)
        self.now = 100.0
        self.pulse.begin(self.now)

    def looked(self, seconds: float, beating: bool) -> bool:
        """Looks ten times a second for so long; whether it was ever found silent."""
        silent = False
        for _ in range(round(seconds * 10)):
            self.now += 0.1
            self.number += beating
            silent = silent or self.pulse.is_silent(self.now)
        return silent


def test_one_that_works_is_never_silent() -> None:
    assert not Process(ENGINE_SILENT_S).looked(60, beating=True)


def test_one_that_stops_is_found_after_its_patience_and_not_before() -> None:
    for patience in (ENGINE_SILENT_S, OTHERS_SILENT_S):
        one = Process(patience)
        one.looked(1, beating=True)
        assert not one.looked(patience - 0.3, beating=False)
        assert one.looked(0.6, beating=False)


def test_one_that_was_just_started_gets_time_for_its_first_sign() -> None:
    one = Process(ENGINE_SILENT_S)
    assert not one.looked(STARTING_S - 0.5, beating=False)
    assert one.looked(1, beating=False)
    one.pulse.begin(one.now)
    assert not one.looked(ENGINE_SILENT_S + 1, beating=False)


def test_a_machine_that_slept_kills_nobody() -> None:
    one = Process(ENGINE_SILENT_S)
    one.looked(1, beating=True)
    one.now += 3600
    assert not one.pulse.is_silent(one.now)
    assert not one.looked(ENGINE_SILENT_S - 0.3, beating=False)
    assert one.looked(0.6, beating=False), "but it still has to go on then"
