"""Automatic addressing against the check values of the trade (common practice, no published source)."""

from __future__ import annotations

import random
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.matrix.weaving import Weave, squares_of
from heliograph.core.patch.addressing import SCHEMES, Ports, ToAddress, in_order, plan_addresses, plan_ranks
from heliograph.core.patch.dmx import Address
from heliograph.core.patch.places import Occupancy, all_positions, place_mode
from heliograph.core.profiles.channel import Channel
from heliograph.core.profiles.profile import Block, Mode


def mode(channels: int, cells: int = 0, runs_on: bool = False) -> Mode:
    shared = () if cells else tuple(Channel("Dimmer") for _ in range(channels))
    each = tuple(Channel("ColorAdd_R") for _ in range(channels)) if cells else ()
    return Mode("m", (Block("b", shared, cells, each, runs_on),))


def fixtures(count: int, one: Mode) -> list[ToAddress]:
    return [ToAddress(f"f{n}", n + 1, f"Lamp {n + 1}", one, None) for n in range(count)]


def starts(count: int, one: Mode, start: Address, scheme: Any = "no split fixture") -> list[str]:
    return [str(move.to) for move in plan_addresses(fixtures(count, one), scheme, start, Occupancy())]


def test_lamps_and_bars_count_on() -> None:
    assert starts(16, mode(3), Address(1, 1)) == [f"U1.{1 + 3 * n}" for n in range(16)]
    bars = starts(8, mode(4, cells=12), Address(3, 1))
    assert bars == [f"U3.{c}" for c in (1, 49, 97, 145, 193, 241, 289, 337)]
    assert starts(11, mode(50), Address(1, 1))[-2:] == ["U1.451", "U2.1"]  # fifty-channel zones: 10 to a universe
    assert starts(4, mode(5, cells=24), Address(3, 30)) == ["U3.30", "U3.150", "U3.270", "U3.390"]


def test_boards_are_never_split_but_dense_runs_on_without_splitting_a_pixel() -> None:
    board = mode(3, cells=64, runs_on=True)  # boards of 64 RGB pixels: 192 channels, 2 per universe
    assert starts(5, board, Address(1, 1)) == ["U1.1", "U1.193", "U2.1", "U2.193", "U3.1"]
    assert starts(5, board, Address(1, 1), "dense") == ["U1.1", "U1.193", "U1.385", "U2.67", "U2.259"]
    dense = plan_addresses(fixtures(3, board), "dense", Address(1, 1), Occupancy())
    assert str(dense[2].end) == "U2.66"  # 42 pixels to U1.510, 22 more


def test_a_universe_each() -> None:
    assert starts(3, mode(150), Address(4, 1), "a universe each") == ["U4.1", "U5.1", "U6.1"]
    assert starts(2, mode(3, cells=200, runs_on=True), Address(1, 1), "a universe each") == ["U1.1", "U3.1"]


def test_what_is_not_chosen_keeps_its_place() -> None:
    taken = Occupancy()
    taken.take(all_positions(place_mode(mode(10), Address(1, 4))))
    moves = plan_addresses(fixtures(3, mode(3)), "no split fixture", Address(1, 1), taken)
    assert [str(move.to) for move in moves] == ["U1.1", "U1.14", "U1.17"]


def test_orders() -> None:
    one = mode(1)
    some = [
        ToAddress("a", 3, "Tower 10", one, Address(1, 9)),
        ToAddress("b", 1, "Tower 2", one, None),
        ToAddress("c", 2, "Arch", one, Address(1, 2)),
    ]
    assert [f.id for f in in_order(some, "number")] == ["b", "c", "a"]
    assert [f.id for f in in_order(some, "name")] == ["c", "b", "a"]
    assert [f.id for f in in_order(some, "address")] == ["c", "a", "b"]


def test_past_the_last_universe() -> None:
    with pytest.raises(InputError, match="past universe 63999"):
        starts(3, mode(500), Address(63998, 1))


sizes = st.lists(st.tuples(st.integers(1, 300), st.booleans()), min_size=1, max_size=12)


@given(sizes, st.sampled_from([scheme for scheme in SCHEMES if scheme != "node ports"]), st.integers(1, 512))
def test_nobody_shares_a_channel_and_the_order_is_kept(wanted: Any, scheme: Any, channel: int) -> None:
    some = [
        ToAddress(str(n), n, "x", mode(3, cells=size, runs_on=True) if cells else mode(size), None)
        for n, (size, cells) in enumerate(wanted)
    ]
    moves = plan_addresses(some, scheme, Address(1, channel), Occupancy())
    seen: set[int] = set()
    last = -1
    for move in moves:
        positions = all_positions(place_mode(move.fixture.mode, move.to)).tolist()
        assert not seen & set(positions)
        assert positions[0] > last
        assert move.end.position == max(positions)
        if scheme == "no split fixture" and len(positions) <= 512:
            assert move.to.universe == move.end.universe
        seen.update(positions)
        last = positions[-1]


def rows_of(places: list[tuple[str, float, float]]) -> list[str]:
    return sorted((ranks := plan_ranks(places)), key=lambda key: ranks[key])


def test_plan_order_goes_row_by_row_from_the_top_each_from_the_left() -> None:
    places = [("a", 3.0, 1.0), ("b", 1.0, 1.02), ("c", 2.0, 4.0), ("d", 0.0, 1.0), ("e", 5.0, 3.98)]
    assert rows_of(places) == ["c", "e", "d", "b", "a"]
    assert [plan_ranks(places)[key][1] for key in "cedba"] == [0, 0, 1, 1, 1]


def test_a_universe_a_row() -> None:
    one = mode(30)
    some = [ToAddress(f"f{n}", n + 1, "x", one, None, rank=n, row=n // 3) for n in range(7)]
    moves = plan_addresses(some, "a universe a row", Address(4, 11), Occupancy())
    assert [str(move.to) for move in moves] == ["U4.11", "U4.41", "U4.71", "U5.1", "U5.31", "U5.61", "U6.1"]


def test_fixtures_on_the_ports_of_a_node() -> None:
    """Ports need not be neighbours: U7, U9 and U3 of one node."""
    some = fixtures(7, mode(60))

    def on(ports: Ports, chosen: list[ToAddress] = some) -> list[str]:
        moves = plan_addresses(chosen, "node ports", Address(1, 1), Occupancy(), ports)
        return [str(move.to) for move in moves]

    assert on(Ports((7, 9, 3))) == ["U7.1", "U7.61", "U7.121", "U9.1", "U9.61", "U9.121", "U3.1"]
    assert on(Ports((7, 9), 5))[4:] == ["U7.241", "U9.1", "U9.61"]
    with pytest.raises(InputError, match="7 fixtures, 2 on a port, need 4 ports: there are 3"):
        on(Ports((7, 9, 3), 2))
    with pytest.raises(InputError, match="do not fit into U7: 9 Lamp 9 would end in U8"):
        on(Ports((7,)), fixtures(9, mode(60)))
    with pytest.raises(InputError, match="No port"):
        on(Ports(()))


@given(
    st.integers(1, 8),
    st.integers(1, 8),
    st.sampled_from(["top left", "top right", "bottom left", "bottom right"]),
    st.sampled_from(["rows", "columns"]),
    st.integers(0, 3),
    st.integers(0, 1000),
)
def test_after_addressing_by_strand_the_strand_is_the_way_chosen(
    width: int, height: int, corner: Any, along: Any, snake: int, seed: int
) -> None:
    """Whatever stood where before: cells of the matrix in address order lie along the way, square by square."""
    way = squares_of(Weave(width, height, corner, along, snake))
    stands = random.Random(seed).sample(way, len(way))  # fixture n stands on stands[n]
    turn = {square: n for n, square in enumerate(way)}
    some = [ToAddress(f"f{n}", n + 1, "x", mode(3), None, rank=turn[square]) for n, square in enumerate(stands)]
    moves = plan_addresses(in_order(some, "strand"), "no split fixture", Address(1, 1), Occupancy())
    by_address = sorted(moves, key=lambda move: move.to.position)
    assert [stands[move.fixture.number - 1] for move in by_address] == way


def test_dense_splits_the_pixels_of_a_dense_controller_and_no_split_pixel_does_not() -> None:
    reel = Mode("m", (Block("b", (), 100, tuple(Channel(f"ColorAdd_{c}") for c in "RGB"), runs_on=True, splits=True),))
    assert starts(3, reel, Address(1, 1), "dense") == ["U1.1", "U1.301", "U2.89"]
    assert starts(3, reel, Address(1, 1), "no split pixel") == ["U1.1", "U2.1", "U3.1"]
    assert starts(3, mode(3, cells=100, runs_on=True), Address(1, 1), "no split pixel") == ["U1.1", "U1.301", "U2.91"]
