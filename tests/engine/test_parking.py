"""Parked channels: what the wire carries, above hands, walks and blackout, below mute and the guard."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np

from heliograph.core.playing.state import PlaybackState
from heliograph.core.walk.moment import Walk
from heliograph.preview.why import why
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import grid, lamps, line, look, output

HEAD = [{"attribute": "Dimmer"}, {"attribute": "Fans"}, {"attribute": "Pan", "home": 128}]


def show(parked: dict[tuple[int, int], int], *, guarded: bool = False, mute: bool = False) -> CompiledShow:
    """Two heads of dimmer, fan, pan; the second at U1.4."""
    rows = [{"universe": u, "channel": c, "value": value} for (u, c), value in parked.items()]
    sections: dict[str, Any] = {
        "rig": lamps(2, channels=HEAD, guarded=guarded),
        "matrix:M": grid(2, 1),
        "look:L": look(line("a", "Flat")),
        "outputs": {"outputs": [output(mute=mute)]},
        "parked": {"parked": rows},
    }
    return compile_show(sections, Path("/nonexistent"))


def sent(made: CompiledShow, state: PlaybackState) -> list[int]:
    renderer = Renderer()
    values: np.ndarray[Any, Any] = renderer.render(made, state, 0)
    for position in (0, 1, 2, 3, 99):
        assert why(made, renderer.stages(made), state, 0, position, {}).value == values[0, position], position
    return [*values[0, :6].tolist(), int(values[0, 99])]


STATE = PlaybackState()


def test_a_parked_channel_is_above_hand_and_raw_and_highlight() -> None:
    made = show({(1, 2): 77, (1, 1): 50, (1, 100): 9})
    held = replace(STATE, manual={"f0/1": 200, "f0/2": 3}, raw={"1.2": 4, "1.100": 5}, highlight=frozenset({"f0"}))
    for state in (STATE, held):
        assert sent(made, state)[:3] == [50, 77, 128]
        assert sent(made, state)[6] == 9


def test_it_is_what_is_sent_whatever_masters_and_blackout_do() -> None:
    made = show({(1, 1): 243, (1, 2): 77, (1, 100): 9})
    for state in (replace(STATE, master=0.5), replace(STATE, master=0.0), replace(STATE, blackout=True)):
        assert sent(made, state)[:2] == [243, 77]
        assert sent(made, state)[6] == 9
    assert sent(made, replace(STATE, blackout=True))[3] == 0  # the lamp beside it is dark


def test_it_stays_through_a_test_walk() -> None:
    made = show({(1, 1): 200, (1, 2): 77})
    assert sent(made, replace(STATE, walk=Walk({"f1": None})))[:5] == [200, 77, 128, 255, 0]
    assert sent(made, replace(STATE, walk=Walk({"f1": None}, alone=False)))[:2] == [200, 77]


def test_a_muted_universe_is_dark_for_it_too() -> None:
    made = show({(1, 1): 200}, mute=True)
    assert sent(made, STATE) == [0, 0, 128, 0, 0, 128, 0]


def test_the_guard_is_above_it() -> None:
    made = show({(1, 1): 200}, guarded=True)
    assert sent(made, STATE)[0] == 0
    assert sent(made, replace(STATE, armed=frozenset({"f0"})))[0] == 200


def test_parking_where_nothing_is_sent_changes_nothing() -> None:
    made = show({(900, 1): 5})
    assert sent(made, STATE) == sent(show({}), STATE)
