"""Miniatures of effects, and surprises."""

from __future__ import annotations

import colorsys

import numpy as np
import pytest

from heliograph.core.colour.ramps import check_ramp, ramp_table
from heliograph.effects import EFFECTS, complete_params
from heliograph.effects.miniature import RATE, SECONDS_MOST, SIDE_MOST, miniature
from heliograph.effects.surprise import surprised
from tests.effects.test_shapes import canvas, painted


@pytest.mark.parametrize("name", sorted(EFFECTS))
def test_a_miniature_moves_as_the_effect_does_and_has_the_matrix_s_shape(name: str) -> None:
    pictures = miniature(EFFECTS[name], 18, 50)
    assert pictures.shape[1:] == (50, 18, 3)
    assert pictures.max() > 120
    assert len(pictures) <= SECONDS_MOST * RATE
    moves = len(pictures) > 1 and bool((pictures != pictures[0]).any())
    assert moves is EFFECTS[name].moves


def test_a_large_matrix_is_shown_smaller_and_a_row_stays_a_row() -> None:
    assert miniature(EFFECTS["Grade"], 1000, 500).shape[1:3] == (SIDE_MOST // 2, SIDE_MOST)
    assert miniature(EFFECTS["Grade"], 400, 1).shape[1:3] == (1, SIDE_MOST)


def test_a_miniature_is_what_the_effect_paints() -> None:
    effect = EFFECTS["Grade"]
    first = miniature(effect, 16, 1)[0, 0]
    place, _ = painted("Grade", canvas(16, 1), 0.0)
    wanted = ramp_table(effect.ramp)[:, np.rint(place * 1023).astype(int)].T * 255
    assert np.abs(first - wanted).max() <= 1


@pytest.mark.parametrize("name", sorted(EFFECTS))
def test_a_surprise_is_within_what_the_effect_takes_and_the_same_for_a_seed(name: str) -> None:
    effect = EFFECTS[name]
    for seed in range(60):
        drawn = surprised(effect, seed)
        assert drawn == surprised(effect, seed)
        complete_params(effect, drawn["params"])  # refuses what is outside its range
        check_ramp(drawn["ramp"])
        assert len(drawn["ramp"]) >= len(effect.ramp)
        brightest = max(colorsys.rgb_to_hsv(s.red / 255, s.green / 255, s.blue / 255)[2] for s in drawn["ramp"])
        assert brightest > 0.95
    assert surprised(effect, 1) != surprised(effect, 2)


def test_no_surprise_stands_still() -> None:
    """What only a drive would move is not drawn."""
    assert {surprised(EFFECTS["Tide"], seed)["params"]["rises"] for seed in range(60)} == {"by itself"}
