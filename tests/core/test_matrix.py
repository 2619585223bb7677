"""Weaves and placements. Grid values: the trade's check values (common practice, no published source)."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.matrix import (
    CellKey,
    Placement,
    check_placements,
    check_size,
    exchange,
    pack,
    say_weave,
    unpack,
    weave,
)


def keys(count: int) -> list[CellKey]:
    return [CellKey(f"lamp {n + 1:03}", "1") for n in range(count)]


def squares(placements: list[Placement]) -> list[tuple[int, int]]:
    return [one.square for one in placements]


def test_sixteen_lamps_in_rows_of_four() -> None:
    at = squares(weave(keys(16), 4, 4, "top left", "rows", False))
    assert at[4] == (at[0][0], at[0][1] + 1)  # lamp 5 stands under lamp 1


def test_six_bars_as_three_by_two_with_the_odd_ones_below() -> None:
    at = squares(weave(keys(6), 3, 2, "bottom left", "columns", False))
    assert [at[i] for i in (0, 2, 4)] == [(0, 1), (1, 1), (2, 1)]
    assert [at[i] for i in (1, 3, 5)] == [(0, 0), (1, 0), (2, 0)]


def test_a_tower_up_one_strip_and_down_the_next() -> None:
    at = squares(weave(keys(6), 2, 3, "bottom left", "columns", True))
    assert at == [(0, 2), (0, 1), (0, 0), (1, 0), (1, 1), (1, 2)]


def test_two_by_three_is_two_wide_three_high() -> None:
    assert say_weave(6, 2, 3, "top left", "rows", False).startswith("2 wide, 3 high")


CORNERS = st.sampled_from(["top left", "top right", "bottom left", "bottom right"])


@given(st.integers(1, 20), st.integers(1, 20), CORNERS, st.sampled_from(["rows", "columns"]), st.booleans())
def test_every_weave_is_a_bijection(width: int, height: int, corner: str, along: str, snake: bool) -> None:
    placed = weave(keys(width * height), width, height, corner, along, snake)  # type: ignore[arg-type]
    assert set(squares(placed)) == {(x, y) for x in range(width) for y in range(height)}
    if snake:
        for a, b in zip(squares(placed), squares(placed)[1:], strict=False):
            assert abs(a[0] - b[0]) + abs(a[1] - b[1]) == 1  # the wire never jumps


@given(st.integers(0, 24), st.data())
def test_exchanging_twice_changes_nothing(count: int, data: st.DataObject) -> None:
    placed = weave(keys(count), 5, 5, "top left", "rows", True)
    square = st.tuples(st.integers(0, 4), st.integers(0, 4))
    a, b = data.draw(square), data.draw(square)
    once = exchange(placed, a, b)
    check_placements(once, 5, 5)
    assert set(exchange(once, a, b)) == set(placed)


@given(st.integers(0, 60), st.booleans())
def test_packing_loses_nothing(count: int, snake: bool) -> None:
    placed = weave(keys(count), 8, 8, "bottom right", "columns", snake)
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
        weave(keys(17), 4, 4, "top left", "rows", False)
    assert "With 4 columns it takes 5 rows" in told.value.repair


def test_damaged_placements_are_refused() -> None:
    for broken in (
        {},
        {"packed": "!", "fixtures": [], "cells": []},
        {**pack(weave(keys(1), 1, 1, "top left", "rows", False)), "cells": []},
    ):
        with pytest.raises(InputError):
            unpack(broken)
