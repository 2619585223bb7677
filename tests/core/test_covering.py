"""Free placement: what a cell covers, what it averages, and where points of a plan or a drawing fall."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.matrix.covering import covered, is_aligned
from heliograph.core.matrix.from_points import Spot, lay, pitch_of
from heliograph.core.matrix.placements import CellKey, Placement, check_placements
from heliograph.core.rig.arrays import PlacedCells


def cells(*boxes: tuple[float, float, float, float]) -> PlacedCells:
    x, y, w, h = (np.array(column, dtype=np.float32) for column in zip(*boxes, strict=True))
    return PlacedCells(np.arange(len(boxes)), x, y, w, h)


def spots(*places: tuple[float, ...]) -> list[Spot]:
    return [Spot(CellKey("f", str(n + 1)), *place) for n, place in enumerate(places)]


def squares(found: list[Placement]) -> list[tuple[float, float, float, float]]:
    return [(one.x, one.y, one.w, one.h) for one in found]


def test_between_two_squares_it_takes_half_of_each() -> None:
    over = covered(cells((1, 0, 1, 1), (2.5, 1, 1, 1), (0, 0, 2, 2)), 4, 3)
    assert over.owner.tolist() == [0, 1, 1, 2, 2, 2, 2]
    assert over.square.tolist() == [1, 6, 7, 0, 1, 4, 5]
    assert over.weight.tolist() == [1, 0.5, 0.5, 0.25, 0.25, 0.25, 0.25]


def test_only_whole_squares_are_plain() -> None:
    assert is_aligned(cells((1, 0, 1, 1), (1, 0.5, 1, 1), (1, 0, 2, 1))).tolist() == [True, False, False]


@given(
    st.floats(0, 8, width=32), st.floats(0, 8, width=32), st.floats(0.125, 12, width=32), st.floats(0.125, 12, width=32)
)
def test_the_parts_of_a_cell_add_up_to_one_and_lie_on_the_matrix(x: float, y: float, w: float, h: float) -> None:
    over = covered(cells((x, y, w, h)), 9, 9)
    assert over.weight.sum() == pytest.approx(1.0, abs=1e-5)
    assert ((over.square >= 0) & (over.square < 81)).all()
    assert len(set(over.square.tolist())) == over.square.size


def test_two_freely_placed_cells_may_overlap_two_plain_ones_not() -> None:
    check_placements([Placement(CellKey("a", "1"), 0.5, 0), Placement(CellKey("a", "2"), 0.6, 0)])
    with pytest.raises(InputError, match="Two cells stand on square"):
        check_placements([Placement(CellKey("a", "1"), 1, 0), Placement(CellKey("a", "2"), 1, 0)])


def test_points_in_metres_become_squares_of_their_usual_distance() -> None:
    laid = lay(spots((2.0, -1.0), (2.5, -1.0), (3.0, -1.01), (2.0, -0.5), (3.25, -0.5)))
    assert laid.pitch == pytest.approx(0.5)
    assert (laid.width, laid.height) == (4, 2)
    assert squares(laid.placements)[:4] == [(0, 0, 1, 1), (1, 0, 1, 1), (2, 0, 1, 1), (0, 1, 1, 1)]
    assert squares(laid.placements)[4] == pytest.approx((2.5, 1.02, 1, 1))


def test_rectangles_keep_their_size_and_two_on_one_square_stay_free() -> None:
    laid = lay(spots((0, 0, 10, 10), (10, 0, 20, 10), (0, 0.2, 10, 10)), 10)
    assert (laid.width, laid.height) == (3, 1)
    assert squares(laid.placements)[1] == (1, 0, 2, 1)
    assert squares(laid.placements)[2] == pytest.approx((0, 0.02, 1, 1))


def test_a_plan_that_is_too_large_in_its_squares_says_so() -> None:
    with pytest.raises(InputError, match="Give a longer square"):
        lay(spots((0, 0), (1000, 1000)), 0.5)
    with pytest.raises(InputError, match="no cell to place"):
        lay([])
    assert pitch_of(np.zeros((3, 2))) == 1.0
