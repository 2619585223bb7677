"""What effects of noise promise: their range, their mean, likeness over distance, nothing again within ten minutes, the
same for the same seed and another for others."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from heliograph.effects import EFFECTS
from heliograph.effects.miniature import seconds_of
from heliograph.effects.orders import canvas_for
from heliograph.effects.registry import Canvas, Effect, Moment, complete_params

WIDTH, HEIGHT = 30, 20
MINUTES_S = 600.0
NOISE = ("Mist", "Grain", "Glints", "Ember", "Squall", "Splash")


def canvas() -> Canvas:
    y, x = np.mgrid[0:HEIGHT, 0:WIDTH].astype(np.float32)
    return canvas_for(x.ravel() + np.float32(0.5), y.ravel() + np.float32(0.5), WIDTH, HEIGHT)


ON = canvas()


def light(effect: Effect, phases: np.ndarray, seed: int, **params: Any) -> np.ndarray:
    """(phases, HEIGHT, WIDTH): the place on the ramp where it covers whole, else the cover."""
    whole = complete_params(effect, params)
    prepared = effect.prepare(ON, effect.choices(whole), seed)
    found = []
    for phase in phases:
        place, cover = effect.paint(prepared, slice(0, ON.count), Moment(float(phase), whole))
        shown = place if isinstance(cover, float) else cover
        found.append(np.broadcast_to(shown, ON.count).reshape(HEIGHT, WIDTH))
    return np.array(found)


@pytest.mark.parametrize("name", NOISE)
def test_its_range_its_seed_and_nothing_twice_within_ten_minutes(name: str) -> None:
    effect = EFFECTS[name]
    cycles = MINUTES_S / seconds_of(effect)
    phases = np.linspace(0.0, cycles, 1200, endpoint=False)
    params = {"smooth": 100.0} if name == "Grain" else {}  # else it stands still half of the time, as it says
    one = light(effect, phases, 5, **params)
    assert one.min() >= 0.0
    assert one.max() <= 1.0
    assert 0.02 < one.mean() < 0.98
    # Any two moments of ten minutes, one in half a second: told apart by more than a shade somewhere.
    small = one.reshape(len(one), -1).astype(np.float32)
    squares = (small**2).sum(axis=1)
    apart = squares[:, None] + squares[None, :] - 2.0 * small @ small.T
    np.fill_diagonal(apart, np.inf)
    assert apart.min() > 0.02, (phases[apart.min(axis=1).argmin()], apart.min())
    some = phases[:40]
    assert np.array_equal(light(effect, some, 5, **params), one[:40])
    assert np.abs(light(effect, some, 6, **params) - one[:40]).mean() > 0.01


def likeness(pictures: np.ndarray, apart: int) -> float:
    left, right = pictures[:, :, :-apart].ravel(), pictures[:, :, apart:].ravel()
    return float(np.corrcoef(left, right)[0, 1])


def test_mist_is_like_itself_near_by_and_not_far_off() -> None:
    pictures = light(EFFECTS["Mist"], np.linspace(0, 200, 150), 5, scale=30.0, detail=1.0, contrast=0.0)
    near, far = likeness(pictures, 1), likeness(pictures, 27)
    assert near > 0.9
    assert abs(far) < 0.25


def test_grain_is_like_nothing() -> None:
    pictures = light(EFFECTS["Grain"], np.arange(100) + 0.1, 5, smooth=0.0)
    assert abs(likeness(pictures, 1)) < 0.02
    assert pictures.mean() == pytest.approx(0.5, abs=0.01)  # even chance: the mean is a half
    assert pictures.var() == pytest.approx(1 / 12, abs=0.005)
