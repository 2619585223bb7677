"""What Fill writes, rendered: no cell flashes more than three times in any second, by the counter that names looks that
flash (WCAG 2.2, 2.3.1; see `core/colour/flashes`)."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.colour.flashes import LIMIT, FlashCounter
from heliograph.core.handles import Move, move
from heliograph.core.handles.advancing import advance_all
from heliograph.core.playing.fill import Candidate, Voice, Wanted, fill
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S, Tempo
from heliograph.edits.own_looks import WHITE, own_look
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import grid, lamps, line, output

RATE, BARS = 44, 8


def show_of(entries: list[dict[str, Any]]) -> CompiledShow:
    """Four lamps: two in colours, two in white alone, as staves."""
    sections: dict[str, Any] = {"rig": lamps(4), "matrix:M": grid(2, 2), "outputs": {"outputs": [output()]}}
    groups = [{"id": "L", "name": "L", "fixtures": ["f0", "f1"]}, {"id": "R", "name": "R", "fixtures": ["f2", "f3"]}]
    sections["groups"] = {"groups": groups}
    for key, colour in (("a", [200, 40, 10]), ("b", [10, 120, 240])):
        sections[f"look:{key}"] = {"id": key, "name": key, "lines": [line(key, "Flat", ramp=[[0, *colour]])]}
    for group in ("L", "R"):
        key = own_look(group, WHITE)
        sections[f"own:{key}"] = {"id": key, "name": WHITE, "lines": [line(f"{group}w", "Flat")]}
    staves = {"left": "L", "right": "R"}
    played = [
        {**one, "id": str(n), "look": one.get("look") or own_look(staves[one["stave"]], WHITE)}
        for n, one in enumerate(entries)
    ]
    score = {"id": "S", "name": "S", "bars": BARS, "entries": played}
    score["staves"] = [{"id": key, "group": group} for key, group in staves.items()]
    return compile_show(sections | {"score:S": score}, Path("/nonexistent"))


def flashes(show: CompiledShow, bpm: float) -> int:
    """Of the cell that flashes most, in its worst second."""
    state = move(PlaybackState(tempo=Tempo(bpm)), show.ground, Move("score/S/start", by="hand"))
    counters = [FlashCounter(1) for _ in range(4)]
    renderer = Renderer()
    for number in range(round(BARS * 4 * 60 / bpm * RATE)):
        now = number * NS_PER_S // RATE
        state = advance_all(state, show.ground, show.lines, now)
        rgb = renderer.render(show, state, now)[0, :12].reshape(4, 3).astype(np.float32) / 255.0
        for cell, counter in enumerate(counters):
            counter.take(rgb[cell].reshape(3, 1))
    return max(counter.found(RATE).rate for counter in counters)


@pytest.mark.parametrize("bpm", [96.0, 112.0, 176.0, 240.0])
def test_a_score_that_was_filled_never_flashes_more_than_three_times_a_second(bpm: float) -> None:
    looks = (Candidate("a", "Harbour"), Candidate("b", "Lamp"))
    voices = [Voice("left", "Left", looks), Voice("right", "Right", looks, white_only=True)]
    found = fill(Wanted(0.0, BARS * 4.0, "full", 4108, bpm), voices)
    assert any(one.get("accent") for one in found.entries)
    assert flashes(show_of(found.entries), bpm) <= LIMIT


def test_the_measure_sees_what_flashes_too_often() -> None:
    entries = [
        {"stave": "right", "at": n / 2, "length": 0.25, "white": True, "level": 1.0, "fade_out": 0.1, "accent": True}
        for n in range(BARS * 8)
    ]
    assert flashes(show_of(entries), 176.0) > LIMIT
