"""A frame is a pure function of compiled show, playback state and show time: also frozen, in mid-fade, under hands."""

from __future__ import annotations

import random
from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core import handles
from heliograph.core.handles import Handle, Move
from heliograph.core.playing.kept_state import decode_state, encode_state
from heliograph.core.playing.level import Level
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import compiled, grid, lamps, line, look
from tests.preview.test_why import random_show

S = 1_000_000_000


def value_of(dice: random.Random, handle: Handle) -> Any:
    match handle.kind:
        case "switch":
            return dice.random() < 0.6
        case "choice":
            return dice.choice(handle.choices)
        case "ramp":
            return [[0, *(dice.randrange(256) for _ in range(3))], [1, *(dice.randrange(256) for _ in range(3))]]
        case "speed":
            return {"value": dice.choice([-3.0, 0.5, 8.0]), "unit": dice.choice(["s", "beat"])}
        case "trigger":
            return None
        case _:
            return dice.uniform(handle.minimum, handle.maximum)


def played(dice: random.Random, show: CompiledShow, state: PlaybackState, until_ns: int) -> PlaybackState:
    """The state after some moments in which hands moved what there is, frozen once in a while."""
    every = [one for one in handles.handles_of(show.ground) if one.address != "blackout"]
    now = 0
    for _ in range(dice.randint(1, 25)):
        now += dice.randrange(max(until_ns // 25, 1))
        state = advance(state, show.lines, now)
        handle = dice.choice(every)
        if handle.where in ("level", "blind") and handle.address.split("/")[1] not in state.looks_on:
            continue
        over = dice.choice([0.0, 3.0]) if handle.fades else 0.0
        state = handles.move(state, show.ground, Move(handle.address, value_of(dice, handle), over, "a", "edit", now))
        if dice.random() < 0.15:
            state = state.started(dice.choice(list(show.looks)), now, dice.choice([0.0, 2.0]), by="a list")
        if dice.random() < 0.1:
            state = handles.let_go(state, "a")
        if dice.random() < 0.1:
            state = state.froze(now, show.records)
    return advance(state, show.lines, until_ns)


@pytest.mark.parametrize("seed", range(8_000, 8_100))
def test_two_fresh_renderers_agree(seed: int) -> None:
    """Ten moments of each of a hundred random shows: whatever a renderer did before, and through the spool's bytes."""
    dice = random.Random(seed)
    show, state, show_ns = random_show(dice)
    state = played(dice, show, state, show_ns)
    used, again = Renderer(), decode_state(encode_state(state), live=True)
    assert again == state
    for _ in range(10):
        moment = show_ns + dice.randrange(5 * S)
        at = advance(state, show.lines, moment)
        fresh = Renderer().render(show, advance(again, show.lines, moment), moment)
        assert np.array_equal(used.render(show, at, moment), fresh), (seed, moment)


def wall(ramp: list[Any], **fields: Any) -> CompiledShow:
    return compiled(
        lamps(3), grid(3, 1), look(line("a", "Relay", ramp=ramp, speed={"value": 3, "unit": "s"}, **fields))
    )


def bytes_of(show: CompiledShow, state: PlaybackState, at_s: float) -> list[int]:
    moment = round(at_s * S)
    return [int(v) for v in Renderer().render(show, advance(state, show.lines, moment), moment)[0, :9]]


RED, GREEN = [[0, 200, 0, 0]], [[0, 0, 200, 0]]


def test_what_is_edited_while_frozen_shows_when_it_goes_on() -> None:
    """The output keeps sending its last frame (product.md): also over an edit, a move by hand, and another start."""
    before, after = wall(RED), wall(GREEN)
    state = advance(PlaybackState().started("L", 0), before.lines, 0).froze(S + S // 2, before.records)
    second = [0, 0, 0, 200, 0, 0, 0, 0, 0]
    assert bytes_of(before, state, 9.5) == second
    assert bytes_of(after, state, 9.5) == second
    moved = handles.move(state, after.ground, Move("look/L/a/opacity", 0.5, by="a"))
    assert bytes_of(after, moved, 9.5) == second
    assert bytes_of(after, moved.stopped("L"), 9.5) == second
    restarted = decode_state(encode_state(moved))  # an engine that begins anew holds the same picture
    assert bytes_of(after, restarted, 30.0) == second
    assert bytes_of(after, state.thawed(), 9.5) == [0, 200, 0, 0, 0, 0, 0, 0, 0]


def test_a_matrix_that_is_gone_leaves_a_frozen_picture_dark_and_breaks_nothing() -> None:
    show = wall(RED)
    state = advance(PlaybackState().started("L", 0), show.lines, 0).froze(0, show.records)
    without = compile_show({"rig": {"modes": {}, "fixtures": []}}, Path("/nonexistent"))
    assert not Renderer().render(without, state, 0).any()


def test_one_look_runs_twice_each_with_its_own_phase_and_level() -> None:
    show = wall(RED)
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    state = advance(state.started("L", S, by="a list"), show.lines, S)
    first, second = state.runs
    assert (first.id, second.id, first.look, second.look) == ("r1", "r2", "L", "L")
    assert bytes_of(show, state, 2.5) == [0, 0, 0, 200, 0, 0, 200, 0, 0]  # a second apart
    half = replace(state, runs=(first, replace(second, level=Level(0.5))))
    assert bytes_of(show, half, 2.5) == [0, 0, 0, 100, 0, 0, 200, 0, 0]
    assert bytes_of(show, state.stopped("L"), 2.5) == [0, 0, 0, 200, 0, 0, 0, 0, 0]  # off by hand: the list's goes on
    assert bytes_of(show, state.levelled("L", 0.25), 2.5) == [0, 0, 0, 50, 0, 0, 50, 0, 0]  # the look's scales both


def test_a_fade_changes_the_state_when_it_begins_and_when_it_is_over() -> None:
    show = wall(RED)
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    fading = state.stopped("L", S, over_s=4.0)
    for seconds, level in ((1, 1.0), (2, 0.75), (3, 0.5), (4.5, 0.125)):
        moment = round(seconds * S)
        assert advance(fading, show.lines, moment) is fading
        assert fading.painting(moment).level_of(fading.runs[0]) == pytest.approx(level)
    assert advance(fading, show.lines, 5 * S).runs == ()
    back = fading.runs[0].level.moved(1.0, 3 * S, 1.0)  # turned round in mid-fade: from where it stands
    assert (back.at(3 * S), back.at(3 * S + S // 2), back.at(4 * S)) == (0.5, 0.75, 1.0)


def test_an_eased_fade_is_slow_at_both_ends() -> None:
    """3t² - 2t³, the cubic of Hermite: 0.15625 at a quarter, worked out here."""
    level = Level(1.0, 0.0, 0, 4 * S, "eased")
    assert [level.at(n * S) for n in range(5)] == [0.0, 0.15625, 0.5, 0.84375, 1.0]
