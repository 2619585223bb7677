"""Work on whole matrices: nothing is lost, and everything can be taken back by its opposite."""

from __future__ import annotations

import random
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.matrix.arranging import (
    gap_closed,
    gap_opened,
    mirrored,
    placed_as_typed,
    read_sheet,
    sheet_of,
    shifted,
)
from heliograph.core.matrix.placements import CellKey, Placement, check_placements, pack, unpack, within

WIDTH, HEIGHT = 7, 5


def scattered(seed: int, width: int = WIDTH, height: int = HEIGHT) -> list[Placement]:
    """Cells on random squares, each on its own."""
    dice = random.Random(seed)
    squares = [(x, y) for x in range(width) for y in range(height)]
    chosen = dice.sample(squares, dice.randint(0, len(squares)))
    return [Placement(CellKey("f", str(n + 1)), float(x), float(y)) for n, (x, y) in enumerate(chosen)]


@given(st.integers(0, 500), st.sampled_from(["left to right", "top to bottom"]))
def test_mirroring_twice_changes_nothing(seed: int, axis: Any) -> None:
    before = scattered(seed)
    once = mirrored(before, WIDTH, HEIGHT, axis)
    check_placements(once)
    assert mirrored(once, WIDTH, HEIGHT, axis) == before


@given(st.integers(0, 500), st.sampled_from(["row", "column"]), st.integers(0, 4), st.integers(-9, 9))
def test_a_line_comes_back_by_the_opposite_step(seed: int, line: Any, index: int, by: int) -> None:
    before = scattered(seed)
    once = shifted(before, WIDTH, HEIGHT, line, index, by)
    check_placements(once)
    assert {one.key for one in once} == {one.key for one in before}
    assert shifted(once, WIDTH, HEIGHT, line, index, -by) == before


@given(st.integers(0, 500), st.sampled_from(["row", "column"]), st.integers(0, 5))
def test_a_gap_that_is_opened_and_closed_leaves_all_as_it_was(seed: int, line: Any, index: int) -> None:
    before = scattered(seed)
    opened = gap_opened(before, line, index)
    assert all(one.square[1 if line == "row" else 0] != index for one in opened)
    assert gap_closed(opened, line, index) == before


@given(st.integers(0, 500), st.integers(1, 7), st.integers(1, 5))
def test_smaller_and_back_loses_nothing(seed: int, width: int, height: int) -> None:
    """What stands off the smaller size is stored all the same."""
    stored = pack(scattered(seed))
    shown = unpack(within(stored, width, height))
    assert all(one.x < width and one.y < height for one in shown)
    kept = [one for one in unpack(stored) if one.x < width and one.y < height]
    assert set(shown) == set(kept)
    assert within(stored, WIDTH, HEIGHT) is stored


@given(st.integers(0, 500))
def test_squares_as_text_and_back(seed: int) -> None:
    before = scattered(seed)
    text = sheet_of(before, WIDTH, HEIGHT, lambda one: f"8:{one.key.cell}")
    by_number = {(8, int(one.key.cell)): one.key for one in before}
    if before:
        again = placed_as_typed([], read_sheet(text), (0, 0), by_number)
        assert set(again) == set(before)


def test_what_cannot_be_read_is_told() -> None:
    with pytest.raises(InputError, match="nothing in it"):
        read_sheet(" \n ")
    with pytest.raises(InputError, match="There is no row 6: there are 5"):
        shifted([], WIDTH, HEIGHT, "row", 5, 1)
    assert read_sheet("1\t2\n3") == [["1", "2"], ["3"]]
