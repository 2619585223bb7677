"""The right source frame at the right show time, through the renderer: a moving edge at the rates of the trade."""

from __future__ import annotations

import math
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.look.line import ClipLine
from heliograph.core.matrix.fitting import Fitting
from heliograph.core.playing.frames import PERIOD_NS
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import NS_PER_S, Speed
from heliograph.media.decode import decode_to
from heliograph.media.probe import probe
from heliograph.render.clips import frames_path
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.browser.clips import write_clip
from tests.engine.shows import grid, lamps, line

RATES = [Fraction(24000, 1001), Fraction(25), Fraction(30000, 1001), Fraction(60)]
WIDTH = 20
FILM = [(250, 250, 250), (10, 10, 10)]


def moving_edge(path: Path, rate: Fraction) -> Path:
    """Frame n is white up to column n of 20, dark behind it: 20 frames, then from the start again."""
    write_clip(path, [[[FILM[x > n] for x in range(WIDTH)]] for n in range(WIDTH)], rate)
    return path


def playing(folder: Path, source: Path, **fields: Any) -> CompiledShow:
    """A show whose one look plays the clip on 20 lamps in a row."""
    target = frames_path(folder, "clip", WIDTH, 1, "stretch-0-none")
    decode_to(source, target, WIDTH, 1, lambda: True, Fitting("stretch"))
    facts = probe(source, source.name)
    fitting = {"fit": "stretch", **fields.pop("fitting", {})}
    first, last = fitting.get("in_s", 0), fitting.get("out_s", 0) or facts.duration_ns / 1e9
    fields.setdefault("speed", {"value": 1, "unit": "times"})
    one = line("a", "", paints="clip", clip="c", fitting=fitting, **fields)
    sections = {
        "rig": lamps(WIDTH),
        "matrix:M": grid(WIDTH, 1),
        "outputs": {"outputs": []},
        "clip:c": {"id": "c", "content": "clip", "suffix": ".mp4"},
        "look:L": {"id": "L", "name": "L", "lines": [{**one, "loop_s": last - first}]},
    }
    return compile_show(sections, folder)


class Shown:
    """Which source frame the lamps show at a show time."""

    def __init__(self, show: CompiledShow) -> None:
        self._show, self._renderer = show, Renderer()
        self._state = advance(PlaybackState().started("L", 0), show.lines, 0)

    def __call__(self, time_ns: int) -> int:
        sent = self._renderer.render(self._show, self._state, time_ns)[0, : WIDTH * 3 : 3]
        return int(np.count_nonzero(sent > 128)) - 1


@pytest.mark.parametrize("rate", RATES, ids=lambda rate: f"{float(rate):.3f}")
def test_the_right_frame_at_every_moment_and_no_seam(tmp_path: Path, rate: Fraction) -> None:
    shown = Shown(playing(tmp_path, moving_edge(tmp_path / "edge.mp4", rate)))
    for frame in range(2 * WIDTH + 5):  # in the middle of a source frame there is no doubt
        assert shown(round((frame + Fraction(1, 2)) / rate * NS_PER_S)) == frame % WIDTH
    begun = []
    for number in range(400):  # at our own 44 a second
        at = number * PERIOD_NS
        begun.append(shown(at))
        apart = (begun[-1] - math.floor(Fraction(at, NS_PER_S) * rate)) % WIDTH
        assert min(apart, WIDTH - apart) <= 1
    steps = {(b - a) % WIDTH for a, b in pairwise(begun)}
    whole = math.floor(rate / 44)
    assert steps <= {whole, whole + 1}, "a frame repeated or missing, at the seam or elsewhere"


def test_half_speed_backward_and_a_part_that_plays(tmp_path: Path) -> None:
    source = moving_edge(tmp_path / "edge.mp4", Fraction(25))
    slow = Shown(playing(tmp_path, source, speed={"value": -1, "unit": "times"}))
    assert [slow(round((n + 0.5) / 25 * NS_PER_S)) for n in range(3)] == [19, 18, 17]
    # From 0.2 s to 0.4 s: frames 5 to 9, over and over.
    part = Shown(playing(tmp_path, source, fitting={"in_s": 0.2, "out_s": 0.4}))
    assert [part(round((n + 0.5) / 25 * NS_PER_S)) for n in range(7)] == [5, 6, 7, 8, 9, 5, 6]


def test_a_clip_can_take_so_many_beats(tmp_path: Path) -> None:
    show = playing(tmp_path, moving_edge(tmp_path / "edge.mp4", Fraction(25)))
    [one] = show.looks["L"]
    assert isinstance(one.line, ClipLine)
    assert one.line.loop_s == pytest.approx(0.8)
    # 120 BPM: 4 beats are 2 s, so 20 frames take 2 s.
    beats = replace(one, line=replace(one.line, speed=Speed(4.0, "beat")))
    timed = Shown(replace(show, looks={"L": (beats,)}, lines={"L": (beats.line,)}))
    assert [timed(round((n + 0.5) / 10 * NS_PER_S)) for n in range(4)] == [0, 1, 2, 3]
