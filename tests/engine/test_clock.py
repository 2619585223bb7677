"""Deadlines: never drifting, never replaying."""

from heliograph.core.playing.frames import PERIOD_NS
from heliograph.engine.clock import Deadlines, Lead


def test_forty_four_a_second_without_drift() -> None:
    deadlines = Deadlines(0)
    for _ in range(44 * 3600):
        deadlines.next(deadlines.due_ns + 1)
    assert deadlines.due_ns == 44 * 3600 * PERIOD_NS
    assert deadlines.skipped == 0
    assert abs(deadlines.due_ns / 1e9 - 3600) < 0.001


def test_a_missed_slot_is_skipped_and_counted() -> None:
    deadlines = Deadlines(0)
    deadlines.next(3 * PERIOD_NS + 5)
    assert (deadlines.number, deadlines.skipped) == (3, 2)
    assert deadlines.due_ns <= 3 * PERIOD_NS + 5
    deadlines.next(3 * PERIOD_NS + 6)
    assert (deadlines.number, deadlines.skipped) == (4, 2)


def test_rendering_begins_early_enough_for_the_longest_of_the_last() -> None:
    lead = Lead()
    lead.add(4_000_000)
    assert lead.ns == 5_500_000
    lead.add(40_000_000)
    assert lead.ns == 16_000_000
