"""The program's health in words: what is not well comes first, and says whose fault it is."""

from __future__ import annotations

from dataclasses import replace

from heliograph.core.wellbeing import Facts, said_of

WELL = Facts(
    stats={"frames_per_s": 44.0, "render_ms": 2.0, "send_ms": 0.6, "skipped": 0, "skipped_stolen": 0},
    period_ms=22.7,
    nodes=[("Quay", 0.4, False), ("North pier", 1.2, False)],
    database_ms=3.6,
    spool_behind=1,
)


def texts(facts: Facts, good: bool) -> list[str]:
    return [one.text for one in said_of(facts) if one.good is good]


def with_stats(**more: float) -> Facts:
    return replace(WELL, stats={**WELL.stats, **more})


def test_all_is_well() -> None:
    assert texts(WELL, False) == []
    assert texts(WELL, True) == [
        "44.0 frames a second, none left out since the start.",
        "A frame takes 2.6 of its 22.7 ms.",
        "2 of 2 nodes answer.",
        "The database answers in 3.6 ms.",
        "After a restart it goes on in the same frame.",
    ]


def test_what_is_not_well_comes_first() -> None:
    facts = replace(WELL, nodes=[("Quay", 12.3, True)], database_ms=None, down=["eth1"], failing={"Tower": "no route"})
    said = said_of(facts)
    assert [one.good for one in said] == sorted(one.good for one in said)
    assert texts(facts, False) == [
        "Tower does not get its packets out: no route",
        "Quay is silent for 12 s; it is sent to all the same.",
        "The network card eth1 is down; what is sent through it goes nowhere.",
        "The database does not answer: what plays goes on, nothing can be edited.",
    ]


def test_frames_left_out_are_told_with_their_cause() -> None:
    ours = with_stats(skipped=3)
    assert texts(ours, False) == ["44.0 frames a second; 3 left out since the start."]
    theirs = with_stats(skipped=3, skipped_stolen=3)
    said = "44.0 frames a second; 3 left out since the start, all while the machine was taken away from us."
    assert texts(theirs, False) == []
    assert said in texts(theirs, True)
    both = with_stats(skipped=3, skipped_stolen=1)
    assert texts(both, False)[0].endswith("1 of them while the machine was taken away from us, 2 of our own.")


def test_a_frame_with_no_room_left_and_an_engine_that_is_away() -> None:
    tight = with_stats(render_ms=19.0, stolen_ticks=9)
    assert texts(tight, False) == [
        "A frame takes 19.6 of its 22.7 ms: whatever is added now may come late.",
        "The machine was taken away from us for 90 ms of the last second.",
    ]
    away = texts(replace(WELL, stats={}, spool_behind=None), False)
    assert away[0].startswith("The engine does not answer")
    assert away[1].startswith("Nothing is kept")
