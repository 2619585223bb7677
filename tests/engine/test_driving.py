"""Driven numbers on the wire: against arithmetic written down here."""

from __future__ import annotations

import random
from typing import Any

import numpy as np
import pytest

from heliograph.core import handles
from heliograph.core.errors import InputError
from heliograph.core.handles import Move
from heliograph.core.playing.kept_state import decode_state, encode_state
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.effects import EFFECTS
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from tests.engine.shows import compiled, grid, lamps, line, look

S = 1_000_000_000
GREYS = [[0, 0, 0, 0], [1, 255, 255, 255]]


def drive(low: float, high: float, **fields: Any) -> dict[str, Any]:
    return {"low": low, "high": high, "wave": "saw up", "period": {"value": 4.0, "unit": "s"}, **fields}


def show_with(*lines: dict[str, Any], count: int = 5) -> CompiledShow:
    return compiled(lamps(count), grid(count, 1), look(*lines))


def reds(show: CompiledShow, at_s: float, state: PlaybackState | None = None) -> list[int]:
    moment = round(at_s * S)
    begun = advance((state or PlaybackState().started("L", 0)), show.lines, moment)
    return [int(v) for v in Renderer().render(show, begun, moment)[0, : 3 * show.rig.cell_count : 3]]


def test_a_driven_opacity_is_the_wave_s() -> None:
    show = show_with(line("a", "Flat", ramp=[[0, 200, 0, 0]], drives={"opacity": drive(0.0, 1.0)}))
    assert [reds(show, s)[0] for s in (0, 1, 2, 3)] == [0, 50, 100, 150]


def test_a_driven_parameter_over_the_cells_is_another_number_for_each() -> None:
    """A saw over five cells, half a period from the first to the last: 2 s of 4 s are half the ramp for the first."""
    drives = {"params.place": drive(0, 100, over="address", spread=0.5)}
    show = show_with(line("a", "Flat", ramp=GREYS, drives=drives))
    for value, wanted in zip(reds(show, 2.0), (0.5, 0.375, 0.25, 0.125, 0.0), strict=True):
        assert abs(value - 255 * wanted) <= 1


def test_a_hand_holds_what_a_drive_moves_until_it_lets_go() -> None:
    show = show_with(line("a", "Flat", ramp=[[0, 200, 0, 0]], drives={"opacity": drive(0.0, 1.0)}))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    held = handles.move(state, show.ground, Move("look/L/a/opacity", 0.9, by="a"))
    assert [reds(show, s, held)[0] for s in (1, 3)] == [180, 180]
    free = handles.let_go(held, "a", None)
    assert [reds(show, s, free)[0] for s in (1, 3)] == [50, 150]


def test_what_is_frozen_is_driven_no_further() -> None:
    show = show_with(line("a", "Flat", ramp=[[0, 200, 0, 0]], drives={"opacity": drive(0.0, 1.0)}))
    frozen = advance(PlaybackState().started("L", 0), show.lines, S).froze(S, show.records)
    assert [reds(show, s, frozen)[0] for s in (1, 2.5)] == [50, 50]


def test_every_driven_number_of_every_effect_is_the_same_in_any_renderer() -> None:
    dice = random.Random(6)
    for effect in EFFECTS.values():
        drives = {}
        for one in effect.parameters:
            if one.kind == "number":
                low, high = sorted(dice.uniform(one.minimum, min(one.maximum, one.minimum + 60)) for _ in range(2))
                over = dice.choice(("", "column", "shuffle")) if one.each else ""
                wave = dice.choice(("sine", "square", "steps", "drift"))
                drives[f"params.{one.name}"] = drive(low, high, over=over, wave=wave)
        made = line("a", effect.name, ramp=GREYS, drives=drives)
        show = compiled(lamps(30), grid(6, 5), look(made))
        used = Renderer()
        for _ in range(4):
            moment = dice.randrange(60 * S)
            state = advance(PlaybackState().started("L", 0), show.lines, moment)
            first = used.render(show, state, moment).copy()
            assert np.array_equal(first, Renderer().render(show, state, moment)), effect.name


def test_a_driven_shift_moves_the_ramp_round_its_end() -> None:
    ramp = [[0, 0, 0, 0], [1, 255, 0, 0]]
    still = show_with(line("a", "Grade", ramp=ramp, speed={"value": 86_400.0, "unit": "s"}))
    before = reds(still, 0.0)
    for s in (0.0, 1.0, 3.0):
        shifted = line(
            "a", "Grade", ramp=ramp, speed={"value": 86_400.0, "unit": "s"}, drives={"shift": drive(0.0, 1.0)}
        )
        wanted = [(one + 255 * s / 4) % 256 for one in before]
        for value, one in zip(reds(show_with(shifted), s), wanted, strict=True):
            assert min(abs(value - one), 256 - abs(value - one)) <= 2
    each = line("a", "Flat", ramp=ramp, params={"place": 0}, drives={"shift": drive(0.0, 1.0, over="address")})
    assert reds(show_with(each), 2.0) == [128, 64, 0, 191, 128]


def test_a_place_in_the_cycle_replaces_time() -> None:
    fixed = {"cycle": drive(0.0, 1.0, period={"value": 40.0, "unit": "s"})}
    fast = show_with(line("a", "Beacon", ramp=GREYS, speed={"value": 1, "unit": "s"}, drives=fixed))
    slow = show_with(line("a", "Beacon", ramp=GREYS, speed={"value": 40, "unit": "s"}))
    begun = advance(PlaybackState().started("L", 0), slow.lines, 0)
    state = advance(PlaybackState().started("L", 0), fast.lines, 0)
    assert reds(fast, 13.0, state) == reds(slow, 13.0, begun)
    held = handles.move(state, fast.ground, Move("look/L/a/cycle", 0.5, by="a"))
    assert reds(fast, 3.0, held) == reds(fast, 7.0, held) == reds(slow, 20.0, begun)


def test_a_driven_speed_goes_on_from_where_it_is_when_the_drive_is_another() -> None:
    wave = {"speed": drive(0.0, 2.0, period={"value": 8.0, "unit": "s"}, wave="triangle")}
    show = show_with(line("a", "Flat", drives=wave))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    phases = [state.runs[0].phases["a"].phase_at(s * S, 0.0) for s in (0, 4, 8)]
    assert np.allclose(phases, [0.0, 1.0, 2.0], atol=1e-3)  # on average as fast as it is stored: a round in 4 s
    other = show_with(line("a", "Flat", drives={"speed": {**wave["speed"], "high": 1.0}}))
    later = advance(state, other.lines, 8 * S)
    assert later.runs[0].phases["a"].phase_at(8 * S, 0.0) == phases[2]
    assert abs(later.runs[0].phases["a"].phase_at(16 * S, 0.0) - 3.0) < 1e-3


def test_a_curve_counts_from_when_its_look_began() -> None:
    curve = drive(0.0, 1.0, source="curve", points=[[0, 0], [1, 1]], rounds=1)
    show = show_with(line("a", "Flat", ramp=[[0, 200, 0, 0]], drives={"opacity": curve}))
    state = PlaybackState().started("L", 100 * S)
    assert [reds(show, s, advance(state, show.lines, 100 * S))[0] for s in (100, 102, 104, 900)] == [0, 100, 200, 200]


def test_what_waits_for_something_to_arrive_moves_nothing() -> None:
    waits = {"opacity": drive(0.0, 0.1, source="sound", of="level")}
    assert reds(show_with(line("a", "Flat", ramp=[[0, 200, 0, 0]], drives=waits)), 1.0)[0] == 200


def test_over_the_distance_cells_as_far_away_are_driven_alike() -> None:
    far = {"params.place": drive(0, 100, over="distance", spread=0.5, x=0.0, y=0.5)}
    right = show_with(line("a", "Flat", ramp=GREYS, drives=far))
    far = {"params.place": drive(0, 100, over="distance", spread=0.5, x=1.0, y=0.5)}
    left = show_with(line("a", "Flat", ramp=GREYS, drives=far))
    values = reds(right, 2.0)
    assert values == reds(left, 2.0)[::-1]
    assert values == sorted(values, reverse=True)


def test_another_effect_is_tried_by_hand_and_let_go_of() -> None:
    moving = {"params.angle": drive(0, 90), "opacity": drive(1.0, 1.0)}
    slats = line("a", "Slats", ramp=GREYS, params={"width": 30}, drives=moving)
    show, mist = show_with(slats), show_with(line("a", "Mist", ramp=GREYS))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    held = handles.move(state, show.ground, Move("look/L/a/effect", "Mist", by="a"))
    assert reds(show, 1.0, held) == reds(mist, 1.0, state) != reds(show, 1.0, state)
    assert handles.let_go(held, "a") == state


def test_a_text_tells_the_time_that_is_on_the_wall() -> None:
    """At 18:05:00 on the wall the lamps say what the plain text would say, also a minute later; frozen the old."""
    stands = {"moves": "stands"}
    show = compiled(lamps(24 * 7), grid(24, 7), look(line("a", "Ticker", params={**stands, "text": "{time}"})))
    five, six = (
        compiled(lamps(24 * 7), grid(24, 7), look(line("a", "Ticker", params={**stands, "text": text})))
        for text in ("18:05", "18:06")
    )
    wall = (18 * 3600 + 5 * 60 - 10) * S
    state = advance(PlaybackState(wall_ns=wall).started("L", 0), show.lines, 0)
    assert reds(show, 10, state) == reds(five, 10) != reds(six, 10)
    assert reds(show, 70, state) == reds(six, 70)
    assert reds(show, 70, state.froze(10 * S, show.records)) == reds(five, 70)


def test_a_look_has_a_speed_of_its_own() -> None:
    show = show_with(line("a", "Flat", speed={"value": 4.0, "unit": "s"}))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    slow = advance(handles.move(state, show.ground, Move("look/L/speed", 0.5, time_ns=8 * S)), show.lines, 8 * S)
    phases = [slow.runs[0].phases["a"].phase_at(s * S, 0.0) for s in (8, 16)]
    assert np.allclose(phases, [2.0, 3.0])  # no jump, then half as fast
    usual = handles.move(slow, show.ground, Move("look/L/speed", 1.0))
    assert usual.speeds == {}


def test_a_look_is_started_and_stopped_within_its_own_fades() -> None:
    faded = {**look(line("a", "Flat", ramp=[[0, 200, 0, 0]])), "fade_in": 4.0, "fade_out": 2.0}
    show = compiled(lamps(1), grid(1, 1), faded)

    def after(state: PlaybackState, value: bool, at_s: float, over_s: float = 0.0) -> PlaybackState:
        moved = handles.move(state, show.ground, Move("look/L/on", value, over_s, time_ns=round(at_s * S)))
        return advance(moved, show.lines, round(at_s * S))

    begun = after(PlaybackState(), True, 0)
    assert [reds(show, s, begun)[0] for s in (0, 1, 2, 4, 9)] == [0, 50, 100, 200, 200]
    ends = after(begun, False, 10)
    assert [reds(show, s, ends)[0] for s in (10, 11, 12)] == [200, 100, 0]
    assert [reds(show, s, after(PlaybackState(), True, 0, over_s=1.0))[0] for s in (0.5, 1)] == [100, 200]


def test_a_colour_of_the_ramp_goes_over_time_since_the_look_began() -> None:
    ribbon = {"knots": [[1, 240, 0, 120, False], [5, 0, 200, 40, False]], "length": {"value": 8.0, "unit": "s"}}
    ramp = [[0, 9, 9, 9], [1, 0, 0, 0]]
    show = show_with(line("a", "Flat", ramp=ramp, params={"place": 100}, ribbons={"1": ribbon, "7": ribbon}))
    state = advance(PlaybackState().started("L", 50 * S), show.lines, 50 * S)
    frame = Renderer().render(show, state, 53 * S)
    assert frame[0, :3].tolist() == [120, 100, 80]
    held = handles.move(state, show.ground, Move("look/L/a/ramp", [[0, 7, 0, 0], [1, 8, 0, 0]], by="a"))
    assert reds(show, 53.0, held)[0] == 8  # what a hand holds goes over time no more


def test_a_look_is_edited_unseen_until_its_changes_are_sent() -> None:
    before = line("a", "Flat", ramp=[[0, 200, 0, 0]])
    show = show_with(before)
    edited = show_with({**before, "ramp": [[0, 90, 0, 0]]}, line("b", "Flat", ramp=[[0, 40, 0, 0]], blend="add"))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    blind = handles.move(state, show.ground, Move("look/L/blind", True))
    assert reds(edited, 1.0, blind)[0] == 200
    assert decode_state(encode_state(blind)).blind == blind.blind  # also after a restart of the engine
    held = handles.move(blind, edited.ground, Move("look/L/a/opacity", 0.1, by="p"))
    assert reds(edited, 1.0, held)[0] == 200  # what a hand holds of it is not sent either
    frozen = held.froze(2 * S, edited.records)
    assert reds(edited, 3.0, frozen)[0] == 200
    sent = handles.move(blind, edited.ground, Move("look/L/blind", False))
    assert reds(edited, 1.0, sent)[0] == 130
    off = handles.move(blind, edited.ground, Move("look/L/on", False))
    assert off.blind == {}
    assert reds(edited, 1.0, off)[0] == 0
    with pytest.raises(InputError, match="edited unseen anyway"):
        handles.move(off, edited.ground, Move("look/L/blind", True))


def test_a_look_that_is_deleted_while_it_is_edited_unseen_is_dark() -> None:
    show = show_with(line("a", "Flat", ramp=[[0, 200, 0, 0]]))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    blind = handles.move(state, show.ground, Move("look/L/blind", True))
    without = compiled(lamps(5), grid(5, 1))
    assert reds(without, 1.0, blind) == [0] * 5
    assert reds(show, 1.0, blind)[0] == 200  # undone, it goes on


def test_a_look_started_again_while_it_fades_out_comes_back_from_where_it_is() -> None:
    faded = {**look(line("a", "Flat", ramp=[[0, 200, 0, 0]])), "fade_in": 4.0, "fade_out": 4.0}
    show = compiled(lamps(1), grid(1, 1), faded)
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    off = handles.move(state, show.ground, Move("look/L/on", False, time_ns=10 * S))
    assert handles.read(off, show.ground, handles.find(show.ground, "look/L/on"), 12 * S) is False
    back = handles.move(off, show.ground, Move("look/L/on", True, time_ns=12 * S))
    assert [reds(show, s, back)[0] for s in (12, 14, 16, 99)] == [100, 150, 200, 200]
    assert back.runs[0].phases == state.runs[0].phases  # in the same place of its cycle
