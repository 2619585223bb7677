"""What stands on no square: every cell is in the tray or on the matrix, never in both."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.matrix.tray import Run, runs_left


def test_runs_between_what_is_placed() -> None:
    left = list(runs_left([("tower", 10), ("bar", 2), ("laser", 0)], {"tower": [3, 4, 9]}))
    assert left == [Run("tower", 1, 2), Run("tower", 5, 8), Run("tower", 10, 10), Run("bar", 1, 2)]


@given(st.integers(0, 40), st.lists(st.integers(-3, 50)))
def test_tray_and_matrix_together_are_all_cells_once(count: int, placed: list[int]) -> None:
    left = [n for run in runs_left([("a", count)], {"a": placed}) for n in range(run.first, run.last + 1)]
    assert sorted(left + [n for n in set(placed) if 1 <= n <= count]) == list(range(1, count + 1))
