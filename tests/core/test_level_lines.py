"""Channels folded at the fixture: each stands on one line, in its order; equal emitters stand in one column."""

from __future__ import annotations

from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.rig.level_lines import COLUMNS, Line, Owned, lines_of

RGBW = ("red", "green", "blue", "white")


def bar(first: int, number: int, shared: tuple[str, ...], cells: int, emitters: tuple[str, ...]) -> dict[int, Owned]:
    labels = [("", one) for one in shared] + [(str(n + 1), one) for n in range(cells) for one in emitters]
    return {first + n: (number, cell, label) for n, (cell, label) in enumerate(labels)}


def columns_of(lines: list[Line]) -> dict[int, int]:
    return {first + n: column + n for line in lines for first, column, count in line.spans for n in range(count)}


def test_a_bar_of_ten_cells_after_six_shared_channels_goes_on_beneath_its_cells() -> None:
    shared = ("dimmer", "strobe", "three", "four", "five", "six")
    lines = lines_of(bar(1, 401, shared, 10, RGBW) | bar(47, 402, shared, 10, RGBW))
    assert [line.fixtures for line in lines[:4]] == ["401", "", "402", ""]
    assert lines[0].spans == ((1, 0, 6), (7, 6, 4), (11, 10, 4), (15, 14, 4), (19, 18, 4), (23, 22, 4))
    assert lines[1].spans[0] == (27, 6, 4)
    assert lines[0].head[:8] == tuple(enumerate(("dim", "str", "thr", "fou", "fiv", "six", "R", "G")))
    assert not any(line.head for line in lines[1:]), "what stands over the columns is said once"


def test_small_ones_stand_side_by_side_and_what_is_free_stands_after_them() -> None:
    rig = bar(10, 601, (), 1, RGBW[:3]) | bar(13, 602, (), 1, RGBW[:3]) | bar(100, 603, (), 1, RGBW[:3])
    line, *free = lines_of(rig)
    assert (line.fixtures, line.spans) == ("601-603", ((10, 0, 3), (13, 3, 3), (100, 6, 3)))
    assert free[:2] == [Line("", ((1, 0, 9),)), Line("", ((16, 0, 26),))]
    assert not any(one.head for one in free)


FIXTURES = st.lists(
    st.tuples(st.integers(0, 40), st.integers(0, 30), st.integers(0, 9), st.sampled_from([RGBW[:1], RGBW[:3], RGBW])),
    max_size=9,
)


@given(FIXTURES)
def test_every_owned_channel_stands_once_in_its_order_within_the_columns(rig: list) -> None:  # type: ignore[type-arg]
    owners: dict[int, Owned] = {}
    channel = 1
    for number, (gap, shared, cells, emitters) in enumerate(rig, start=1):
        channel += gap
        owners |= bar(channel, number, tuple(f"control {n}" for n in range(shared)), cells, emitters)
        channel += shared + cells * len(emitters)
    owners = {n: own for n, own in owners.items() if n <= 512}
    lines = lines_of(owners)
    told = [first + n for line in lines for first, _, count in line.spans for n in range(count)]
    assert told[: len(owners)] == sorted(owners)
    assert sorted(told) == list(range(1, 513))
    assert all(0 <= column < COLUMNS for column in columns_of(lines).values())
    for line in lines:
        used = [column + n for _, column, count in line.spans for n in range(count)]
        assert len(used) == len(set(used))


@given(st.integers(1, 12), st.integers(0, 8), st.integers(1, 40), st.sampled_from([RGBW[:3], RGBW]))
def test_equal_emitters_of_equal_fixtures_stand_in_few_columns(
    count: int, shared: int, cells: int, emitters: tuple[str, ...]
) -> None:
    owners: dict[int, Owned] = {}
    channel = 1
    for number in range(count):
        owners |= bar(channel, number, tuple("abcdefgh"[:shared]), cells, emitters)
        channel += shared + cells * len(emitters)
    owners = {n: own for n, own in owners.items() if n <= 512}
    size = shared + cells * len(emitters)
    column = columns_of(lines_of(owners))
    if size * 2 <= COLUMNS or channel > 513:
        return  # side by side, or cut by the end of the universe
    reds = {(column[n] - shared) % len(emitters) for n, (_, cell, label) in owners.items() if cell and label == "red"}
    assert reds == {0}
