"""What changes on the engine, in words."""

from __future__ import annotations

from dataclasses import replace

from heliograph.core.playing.state import PlaybackState
from heliograph.engine.watching import Seen, changes


def test_each_change_is_told_once() -> None:
    seen, state = Seen(), PlaybackState()
    told = [
        [event.says for event in changes(seen, failing, now, skipped)]
        for failing, now, skipped in (
            ({}, state, 0),
            ({"Quay": "No such device"}, replace(state, blackout=True), 0),
            ({"Quay": "No such device"}, replace(state, blackout=True), 3),
            ({"Quay": "Network is down"}, replace(state.froze(0, {}), armed=frozenset({"a", "b"})), 3),
            ({}, state, 4),
        )
    ]
    assert told == [
        [],
        ["output Quay fails: No such device", "blackout on"],
        ["3 frames skipped: the machine was busy elsewhere"],
        ["output Quay fails: Network is down", "blackout off", "output frozen", "2 lasers armed"],
        [
            "output Quay sends again",
            "output goes on",
            "all lasers safe",
            "1 frame skipped: the machine was busy elsewhere",
        ],
    ]
