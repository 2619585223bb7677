"""Scores on the lamps: entries from their beat to their end, to the frame; crossfades without a dip; any bar; no drift;
the same after a kill.

Times are worked out here from beats and tempo: 60 / 112 s a beat, four beats a bar.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.core.handles import Move, move
from heliograph.core.handles.advancing import advance_all, next_due_ns
from heliograph.core.playing import scores
from heliograph.core.playing.kept_state import decode_state, encode_state
from heliograph.core.playing.score import score_from_json, written
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S, Tempo
from heliograph.preview.why import why
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import grid, lamps, line, output

BPM = 112.0
BEAT_S = 60.0 / BPM
FRAME_S = 1 / 44
AT_112 = PlaybackState(tempo=Tempo(BPM))


def entry(key: str, look: str, at: float, length: float, stave: str = "left", **fields: Any) -> dict[str, Any]:
    return {"id": key, "stave": stave, "look": look, "at": at, "length": length, **fields}


def flat(key: str, *colour: int) -> list[dict[str, Any]]:
    return [line(f"{key}1", "Flat", ramp=[[0, *colour]])]


def show_of(*entries: dict[str, Any], looks: dict[str, Any] | None = None, **fields: Any) -> CompiledShow:
    looks = looks or {"Red": flat("r", 200, 0, 0), "Blue": flat("b", 0, 0, 100), "Green": flat("g", 0, 80, 0)}
    sections: dict[str, Any] = {"rig": lamps(4), "matrix:M": grid(2, 2), "outputs": {"outputs": [output()]}}
    sections |= {f"look:{key}": {"id": key, "name": key, "lines": lines} for key, lines in looks.items()}
    sections["groups"] = {
        "groups": [
            {"id": "L", "name": "Left", "fixtures": ["f0", "f1"]},
            {"id": "R", "name": "Right", "fixtures": ["f2", "f3"]},
        ]
    }
    staves = [{"id": "left", "group": "L"}, {"id": "right", "group": "R"}]
    one = {"id": "S", "name": "Midwinter evening", "bars": 32, "staves": staves, "entries": list(entries), **fields}
    return compile_show(sections | {"score:S": one}, Path("/nonexistent"))


def pressed(show: CompiledShow, state: PlaybackState, name: str, seconds: float, value: Any = None) -> PlaybackState:
    now = round(seconds * NS_PER_S)
    return later(show, move(state, show.ground, Move(f"score/S/{name}", value, by="hand", time_ns=now)), seconds)


def later(show: CompiledShow, state: PlaybackState, seconds: float) -> PlaybackState:
    return advance_all(state, show.ground, show.lines, round(seconds * NS_PER_S))


def sent(show: CompiledShow, state: PlaybackState, seconds: float) -> list[int]:
    """The bytes of all four lamps, each of which says itself why it is so."""
    now = round(seconds * NS_PER_S)
    frame = Renderer().render(show, state, now)[0, :12].tolist()
    stages = Renderer().stages(show)
    assert [why(show, stages, state, now, n, {}).value for n in range(12)] == frame
    return [int(one) for one in frame]


RED, BLUE, DARK = [200, 0, 0] * 2, [0, 0, 100] * 2, [0, 0, 0] * 2


def played(show: CompiledShow, seconds: float, until: float = 80.0) -> dict[int, list[int]]:
    """Every frame from a start at 0, by its number."""
    state, found = pressed(show, AT_112, "start", 0.0), {}
    renderer = Renderer()
    for number in range(round(until / FRAME_S)):
        state = later(show, state, number * FRAME_S)
        if number * FRAME_S >= seconds:
            found[number] = renderer.render(show, state, round(number * FRAME_S * NS_PER_S))[0, :12].tolist()
    return found


def test_an_entry_is_on_the_wire_from_its_beat_for_its_length_to_the_frame() -> None:
    """5.1 for 2 bars at 112 BPM: 8.571 to 12.857 s (`docs/checks.md`: 16 and 24 beats of 60 / 112 s)."""
    show = show_of(entry("a", "Red", 16, 8))
    lit = [number for number, frame in played(show, 8.0, 14.0).items() if frame[:6] == RED]
    assert lit == [number for number in range(round(14 / FRAME_S)) if 8.5714 <= number * FRAME_S < 12.8571]
    assert all(frame[6:] == DARK for frame in played(show, 8.0, 10.0).values())


def test_a_score_of_32_bars_at_112_lasts_68_571_s() -> None:
    show = show_of(entry("a", "Red", 0, 128))
    state = pressed(show, AT_112, "start", 0.0)
    assert later(show, state, 68.571).scores
    over = later(show, state, 68.572)
    assert not over.scores
    assert sent(show, over, 68.6) == DARK * 2


@pytest.mark.parametrize(("beat", "red", "blue"), [(16.0, 200, 0), (17.0, 100, 50), (17.5, 50, 75), (18.0, 0, 100)])
def test_one_that_directly_follows_another_crossfades_from_it_without_a_dip(beat: float, red: int, blue: int) -> None:
    show = show_of(entry("a", "Red", 0, 16, fade_out=2.0), entry("b", "Blue", 16, 8, fade_in=2.0))
    state = later(show, pressed(show, AT_112, "start", 0.0), beat * BEAT_S + 1e-6)
    frame = sent(show, state, beat * BEAT_S + 1e-6)
    assert frame[:3] == pytest.approx([red, 0, blue], abs=1)


def test_tapers_levels_and_two_at_once_on_one_stave() -> None:
    first = entry("a", "Red", 0, 8, level=0.5, fade_in=2.0, fade_out=4.0)
    show = show_of(first, entry("b", "Blue", 4, 2), entry("c", "Green", 0, 128, stave="right", level=0.25))
    state = pressed(show, AT_112, "start", 0.0)
    for beat, left in ((1.0, [50, 0, 0]), (3.0, [100, 0, 0]), (5.0, [0, 0, 100]), (6.0, [50, 0, 0]), (8.0, [0, 0, 0])):
        state = later(show, state, beat * BEAT_S + 1e-6)
        frame = sent(show, state, beat * BEAT_S + 1e-6)
        assert frame == pytest.approx([*left * 2, *[0, 20, 0] * 2], abs=1), beat


def test_from_any_bar_everything_is_as_far_as_if_it_had_played_until_there() -> None:
    looks = {"Red": [line("r1", "Eddy", ramp=[[0, 40, 0, 0], [0.5, 200, 0, 0]], speed={"value": 8, "unit": "beat"})]}
    show = show_of(entry("a", "Red", 4, 40), looks=looks)
    state = later(show, pressed(show, AT_112, "start", 0.0), 21.5 * BEAT_S)
    played_through = sent(show, state, 21.5 * BEAT_S)
    jumped = pressed(show, replace(AT_112, tempo=Tempo(BPM, 0, -21.5)), "bar", 0.0, 1 + 21.5 / 4)
    assert sent(show, jumped, 0.0) == played_through
    assert len(set(played_through[:6])) > 1


def test_it_is_held_goes_on_and_is_let_go_of() -> None:
    show = show_of(entry("a", "Red", 0, 8), entry("b", "Blue", 8, 8), release_s=2.0)
    state = pressed(show, AT_112, "start", 0.0)
    state = pressed(show, state, "hold", 6 * BEAT_S, True)
    assert next_due_ns(state, show.ground, show.lines) is None
    state = later(show, state, 100.0)
    assert sent(show, state, 100.0)[:6] == RED
    state = pressed(show, state, "hold", 100.0, False)
    state = later(show, state, 100.0 + 2.1 * BEAT_S)
    assert sent(show, state, 100.0 + 2.1 * BEAT_S)[:6] == BLUE
    state = pressed(show, state, "release", 101.2)
    assert sent(show, later(show, state, 102.2), 102.2)[:3] == [0, 0, 50]
    assert not later(show, state, 103.3).scores


def test_rounds_go_on_without_a_gap_and_a_change_of_tempo_does_not_jump() -> None:
    show = show_of(entry("a", "Red", 0, 4), bars=1, rounds=0)
    state = pressed(show, AT_112, "start", 0.0)
    for number in range(400):
        state = later(show, state, number * 0.11)
        assert sent(show, state, number * 0.11)[:6] == RED
    beat = state.scores["S"].position(round(44 * NS_PER_S), state.tempo.beat_at(44 * NS_PER_S))
    state = replace(state, tempo=state.tempo.changed(60.0, 44 * NS_PER_S))
    assert state.scores["S"].position(45 * NS_PER_S, state.tempo.beat_at(45 * NS_PER_S)) == pytest.approx(beat + 1)


def test_a_late_frame_leaves_nothing_out_and_a_restored_state_is_the_same() -> None:
    show = show_of(*(entry(f"e{n}", ("Red", "Blue", "Green")[n % 3], n, 1) for n in range(128)))
    state = pressed(show, AT_112, "start", 0.0)
    straight = state
    for number in range(1, 1400):
        straight = later(show, straight, number * FRAME_S)
    now = 1399 * FRAME_S
    late = state
    for _ in range(4):  # so much is done in one frame; the rest in the next
        late = later(show, late, now)
    assert sent(show, late, now) == sent(show, straight, now)
    again = decode_state(encode_state(straight))
    assert again == straight
    assert sent(show, later(show, again, now + 1), now + 1) == sent(show, later(show, straight, now + 1), now + 1)


def test_it_is_changed_and_deleted_while_it_plays() -> None:
    show = show_of(entry("a", "Red", 0, 16))
    state = later(show, pressed(show, AT_112, "start", 0.0), 4 * BEAT_S)
    other = show_of(entry("a", "Red", 0, 16), entry("b", "Blue", 2, 8, level=0.5))

    changed = scores.changed(state, other.ground.scores, ["S"], round(4 * BEAT_S * NS_PER_S))
    assert changed.scores["S"].runs["a@0"] is state.scores["S"].runs["a@0"]
    assert sent(other, later(other, changed, 4 * BEAT_S), 4 * BEAT_S)[:3] == [100, 0, 50]
    gone = replace(show, ground=replace(show.ground, scores={}))
    leaving = later(gone, state, 3.0)
    assert 80 <= sent(gone, leaving, 4.0)[0] <= 120
    assert not later(gone, leaving, 5.1).scores


@pytest.mark.parametrize(
    ("fields", "said"),
    [
        ({"entries": [entry("a", "Red", 126, 4)]}, "not within 32 bars"),
        ({"entries": [entry("a", "Red", 0, 0.01)]}, "too short"),
        ({"entries": [entry("a", "Red", 0, 2, fade_in=1.5, fade_out=1.0)]}, "do not fit"),
        ({"bars": 0}, "0 bars"),
        ({"bars": 5_000}, "5,000 bars"),
        ({"entries": [entry(f"e{n}", "Red", 0, 1) for n in range(4_001)]}, "4,001 entries"),
    ],
)
def test_what_cannot_be_a_score_says_why(fields: dict[str, Any], said: str) -> None:
    with pytest.raises(InputError, match=said):
        score_from_json({"id": "S", "name": "S", "bars": 32, "staves": [{"id": "left", "group": "L"}], **fields})


def test_bars_and_beats_are_written_from_one() -> None:
    assert [written(beat) for beat in (0, 16, 17.5, 46.25)] == ["1.1", "5.1", "5.2.5", "12.3.25"]
