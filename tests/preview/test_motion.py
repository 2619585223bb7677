"""Where heads point and go: degrees against sines computed here, limits, the speed asked; ready paths as drawn.

A knot is a Lissajous figure, x = sin(a t), y = sin(b t + d): a textbook form, from memory.
"""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any
from uuid import uuid4

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.look.drive import drive_to_json
from heliograph.core.look.paths import PATHS, path_drives
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import Speed
from heliograph.ipc.frames import SentFrame
from heliograph.ipc.messages.preview import MotionFound
from heliograph.preview.moment import Moment
from heliograph.preview.motion import STEPS, motion_of
from heliograph.preview.trails import trails_of
from heliograph.render.renderer import Renderer
from tests.engine.heads import HEAD, heads, row, sets
from tests.engine.shows import compiled, look

LINE = str(uuid4())


def found(line: dict[str, Any], count: int = 4, channels: Any = None) -> MotionFound:
    show = compiled(heads(count, channels), row(*(f"h{n}" for n in range(count))), look({**line, "id": LINE}))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    universes = np.array([1], dtype=np.uint16)
    data = np.zeros((1, 512), dtype=np.uint8)
    frame = SentFrame(1, 0, 0, universes, np.ones(1, dtype=np.uint8), data)
    return motion_of(show, Moment(frame, state, True), "L", LINE)


def on_path(name: str, count: int = 4, **fields: Any) -> MotionFound:
    moved = path_drives(name, count, Speed(8.0, "s"), (20.0, 10.0))
    drives = {f"params.{key}": drive_to_json(one) for key, one in moved.items() if one is not None}
    return found(sets(params={"Pan": "30°", "Tilt": "-5°"}, drives=drives, **fields), count)


def test_a_ring_goes_round_its_position_and_heads_are_evenly_apart() -> None:
    motion = on_path("ring")
    assert (motion.seconds, motion.moves, len(motion.heads)) == (8.0, True, 4)
    for head in motion.heads:
        across, up = np.array(head.across) - 30, np.array(head.up) + 5
        assert np.hypot(across / 20, up / 10) == pytest.approx(np.ones(STEPS + 1), abs=0.02)
    angles = [math.atan2((one.up[0] + 5) / 10, (one.across[0] - 30) / 20) for one in motion.heads]
    turns = np.diff(np.unwrap(angles)) / (2 * math.pi)
    assert np.abs(turns) == pytest.approx(np.full(3, 0.25), abs=0.01)
    fastest = 20 * 2 * math.pi / 8
    assert motion.heads[0].speed == pytest.approx(fastest, rel=0.03)


@pytest.mark.parametrize(("name", "across", "up"), [("knot 2:1", 1, 2), ("knot 3:2", 2, 3), ("knot 3:4", 4, 3)])
def test_knots_cross_their_middle_as_often_as_they_say(name: str, across: int, up: int) -> None:
    [head] = on_path(name, 1).heads
    for values, middle, often in ((head.across, 30.0, across), (head.up, -5.0, up)):
        signs = np.sign(np.array(values[:-1]) - middle)
        signs = signs[signs != 0]
        assert np.count_nonzero(np.diff(np.append(signs, signs[0]))) == 2 * often
    assert max(head.across) == pytest.approx(50, abs=0.5)
    assert max(head.up) == pytest.approx(5, abs=0.5)
    assert len({(round(x), round(y)) for x, y in zip(head.across, head.up, strict=True)}) > 20  # no line there and back


def test_a_sweep_stays_level_and_a_drift_is_each_heads_own() -> None:
    sweep = on_path("sweep")
    assert all(np.ptp(one.up) < 0.01 and np.ptp(one.across) == pytest.approx(40, abs=0.5) for one in sweep.heads)
    drift = on_path("drift")
    assert len({tuple(one.across) for one in drift.heads}) == 4
    with pytest.raises(InputError, match="There are ring, sweep"):
        path_drives("spiral")
    assert list(PATHS) == ["ring", "sweep", "knot 2:1", "knot 3:2", "knot 3:4", "drift"]


def test_what_stands_says_so_and_what_comes_to_its_end_too() -> None:
    still = found(sets(params={"Pan": "30°", "Tilt": "-5°"}))
    assert not still.moves
    assert {tuple(one.across) for one in still.heads} == {tuple([30.0] * (STEPS + 1))}
    assert all(one.speed == 0.0 and not one.stopped for one in still.heads)
    assert found(sets(params={"Zoom": "20"})).heads == []  # where they point is said by another line
    at_the_end = found(
        sets(
            params={"Pan": "310°", "Tilt": "0°"},
            drives={"params.Pan": {"low": -20, "high": 20, "period": {"value": 4, "unit": "s"}}},
        )
    )
    assert {tuple(one.stopped) for one in at_the_end.heads} == {("Pan",)}
    nothing = motion_of(compiled(heads(1), row("h0"), look()), None, "L", LINE)  # type: ignore[arg-type]  # not read
    assert nothing.heads == []


def test_heads_without_degrees_are_told_in_values() -> None:
    plain = [{key: value for key, value in one.items() if key != "physical"} for one in HEAD]
    motion = found(sets(params={"Pan": "half", "Tilt": "0"}), 1, plain)
    assert not motion.heads[0].in_degrees
    assert motion.heads[0].across[0] == pytest.approx(127.5, abs=0.3)


def test_on_the_plan_heads_go_as_they_are_sent_and_what_is_held_stands() -> None:
    moved = path_drives("ring", 2, Speed(8.0, "s"), (20.0, 10.0))
    drives = {f"params.{key}": drive_to_json(one) for key, one in moved.items() if one is not None}
    line = {**sets(params={"Pan": "30°", "Tilt": "-5°"}, drives=drives), "id": LINE}
    show = compiled(heads(2), row("h0", "h1"), look(line))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    held = replace(state, manual={"h1/1": 0, "h1/2": 0})
    universes = np.array([1], dtype=np.uint16)
    frame = SentFrame(1, 0, 0, universes, np.ones(1, dtype=np.uint8), np.zeros((1, 512), dtype=np.uint8))
    found = trails_of(show, Moment(frame, held, True), Renderer())
    assert (found.seconds, found.moves, len(found.heads)) == (8.0, True, 2)
    across, up = np.array(found.heads[0].across) - 30, np.array(found.heads[0].up) + 5
    assert np.hypot(across / 20, up / 10) == pytest.approx(np.ones(across.size), abs=0.02)
    assert np.ptp(found.heads[1].across) == 0.0
    assert found.heads[1].across[0] == pytest.approx(found.heads[1].pan[0], abs=0.01)
    still = trails_of(show, Moment(frame, PlaybackState(), True), Renderer())
    assert (still.moves, {len(one.across) for one in still.heads}) == (False, {1})
