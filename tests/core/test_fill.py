"""Fill writes music and no shuffle: phrases come again, moods are heard in density and level, and what must not be is
not: colours on white-only cells, lasers nobody named, heads without a position, more than three flashes a second.

The measure of a score that is no shuffle is this file's own; that it refuses shuffled ones is tested beside it.
"""

from __future__ import annotations

import random
from collections import Counter
from itertools import pairwise
from typing import Any

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.playing.fill import FLASHES_MAX, MOODS, Candidate, Filled, Voice, Wanted, fill
from heliograph.core.playing.score import score_from_json

LOOKS = tuple(Candidate(f"l{n}", f"Look {n}") for n in range(4))
BARS = 32
END = BARS * 4.0


def voices(**changes: Any) -> list[Voice]:
    return [
        Voice("tower", "Tower", LOOKS),
        Voice("breakwater", "Breakwater", LOOKS[1:]),
        Voice("windows", "Windows", LOOKS[:2]),
        Voice("nets", "Net drops", LOOKS, white_only=True),
        Voice("heads", "Signal heads", LOOKS, heads=True, positions=changes.get("positions", ((0.0, ""),))),
        Voice("lantern", "Lantern room", LOOKS, laser=True),
    ]


def filled(mood: Any = "rising", seed: int = 4108, bpm: float = 112.0, of: Any = None, **fields: Any) -> Filled:
    return fill(Wanted(0.0, END, mood, seed, bpm, **fields), voices() if of is None else of)


def beds(found: Filled) -> list[dict[str, Any]]:
    return [one for one in found.entries if not one.get("accent")]


def comes_again(entries: list[dict[str, Any]]) -> float:
    """The share of entries whose stave plays the same for the same length 8 or 16 beats later or before."""
    there = {(one["stave"], one["at"], one.get("look"), one["length"]) for one in entries}

    def again(one: dict[str, Any]) -> bool:
        return any((one["stave"], one["at"] + lag, one.get("look"), one["length"]) in there for lag in (-16, -8, 8, 16))

    return sum(map(again, entries)) / len(entries)


def rises(entries: list[dict[str, Any]]) -> float:
    """How well density times level follows time, as a correlation, in bars."""
    bars = np.zeros(BARS)
    for one in entries:
        for bar in range(BARS):
            overlap = min(one["at"] + one["length"], bar * 4 + 4) - max(one["at"], bar * 4)
            bars[bar] += max(overlap, 0.0) * one["level"]
    return float(np.corrcoef(bars, np.arange(BARS))[0, 1])


def overlap(entries: list[dict[str, Any]]) -> bool:
    by_stave: dict[str, list[tuple[float, float]]] = {}
    for one in entries:
        by_stave.setdefault(one["stave"], []).append((one["at"], one["at"] + one["length"]))
    return any(a[1] > b[0] for lies in by_stave.values() for a, b in pairwise(sorted(lies)))


def is_music(entries: list[dict[str, Any]]) -> bool:
    return comes_again(entries) >= 0.65 and rises(entries) >= 0.93 and not overlap(entries)


def shuffled(entries: list[dict[str, Any]], seed: int) -> list[dict[str, Any]]:
    dice = random.Random(seed)
    places = [one["at"] for one in entries]
    dice.shuffle(places)
    return [{**one, "at": at} for one, at in zip(entries, places, strict=True)]


@pytest.mark.parametrize("seed", range(40))
def test_phrases_come_again_and_the_mood_is_heard_which_no_shuffle_does(seed: int) -> None:
    entries = beds(filled("rising", seed))
    assert is_music(entries)
    assert not any(is_music(shuffled(entries, n)) for n in range(25))


def test_the_same_seed_is_the_same_twice_and_another_is_another() -> None:
    assert filled(seed=7) == filled(seed=7)
    assert filled(seed=7).entries != filled(seed=8).entries


@pytest.mark.parametrize("mood", MOODS)
@pytest.mark.parametrize("seed", range(12))
def test_what_must_not_be_is_not(mood: str, seed: int) -> None:
    found = filled(mood, seed, of=voices(positions=((38.0, ""),)))
    staves = Counter(one["stave"] for one in found.entries)
    assert "lantern" not in staves
    assert all(one.get("white") and not one.get("look") for one in found.entries if one["stave"] == "nets")
    assert all(one["at"] >= 40.0 for one in found.entries if one["stave"] == "heads")
    said = [(one.stave, one.why) for one in found.left_out]
    assert ("lantern", "lasers not named") in said
    assert ("nets", "white only, so levels and white flashes, no colour") in said
    score = {"id": "s", "name": "s", "bars": BARS, "staves": [{"id": one, "group": one} for one in staves]}
    entries = [{**one, "id": str(n)} for n, one in enumerate(found.entries)]
    score_from_json({**score, "entries": entries})  # raises where it is none


@pytest.mark.parametrize("bpm", [60.0, 112.0, 128.0, 190.0, 300.0])
def test_accents_never_flash_more_than_three_times_a_second(bpm: float) -> None:
    for mood in MOODS:
        found = filled(mood, 3, bpm)
        for stave in {one["stave"] for one in found.entries}:
            at = sorted(one["at"] * 60.0 / bpm for one in found.entries if one["stave"] == stave and one.get("accent"))
            assert all(later - one >= 1.0 / FLASHES_MAX - 1e-9 for one, later in pairwise(at)), (mood, stave)
    if bpm == 112.0:
        said = [one.why for one in filled("full", 3, bpm).left_out if one.stave == "nets"]
        assert "no flashes on half beats, they would be 3.7 a second, limit 3" in said


def test_looks_that_flash_by_themselves_are_left_out_and_named() -> None:
    quick = Candidate("q", "Fog signal", flashes=4.1)
    found = filled(of=[Voice("tower", "Tower", (quick, LOOKS[0])), Voice("windows", "Windows", (quick,))])
    assert {one["look"] for one in beds(found)} == {"l0"}
    said = [one.why for one in found.left_out if one.stave == "tower"]
    assert "not Fog signal: it flashes 4.1 times a second, limit 3" in said
    assert "no look that may play reaches it" in [one.why for one in found.left_out if one.stave == "windows"]


def test_a_look_of_which_it_is_not_known_yet_is_not_taken_and_not_blamed() -> None:
    unknown = Candidate("q", "Fog signal", flashes=float("inf"))
    found = filled(of=[Voice("tower", "Tower", (unknown, LOOKS[0])), Voice("windows", "Windows", (unknown,))])
    assert {one["look"] for one in beds(found)} == {"l0"}
    assert [one.why for one in found.left_out if one.stave == "windows"] == ["its looks are still looked at"]
    assert not any("inf" in one.why for one in found.left_out)


def test_colours_choose_among_the_looks() -> None:
    near, far = Candidate("near", "Near", fits=0.95), Candidate("far", "Far", fits=0.3)
    assert {one["look"] for one in beds(filled(of=[Voice("tower", "Tower", (near, far))]))} == {"near"}


def test_what_hands_wrote_is_written_around() -> None:
    found = filled("full", of=[Voice("tower", "Tower", LOOKS, by_hand=((18.0, 26.0), (0.0, 2.0)))])
    for one in found.entries:
        assert one["at"] >= 26.0 or one["at"] + one["length"] <= 18.0
        assert one["at"] >= 2.0
    assert any(one["at"] == 26.0 for one in found.entries)
    later = [Voice("tower", "Tower", LOOKS, by_hand=((200.0, 201.0), (210.0, 211.0)))]
    assert filled("full", of=later).entries == filled("full", of=[Voice("tower", "Tower", LOOKS)]).entries


def test_a_laser_that_is_named_plays_and_positions_that_are_given_are_set() -> None:
    found = filled(lasers=frozenset({"lantern"}))
    assert any(one["stave"] == "lantern" for one in found.entries) or "lantern" not in {
        one.stave for one in found.left_out
    }
    given = filled(of=[Voice("heads", "Heads", LOOKS, heads=True, positions=((0.0, "sea"),))])
    assert given.positions == [{"stave": "heads", "preset": "sea", "at": 0.0, "filled": True}]


@pytest.mark.parametrize(
    ("fields", "said"),
    [({"mood": "wild"}, "no mood 'wild'"), ({"last": 2.0}, "a bar or more"), ({"seed": -1}, "outside 0")],
)
def test_what_cannot_be_filled_says_why(fields: dict[str, Any], said: str) -> None:
    asked: dict[str, Any] = {"first": 0.0, "last": 64.0, "mood": "calm", "seed": 1, "bpm": 112.0, **fields}
    with pytest.raises(InputError, match=said):
        Wanted(**asked)
