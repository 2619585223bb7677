"""Cue lists on the lamps: a fade is the mix of what each cue sends alone, for pictures, single emitters, 16-bit
attributes and levels; what cannot fade changes once; and every channel can say why.

Means are worked out here from frames of each cue alone; the rule is `docs/decisions/0015`.
"""

from __future__ import annotations

from dataclasses import replace
from itertools import pairwise
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.handles import Move, find, handles_of, move
from heliograph.core.handles.advancing import advance_all, next_due_ns
from heliograph.core.playing.kept_state import decode_state, encode_state
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.preview.why import why
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.heads import HEAD, heads, row, sets, wave
from tests.engine.shows import RGB, grid, lamps, line, output

SIX = [*RGB, {"attribute": "ColorAdd_RY"}, {"attribute": "ColorAdd_W"}, {"attribute": "ColorAdd_UV"}]
WIDTH = 4


def cue(number: float, *looks: Any, **fields: Any) -> dict[str, Any]:
    played = [one if isinstance(one, dict) else {"look": one} for one in looks]
    return {"id": f"c{number:g}", "number": number, "looks": played, **fields}


def show_of(rig: dict[str, Any], matrix: dict[str, Any], looks: dict[str, Any], *cues: Any, **fields: Any) -> Any:
    sections = {"rig": rig, "matrix:M": matrix, "outputs": {"outputs": [output()]}}
    sections |= {f"look:{key}": {"id": key, "name": key, "lines": lines} for key, lines in looks.items()}
    first = fields.pop("first", {"id": "E", "name": "Winter evening", "cues": list(cues), **fields})
    sections["list:E"] = first
    sections["groups"] = {"groups": [{"id": "G", "name": "Left", "fixtures": ["f0", "f1"]}]}
    return compile_show(sections, Path("/nonexistent"))


def pressed(show: CompiledShow, state: PlaybackState, handle: str, seconds: float, value: Any = None) -> PlaybackState:
    now = round(seconds * NS_PER_S)
    state = move(state, show.ground, Move(handle, value, by="hand", time_ns=now))
    return advance_all(state, show.ground, show.lines, now)


def later(show: CompiledShow, state: PlaybackState, seconds: float) -> PlaybackState:
    return advance_all(state, show.ground, show.lines, round(seconds * NS_PER_S))


def sent(show: CompiledShow, state: PlaybackState, seconds: float, count: int) -> Any:
    now = round(seconds * NS_PER_S)
    frame = Renderer().render(show, state, now)[0, :count]
    stages = Renderer().stages(show)
    explained = [why(show, stages, state, now, n, {}).value for n in range(count)]
    assert explained == frame.tolist()
    return frame.astype(np.int64)


FLATS: dict[str, list[dict[str, Any]]] = {
    "A": [line("a", "Flat", ramp=[[0, 200, 30, 90]])],
    "B": [line("b", "Flat", ramp=[[0, 10, 240, 160]])],
    "C": [line("c", "Flat", ramp=[[0, 0, 0, 255]], opacity=0.4)],
}
STACKS: dict[str, list[dict[str, Any]]] = {
    "A": [
        line("a1", "Grade", ramp=[[0, 255, 40, 0], [1, 0, 90, 255]]),
        line("a2", "Relay", ramp=[[0, 90, 255, 120]], blend="multiply", opacity=0.7),
        line("a3", "Flat", ramp=[[0, 180, 180, 180]], emitter="amber"),
        line("a4", "Flat", ramp=[[0, 90, 90, 90]], emitter="white"),
    ],
    "B": [
        line("b1", "Relay", ramp=[[0, 220, 220, 20]], params={"overlap": 0.0}),
        line("b2", "Flat", ramp=[[0, 30, 60, 90]], blend="add", opacity=0.5),
        line("b3", "Grade", ramp=[[0, 0, 0, 0], [1, 255, 255, 255]], emitter="amber", opacity=0.6),
        line("b4", "Flat", ramp=[[0, 200, 200, 200]], emitter="white"),
    ],
    "C": [line("c1", "Relay", ramp=[[0, 255, 255, 255]], opacity=0.5)],
}


@pytest.mark.parametrize(
    ("looks", "channels"),
    [(FLATS, RGB), (STACKS, SIX)],
    ids=["flat", "that multiply, with clear parts, amber and white by level"],
)
def test_a_crossfade_is_the_mix_of_both_without_a_dip_and_a_third_takes_from_what_there_is(
    looks: dict[str, Any], channels: Any
) -> None:
    cues = (cue(1, "A"), cue(2, "B", fade_in=4), cue(3, "C", fade_in=8))
    rig = lamps(WIDTH, channels=channels)
    for one in rig["fixtures"]:
        one["extra"] = "leave"  # white of its own colour would be the least of three, which no mix keeps
    show = show_of(rig, grid(WIDTH, 1), looks, *cues)
    size = WIDTH * len(channels)
    first = pressed(show, PlaybackState(), "list/E/go", 0)
    held = 3.0  # show time stands, as where somebody holds it: pictures are still, and only weights go on
    state = later(show, pressed(show, first, "list/E/go", held), held)
    alone = {}
    for number in (1, 2, 3):
        only = pressed(show, first, "list/E/go_to", held, float(number))
        [run] = only.lists.values()
        done = replace(only, lists={"E": run.came(round(held * NS_PER_S), 0.0)})
        alone[number] = sent(show, done, held, size)
    for share in (0.25, 0.5, 0.75):
        mixed = sent(show, at_share(state, share), held, size)
        expected = alone[1] * (1 - share) + alone[2] * share
        assert np.abs(mixed - expected).max() <= 1.0, share
    half = at_share(state, 0.5)
    third = pressed(show, half, "list/E/go", held)
    assert np.abs(sent(show, third, held, size) - sent(show, half, held, size)).max() <= 1  # Go itself changes nothing
    expected = (alone[1] + alone[2]) * 0.5 * 0.75 + alone[3] * 0.25
    assert np.abs(sent(show, at_share(third, 0.25, over=8.0), held, size) - expected).max() <= 1.0


def at_share(state: PlaybackState, share: float, over: float = 4.0) -> PlaybackState:
    """The same moment, with the fade so far on."""
    run = state.lists["E"]
    gone = replace(run.gone, s=share * over, rate=0.0)
    return replace(state, lists={"E": replace(run, gone=gone)})


@pytest.mark.slow
def test_no_frame_steps_further_than_the_fade_from_go_to_arrival_over_what_lies_beneath() -> None:
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), FLATS, cue(1, "A", fade_in=2), cue(2, "C", fade_in=2))
    beneath = advance_all(PlaybackState().started("B", 0), show.ground, show.lines, 0)
    state = pressed(show, beneath, "list/E/go", 1)
    last, seen = sent(show, beneath, 1, 12), []
    for frame in range(45, 7 * 44):
        seconds = frame / 44
        state = later(show, state, seconds)
        for when, handle in ((2.0, "go"), (3.0, "back"), (3.5, "release"), (4.0, "go")):
            if frame == round(when * 44):
                state = pressed(show, state, f"list/E/{handle}", seconds)
        now = sent(show, state, seconds, 12)
        seen.append(int(np.abs(now - last).max()))
        last = now
    assert max(seen) <= 255 / (2 * 44) + 1.5
    assert sum(seen) > 100


def test_heads_fade_in_16_bit_and_what_cannot_fade_changes_once() -> None:
    looks = {
        "A": [sets("a", params={"Pan": "-200°", "Gobo1": "ripples", "Zoom": "20 %"})],
        "B": [sets("b", params={"Pan": "160°", "Gobo1": "shingle"})],
    }
    show = show_of(heads(1), row("h0"), looks, cue(1, "A"), cue(2, "B", fade_in=4))
    state = pressed(show, PlaybackState(), "list/E/go", 0)
    size = len(HEAD)

    def wide(frame: Any) -> int:
        return int(frame[0]) * 256 + int(frame[1])

    at_first = sent(show, state, 1, size)
    state = pressed(show, state, "list/E/go", 2)
    at_last = sent(show, later(show, state, 9), 9, size)
    gobos, pans = [], []
    for frame in range(4 * 44 + 1):
        seconds = 2 + frame / 44
        state = later(show, state, seconds)
        now = sent(show, state, seconds, size)
        share = min(frame / 44 / 4, 1.0)
        expected = wide(at_first) * (1 - share) + wide(at_last) * share
        assert abs(wide(now) - expected) <= 1.0
        pans.append(wide(now))
        gobos.append(int(now[4]))
    assert [gobos[n] for n in range(1, len(gobos)) if gobos[n] != gobos[n - 1]] == [30]
    assert gobos.index(30) == 2 * 44  # half-way, as its profile says
    assert all(b >= a for a, b in pairwise(pans))


def test_one_look_at_two_levels_is_shared_and_does_not_dip_or_begin_again() -> None:
    looks = {"A": [line("a", "Relay", ramp=[[0, 255, 200, 100]])]}
    cues = (cue(1, {"look": "A", "level": 0.2}), cue(2, {"look": "A", "level": 1.0}, fade_in=4))
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), looks, *cues)
    state = pressed(show, pressed(show, PlaybackState(), "list/E/go", 0), "list/E/go", 1.3)
    full = advance_all(PlaybackState().started("A", 0), show.ground, show.lines, 0)
    for seconds in (1.3, 2.3, 3.3, 6.0):
        state = later(show, state, seconds)
        level = 0.2 + 0.8 * min((seconds - 1.3) / 4, 1.0)
        expected = sent(show, full, seconds, 12) * level
        assert np.abs(sent(show, state, seconds, 12) - expected).max() <= 1.0


def test_over_a_group_by_level_and_by_priority() -> None:
    looks = {key: FLATS[key] for key in "AB"}
    over = cue(1, {"look": "A", "group": "G", "level": 0.5})
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), looks, over, priority=150)
    state = advance_all(PlaybackState().started("B", 0), show.ground, show.lines, 0)
    state = pressed(show, state, "list/E/go", 0)
    state = replace(state, runs=tuple(replace(run, since_ns=5) for run in state.runs))  # began later, lies beneath
    mixed = [105, 135, 125]
    assert sent(show, state, 1, 12).reshape(4, 3).tolist() == [mixed, mixed, [10, 240, 160], [10, 240, 160]]
    state = pressed(show, state, "list/E/level", 1, 0.5)
    faded = [round(0.75 * b + 0.25 * a) for a, b in zip((200, 30, 90), (10, 240, 160), strict=True)]
    assert np.abs(sent(show, state, 1, 3) - faded).max() <= 1
    low = show_of(lamps(WIDTH), grid(WIDTH, 1), looks, over, priority=50)
    assert sent(low, state, 1, 3).tolist() == [10, 240, 160]


def test_attributes_only_over_a_group_and_under_what_a_hand_holds() -> None:
    looks = {"A": [sets("a", params={"Zoom": "100 %"}, drives={"params.Pan": wave(-20, 20, 4)})]}
    rig = heads(2)
    sections: dict[str, Any] = {"rig": rig, "matrix:M": row("h0", "h1"), "outputs": {"outputs": [output()]}}
    sections["look:A"] = {"id": "A", "name": "A", "lines": looks["A"]}
    sections["groups"] = {"groups": [{"id": "G", "name": "First", "fixtures": ["h0"]}]}
    cues = [cue(1, {"look": "A", "group": "G"}, fade_in=2)]
    sections["list:E"] = {"id": "E", "name": "E", "cues": cues}
    show = compile_show(sections, Path("/nonexistent"))
    state = later(show, pressed(show, PlaybackState(), "list/E/go", 0), 3)
    frame = sent(show, state, 3, 2 * len(HEAD))
    assert (frame[5], frame[len(HEAD) + 5]) == (0, 255 - 40)
    assert sent(show, replace(state, manual={"h0/6": 77}), 3, 6)[5] == 77


def test_a_list_goes_on_in_the_same_fade_after_its_state_was_written_and_read() -> None:
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), FLATS, cue(1, "A"), cue(2, "B", fade_in=4, then="follow", wait=1))
    state = pressed(show, pressed(show, PlaybackState(), "list/E/go", 0), "list/E/go", 1)
    again = decode_state(encode_state(state))
    assert again == state
    for seconds in (2.0, 4.9, 5.5, 9.0):
        assert (
            sent(show, later(show, again, seconds), seconds, 12) == sent(show, later(show, state, seconds), seconds, 12)
        ).all()


def test_actions_move_any_handle_start_other_lists_and_never_arm() -> None:
    acts = [
        {"handle": "master", "value": 0.5},
        {"handle": "look/B/on", "value": True},
        {"handle": "look/gone/on", "value": True},
        {"handle": "list/E/go", "value": None},
    ]
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), FLATS, cue(1, "A", actions=acts), cue(2, "C"), cue(3, "B"))
    refused: list[str] = []
    state = move(PlaybackState(), show.ground, Move("list/E/go", time_ns=5))
    state = advance_all(state, show.ground, show.lines, 5, lambda acting, _error: refused.append(acting.handle))
    assert (state.master, state.lists["E"].cue, refused) == (0.5, "c2", ["look/gone/on"])
    assert {run.look for run in state.runs} == {"B"}
    assert not [one for one in handles_of(show.ground) if "arm" in one.address]
    assert next_due_ns(state, show.ground, show.lines) is None


def test_two_lists_whose_cues_start_one_another_do_not_hang() -> None:
    cues = [
        cue(1, "A", actions=[{"handle": "list/E/go", "value": None}]),
        cue(2, "B", actions=[{"handle": "list/E/go"}]),
    ]
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), FLATS, *cues, rounds=0)
    state = pressed(show, PlaybackState(), "list/E/go", 1)
    assert state.acting  # the rest goes on in the next frame
    assert sent(show, state, 1, 3).tolist() in ([200, 30, 90], [10, 240, 160])


def test_frozen_lists_stand_and_go_on_where_time_is() -> None:
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), FLATS, cue(1, "A"), cue(2, "B", fade_in=4))
    state = pressed(show, pressed(show, PlaybackState(), "list/E/go", 0), "list/E/go", 1)
    frozen = pressed(show, later(show, state, 3), "freeze", 3, True)
    assert (sent(show, later(show, frozen, 8), 8, 12) == sent(show, later(show, state, 3), 3, 12)).all()
    free = pressed(show, later(show, frozen, 8), "freeze", 8, False)
    assert sent(show, free, 8, 3).tolist() == [10, 240, 160]


def test_its_handles_read_what_is_so() -> None:
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), FLATS, cue(1, "A"), cue(2, "B", fade_in=4))
    words = {one.path: one.kind for one in handles_of(show.ground) if one.address.startswith("list/")}
    assert words["list/winter_evening/go"] == "trigger"
    assert find(show.ground, "list/E/position").maximum == 2.0
    state = pressed(show, PlaybackState(), "list/E/go", 0)
    assert pressed(show, state, "list/E/hold", 1, None).lists["E"].holds


def test_a_level_that_was_moved_is_let_go_of_with_the_look_and_not_found_again_later() -> None:
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), FLATS, cue(1, "A"), cue(2, "B"))
    state = pressed(show, pressed(show, PlaybackState(), "list/E/go", 0), "look/A/level", 1, 0.25)
    assert sent(show, state, 1, 3).tolist() == [50, 8, 23]
    state = pressed(show, later(show, state, 2), "list/E/go", 2)
    state = pressed(show, later(show, state, 3), "list/E/back", 3)
    assert sent(show, later(show, state, 4), 4, 3).tolist() == [200, 30, 90]


def test_what_a_cue_moved_of_a_line_is_let_go_of_when_its_list_is() -> None:
    act = [{"handle": "look/A/a/opacity", "value": 0.5}]
    show = show_of(lamps(WIDTH), grid(WIDTH, 1), FLATS, cue(1, "A", actions=act), release_s=1)
    state = pressed(show, pressed(show, PlaybackState(), "look/A/on", 0, True), "list/E/go", 0)
    assert sent(show, state, 0.5, 3).tolist() == [150, 23, 68]  # half over half, by hand and in the list
    state = later(show, pressed(show, state, "list/E/release", 1), 3)
    assert not state.held
    assert sent(show, state, 3, 3).tolist() == [200, 30, 90]
