"""Which frame of a chase shows when: against a strip that is stepped through here, a hundredth at a time."""

from __future__ import annotations

import itertools
import random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.look.chase import FrameTimes, Strip, check_shape, strip_from_json

SEVEN = Strip("s", tuple(FrameTimes(0.2, 0.6) for _ in range(7)))
UNEVEN = Strip("beat", (FrameTimes(0.5, 0.0), FrameTimes(0.0, 1.5), FrameTimes(1.0, 1.0)))


def frames(strip: Strip, order: str, rounds: int, seed: int = 0) -> list[int]:
    """The frames of so many rounds as they follow one another, looked at 400 times a round."""
    looks = 400
    seen = [strip.at((n + 0.5) / looks, order, seed).frame for n in range(rounds * looks)]  # type: ignore[arg-type]
    return [frame for frame, _ in itertools.groupby(seen)]


def test_five_frames_of_0_8_s_are_4_s_and_pasted_again_8() -> None:
    five = tuple(FrameTimes(0.0, 0.8) for _ in range(5))
    assert Strip("s", five).length == pytest.approx(4.0)
    assert Strip("s", five + five).length == pytest.approx(8.0)


def test_frames_follow_along_with_turns_and_dealt() -> None:
    assert frames(SEVEN, "along", 2) == [0, 1, 2, 3, 4, 5, 6] * 2
    assert frames(SEVEN, "turns", 2) == [0, 1, 2, 3, 4, 5, 6, 5, 4, 3, 2, 1] * 2
    assert SEVEN.round_of("turns") == pytest.approx(12 * 0.8)
    dealt = frames(SEVEN, "dealt", 40, seed=5)
    assert len(dealt) == 7 * 40  # none twice running, also from round to round
    rounds = [tuple(dealt[n * 7 : n * 7 + 7]) for n in range(40)]
    assert all(sorted(one) == list(range(7)) for one in rounds)
    assert len(set(rounds)) > 30
    assert dealt == frames(SEVEN, "dealt", 40, seed=5) != frames(SEVEN, "dealt", 40, seed=6)


def test_a_frame_fades_in_over_the_one_before_it_and_holds_then() -> None:
    """Stepped through by hand: 0.5 fade; at once, 1.5 hold; 1 fade, 1 hold: four beats a round."""
    for at, frame, before, share, left in (
        (0.25, 0, None, 0.5, 0.25),  # the very first fades in from nothing
        (0.5, 1, 1, 1.0, 1.5),
        (1.9, 1, 1, 1.0, 0.1),
        (2.25, 2, 1, 0.25, 1.75),
        (3.5, 2, 2, 1.0, 0.5),
        (4.25, 0, 2, 0.5, 0.25),
        (-0.5, 2, 2, 1.0, 0.5),  # backward
    ):
        shown = UNEVEN.at(at / 4.0, "along")
        assert (shown.frame, shown.before) == (frame, before), at
        assert shown.share == pytest.approx(share), at
        assert shown.left == pytest.approx(left), at
    assert UNEVEN.at(0.25 / 4.0, "along", begins=False).before == 2


@given(st.integers(0, 2**31), st.sampled_from(["along", "turns", "dealt"]), st.floats(-40, 40), st.integers(1, 9))
def test_a_step_by_hand_arrives_where_the_next_frame_holds(seed: int, order: str, phase: float, count: int) -> None:
    chance = random.Random(seed)
    strip = Strip("s", tuple(FrameTimes(chance.choice([0, 0.1, 0.4]), chance.choice([0.1, 1])) for _ in range(count)))
    here = strip.at(phase, order, seed)  # type: ignore[arg-type]
    there = strip.begins_at(phase, order, seed, 1)  # type: ignore[arg-type]
    after = strip.at(there, order, seed)  # type: ignore[arg-type]
    assert after.step == (here.step + 1) % strip.steps_of(order)  # type: ignore[arg-type]
    assert after.share == 1.0
    assert after.left == pytest.approx(strip.frames[after.frame].hold, abs=1e-6)
    assert strip.at(strip.begins_at(there, order, seed, -1), order, seed).step == here.step  # type: ignore[arg-type]


def test_what_a_frame_cannot_be() -> None:
    for times, says in (((0, 0), "over at once"), ((-1, 1), "outside 0"), ((0, 4_000), "outside 0")):
        with pytest.raises(InputError, match=says):
            FrameTimes(*times)
    with pytest.raises(InputError, match="at least one"):
        strip_from_json({"unit": "s", "frames": []})
    with pytest.raises(InputError, match="at most 80 frames"):
        check_shape(250, 200, [None] * 100)
