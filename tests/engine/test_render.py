"""Frames against an evaluator written here on its own: plain Python, one cell at a time."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import replace
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from tests.engine.shows import SECOND, compiled, grid, lamps, line, look

WIDTH, HEIGHT = 5, 4
COUNT = WIDTH * HEIGHT


def frame(show: CompiledShow, seconds: float, **state: Any) -> np.ndarray[Any, Any]:
    start = advance(PlaybackState(**state).started("L", 0), show.lines, 0)
    return Renderer().render(show, start, round(seconds * SECOND)).copy()


def expected(lines: list[dict[str, Any]], seconds: float, master: float = 1.0) -> list[int]:
    """The bytes of all lamps, written down from the product's description of Flat, Relay and the blends."""
    out = []
    lines = [one for one in lines if not one["mute"]]
    if any(one["solo"] for one in lines):
        lines = [one for one in lines if one["solo"]]
    for n in range(COUNT):
        x, y = n % WIDTH, n // WIDTH
        colour = [0.0, 0.0, 0.0]
        for one in lines:
            phase = seconds / one["speed"]["value"]
            if one["effect"] == "Flat":
                place, cover = one["params"].get("place", 0) / 100, 1.0
            else:
                order = one["params"].get("order", "address")
                rank, steps = {"address": (n, COUNT), "row": (y, HEIGHT), "column": (x, WIDTH)}.get(order, (0, 0))
                if order == "snake":
                    rank, steps = y * WIDTH + (x if y % 2 == 0 else WIDTH - 1 - x), COUNT
                behind = ((phase % 1.0) * steps - rank) % steps
                width = min(one["params"].get("width", 1), steps)
                fade = one["params"].get("overlap", 0) / 100
                cover = (
                    float(behind < width)
                    if not fade
                    else max(0.0, min(1, behind / fade, (width + fade - behind) / fade))
                )
                place = rank / max(steps - 1, 1)
            (a, *start), (b, *end) = one["ramp"][0], one["ramp"][-1]
            t = 0.0 if a == b else min(max((place - a) / (b - a), 0), 1)
            paint = [(s + (e - s) * t) / 255 for s, e in zip(start, end, strict=True)]
            cover *= one["opacity"]
            mixes: dict[str, Callable[[float, float], float]] = {
                "over": lambda _under, top: top,
                "add": lambda under, top: under + top,
                "multiply": lambda under, top: under * top,
                "lighten": max,
                "darken": min,
            }
            mix = mixes[one["blend"]]
            colour = [under * (1 - cover) + mix(under, top) * cover for under, top in zip(colour, paint, strict=True)]
        out += [math.floor(min(max(c, 0.0), 1.0) * master * 255 + 0.5) for c in colour]
    return out


LINES = st.lists(
    st.builds(
        lambda key, effect, **fields: line(str(key), effect, **fields),
        st.uuids(),
        st.just("Flat"),
        ramp=st.just([[0.0, 200, 100, 40], [1.0, 0, 60, 255]]),
        params=st.fixed_dictionaries({"place": st.integers(0, 100)}),
        opacity=st.integers(0, 100).map(lambda p: p / 100),
        blend=st.sampled_from(["over", "add", "multiply", "lighten", "darken"]),
        mute=st.sampled_from([False, False, False, True]),
        solo=st.sampled_from([False, False, False, True]),
    )
    | st.builds(
        lambda key, effect, **fields: line(str(key), effect, **fields),
        st.uuids(),
        st.just("Relay"),
        ramp=st.sampled_from([[[0.0, 204, 91, 18]], [[0.0, 0, 0, 255], [1.0, 255, 0, 0]]]),
        params=st.fixed_dictionaries(
            {
                "order": st.sampled_from(["address", "row", "column", "snake"]),
                "width": st.integers(1, 7),
                "overlap": st.sampled_from([0, 50, 100]),
            }
        ),
        speed=st.sampled_from([4, -4, 0.7, -0.7]).map(lambda value: {"value": value, "unit": "s"}),
        opacity=st.integers(0, 100).map(lambda p: p / 100),
        blend=st.sampled_from(["over", "add", "multiply", "lighten", "darken"]),
        mute=st.sampled_from([False, False, False, True]),
        solo=st.sampled_from([False, False, False, True]),
    ),
    min_size=1,
    max_size=4,
)


@settings(max_examples=150, deadline=None)
@given(LINES, st.integers(0, 400), st.sampled_from([1.0, 0.85, 0.0]))
def test_a_frame_is_what_its_lines_say(lines: list[dict[str, Any]], centis: int, master: float) -> None:
    seconds = centis / 100 + 0.003  # off the exact change of a step, where rounding may decide
    show = compiled(lamps(COUNT), grid(WIDTH, HEIGHT), look(*lines))
    sent = frame(show, seconds, master=master)[0, : COUNT * 3].astype(int).tolist()
    wanted = expected(lines, seconds, master)
    assert max(abs(a - b) for a, b in zip(sent, wanted, strict=True)) <= 1


def test_the_same_frame_again_is_the_same_bytes() -> None:
    show = compiled(lamps(COUNT), grid(WIDTH, HEIGHT), look(line("a", "Relay", params={"order": "shuffle"})))
    assert (frame(show, 1.23) == frame(show, 1.23)).all()


def test_a_virtual_master_scales_and_blackout_is_dark() -> None:
    # 50 % of (200, 100, 40) is (100, 50, 20): common practice, no published source.
    show = compiled(lamps(1), grid(1, 1), look(line("a", "Flat", ramp=[[0, 200, 100, 40]])))
    assert frame(show, 0, master=0.5)[0, :3].tolist() == [100, 50, 20]
    assert frame(show, 0, master=0.5, blackout=True)[0, :3].tolist() == [0, 0, 0]


def test_freeze_keeps_the_picture_and_the_master_still_acts() -> None:
    show = compiled(lamps(COUNT), grid(WIDTH, HEIGHT), look(line("a", "Relay")))
    renderer = Renderer()
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    before = renderer.render(show, state, SECOND).copy()
    frozen = state.froze(SECOND, show.records)
    assert (renderer.render(show, frozen, 3 * SECOND) == before).all()
    black = replace(frozen, blackout=True)
    assert not renderer.render(show, black, 3 * SECOND).any()


SAFE = [
    {"attribute": "Shutter1", "home": 9, "safe": 3},
    *[{"attribute": f"ColorAdd_{c}", "safe": 0} for c in "RGB"],
]


def test_the_guard_holds_safe_values_above_everything_until_armed() -> None:
    show = compiled(lamps(3, guarded=True, channels=SAFE), grid(3, 1), look(line("a", "Flat")))
    assert frame(show, 0)[0, :12].tolist() == [3, 0, 0, 0] * 3
    armed = frame(show, 0, armed=frozenset({"f1"}))[0, :12].tolist()
    assert armed == [3, 0, 0, 0, 9, 255, 255, 255, 3, 0, 0, 0]
    # blackout puts a laser to its safe values, not to its home (9)
    assert frame(show, 0, armed=frozenset({"f1"}), blackout=True)[0, 4:8].tolist() == [3, 0, 0, 0]


def test_home_values_stand_on_channels_no_pixel_drives() -> None:
    dimmed = [{"attribute": "Dimmer", "home": 255}, *[{"attribute": f"ColorAdd_{c}"} for c in "RGB"]]
    show = compiled(lamps(2, channels=dimmed), grid(2, 1), look())
    assert frame(show, 0)[0, :8].tolist() == [255, 0, 0, 0] * 2


def test_odd_channel_orders_are_followed() -> None:
    blue_first = [{"attribute": f"ColorAdd_{c}"} for c in "BRG"]
    show = compiled(lamps(1, channels=blue_first), grid(1, 1), look(line("a", "Flat", ramp=[[0, 10, 20, 30]])))
    assert frame(show, 0)[0, :3].tolist() == [30, 10, 20]


def test_matrices_larger_than_one_block_are_painted_whole() -> None:
    count = 170 * 60
    show = compiled(lamps(count), grid(170, 60), look(line("a", "Flat", ramp=[[0, 7, 8, 9]])))
    assert len(show.matrices["M"].parts) == 2
    assert (frame(show, 0)[:, :510].reshape(-1, 3) == [7, 8, 9]).all()


@pytest.mark.parametrize("order", ["address", "row", "column", "snake", "shuffle"])
def test_relay_lights_every_cell_once_a_round(order: str) -> None:
    # A sweep by column over a grid of 4 columns has 4 steps (common practice, no published source).
    show = compiled(lamps(16), grid(4, 4), look(line("a", "Relay", params={"order": order})))
    steps = 4 if order in ("row", "column") else 16
    lit: dict[int, int] = {}
    for step in range(steps):
        values = frame(show, (step + 0.5) * 4 / steps)[0, :48].reshape(16, 3)
        for cell in np.flatnonzero(values.any(axis=1)).tolist():
            lit[cell] = lit.get(cell, 0) + 1
    assert lit == dict.fromkeys(range(16), 1)
