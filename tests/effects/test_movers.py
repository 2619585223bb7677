"""The effects beyond the first five: what each says it paints, on small matrices that can be counted by hand."""

from __future__ import annotations

import math
from itertools import pairwise
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from heliograph.core.waves import chance, oscillation
from heliograph.effects import EFFECTS, Moment, complete_params, effect_named
from heliograph.effects.buoys import prepare as prepare_buoys
from heliograph.effects.buoys import where
from heliograph.effects.orders import canvas_for
from tests.effects.test_shapes import canvas, painted

CALM = {"Flat", "Pulse"}
"""The same on every cell."""


def lit(name: str, width: int, height: int, phase: float, params: dict[str, Any]) -> np.ndarray[Any, Any]:
    """(height, width): how much each square is covered."""
    return painted(name, canvas(width, height), phase, **params)[1].reshape(height, width)


def test_chance_is_even_and_knows_no_neighbours() -> None:
    """Uniform by the chi-square test (64 bins, 63 degrees of freedom: 103.4 is exceeded once in a thousand; NIST table
    1.3.6.7.4) and without correlation between neighbours, keys and seeds."""
    keys = np.arange(65_536)
    drawn = chance(5, keys, keys // 256)
    counts = np.histogram(drawn, bins=64, range=(0, 1))[0]
    assert ((counts - 1024.0) ** 2 / 1024.0).sum() < 103.4
    for other in (chance(5, keys + 1, keys // 256), chance(6, keys, keys // 256), chance(5, keys, keys // 256 + 1)):
        assert abs(np.corrcoef(drawn, other)[0, 1]) < 0.02
    assert (chance(5, keys, keys // 256) == drawn).all()
    assert chance(5, [-1])[0] != chance(5, [1])[0]


def test_oscillations_are_what_their_names_say() -> None:
    at = np.array([0.0, 0.25, 0.5, 0.75], dtype=np.float32)
    assert oscillation("sine", at) == pytest.approx([0, 0.5, 1, 0.5], abs=1e-6)
    assert oscillation("triangle", at) == pytest.approx([0, 0.5, 1, 0.5])
    assert oscillation("square", at, 0.5).tolist() == [1, 1, 0, 0]
    assert oscillation("saw up", at) == pytest.approx([0, 0.25, 0.5, 0.75])
    assert oscillation("saw down", at + 3) == pytest.approx([1, 0.75, 0.5, 0.25])


def test_slats_stand_apart_and_each_comes_to_where_the_next_one_stood() -> None:
    bars = {"spacing": 25, "width": 50, "edge": 0, "angle": 0}
    row = lit("Slats", 16, 1, 0.0, bars)[0]
    assert row.tolist() == [0, 1, 1, 0] * 4
    assert lit("Slats", 16, 1, 0.25, bars)[0].tolist() == np.roll(row, 1).tolist()
    assert lit("Slats", 16, 1, 1.0, bars)[0].tolist() == row.tolist()
    assert lit("Slats", 1, 16, 0.0, {**bars, "angle": 90})[:, 0].tolist() == row.tolist()
    soft = lit("Slats", 64, 1, 0.0, {**bars, "edge": 100})[0]
    assert np.count_nonzero((soft > 0.1) & (soft < 0.9)) > 10


def test_a_tide_rises_from_its_side_and_falls() -> None:
    even = {"evenness": 100, "foam": 0}
    levels = [lit("Tide", 4, 10, phase, even)[:, 0].sum() for phase in (0.0, 0.25, 0.5, 0.75)]
    assert levels[0] < 1
    assert levels[2] == pytest.approx(10, abs=0.01)
    assert levels[1] == pytest.approx(5.0, abs=0.01)
    assert levels[1] == pytest.approx(levels[3], abs=1e-3)
    half = {**even, "rises": "as driven", "height": 50}
    for origin, wet in (("below", (9, 0)), ("above", (0, 9))):
        column = lit("Tide", 1, 10, 0.3, {**half, "origin": origin})[:, 0]
        assert (column[wet[0]], column[wet[1]]) == (1, 0)
        assert column.sum() == pytest.approx(5.0, abs=0.1)
    row = lit("Tide", 10, 1, 0.3, {**half, "origin": "right"})[0]
    assert (row[9], row[0]) == (1, 0)
    place, _ = painted("Tide", canvas(1, 40), 0.5, evenness=100, foam=20, rises="as driven", height=100)
    assert place[0] > 0.9 > place[20] > place[39]  # foam at the line, the deep below


def test_a_splash_runs_out_from_where_the_drop_fell() -> None:
    one = {"drops": 1, "damping": 100, "wavelength": 10, "reach": 100}
    rings = []
    for phase in (0.15, 0.3, 0.45):
        picture = lit("Splash", 60, 60, phase, one)
        y, x = np.unravel_index(int(picture.argmax()), picture.shape)
        rings.append((int(x), int(y)))
    drop = [float(chance(0, [0], [0], [axis])[0]) * 60 for axis in (1, 2)]
    away = [math.hypot(x + 0.5 - drop[0], y + 0.5 - drop[1]) for x, y in rings]
    assert away == pytest.approx([9, 18, 27], abs=2)  # reach is 60 squares a phase
    assert lit("Splash", 60, 60, 1.15, one).argmax() != lit("Splash", 60, 60, 0.15, one).argmax()


def test_glints_flash_as_many_as_were_asked_for() -> None:
    flashed = np.zeros((40, 40))
    for step in range(100):
        flashed = np.maximum(flashed, lit("Glints", 40, 40, step / 100, {"density": 25, "decay": 30, "attack": 1}) > 0)
    # Within a phase of 1 a cell sees parts of two turns: 1 - 0.75^2 of them at most.
    assert 0.25 < flashed.mean() < 0.46
    assert not lit("Glints", 40, 40, 0.4, {"density": 0}).any()
    assert lit("Glints", 40, 40, 0.4, {"density": 100, "decay": 100}).mean() > 0.2


def test_grain_draws_anew_and_goes_over_smoothly() -> None:
    on = canvas(40, 40)
    first, again, later = (painted("Grain", on, phase, rate=4, smooth=0)[0] for phase in (0.01, 0.24, 0.26))
    assert (first == again).all()
    assert abs(np.corrcoef(first, later)[0, 1]) < 0.1
    steps = [painted("Grain", on, phase, rate=4, smooth=100)[0] for phase in (0.1, 0.1005)]
    assert np.abs(steps[0] - steps[1]).max() < 0.02


def test_chequer_counts_cells_rows_columns_and_squares() -> None:
    assert lit("Chequer", 4, 2, 0.0, {"size": 1}).tolist() == [[1, 0, 1, 0], [0, 1, 0, 1]]
    assert lit("Chequer", 4, 2, 0.5, {"size": 1}).tolist() == [[0, 1, 0, 1], [1, 0, 1, 0]]
    assert lit("Chequer", 6, 1, 0.0, {"of": "columns", "every": 3, "size": 1})[0].tolist() == [1, 0, 0, 1, 0, 0]
    assert lit("Chequer", 1, 4, 0.0, {"of": "rows", "size": 2})[:, 0].tolist() == [1, 1, 0, 0]
    assert lit("Chequer", 3, 2, 0.0, {"of": "cells", "every": 4, "size": 1}).ravel().tolist() == [1, 0, 0, 0, 1, 0]


def test_buoys_ride_about_their_middle_and_one_alone_stands_where_it_is_put() -> None:
    alone = {"count": 1, "reach": 0, "x": 25, "y": 75, "size": 20}
    for phase in (0.0, 1.7):
        picture = lit("Buoys", 40, 40, phase, alone)
        y, x = np.unravel_index(int(picture.argmax()), picture.shape)
        assert abs(x + 0.5 - 10) <= 1
        assert abs(y + 0.5 - 30) <= 1
    effect = effect_named("Buoys")
    params = complete_params(effect, {"count": 12, "reach": 100})
    prepared = prepare_buoys(canvas(40, 40), {}, 4)
    begins, ends = (np.stack(where(prepared, 12, Moment(phase, params))) for phase in (0.3, 4.3))
    assert begins == pytest.approx(ends, abs=1e-6)  # back after a phase of 4
    near = np.stack(where(prepared, 12, Moment(0.3002, params)))
    assert np.abs(near - begins).max() < 0.1


def test_vanes_and_eddies_turn_once_a_phase() -> None:
    for name, params in (("Vanes", {"count": 4}), ("Eddy", {"arms": 3})):
        first = lit(name, 21, 21, 0.1, params)
        assert lit(name, 21, 21, 1.1, params) == pytest.approx(first, abs=2e-3)
        quarter = lit(name, 21, 21, 0.35, params)  # a quarter turn is the picture turned by 90 degrees
        turned = np.rot90(first, -1).copy()
        turned[10, 10] = quarter[10, 10]  # the very middle has no direction
        assert quarter == pytest.approx(turned, abs=2e-3)
    aside = lit("Vanes", 21, 21, 0.5, {"count": 1, "width": 20, "edge": 0, "x": 0, "y": 50})
    assert aside[10].any()
    assert not aside[0, :8].any()


def test_embers_are_hot_below_and_gone_above_their_height() -> None:
    means = np.mean([lit("Ember", 18, 50, phase, {"height": 50}) for phase in np.arange(0, 4, 0.13)], axis=0).mean(
        axis=1
    )
    assert means[-1] > 0.95
    assert means[0] < 0.05
    assert (np.diff(means[::10]) >= -0.02).all()  # hotter from row to row downward
    still = lit("Ember", 6, 20, 0.4, {"draught": 0, "flicker": 0})
    assert (still == still[:, :1]).all()


def test_a_streak_of_a_squall_falls_down() -> None:
    fall = {"density": 100, "length": 20, "slant": 0}
    heads: list[float] = []
    for step in range(12):
        column = lit("Squall", 1, 60, 0.02 * step, fall)[:, 0]
        if column.max() > 0.9:
            heads.append(float(column.argmax()))
    assert len(heads) > 6
    assert all(after > before or after < 15 for before, after in pairwise(heads))  # down, or a new one from above
    assert not lit("Squall", 20, 20, 0.4, {"density": 0}).any()


def test_a_meter_fills_its_bars_to_the_level() -> None:
    still = {"sway": 0, "gap": 0}
    assert lit("Meter", 4, 10, 0.0, {"level": 50, **still}).sum(axis=0) == pytest.approx([5.0] * 4, abs=0.01)
    assert lit("Meter", 10, 4, 0.0, {"level": 100, "origin": "left", **still}).min() == 1
    assert not lit("Meter", 4, 10, 0.0, {"level": 0, **still})[:9].any()
    gaps = lit("Meter", 20, 4, 0.0, {"level": 100, "bands": 4, "gap": 40, "sway": 0})[3]
    assert gaps.tolist() == [0, 0, 1, 1, 1] * 4
    swayed = [lit("Meter", 8, 20, phase, {"bands": 8, "gap": 0, "sway": 100}).sum(axis=0) for phase in (0.1, 0.4)]
    assert np.ptp(swayed[0]) > 1
    assert np.abs(swayed[0] - swayed[1]).max() > 1


def test_a_pulse_is_one_light_everywhere() -> None:
    assert lit("Pulse", 3, 2, 0.5, {}).tolist() == [[1, 1, 1], [1, 1, 1]]
    assert lit("Pulse", 3, 2, 0.0, {}).max() == 0
    assert lit("Pulse", 1, 1, 0.0, {"depth": 40})[0, 0] == pytest.approx(0.6)
    strobe = [lit("Pulse", 1, 1, step / 10, {"shape": "square", "duty": 20})[0, 0] for step in range(10)]
    assert strobe == [1, 1, 0, 0, 0, 0, 0, 0, 0, 0]


def test_a_swell_is_a_little_later_from_cell_to_cell() -> None:
    place, cover = painted("Swell", canvas(16, 1), 0.25, wavelengths=2)
    at = (np.arange(16) + 0.5) / 16
    assert place == pytest.approx(0.5 - 0.5 * np.cos(2 * np.pi * (0.25 - 2 * at)), abs=1e-5)
    assert (cover == 1).all()
    later, _ = painted("Swell", canvas(16, 1), 0.375, wavelengths=2)
    assert later == pytest.approx(np.roll(place, 1), abs=1e-5)
    alike, _ = painted("Swell", canvas(16, 1), 0.3, wavelengths=0)
    assert np.ptp(alike) < 1e-6


SIZES = ((60, 1), (6, 4), (72, 10), (200, 100))


@pytest.mark.parametrize("name", sorted(set(EFFECTS) - CALM))
@pytest.mark.parametrize("size", SIZES)
def test_with_its_own_defaults_something_is_lit_and_moves_wherever_it_is_put(name: str, size: tuple[int, int]) -> None:
    effect = effect_named(name)
    on = canvas(*size)
    shown = np.stack([painted(name, on, phase) for phase in (0.1, 0.35, 0.6, 0.85)])
    light = shown[:, 1]
    assert light.max() > 0.5
    if effect.moves:
        assert np.abs(np.diff(shown, axis=0)).max() > 0.2


@pytest.mark.parametrize("name", sorted(set(EFFECTS) - CALM))
def test_a_cell_on_several_squares_is_one_cell_to_every_effect_that_counts_cells(name: str) -> None:
    """Points of one cell that covers 2 x 2 squares get the same value by chance."""
    if name not in {"Glints", "Grain"}:
        pytest.skip("it paints by place")
    x, y = (np.array(one, dtype=np.float32) for one in ([0.5, 1.5, 0.5, 1.5, 2.5], [0.5, 0.5, 1.5, 1.5, 0.5]))
    on = canvas_for(x, y, 3, 2, np.array([0, 0, 0, 0, 1]))
    for phase in (0.1, 0.3, 0.7):
        place, cover = painted(name, on, phase, **({"density": 100} if name == "Glints" else {}))
        assert np.ptp(place[:4]) == 0
        assert np.ptp(cover[:4]) == 0


@settings(max_examples=30, deadline=None)
@given(name=st.sampled_from(sorted(EFFECTS)), phase=st.floats(-1e4, 1e4), seed=st.integers(0, 2**31 - 1))
def test_the_same_phase_and_seed_are_the_same_picture(name: str, phase: float, seed: int) -> None:
    effect, on = effect_named(name), canvas(9, 7)
    params = complete_params(effect, {})
    pictures = []
    for _ in range(2):
        prepared = effect.prepare(on, effect.choices(params), seed)
        effect.paint(
            prepared, slice(0, on.count), Moment(phase + 0.37, params)
        )  # what was asked before leaves no trace
        place, cover = effect.paint(prepared, slice(0, on.count), Moment(phase, params))
        pictures.append(np.stack([np.broadcast_to(place, on.count), np.broadcast_to(cover, on.count)]))
    assert (pictures[0] == pictures[1]).all()


def test_soft_lights_on_a_large_matrix_are_drawn_out_unseen() -> None:
    """Worked out on every few squares there, and on every one of a stretch of the same matrix: no square differs by
    more than one of 255."""
    effect = EFFECTS["Buoys"]
    y, x = np.mgrid[0:170, 0:512].astype(np.float32)
    whole = canvas_for(x.ravel() + np.float32(0.5), y.ravel() + np.float32(0.5), 512, 170)
    few = slice(40_000, 44_000)
    small = canvas_for(whole.x[few], whole.y[few], 512, 170)
    params = complete_params(effect, {})
    for phase in np.linspace(0.0, 4.0, 9):
        moment = Moment(float(phase), params)
        coarse = effect.paint(effect.prepare(whole, effect.choices(params), 3), few, moment)
        exact = effect.paint(effect.prepare(small, effect.choices(params), 3), slice(0, 4_000), moment)
        assert np.asarray(exact.cover).max() > 0.5
        assert np.abs(np.asarray(coarse.cover) - np.asarray(exact.cover)).max() < 1 / 255
