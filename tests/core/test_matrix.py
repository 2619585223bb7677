"""Weaves and placements. Grid values: the trade's check values (common practice, no published source)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.matrix.placements import (
    CellKey,
    Placement,
    check_placements,
    check_size,
    exchange,
    pack,
    unpack,
)
from heliograph.core.matrix.weaving import Board, Weave, parse_skip, place, say, squares_of


def keys(count: int) -> list[CellKey]:
    return [CellKey(f"lamp {n + 1:03}", "1") for n in range(count)]


def squares(placements: list[Placement]) -> list[tuple[int, int]]:
    return [one.square for one in placements]


def test_sixteen_lamps_in_rows_of_four() -> None:
    at = squares(place(keys(16), Weave(4, 4, "top left", "rows", False)))
    assert at[4] == (at[0][0], at[0][1] + 1)  # lamp 5 stands under lamp 1


def test_six_bars_as_three_by_two_with_the_odd_ones_below() -> None:
    at = squares(place(keys(6), Weave(3, 2, "bottom left", "columns", False)))
    assert [at[i] for i in (0, 2, 4)] == [(0, 1), (1, 1), (2, 1)]
    assert [at[i] for i in (1, 3, 5)] == [(0, 0), (1, 0), (2, 0)]


def test_a_tower_up_one_strip_and_down_the_next() -> None:
    at = squares(place(keys(6), Weave(2, 3, "bottom left", "columns", True)))
    assert at == [(0, 2), (0, 1), (0, 0), (1, 0), (1, 1), (1, 2)]


def test_two_by_three_is_two_wide_three_high() -> None:
    assert say(6, Weave(2, 3)).startswith("2 wide, 3 high")


CORNERS = st.sampled_from(["top left", "top right", "bottom left", "bottom right"])


@given(st.integers(1, 20), st.integers(1, 20), CORNERS, st.sampled_from(["rows", "columns"]), st.booleans())
def test_every_weave_is_a_bijection(width: int, height: int, corner: str, along: str, snake: bool) -> None:
    placed = place(keys(width * height), Weave(width, height, corner, along, snake))  # type: ignore[arg-type]
    assert set(squares(placed)) == {(x, y) for x in range(width) for y in range(height)}
    if snake:
        for a, b in zip(squares(placed), squares(placed)[1:], strict=False):
            assert abs(a[0] - b[0]) + abs(a[1] - b[1]) == 1  # the wire never jumps


@given(st.integers(0, 24), st.data())
def test_exchanging_twice_changes_nothing(count: int, data: st.DataObject) -> None:
    placed = place(keys(count), Weave(5, 5, "top left", "rows", True))
    square = st.tuples(st.integers(0, 4), st.integers(0, 4))
    a, b = data.draw(square), data.draw(square)
    once = exchange(placed, a, b)
    check_placements(once)
    assert set(exchange(once, a, b)) == set(placed)


@given(st.integers(0, 60), st.booleans())
def test_packing_loses_nothing(count: int, snake: bool) -> None:
    placed = place(keys(count), Weave(8, 8, "bottom right", "columns", snake))
    assert set(unpack(pack(placed))) == set(placed)
    assert pack(placed) == pack(list(reversed(placed)))


@pytest.mark.parametrize(
    ("width", "height", "says"), [(0, 0, "no squares"), (-1, 4, "no squares"), (251, 1000, "250,000 are the most")]
)
def test_impossible_sizes(width: int, height: int, says: str) -> None:
    with pytest.raises(InputError, match=says):
        check_size(width, height)


def test_too_many_cells_says_how_many_rows_it_takes() -> None:
    with pytest.raises(InputError) as told:
        place(keys(17), Weave(4, 4, "top left", "rows", False))
    assert "With 4 columns it takes 5 rows" in told.value.repair


def test_damaged_placements_are_refused() -> None:
    for broken in (
        {},
        {"packed": "!", "fixtures": [], "cells": []},
        {**pack(place(keys(1), Weave(1, 1, "top left", "rows", False))), "cells": []},
    ):
        with pytest.raises(InputError):
            unpack(broken)


def test_turning_back_every_two_of_four_columns_runs_up_up_down_down() -> None:
    at = squares_of(Weave(4, 3, "bottom left", "columns", 2))
    columns = [at[n : n + 3] for n in range(0, 12, 3)]
    assert [column[0][1] > column[-1][1] for column in columns] == [True, True, False, False]
    assert "up and down, turning back every 2" in say(12, Weave(4, 3, "bottom left", "columns", 2))


def test_two_columns_of_four_with_an_empty_column_between() -> None:
    """Check value: 8 lamps stand on a 3 x 4 grid."""
    at = squares_of(Weave(3, 4, along="columns", gap_columns=1))
    assert at == [(0, 0), (0, 1), (0, 2), (0, 3), (2, 0), (2, 1), (2, 2), (2, 3)]
    with pytest.raises(InputError, match="9 cells do not fit on the 8 squares that gaps"):
        place(keys(9), Weave(3, 4, along="columns", gap_columns=1))


def test_boards_keep_their_own_order_in_the_order_of_the_wall() -> None:
    """8 x 8 boards in a wall 6 wide, 4 high: boards to and fro from below, inside each down its columns."""
    weave = Weave(48, 32, "bottom left", "rows", 1, board=Board(8, 8, "top right", "columns", 1))
    at = squares_of(weave)
    boards = [(x // 8, y // 8) for x, y in at[::64]]
    assert boards[:7] == [(0, 3), (1, 3), (2, 3), (3, 3), (4, 3), (5, 3), (5, 2)]
    assert at[:3] == [(7, 24), (7, 25), (7, 26)]
    assert at[8] == (6, 31)  # the second column of the first board runs up again
    said = say(48 * 32, weave)
    assert "in boards of 8 × 8, each from its top right, up and down in turn" in said


def test_skipped_squares_are_counted_along_the_way() -> None:
    assert squares_of(Weave(3, 2, skip=parse_skip("2, 4-5"))) == [(0, 0), (2, 0), (2, 1)]
    for wrong in ("x", "3-1", "0", "2-", "-2"):
        with pytest.raises(InputError):
            parse_skip(wrong)


@given(
    st.integers(1, 24),
    st.integers(1, 24),
    CORNERS,
    st.sampled_from(["rows", "columns"]),
    st.integers(0, 4),
    st.integers(0, 3),
    st.integers(0, 3),
    st.booleans(),
    st.sampled_from([0, 90, 180, 270]),
    st.tuples(st.integers(1, 3), st.integers(1, 3), CORNERS, st.integers(0, 2)),
)
def test_any_weave_fills_each_of_its_squares_once(
    width: int,
    height: int,
    corner: str,
    along: str,
    snake: int,
    gap_columns: int,
    gap_rows: int,
    flip: bool,
    turn: int,
    board: tuple[int, int, str, int],
) -> None:
    own = Board(board[0], board[1], board[2], "rows", board[3])  # type: ignore[arg-type]
    weave = Weave(width, height, corner, along, snake, gap_columns, gap_rows, (), own, flip, turn)  # type: ignore[arg-type]
    try:
        at = squares_of(weave)
    except InputError:
        return  # a board larger than the matrix
    assert len(at) == len(set(at))
    assert all(0 <= x < width and 0 <= y < height for x, y in at)
    if not (gap_columns or gap_rows):
        across, down = (height, width) if turn in (90, 270) else (width, height)
        assert len(at) == (across // board[0]) * (down // board[1]) * board[0] * board[1]


@given(st.integers(1, 9), st.integers(1, 9), CORNERS, st.integers(0, 3), st.booleans())
def test_four_quarter_turns_are_none(width: int, height: int, corner: str, snake: int, flip: bool) -> None:
    def turned(turn: int) -> list[tuple[int, int]]:
        swap = turn in (90, 270)
        size = (height, width) if swap else (width, height)
        return squares_of(Weave(*size, corner, "rows", snake, flip=flip, turn=turn))  # type: ignore[arg-type]

    plain = turned(0)
    assert [(height - 1 - y, x) for x, y in plain] == turned(90)
    assert [(width - 1 - x, height - 1 - y) for x, y in plain] == turned(180)
    assert [(y, width - 1 - x) for x, y in plain] == turned(270)
