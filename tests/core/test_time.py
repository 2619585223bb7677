"""Tempo, phases and show time."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.look.line import EffectLine
from heliograph.core.playing.kept_state import decode_state, encode_state
from heliograph.core.playing.phase import Rate, start_phase
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import NS_PER_S, ShowClock, Speed, Tempo, phase_rate

S = NS_PER_S


def test_beats_at_120() -> None:
    # 120 BPM: a quarter lasts 0.5 s, a sixteenth 0.125 s (common practice, no published source).
    tempo = Tempo(120.0)
    assert tempo.beat_at(S // 2) == pytest.approx(1.0)
    assert tempo.beat_at(S // 8) == pytest.approx(0.25)


def test_a_bar_at_128() -> None:
    # Bar at 128 BPM: 1875 ms (standards 8.2, computed).
    assert Tempo(128.0).beat_at(1_875_000_000) == pytest.approx(4.0)


@given(st.floats(20, 300), st.floats(20, 300), st.integers(0, 10**13))
def test_a_change_of_tempo_never_jumps(before: float, after: float, at: int) -> None:
    tempo = Tempo(before)
    assert tempo.changed(after, at).beat_at(at) == pytest.approx(tempo.beat_at(at))


@given(st.floats(0.1, 100), st.floats(0.1, 100), st.sampled_from(["s", "beat"]), st.integers(0, 10**12))
def test_a_change_of_speed_never_jumps(first: float, second: float, unit: str, at: int) -> None:
    tempo = Tempo(100.0)
    anchor = start_phase(Rate(*phase_rate(Speed(first))), 0, 0.0)
    beat = tempo.beat_at(at)
    moved = anchor.at_rate(Rate(unit, 1.0 / second), at, beat)  # type: ignore[arg-type]
    assert moved.phase_at(at, beat) == pytest.approx(anchor.phase_at(at, beat), abs=1e-6)


def test_show_time_can_be_held_stepped_and_set() -> None:
    clock = ShowClock(0, 1000)
    held = clock.hold(5 * S + 1000)
    assert held.at(99 * S) == 5 * S
    assert held.set(7 * S, 99 * S).at(200 * S) == 7 * S
    assert held.run(99 * S).at(100 * S) == 6 * S


def test_impossible_tempi_and_speeds() -> None:
    with pytest.raises(InputError, match="20 to 300"):
        Tempo(301.0)
    with pytest.raises(InputError, match=r"0\.02"):
        Speed(0.0)


def test_six_lamps_at_one_second_a_step() -> None:
    # 6 s a round (common practice, no published source).
    anchor = start_phase(Rate(*phase_rate(Speed(6.0))), 0, 0.0)
    assert anchor.phase_at(6 * S, 0.0) == pytest.approx(1.0)


def test_playback_state_survives_the_spool() -> None:
    line = EffectLine(id="l", matrix="m", effect="Flat", speed=Speed(8.0, "beat"))
    state = advance(PlaybackState(tempo=Tempo(112.0, 5, 0.5)).started("look", 3 * S), {"look": (line,)}, 3 * S)
    assert state.runs[0].phases["l"].unit == "beat"
    assert decode_state(encode_state(state)) == state


def test_nothing_is_made_anew_between_two_edits() -> None:
    line = EffectLine(id="l", matrix="m", effect="Flat")
    state = advance(PlaybackState().started("look", 0), {"look": (line,)}, 0)
    assert advance(state, {"look": (line,)}, S) is state


def test_armed_is_forgotten_at_every_start() -> None:
    armed = PlaybackState(armed=frozenset({"laser"}))
    assert decode_state(encode_state(armed)).armed == frozenset()
