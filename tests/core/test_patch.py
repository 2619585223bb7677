"""Footprints and addresses.

Expected values: the trade's check values, all 1-based; common practice, no published source, unless a
standard is named. 512 slots: ANSI E1.11.
"""

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import Address, address_at, parse_address
from heliograph.core.patch.places import Occupancy, PlacedBlock, all_positions, overlaps, place_many, place_mode
from heliograph.core.profiles.channel import Channel
from heliograph.core.profiles.profile import Block, Mode

R, G, B, A, W, UV = (Channel(f"ColorAdd_{name}") for name in ("R", "G", "B", "RY", "W", "UV"))
DIM, STROBE = Channel("Dimmer"), Channel("Shutter1")


def mode(*channels: Channel, cells: int = 1, shared: tuple[Channel, ...] = (), runs_on: bool = False) -> Mode:
    return Mode("test", (Block("block", shared, cells, channels, runs_on),))


def starts(which: Mode, count: int, at: Address) -> list[Address]:
    return place_many(which, count, at.position, Occupancy())


def test_sixteen_rgb_lamps() -> None:
    found = starts(mode(R, G, B), 16, Address(1, 1))
    assert [a.channel for a in found] == list(range(1, 47, 3))
    assert int(all_positions(place_mode(mode(R, G, B), found[-1])).max()) + 1 == 48


def test_eight_bars_of_twelve_rgba_cells() -> None:
    bar = mode(R, G, B, A, cells=12)
    found = starts(bar, 8, Address(3, 1))
    assert [a.channel for a in found] == [1, 49, 97, 145, 193, 241, 289, 337]
    cells = place_mode(bar, found[0])[0].cells % 512 + 1
    assert (cells[2].min(), cells[5].max()) == (9, 24)
    assert cells[4].tolist() == [17, 18, 19, 20]
    more = starts(bar, 3, Address(3, 385))
    assert [str(a) for a in more] == ["U3.385", "U3.433", "U4.1"]


def test_six_emitters_in_a_row() -> None:
    lamp = mode(R, G, B, A, W, UV)
    found = starts(lamp, 8, Address(1, 1))
    assert [a.channel for a in found] == [1, 7, 13, 19, 25, 31, 37, 43]
    last = [place_mode(lamp, a)[0].cells[0, 5] + 1 for a in found]
    assert last == [6, 12, 18, 24, 30, 36, 42, 48]


@pytest.mark.parametrize(("channels", "fit"), [(3, 170), (4, 128), (5, 102), (6, 85), (8, 64)])
def test_whole_pixels_that_fit_a_universe(channels: int, fit: int) -> None:
    strip = mode(*[R] * channels, cells=fit + 1, runs_on=True)
    cells = place_mode(strip, Address(1, 1))[0].cells
    assert cells[fit - 1].max() < 512
    assert cells[fit].min() == 512


def test_a_wall_of_990_pixels() -> None:
    cells = place_mode(mode(R, G, B, cells=66 * 15, runs_on=True), Address(1, 1))[0].cells
    universes = cells[:, 0] // 512
    assert [int((universes == u).sum()) for u in range(6)] == [170] * 5 + [140]
    assert int(cells[-1, 2]) % 512 + 1 == 420


def test_boards_that_are_never_split() -> None:
    board = mode(R, G, B, cells=6 * 10)
    assert [str(a) for a in starts(board, 4, Address(1, 1))] == ["U1.1", "U1.181", "U2.1", "U2.181"]


def test_tubes_of_five_channel_pixels() -> None:
    tube = mode(R, G, B, Channel("ColorAdd_W"), STROBE, cells=24)
    found = starts(tube, 4, Address(3, 30))
    assert [str(a) for a in found] == ["U3.30", "U3.150", "U3.270", "U3.390"]
    cells = place_mode(tube, found[0])[0].cells % 512 + 1
    assert cells[0, :3].tolist() == [30, 31, 32]
    assert cells[23, :3].tolist() == [145, 146, 147]


def test_blocks_that_follow_on() -> None:
    base, animation = Block("base", (DIM,) * 20, 0, ()), Block("animation", (DIM,) * 15, 0, ())
    for pixels, end in ((7, 63), (19, 111)):
        ring = Block("ring", (), pixels, (R, G, B, W))
        placed = place_mode(Mode("m", (base, animation, ring)), Address(1, 1))
        assert [int(p.positions[0]) + 1 for p in placed] == [1, 21, 36]
        assert placed[-1].end == end
    without = place_mode(Mode("m", (base, Block("ring", (), 7, (R, G, B, W)))), Address(1, 1))
    assert int(without[1].positions[0]) + 1 == 21


def test_a_master_part_before_cells() -> None:
    part = mode(R, G, B, W, cells=12, shared=(DIM, STROBE, DIM))
    placed = place_mode(part, Address(1, 101))[0]
    for i in range(1, 13):
        assert placed.cells[i - 1, 0] + 1 == 101 + 3 + 4 * (i - 1)
    assert part.footprint == 51


@pytest.mark.parametrize(("channels", "zones"), [(16, 32), (32, 16), (50, 10)])
def test_laser_zones_to_a_universe(channels: int, zones: int) -> None:
    zone = Mode("zone", (Block("zone", (DIM,) * channels, 0, ()),))
    found = starts(zone, zones + 1, Address(1, 1))
    assert found[zones - 1].universe == 1
    assert str(found[zones]) == "U2.1"
    if channels == 50:
        assert [a.channel for a in found[:zones]] == list(range(1, 452, 50))


def test_past_the_end_says_where_and_what_would_be_right() -> None:
    bar = mode(R, G, B, W, cells=12)
    with pytest.raises(InputError) as told:
        place_mode(bar, Address(3, 498))
    assert str(told.value).startswith("U3.498 + 48 channels ends at 545: a universe has 512.")
    assert "U4.1" in told.value.repair


def test_a_strip_of_600_channels_must_run_on() -> None:
    with pytest.raises(InputError, match="600 channels and may not run on"):
        mode(R, G, B, cells=200)
    assert mode(R, G, B, cells=200, runs_on=True).footprint == 600


@given(size=st.integers(1, 12), cells=st.integers(1, 400), shared=st.integers(0, 20), start=st.integers(0, 5 * 512))
def test_no_pixel_is_ever_split_or_laid_twice(size: int, cells: int, shared: int, start: int) -> None:
    strip = mode(*[R] * size, cells=cells, shared=(DIM,) * shared, runs_on=True)
    placed = place_mode(strip, address_at(start))
    positions = all_positions(placed)
    assert len(np.unique(positions)) == strip.footprint
    assert (np.diff(positions) > 0).all()
    universes = placed[0].cells // 512
    assert (universes == universes[:, :1]).all()


@given(st.lists(st.tuples(st.integers(0, 1500), st.integers(1, 60)), max_size=6), st.integers(1, 12))
def test_counting_on_never_meets_what_is_there(taken: list[tuple[int, int]], count: int) -> None:
    there = Occupancy()
    blocked = {p for start, length in taken for p in range(start, start + length)}
    if blocked:
        there.take(np.array(sorted(blocked), dtype=np.int64))
    bar = mode(R, G, B, W, cells=10)
    mine: set[int] = set()
    for at in place_many(bar, count, 0, there):
        own = set(all_positions(place_mode(bar, at)).tolist())
        assert not own & (blocked | mine)
        mine |= own


def test_overlaps_are_named() -> None:
    found = overlaps([("a", np.arange(0, 10)), ("b", np.arange(8, 12)), ("c", np.arange(20, 22))])
    assert found == [("a", "b", Address(1, 9), 2)]


def dense(cells: int, *attributes: str, start: str = "U1.1", wide: bool = False) -> tuple[PlacedBlock, ...]:
    each = tuple(Channel(one, fine=low) for one in attributes for low in ((False, True) if wide else (False,)))
    block = Block("b", (), cells, each, runs_on=True, splits=True)
    return place_mode(Mode("m", (block,)), parse_address(start))


def test_a_dense_controller_splits_pixels_between_universes() -> None:
    """RGB pixel 170 (from 0) starts at slot 511: R in 511, G in 512, B in slot 1 of the next universe; pixel 341: R is
    the last of the second, G and B begin the third (standards 1.5, common practice)."""
    (one,) = dense(400, "ColorAdd_R", "ColorAdd_G", "ColorAdd_B")
    said = [[str(address_at(position)) for position in one.cells[n].tolist()] for n in (170, 341)]
    assert said == [["U1.511", "U1.512", "U2.1"], ["U2.512", "U3.1", "U3.2"]]
    assert one.positions.tolist() == list(range(1200))


def test_the_two_bytes_of_a_dense_16_bit_channel_stay_together() -> None:
    """Facts 1.5: the pixel moves, for the two halves may be latched in different frames."""
    (one,) = dense(3, "ColorAdd_R", "ColorAdd_G", "ColorAdd_B", start="U1.506", wide=True)
    assert [str(address_at(int(row[0]))) for row in one.cells] == ["U1.506", "U2.1", "U2.7"]
    (even,) = dense(2, "ColorAdd_R", "ColorAdd_G", "ColorAdd_B", start="U1.511", wide=True)
    assert even.cells[0].tolist() == [510, 511, 512, 513, 514, 515]


def test_a_block_that_may_not_run_on_splits_nothing() -> None:
    with pytest.raises(InputError, match="splits pixels and may not run on"):
        Block("b", (), 2, (Channel("ColorAdd_R"),), splits=True)
