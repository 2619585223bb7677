"""Grade, Beacon and Mist: what each says it paints, on small matrices that can be counted by hand."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.effects import EFFECTS, complete_params, effect_named
from heliograph.effects.orders import canvas_for
from heliograph.effects.registry import Canvas, Moment


def canvas(width: int, height: int) -> Canvas:
    y, x = np.mgrid[0:height, 0:width].astype(np.float32)
    return canvas_for(x.ravel() + 0.5, y.ravel() + 0.5, width, height)


def painted(name: str, on: Canvas, phase: float, **params: Any) -> tuple[np.ndarray[Any, Any], np.ndarray[Any, Any]]:
    """(place, cover), each for every cell, place as 0..1."""
    effect = effect_named(name)
    given = complete_params(effect, params)
    prepared = effect.prepare(on, effect.choices(given), 0)
    place, cover = effect.paint(prepared, slice(0, on.count), Moment(phase, given))
    at: Any = place / 1023 if isinstance(place, np.ndarray) and place.dtype == np.intp else place
    return np.broadcast_to(at, on.count), np.broadcast_to(cover, on.count)


def test_a_gradient_runs_evenly_from_the_left() -> None:
    place, cover = painted("Grade", canvas(10, 1), 0.0)
    assert place == pytest.approx(np.arange(0.05, 1.0, 0.1), abs=1e-6)
    assert (cover == 1.0).all()


def test_a_gradient_downward_from_a_point_and_around() -> None:
    down, _ = painted("Grade", canvas(1, 4), 0.0, angle=90)
    assert down == pytest.approx([0.125, 0.375, 0.625, 0.875], abs=1e-6)
    point, _ = painted("Grade", canvas(3, 3), 0.0, form="point")
    assert point.reshape(3, 3)[1, 1] == 0.0
    assert point.reshape(3, 3)[0, 0] == point.max()
    around, _ = painted("Grade", canvas(3, 3), 0.0, form="around", spread=100)
    right, below, left = (around.reshape(3, 3)[i] for i in ((1, 2), (2, 1), (1, 0)))
    assert [right, below, left] == pytest.approx([0.0, 0.25, 0.5], abs=1e-5)


def test_a_moving_gradient_goes_on_by_one_ramp_a_cycle() -> None:
    on = canvas(8, 1)
    first, _ = painted("Grade", on, 0.25, repeats=2)
    again, _ = painted("Grade", on, 1.25, repeats=2)
    assert first == pytest.approx(again, abs=1e-5)
    moved, _ = painted("Grade", on, 0.5, repeats=2)
    assert np.roll(first, 1) == pytest.approx(moved, abs=1e-5)  # a quarter of a ramp is one of four squares


def test_a_beacon_travels_there_and_back() -> None:
    on = canvas(20, 1)
    heads = []
    for step in range(40):
        _, cover = painted("Beacon", on, (step + 0.5) / 40, width=5, tail=20)
        heads.append(int(cover.argmax()) if cover.any() else -1)
    there, back = [h for h in heads[:20] if h >= 0], [h for h in heads[20:] if h >= 0]
    assert there == sorted(there)
    assert back == sorted(back, reverse=True)
    assert (min(there), max(there)) == (0, 19)
    assert (min(back), max(back)) == (0, 19)


def test_its_tail_fades_behind_it() -> None:
    _, cover = painted("Beacon", canvas(20, 1), 0.25, width=5, tail=50, turn="turning back")
    head = int(cover.argmax())
    assert (cover[head + 2 :] == 0).all()
    tail = cover[max(0, head - 8) : head]
    assert (np.diff(tail) > 0).all()


def test_a_beam_turns_once_a_cycle() -> None:
    on = canvas(9, 9)
    seen = np.zeros(81)
    for step in range(64):
        _, cover = painted("Beacon", on, step / 64, form="beam", width=5, tail=0)
        seen += cover > 0
    assert (np.delete(seen, 40) > 0).all()
    right, _ = painted("Beacon", on, 0.0, form="beam"), None
    assert right[1].reshape(9, 9)[4, 8] == 1.0


@settings(max_examples=60, deadline=None)
@given(st.floats(-50, 50), st.integers(2, 400), st.integers(1, 5))
def test_mist_is_smooth_in_time_and_stays_on_the_ramp(phase: float, scale: int, detail: int) -> None:
    on = canvas(18, 50)
    before, _ = painted("Mist", on, phase, scale=scale, detail=detail)
    after, _ = painted("Mist", on, phase + 0.001, scale=scale, detail=detail)
    assert before.min() >= 0.0
    assert before.max() <= 1.0
    assert np.abs(after - before).max() < 0.12


def test_mist_is_the_same_everywhere_and_changes() -> None:
    on = canvas(18, 50)
    one, _ = painted("Mist", on, 3.3)
    again, _ = painted("Mist", on, 3.3)
    later, _ = painted("Mist", on, 4.3)
    assert (one == again).all()
    assert np.abs(one - later).mean() > 0.02
    assert one.std() > 0.05


def test_mist_is_painted_alike_whole_and_in_parts() -> None:
    on = canvas(18, 50)
    effect = effect_named("Mist")
    params = complete_params(effect, {})
    prepared, moment = effect.prepare(on, {}, 0), Moment(0.7, params)
    whole = effect.paint(prepared, slice(0, 900), moment).place
    parts = [effect.paint(prepared, slice(a, a + 100), moment).place for a in range(0, 900, 100)]
    assert (np.concatenate(parts) == whole).all()


@pytest.mark.parametrize("name", sorted(EFFECTS))
@pytest.mark.parametrize("size", [(1, 1), (140, 1), (1, 50), (18, 50)])
def test_every_effect_paints_every_matrix(name: str, size: tuple[int, int]) -> None:
    for phase in (0.0, 0.37, -2.5, 1e6):
        place, cover = painted(name, canvas(*size), phase)
        for values in (place, cover):
            assert np.isfinite(values).all()
            assert values.min() >= 0.0
            assert values.max() <= 1.0


def test_an_unknown_effect_lists_what_there_is() -> None:
    with pytest.raises(InputError, match="There are: Beacon, Buoys, Chequer"):
        effect_named("Tornado")
