"""Heads under cue lists: what the next cue does not set stays while they are lit and goes home in the dark; a head that
is dark may stand ready. Seen as bytes, frame by frame, through the engine's own steps.

Rule: `docs/decisions/0015`; common practice, no source.
"""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.handles import Move, move
from heliograph.core.handles.advancing import advance_all
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.engine.darkness import Darkness
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.heads import HEAD, PAN_DEG, heads, row, sets
from tests.engine.shows import output

SIZE = len(HEAD)
HOME = 128 * 256
FULL = {"Dimmer": "full"}


def cue(number: int, *looks: str, **fields: Any) -> dict[str, Any]:
    return {"id": f"c{number}", "number": number, "looks": [{"look": one} for one in looks], **fields}


def show_of(looks: dict[str, dict[str, str]], *cues: Any, **of_output: Any) -> CompiledShow:
    """Two heads; each look sets attributes of both."""
    sections: dict[str, Any] = {
        "rig": heads(2),
        "matrix:M": row("h0", "h1"),
        "outputs": {"outputs": [output(**of_output)]},
    }
    for key, params in looks.items():
        sections[f"look:{key}"] = {"id": key, "name": key, "lines": [sets(f"l{key}", params=params)]}
    sections["list:E"] = {"id": "E", "name": "Evening", "cues": list(cues)}
    return compile_show(sections, Path("/nonexistent"))


class Stage:
    """The engine's steps of a frame, one after another."""

    def __init__(self, show: CompiledShow) -> None:
        self.show, self.state, self.now = show, PlaybackState(), 0
        self.renderer, self.darkness = Renderer(), Darkness()

    def press(self, handle: str, value: Any = None) -> None:
        self.state = move(self.state, self.show.ground, Move(handle, value, by="hand", time_ns=self.now))

    def wait(self, seconds: float) -> list[list[int]]:
        """Goes on frame by frame; the first head's bytes in each."""
        seen = []
        for _ in range(round(seconds * 44)):
            self.now += NS_PER_S // 44
            self.state = advance_all(self.state, self.show.ground, self.show.lines, self.now)
            frame = self.renderer.render(self.show, self.state, self.now)
            seen.append(frame[0, :SIZE].tolist())
            self.state = self.darkness.seen(self.show, self.state, frame)
        return seen


def pan(frame: list[int]) -> int:
    return frame[0] * 256 + frame[1]


def degrees(value: float) -> float:
    return (value + PAN_DEG / 2) / PAN_DEG * 65_535


def test_a_head_never_swings_home_lit_and_goes_home_in_the_dark() -> None:
    show = show_of(
        {"Sea": {"Pan": "-60°", **FULL}, "Lit": FULL, "Dark": {"Dimmer": "0 %"}},
        cue(1, "Sea"),
        cue(2, "Lit", fade_in=1),
        cue(3, "Dark", fade_in=1),
        cue(4, "Lit", fade_in=1),
    )
    stage = Stage(show)
    stage.press("list/E/go")
    stage.wait(0.5)
    stage.press("list/E/go")  # sets no pan: it stays, through the fade and after
    for frame in stage.wait(3):
        assert pan(frame) == pytest.approx(degrees(-60), abs=1)
        assert frame[6] > 0
    stage.press("list/E/go")
    seen = stage.wait(3)
    lit = [pan(frame) for frame in seen if frame[6] > 8]
    assert lit
    assert lit == pytest.approx([degrees(-60)] * len(lit), abs=1)
    assert pan(seen[-1]) == pytest.approx(HOME, abs=255)  # at home, in the dark
    stage.press("list/E/go")
    for frame in stage.wait(2):  # lit again, it stands there
        assert pan(frame) == pytest.approx(HOME, abs=255)


def test_blackout_and_masters_send_nobody_home() -> None:
    show = show_of({"Sea": {"Pan": "-60°", **FULL}, "Lit": FULL}, cue(1, "Sea"), cue(2, "Lit"))
    stage = Stage(show)
    for _ in range(2):
        stage.press("list/E/go")
        stage.wait(0.5)
    for change in ({"blackout": True}, {"master": 0.0}):
        before = stage.state
        stage.state = replace(stage.state, **change)
        stage.wait(1)
        stage.state = replace(stage.state, blackout=before.blackout, master=before.master)
        assert pan(stage.wait(0.2)[-1]) == pytest.approx(degrees(-60), abs=1), change


def test_a_muted_output_sends_nobody_home() -> None:
    looks = {"Sea": {"Pan": "-60°", **FULL}, "Lit": FULL}
    stage = Stage(show_of(looks, cue(1, "Sea"), cue(2, "Lit")))
    for _ in range(2):
        stage.press("list/E/go")
        stage.wait(0.5)
    lit, stage.show = stage.show, show_of(looks, cue(1, "Sea"), cue(2, "Lit"), mute=True)
    assert stage.wait(1)[-1][6] == 0
    stage.show = lit
    assert pan(stage.wait(0.2)[-1]) == pytest.approx(degrees(-60), abs=1)


def test_a_dark_head_stands_ready_for_the_cue_that_lights_it_and_a_lit_one_does_not() -> None:
    looks = {"Dark": {"Dimmer": "0 %"}, "Quay": {"Pan": "40°", **FULL}, "Sea": {"Pan": "-60°", **FULL}}
    for ready, stands in ((True, 40.0), (False, 0.0)):
        show = show_of(
            looks, cue(1, "Dark"), cue(2, "Quay", fade_in=1, ready=ready), cue(3, "Sea", fade_in=1, ready=True)
        )
        stage = Stage(show)
        stage.press("list/E/go")
        assert pan(stage.wait(1)[-1]) == pytest.approx(degrees(stands), abs=255), ready
        stage.press("list/E/go")
        seen = [pan(frame) for frame in stage.wait(2)]
        if ready:
            assert seen == pytest.approx([degrees(40)] * len(seen), abs=1)
        assert stage.state.lists["E"].ready == frozenset()  # lit: the third moves it only when it comes
        assert seen[-1] == pytest.approx(degrees(40), abs=1)


def test_what_is_kept_does_not_grow_without_end_and_is_forgotten_with_its_list() -> None:
    looks = {name: {"Zoom": f"{n * 9} %"} for n, name in enumerate("ABCDEFGH")}
    show = show_of(looks, *(cue(n, name) for n, name in enumerate("ABCDEFGH", start=1)))
    stage = Stage(show)
    for _ in range(30):
        stage.press("list/E/go")
        stage.wait(0.1)
        stage.press("list/E/back")
        stage.wait(0.1)
        stage.press("list/E/go")
        stage.wait(0.1)
    [part] = stage.state.lists["E"].parts
    assert len(part.kept) < len(looks)
    assert len(stage.state.lists["E"].runs) <= len(looks)
    stage.press("list/E/release")
    stage.wait(3)
    assert not stage.state.lists
    assert np.array_equal(Renderer().render(show, stage.state, stage.now)[0, 5], 255 - 40)
