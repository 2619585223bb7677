"""What a score played by itself stays with the show while it may fade, and no longer; never in another show."""

from __future__ import annotations

from heliograph.api.leaving import WHILE_S, Leaving


def test_what_is_gone_is_kept_for_a_while_and_not_in_another_show() -> None:
    now = [0.0]
    leaving = Leaving(lambda: now[0])
    white, amber = {"id": "w", "name": "white"}, {"id": "a", "name": "amber"}
    assert leaving("S", [white]) == [white]
    now[0] = 1.0
    assert leaving("S", [amber]) == [white, amber]
    now[0] = WHILE_S - 0.1
    assert leaving("S", [amber]) == [white, amber]
    now[0] = WHILE_S
    assert leaving("S", [amber]) == [amber]
    assert leaving("S", [white, amber]) == [amber, white]
    assert leaving("T", []) == []
