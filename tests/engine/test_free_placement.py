"""A cell that covers several squares, or stands between them, gets the mean of what is painted on them."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.matrix.placements import CellKey, Placement, pack
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import SECOND, lamps, line, look, output


def shown(placements: list[Placement], *lines: dict[str, Any], width: int = 8, at: int = 0) -> np.ndarray[Any, Any]:
    """(lamps, 3) as sent."""
    matrix = {"id": "M", "name": "M", "width": width, "height": 2, "placements": pack(placements)}
    sections = {
        "rig": lamps(len(placements)),
        "matrix:M": matrix,
        "look:L": look(*lines),
        "outputs": {"outputs": [output()]},
    }
    show: CompiledShow = compile_show(sections, Path("/nonexistent"))
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    return Renderer().render(show, state, at)[0, : 3 * len(placements)].reshape(-1, 3).astype(int)


def lamp(n: int, x: float, y: float = 0, w: float = 1, h: float = 1) -> Placement:
    return Placement(CellKey(f"f{n}", "1"), x, y, w, h)


RISE = line("a", "Grade", ramp=[[0, 0, 0, 0], [1, 255, 255, 255]])


def test_between_two_squares_it_is_half_way_and_over_all_the_mean() -> None:
    plain = shown([lamp(n, n) for n in range(8)], RISE)
    between = shown([lamp(0, 2.5), lamp(1, 0, 0, 8, 2), lamp(2, 3.25)], RISE)
    assert between[0] == pytest.approx((plain[2] + plain[3]) / 2, abs=1)
    assert between[1] == pytest.approx(plain.mean(axis=0), abs=1)
    assert between[2] == pytest.approx(plain[3] * 0.75 + plain[4] * 0.25, abs=1)


def test_clear_squares_count_as_clear_and_not_as_black() -> None:
    """Half covered by white over red: the mean of what is painted, blended once."""
    red = line("under", "Flat", ramp=[[0, 255, 0, 0]])
    one = line("over", "Relay", params={"order": "column", "width": 1, "overlap": 0}, ramp=[[0, 255, 255, 255]])
    sent = shown([lamp(0, 0), lamp(1, 0.5)], red, one)
    assert sent.tolist() == [[255, 255, 255], [255, 128, 128]]


@pytest.mark.parametrize("effect", ["Flat", "Grade", "Beacon", "Mist", "Relay"])
def test_a_free_cell_on_one_whole_square_is_as_a_plain_one(effect: str) -> None:
    painted = line("a", effect, ramp=[[0, 250, 10, 0], [0.5, 0, 250, 0], [1, 20, 0, 250]], opacity=0.8)
    at = 7 * SECOND // 3
    plain = shown([lamp(n, n) for n in range(8)], painted, at=at)
    nearly = [Placement(CellKey(f"f{n}", "1"), n, 0, 1, 0.999) for n in range(8)]
    assert np.abs(shown(nearly, painted, at=at) - plain).max() <= 1


def test_a_cell_has_one_place_in_the_orders_along_cells() -> None:
    """Three lamps, the middle one two squares wide: each is lit for a third of the round."""
    relay = line("a", "Relay", params={"order": "address", "width": 1, "overlap": 0}, ramp=[[0, 255, 255, 255]])
    wide = [lamp(0, 0), lamp(1, 1, 0, 2), lamp(2, 3)]
    lit = [shown(wide, relay, width=4, at=(2 * n + 1) * 4 * SECOND // 24)[:, 0].tolist() for n in range(12)]
    assert [row.index(255) for row in lit] == [0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 2]
    assert all(sum(row) == 255 for row in lit)
