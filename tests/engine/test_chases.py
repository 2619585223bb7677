"""Chases on the lamps: which frame at which time, mixed while it fades, against pictures and means made here."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.handles import Move
from heliograph.core.handles import registry as handles
from heliograph.core.look.drawn import Picture, packed
from heliograph.core.playing.chase_now import frames_now
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import NS_PER_S, Tempo
from heliograph.preview.unrolling import unrolled
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import compiled, grid, lamps, line, look, output

SIZE = (7, 4)


def drawn(*columns: int, colour: tuple[int, int, int] = (200, 100, 50)) -> Picture:
    """A picture of which whole columns are set."""
    picture = np.zeros((SIZE[1], SIZE[0], 4), dtype=np.uint8)
    for column in columns:
        picture[:, column] = (*colour, 255)
    return picture


def chase(*pictures: Picture, fade: float = 0.0, hold: float = 0.8, unit: str = "s") -> dict[str, Any]:
    frames = [{"fade": fade, "hold": hold, "picture": packed(one)} for one in pictures]
    return {"id": "C", "columns": SIZE[0], "rows": SIZE[1], "unit": unit, "frames": frames}


def chase_line(key: str = "a", **fields: Any) -> dict[str, Any]:
    shown = {"paints": "chase", "chase": "C", "speed": {"value": 1, "unit": "times"}}
    made = {**line(key, ""), **shown, **fields}
    del made["effect"], made["params"]
    return made


def wall(strip: dict[str, Any], *lines: dict[str, Any], size: tuple[int, int] = SIZE) -> CompiledShow:
    each = [one["fade"] + one["hold"] for one in strip["frames"]]
    made = []
    for one in lines:
        turns = sum(each[1:-1]) if one.get("order") == "turns" else 0.0
        made.append({**one, "length": sum(each) + turns, "unit": strip["unit"]} if one["paints"] == "chase" else one)
    parts = {
        "rig": lamps(size[0] * size[1]),
        "matrix:M": grid(*size),
        "outputs": {"outputs": [output()]},
        "look:L": look(*made),
        "chase:C": strip,
    }
    return compile_show(parts, Path("/nonexistent"))


def started(show: CompiledShow, **state: Any) -> PlaybackState:
    return advance(PlaybackState(**state).started("L", 0), show.lines, 0)


def at(show: CompiledShow, state: PlaybackState, seconds: float, size: tuple[int, int] = SIZE) -> Any:
    """(rows, columns, 3) as sent."""
    frame = Renderer().render(show, state, round(seconds * NS_PER_S))[0, : size[0] * size[1] * 3]
    return frame.reshape(size[1], size[0], 3).astype(int)


def lit(frame: Any) -> list[int]:
    return [int(one) for one in np.flatnonzero(frame.any(axis=(0, 2)))]


def test_seven_lamps_in_seven_frames_of_0_8_s() -> None:
    strip = chase(*(drawn(n) for n in range(7)))
    show = wall(strip, chase_line())
    state = started(show)
    for n in range(21):
        assert lit(at(show, state, n * 0.8 + 0.01)) == lit(at(show, state, n * 0.8 + 0.79)) == [n % 7]
    assert at(show, state, 0.1)[0, 0].tolist() == [200, 100, 50]
    turns = wall(strip, chase_line(order="turns"))
    way = [*range(7), 5, 4, 3, 2, 1]
    assert [lit(at(turns, started(turns), n * 0.8 + 0.4))[0] for n in range(24)] == way * 2
    dealt = wall(strip, chase_line(order="dealt", seed=3))
    seen = [lit(at(dealt, started(dealt), n * 0.8 + 0.4))[0] for n in range(14)]
    assert sorted(seen[:7]) == sorted(seen[7:]) == list(range(7))
    backward = wall(strip, chase_line(speed={"value": -2, "unit": "times"}))
    assert [lit(at(backward, started(backward), n * 0.4 + 0.2))[0] for n in range(7)] == [6, 5, 4, 3, 2, 1, 0]


def test_after_its_rounds_it_holds_its_last_frame_or_shows_nothing() -> None:
    strip = chase(*(drawn(n) for n in range(3)))
    for ends, wanted in (("hold", [2]), ("clear", [])):
        show = wall(strip, chase_line(rounds=2, ends=ends))
        state = started(show)
        assert lit(at(show, state, 4.7)) == [2]
        assert lit(at(show, state, 5.0)) == lit(at(show, state, 99.0)) == wanted


def test_at_the_middle_of_a_fade_it_is_the_mean() -> None:
    one, two = drawn(0, 1, colour=(200, 100, 50)), drawn(1, 2, colour=(20, 240, 150))
    show = wall(chase(one, two, fade=0.4, hold=0.6), chase_line())
    state = started(show)
    frame = at(show, state, 1.2)  # half-way from the first to the second
    assert np.abs(frame[0, 0] - [100, 50, 25]).max() <= 1
    assert np.abs(frame[0, 1] - [110, 170, 100]).max() <= 1
    assert np.abs(frame[0, 2] - [10, 120, 75]).max() <= 1
    assert np.abs(at(show, state, 0.1)[0, 0] - [50, 25, 12]).max() <= 1  # a quarter in from nothing
    over = wall(chase(one, two, fade=0.4, hold=0.6), line("g", "Flat", ramp=[[0, 0, 0, 240]]), chase_line())
    clear = at(over, started(over), 1.2)  # what is clear in one of them lets half of it through
    assert np.abs(clear[0, 0] - [100, 50, 25 + 120]).max() <= 1
    assert clear[0, 5].tolist() == [0, 0, 240]


def test_beats_keep_the_tempo_and_opacity_blend_and_masks_are_those_of_any_line() -> None:
    strip = chase(*(drawn(n) for n in range(4)), hold=1.0, unit="beat")
    show = wall(strip, chase_line(opacity=0.5))
    state = started(show, tempo=Tempo(90.0))
    assert [lit(at(show, state, n * 60 / 90 + 0.3))[0] for n in range(4)] == [0, 1, 2, 3]
    assert at(show, state, 0.1)[0, 0].tolist() == [100, 50, 25]
    kept = wall(strip, chase_line(region={"squares": [[0, 0, 7, 2]], "outside": False}))
    assert at(kept, started(kept), 0.1)[:, 0, 0].tolist() == [200, 200, 0, 0]


def test_on_another_size_it_is_stretched() -> None:
    show = wall(chase(drawn(0, 1, 2)), chase_line(), size=(14, 2))
    assert lit(at(show, started(show), 0.1, (14, 2))) == [0, 1, 2, 3, 4, 5]


def test_a_frame_drawn_anew_is_taken_by_looks_that_did_not_change() -> None:
    strip = chase(drawn(0), drawn(1))
    show = wall(strip, chase_line())
    parts = {"chase:C": chase(drawn(4), drawn(1))}
    before = {"rig": lamps(28), "matrix:M": grid(*SIZE), "outputs": {"outputs": [output()]}, **parts}
    again = compile_show({**before, "look:L": look({**chase_line(), "length": 1.6, "unit": "s"})}, show.frames, show)
    assert lit(at(again, started(again), 0.1)) == [4]
    assert again.looks["L"][0].matrix is show.looks["L"][0].matrix


def test_next_and_previous_arrive_at_once_and_are_told() -> None:
    strip = chase(*(drawn(n) for n in range(5)), fade=0.3, hold=0.5)
    show = wall(strip, chase_line())
    state = started(show)
    now = round(1.7 * NS_PER_S)

    def told(state: PlaybackState, time_ns: int) -> Any:
        return next(frames_now(state, state.runs[0], show.lines["L"], show.ground.strips, time_ns))

    assert told(state, now)[2:] == (2, pytest.approx(0.7))
    for handle, frame in (("next", 3), ("next", 4), ("next", 0), ("previous", 4)):
        move = Move(f"look/L/a/{handle}", role="run", time_ns=now)
        state = handles.move(state, show.ground, move)
        assert lit(at(show, state, 1.7)) == [frame]
        assert told(state, now)[2:] == (frame, pytest.approx(0.5))
        state = advance(state, show.lines, now)


def test_relay_unrolled_is_relay_at_the_middle_of_its_steps() -> None:
    relay = line("r", "Relay", params={"order": "column", "overlap": 40.0}, ramp=[[0, 250, 120, 10], [1, 10, 60, 240]])
    show = compiled(lamps(28), grid(*SIZE), look(relay), outputs=[output()])
    offer = unrolled(show, "L", "r", 0, Tempo())
    assert (offer.offered, offer.length, offer.unit, offer.pictures) == (7, 4.0, "s", [])
    made = unrolled(show, "L", "r", 7, Tempo())
    strip = {**chase(), "frames": [{"fade": 0.0, "hold": 4 / 7, "picture": one} for one in made.pictures]}
    played = wall(strip, chase_line())
    state, own = started(played), started(show)
    for n in range(7):
        middle = (n + 0.5) * 4 / 7
        assert (at(played, state, middle) == at(show, own, middle)).all()
    with pytest.raises(Exception, match="nothing to unroll"):
        unrolled(show, "L", "gone", 0, Tempo())


def test_a_whole_look_unrolled_is_the_look() -> None:
    lines = [
        line("g", "Grade", ramp=[[0, 255, 0, 0], [1, 0, 0, 255]], speed={"value": 2, "unit": "s"}, opacity=0.8),
        line("r", "Relay", params={"order": "row"}, blend="add", opacity=0.5),
    ]
    show = compiled(lamps(28), grid(*SIZE), look(*lines), outputs=[output()])
    made = unrolled(show, "L", "", 9, Tempo())
    strip = {**chase(), "frames": [{"fade": 0.0, "hold": 4 / 9, "picture": one} for one in made.pictures]}
    played = wall(strip, chase_line())
    for n in range(9):
        middle = (n + 0.5) * 4 / 9
        assert np.abs(at(played, started(played), middle) - at(show, started(show), middle)).max() <= 1


def test_a_frame_stands_on_the_lamps_while_a_hand_holds_it_and_time_goes_on_beneath() -> None:
    show = wall(chase(*(drawn(n) for n in range(7))), chase_line())
    state = started(show)
    held = handles.move(state, show.ground, Move("look/L/a/frame", 4.0, by="web one", role="edit"))
    for seconds in (0.1, 1.9, 5.0):
        lit = at(show, held, seconds)[0, :, 0]
        assert np.flatnonzero(lit).tolist() == [3], seconds
        [now] = frames_now(held, held.runs[0], show.lines["L"], show.ground.strips, round(seconds * NS_PER_S))
        assert (now.frame, now.left_s) == (3, None)
    free = handles.let_go(held, "web one")
    assert np.flatnonzero(at(show, free, 1.9)[0, :, 0]).tolist() == [2]
