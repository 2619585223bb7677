"""Cue lists by themselves: weights against sums worked out here, orders, follows to the nanosecond; a thousand
random evenings stand in `test_cue_evenings`.

Rules: `docs/decisions/0015`; orders and follows are trade practice, no published source.
"""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.core.playing import lists
from heliograph.core.playing.cues import CueList, cue_list_from_json
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S, Tempo


def cue(number: float, **fields: Any) -> dict[str, Any]:
    return {"id": f"c{number:g}", "number": number, "looks": [{"look": f"L{number:g}"}], **fields}


def cue_list(*cues: dict[str, Any], **fields: Any) -> CueList:
    return cue_list_from_json({"id": "E", "name": "Winter evening", "cues": list(cues), **fields})


def later(state: PlaybackState, one: CueList, seconds: float) -> PlaybackState:
    return lists.advance_lists(state, {one.id: one}, {}, round(seconds * NS_PER_S))


def weights(state: PlaybackState, seconds: float) -> dict[str, float]:
    run = state.lists.get("E")
    if run is None:
        return {}
    now = round(seconds * NS_PER_S)
    return {each.cue: round(each.weight, 9) for each in run.weights(now, state.tempo.beat_at(now)) if each.weight}


def at(seconds: float) -> int:
    return round(seconds * NS_PER_S)


def test_a_first_cue_grows_from_nothing_and_a_second_takes_its_place() -> None:
    one = cue_list(cue(1, fade_in=4), cue(2, fade_in=8))
    state = lists.go(PlaybackState(), one, at(10))
    assert [weights(later(state, one, s), s) for s in (10, 11, 13, 14, 20)] == [
        {},
        {"c1": 0.25},
        {"c1": 0.75},
        {"c1": 1.0},
        {"c1": 1.0},
    ]
    state = lists.go(later(state, one, 20), one, at(20))
    assert weights(later(state, one, 22), 22) == {"c1": 0.75, "c2": 0.25}
    done = later(state, one, 28)
    assert weights(done, 28) == {"c2": 1.0}
    assert set(done.lists["E"].runs) == {"L2@20000000000"}


def test_a_third_takes_of_each_what_it_had_whatever_that_was() -> None:
    one = cue_list(*(cue(n, fade_in=4) for n in (1, 2, 3)))
    state = later(lists.go(PlaybackState(), one, 0), one, 10)
    state = later(lists.go(state, one, at(10)), one, 12)
    state = lists.go(state, one, at(12))
    assert weights(state, 12) == {"c1": 0.5, "c2": 0.5}
    assert weights(state, 13) == {"c1": 0.375, "c2": 0.375, "c3": 0.25}
    state = lists.back(later(state, one, 13), one, at(13))  # to the second, which has 0.375 of it still
    assert weights(state, 13) == {"c1": 0.375, "c2": 0.375, "c3": 0.25}
    assert weights(state, 15) == {"c1": 0.1875, "c2": 0.6875, "c3": 0.125}


def test_times_in_and_out_a_delay_and_a_curve() -> None:
    one = cue_list(cue(1), cue(2, fade_in=8, fade_out=2, delay=1, curve="eased"))
    state = lists.go(later(lists.go(PlaybackState(), one, 0), one, 1), one, at(10))
    assert weights(state, 10.9) == {"c1": 1.0}
    eased = 3 * 0.125**2 - 2 * 0.125**3
    out = 3 * 0.5**2 - 2 * 0.5**3
    assert weights(state, 12) == {"c1": round(1 - out, 9), "c2": round(eased, 9)}  # what lacks to one is dark
    assert weights(state, 14) == {"c2": round(3 * 0.375**2 - 2 * 0.375**3, 9)}
    assert weights(later(state, one, 19), 19) == {"c2": 1.0}
    slow_out = cue_list(cue(1), cue(2, fade_in=2, fade_out=8))
    state = lists.go(later(lists.go(PlaybackState(), slow_out, 0), slow_out, 1), slow_out, at(10))
    assert weights(state, 11) == {"c1": 0.5, "c2": 0.5}  # never more than one together


def test_hold_stops_fade_and_follow_and_both_go_on_from_there() -> None:
    one = cue_list(cue(1, then="follow", wait=3), cue(2, fade_in=4, then="follow", wait=1), cue(3))
    state = later(lists.go(PlaybackState(), one, 0), one, 2)
    state = lists.hold(state, one, True, at(2))
    assert later(state, one, 60).lists["E"].cue == "c1"
    state = lists.hold(later(state, one, 60), one, False, at(60))
    assert later(state, one, 60.99).lists["E"].cue == "c1"
    state = later(state, one, 62)
    assert weights(state, 62) == {"c1": 0.75, "c2": 0.25}  # it went at 61
    state = lists.hold(state, one, True, at(62))
    assert weights(later(state, one, 100), 100) == {"c1": 0.75, "c2": 0.25}
    state = lists.hold(later(state, one, 100), one, False, at(100))
    assert weights(later(state, one, 102), 102) == {"c1": 0.25, "c2": 0.75}
    assert later(state, one, 103.99).lists["E"].cue == "c2"
    assert later(state, one, 104).lists["E"].cue == "c3"


def test_seven_lamps_in_seven_cues_of_four_fifths_of_a_second_do_not_drift_in_an_hour() -> None:
    one = cue_list(*(cue(n, then="follow", wait=0.8) for n in range(1, 8)), rounds=0)
    state = lists.go(PlaybackState(), one, 0)
    seen = []
    for frame in range(1, 44 * 60 * 60, 44 * 10):
        state = later(state, one, frame / 44)
        seen.append((frame, state.lists["E"].cue))
    # Asked for about every ten seconds: 12 or 13 cues of what lies between follow at once, each at its own moment.
    assert seen == [(frame, f"c{int(frame / 44 / 0.8 + 1e-9) % 7 + 1}") for frame, _ in seen]


@pytest.mark.parametrize(
    ("order", "rounds", "expected"),
    [
        ("along", 1, "1234567"),
        ("along", 2, "12345671234567"),
        ("turns", 1, "123456765432"),
        ("turns", 2, "123456765432123456765432"),
    ],
)
def test_orders_and_rounds(order: str, rounds: int, expected: str) -> None:
    one = cue_list(*(cue(n, then="follow", wait=0.8) for n in range(1, 8)), rounds=rounds, order=order)
    state, seen = PlaybackState(), ""
    for n in range(len(expected) + 5):
        state = lists.go(state, one, at(1 + n)) if n < 1 else later(state, one, 1 + 0.8 * n + 0.01)
        seen += state.lists["E"].cue[1:]
    assert seen == expected + expected[-1] * 5  # it stands in its last cue


def test_dealt_each_once_a_round_and_another_order_in_the_next() -> None:
    one = cue_list(*(cue(n) for n in range(1, 8)), rounds=0, order="dealt", seed=5)
    state, seen = PlaybackState(), []
    for n in range(70):
        state = lists.go(state, one, at(n))
        seen.append(state.lists["E"].cue)
    rounds = [tuple(seen[n : n + 7]) for n in range(0, 70, 7)]
    assert all(sorted(each) == [f"c{n}" for n in range(1, 8)] for each in rounds)
    assert len(set(rounds)) > 8
    assert all(a != b for a, b in pairwise(seen))


def test_back_goes_the_same_way_and_stops_at_the_first() -> None:
    one = cue_list(*(cue(n) for n in (1, 2, 3)), rounds=0)
    state = PlaybackState()
    for n in range(4):
        state = lists.go(state, one, at(n))
    seen = []
    for n in range(5):
        seen.append(state.lists["E"].cue)
        state = lists.back(state, one, at(10 + n))
    assert seen == ["c1", "c3", "c2", "c1", "c1"]


def test_the_pace_of_everything_and_its_own_speed_make_a_list_faster_from_where_it_is() -> None:
    one = cue_list(cue(1), cue(2, fade_in=8, then="follow", wait=4), cue(3))
    state = lists.go(later(lists.go(PlaybackState(), one, 0), one, 0), one, 0)
    state = later(state, one, 2).paced(2.0, at(2))
    assert weights(state, 2) == {"c1": 0.75, "c2": 0.25}
    assert weights(state, 4) == {"c1": 0.25, "c2": 0.75}
    state = lists.at_speed(later(state, one, 4), one, 0.5, at(4))
    assert weights(state, 5) == {"c1": 0.125, "c2": 0.875}
    assert later(state, one, 9.99).lists["E"].cue == "c2"
    assert later(state, one, 10.01).lists["E"].cue == "c3"
    still = later(state, one, 5).paced(0.0, at(5))
    assert weights(later(still, one, 500), 500) == {"c1": 0.125, "c2": 0.875}


def test_on_the_beat_on_the_bar_in_beats_and_from_go() -> None:
    tempo = Tempo(112.0)
    beat_s = 60 / 112
    for then, expected in (("beat", 10 * beat_s), ("bar", 12 * beat_s)):
        one = cue_list(cue(1, fade_in=2, then=then), cue(2))
        state = lists.go(PlaybackState(tempo), one, at(3))  # the fade ends at 5 s, in beat 9.33
        assert later(state, one, expected - 0.001).lists["E"].cue == "c1", then
        assert later(state, one, expected + 0.001).lists["E"].cue == "c2", then
    for from_go, begins in ((False, 2.0), (True, 0.0)):
        one = cue_list(cue(1, fade_in=2, then="follow", wait=16, wait_unit="beat", from_go=from_go), cue(2))
        state = lists.go(PlaybackState(tempo), one, 0)
        due = begins + 16 * beat_s
        assert later(state, one, due - 0.001).lists["E"].cue == "c1"
        assert later(state, one, due + 0.001).lists["E"].cue == "c2"


def test_a_fade_in_beats_keeps_its_place_when_the_tempo_changes() -> None:
    one = cue_list(cue(1), cue(2, fade_in=8, unit="beat"))
    state = lists.go(later(lists.go(PlaybackState(Tempo(120.0)), one, 0), one, 0), one, 0)
    assert weights(state, 2) == {"c1": 0.5, "c2": 0.5}
    state = replace(state, tempo=state.tempo.changed(60.0, at(2)))
    assert weights(state, 2) == {"c1": 0.5, "c2": 0.5}
    assert weights(state, 4) == {"c1": 0.25, "c2": 0.75}


def test_at_a_time_of_day() -> None:
    one = cue_list(cue(1, then="time", at_s=16 * 3600 + 30 * 60), cue(2))
    noon = replace(PlaybackState(), wall_ns=at(12 * 3600))
    state = lists.go(noon, one, 0)
    assert later(state, one, 4.5 * 3600 - 0.01).lists["E"].cue == "c1"
    assert later(state, one, 4.5 * 3600 + 0.01).lists["E"].cue == "c2"
    evening = replace(PlaybackState(), wall_ns=at(17 * 3600))
    state = lists.go(evening, one, 0)
    assert later(state, one, 23.49 * 3600).lists["E"].cue == "c1"  # tomorrow
    assert later(state, one, 23.51 * 3600).lists["E"].cue == "c2"


def test_it_is_let_go_of_in_its_own_way() -> None:
    for way, until in (("fade", 13.0), ("at once", 10.0), ("bar", 12.0)):
        one = cue_list(cue(1), letting_go=way, release_s=3)
        state = later(lists.go(PlaybackState(Tempo(120.0)), one, 0), one, 1)
        state = lists.release(later(state, one, 10), one, at(10.1 if way == "bar" else 10))
        if way == "bar":
            assert weights(later(state, one, 11.99), 11.99) == {"c1": 1.0}
        assert "E" in later(state, one, until - 0.01).lists or way == "at once"
        assert "E" not in later(state, one, until + 0.01).lists, way
    one = cue_list(cue(1), release_s=4)
    state = later(lists.go(PlaybackState(), one, 0), one, 1)
    state = lists.release(state, one, at(10))
    assert weights(state, 11) == {"c1": 0.75}
    assert lists.release(state, one, at(11)) is state  # it is on its way


def test_go_while_it_is_let_go_of_goes_on_where_it_was_and_from_the_end_as_if_it_were_gone() -> None:
    one = cue_list(cue(1), cue(2), release_s=4)
    state = lists.release(later(lists.go(PlaybackState(), one, 0), one, 1), one, at(10))
    assert lists.go(state, one, at(11)).lists["E"].cue == "c2"
    state = later(lists.go(lists.go(PlaybackState(), one, 0), one, at(1)), one, 2)
    assert lists.go(state, one, at(3)) is state  # the last stands
    state = lists.release(state, one, at(10))
    assert weights(state, 11) == {"c2": 0.75}
    found = lists.next_of(state.lists["E"], one)
    assert found is not None
    assert found.id == "c1"
    state = lists.go(state, one, at(11))
    assert state.lists["E"].cue == "c1"
    assert weights(later(state, one, 60), 60) == {"c1": 1.0}


def test_a_position_mixes_between_its_cues_and_go_leaves_from_there() -> None:
    one = cue_list(*(cue(n, fade_in=4) for n in (1, 2, 3)))
    state = lists.at_position(PlaybackState(), one, 2.25, at(1))
    assert weights(later(state, one, 60), 60) == {"c2": 0.75, "c3": 0.25}
    assert weights(lists.at_position(state, one, 3.0, at(2)), 2) == {"c3": 1.0}
    assert weights(lists.at_position(state, one, 1.5, at(2)), 2) == {"c1": 0.5, "c2": 0.5}
    state = lists.go(state, one, at(60))
    assert state.lists["E"].cue == "c3"
    assert weights(state, 60) == {"c2": 0.75, "c3": 0.25}
    assert weights(state, 62) == {"c2": 0.375, "c3": 0.625}


def test_go_to_a_number_and_what_is_said_of_one_that_is_not_there() -> None:
    one = cue_list(cue(1), cue(4), cue(4.5))
    state = lists.go_to(PlaybackState(), one, 4.5, 0)
    assert state.lists["E"].cue == "c4.5"
    with pytest.raises(InputError, match=r"has no cue 5\.") as error:
        lists.go_to(state, one, 5, 0)
    assert error.value.repair == "The nearest is 4.5."


def test_looks_in_both_cues_go_on_and_those_that_begin_anew_have_a_run_of_their_own() -> None:
    shared = {"looks": [{"look": "L"}, {"look": "M"}]}
    anew = {"looks": [{"look": "L", "restart": True}, {"look": "M"}]}
    one = cue_list(cue(1, **shared), cue(2, fade_in=4, **shared), cue(3, fade_in=4, **anew))
    state = later(lists.go(PlaybackState(), one, 0), one, 1)
    state = lists.go(state, one, at(5))
    assert {run.since_ns for run in state.lists["E"].runs.values()} == {0}
    state = lists.go(later(state, one, 20), one, at(20))
    first, second = state.lists["E"].parts
    assert first.keys[0] != second.keys[0]
    assert first.keys[1] == second.keys[1]
    assert {run.since_ns for run in state.lists["E"].runs.values()} == {0, at(20)}


def test_a_cue_that_is_changed_while_it_plays_plays_what_it_says_now() -> None:
    one = cue_list(cue(1), cue(2, fade_in=4))
    state = later(lists.go(PlaybackState(), one, 0), one, 1)
    changed = cue_list(cue(1, looks=[{"look": "L1", "level": 0.4}, {"look": "N"}]), cue(2, fade_in=4))
    state = later(state, changed, 2)
    [part] = state.lists["E"].parts
    assert [each.look for each in part.looks] == ["L1", "N"]
    assert state.lists["E"].runs[part.keys[0]].since_ns == 0
    gone = cue_list(cue(2, fade_in=4))  # deleted: it goes on as it was, until somebody goes
    state = later(state, gone, 3)
    assert weights(state, 3) == {"c1": 1.0}
    assert lists.go(state, gone, at(3)).lists["E"].cue == "c2"


def test_actions_are_noted_once_and_back_does_none() -> None:
    acts = {"actions": [{"handle": "master", "value": 0.5, "over_s": 0.0}]}
    one = cue_list(cue(1, **acts), cue(2, **acts))
    state = lists.go(lists.go(PlaybackState(), one, at(1)), one, at(2))
    assert [(each.handle, each.time_ns) for each in state.acting] == [("master", at(1)), ("master", at(2))]
    assert lists.back(state, one, at(3)).acting == state.acting


def test_a_list_without_cues_does_nothing_and_one_that_follows_itself_without_time_does_not_hang() -> None:
    assert lists.go(PlaybackState(), cue_list(), 0) == PlaybackState()
    one = cue_list(cue(1, then="follow"), cue(2, then="follow"), rounds=0)
    state = lists.go(PlaybackState(), one, 0)
    assert later(state, one, 1).lists["E"].cue in ("c1", "c2")


def test_a_position_that_is_moved_on_and_on_begins_no_look_again_and_keeps_nothing_it_does_not_need() -> None:
    shared = {"looks": [{"look": "L"}]}
    one = cue_list(cue(1, **shared), cue(2), cue(3, **shared))
    state = PlaybackState()
    for n in range(200):
        state = lists.at_position(later(state, one, n / 44), one, 1.0 + 2.0 * (n % 20) / 19, at(n / 44))
        assert len(state.lists["E"].runs) <= 2
    state = lists.at_position(lists.at_position(state, one, 1.5, at(10)), one, 1.6, at(11))
    begun = {run.look: run.since_ns for run in state.lists["E"].runs.values()}
    state = lists.at_position(state, one, 1.7, at(12))
    assert {run.look: run.since_ns for run in state.lists["E"].runs.values()} == begun


def test_at_the_end_it_stands_also_where_it_would_have_gone_on_from_go_before_its_fade_was_there() -> None:
    one = cue_list(cue(1), cue(2, fade_in=4, then="follow", wait=1, from_go=True))
    state = lists.go(later(lists.go(PlaybackState(), one, 0), one, 0), one, at(1))
    state = later(state, one, 3)
    assert state.lists["E"].ended
    assert lists.due_of(state, state.lists["E"], one, {}) == lists.Due("arrive", at(5))
    state = later(state, one, 60)
    assert (state.lists["E"].fading, state.lists["E"].cue) == (False, "c2")
    longer = cue_list(*(cue(n, fade_in=4) for n in (1, 2, 3)))  # one is added: it waits for somebody to go
    assert later(state, longer, 61).lists["E"].cue == "c2"
    assert lists.go(state, longer, at(62)).lists["E"].cue == "c3"


def test_what_a_change_makes_due_in_the_past_begins_when_it_was_changed() -> None:
    one = cue_list(cue(1), cue(2, fade_in=4))
    state = later(lists.go(PlaybackState(), one, 0), one, 600)
    follows = cue_list(cue(1, then="follow", wait=2), cue(2, fade_in=4))
    state = later(lists.changed(state, ["E", "another"], at(600)), follows, 600)
    assert weights(state, 600) == {"c1": 1.0}
    assert weights(later(state, follows, 601), 601) == {"c1": 0.75, "c2": 0.25}


def test_what_is_held_is_let_go_of_too_and_a_cue_that_begins_anew_again_and_again_leaves_none_behind() -> None:
    one = cue_list(cue(1), letting_go="bar")
    state = lists.hold(later(lists.go(PlaybackState(Tempo(120.0)), one, 0), one, 1), one, True, at(1))
    assert "E" not in later(lists.release(state, one, at(1.5)), one, 2.01).lists
    anew = cue_list(cue(1), cue(2, fade_in=8, looks=[{"look": "L", "restart": True}]))
    state = later(lists.go(PlaybackState(), anew, 0), anew, 0)
    for n in range(1, 40):
        state = lists.go_to(later(state, anew, n * 0.1), anew, 2, at(n * 0.1))
        now = state.lists["E"].weights(at(n * 0.1), state.tempo.beat_at(at(n * 0.1)))
        assert sum(each.weight for each in now) == pytest.approx(1.0, abs=1e-6)
        assert len(now) <= 9
    assert weights(later(state, anew, 20), 20) == {"c2": 1.0}
    assert len(later(state, anew, 20).lists["E"].runs) == 1
