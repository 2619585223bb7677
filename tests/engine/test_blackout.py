"""Blackout: intensity and emission of looks, hands and walks; what makes no light stays. Each value worked out here."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.walk.moment import Walk
from heliograph.power import stages_of
from heliograph.power.stage import Grounds
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from tests.engine.shows import compiled, grid, lamps, line, look

DIMMING = [
    {"first": 5, "last": 99, "kind": "closed"},
    {"first": 100, "last": 200, "kind": "dim"},
    {"first": 201, "last": 255, "kind": "open"},
]
HEAD = [
    {"attribute": "Pan", "home": 128},
    {"attribute": "Dimmer", "ranges": DIMMING},
    {"attribute": "ColorAdd_R"},
    {"attribute": "ColorAdd_G", "invert": True},
    {"attribute": "ColorAdd_B"},
    {"attribute": "Gobo1", "home": 7},
]


def head() -> CompiledShow:
    """One head at U1.1 to 6, white painted on it."""
    return compiled(lamps(1, channels=HEAD), grid(1, 1), look(line("a", "Flat")))


def sent(**state: Any) -> list[int]:
    """Its six channels, and U1.7, which is nobody's."""
    show = head()
    begun = advance(PlaybackState(**state).started("L", 0), show.lines, 0)
    return [int(value) for value in Renderer().render(show, begun, 0)[0, :7]]


DARK = [128, 5, 0, 255, 0, 7, 0]


def test_what_makes_light_makes_none_and_the_rest_stays() -> None:
    assert sent() == [128, 255, 255, 0, 255, 7, 0]
    assert sent(blackout=True) == DARK  # the dimmer in its closed range, the inverted green at 255


def test_hands_point_and_do_not_light() -> None:
    held = {"f0/1": 30, "f0/3": 200, "f0/6": 90}
    raw = {"1.7": 200, "1.5": 66}
    assert sent(manual=held, raw=raw) == [30, 255, 200, 0, 66, 90, 200]
    assert sent(manual=held, raw=raw, blackout=True) == [30, 5, 0, 255, 0, 90, 0]


def test_highlight_and_walks_are_dark_too() -> None:
    assert sent(highlight=frozenset({"f0"}), blackout=True) == DARK
    for alone in (False, True):
        walk = Walk({"f0": None}, ("1.7",), alone=alone)
        assert sent(walk=walk)[6] == 255
        assert sent(walk=walk, blackout=True) == DARK


def test_before_a_stage_means_without_it_and_what_is_above() -> None:
    show = head()
    state = PlaybackState(blackout=True, raw={"1.7": 200}, manual={"f0/1": 30}).started("L", 0)
    state = advance(state, show.lines, 0)
    before = {
        stage.name: [int(v) for v in Renderer().render(show, state, 0, stage.name)[0, :7]]
        for stage in stages_of(Grounds(show.rig, show.emission, show.groups, show.parked))
    }
    assert before["hand"] == [128, 255, 255, 0, 255, 7, 0]
    assert before["blackout"] == [30, 255, 255, 0, 255, 7, 200]
    assert before["parked"] == [30, 5, 0, 255, 0, 7, 0]
    assert list(before)[-1] == "guard"
    assert Renderer().render(show, replace(state, blackout=False), 0)[0, 6] == 200
