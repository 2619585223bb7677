"""Blocks of a fixture: following on, at an address of their own, off."""

from __future__ import annotations

import pytest

from heliograph.core.blocks import (
    BlockPlace,
    check_places,
    place_to_json,
    places_after,
    places_of,
    read_places,
    runs_of,
    say_places,
)
from heliograph.core.channel import Channel
from heliograph.core.dmx import Address
from heliograph.core.errors import InputError
from heliograph.core.patch import Occupancy, all_positions, place_in_runs, place_mode
from heliograph.core.profile import Block, BlockState, Mode

RGBW = tuple(Channel(f"ColorAdd_{name}") for name in "RGBW")


def head(pixels: int = 12, ring: BlockState = "follows") -> Mode:
    """Base 22, halo 9, pixels of 4 (common practice, no published source)."""
    channels = (Channel("Control1"),)
    return Mode(
        "m",
        (
            Block("Base", channels * 22, 0, ()),
            Block("Halo", channels * 9, 0, ()),
            Block("Ring", (), pixels, RGBW, state=ring),
        ),
    )


def starts(mode: Mode, *places: BlockPlace) -> list[int]:
    """First channel of each block, counted from 1; 0 where it is nowhere."""
    return [int(one.positions[0]) + 1 for one in place_mode(mode, Address(1, 1), places)]


@pytest.mark.parametrize(("pixels", "ring", "whole"), [(12, 48, 79), (20, 80, 111)])
def test_blocks_follow_on(pixels: int, ring: int, whole: int) -> None:
    mode = head(pixels)
    assert starts(mode) == [1, 23, 32]
    assert (mode.blocks[2].footprint, mode.footprint) == (ring, whole)
    assert len(all_positions(place_mode(mode, Address(1, 1)))) == whole


def test_with_the_halo_off_the_pixels_follow_the_base() -> None:
    assert starts(head(), BlockPlace(), BlockPlace("off")) == [1, 0, 23]


def test_a_block_with_its_own_address_may_lie_in_another_universe() -> None:
    own = BlockPlace("own", Address(10, 1))
    assert starts(head(), BlockPlace(), BlockPlace(), own) == [1, 23, 9 * 512 + 1]
    assert starts(head(), BlockPlace(), own, BlockPlace()) == [1, 9 * 512 + 1, 9 * 512 + 10]  # what follows goes along
    assert starts(head(), BlockPlace("off"), BlockPlace(), own) == [0, 1, 9 * 512 + 1]


def test_signal_heads_count_on_in_both_universes() -> None:
    """701-704 of the demo: 31 on U9 from 1 (124 used), 48 on U10 from 1 (192 used): product page."""
    mode, taken = head(ring="own"), Occupancy()
    places = places_of(mode, [{}, {}, {"state": "own", "universe": 10, "channel": 1}])
    addresses, every = place_in_runs(mode, places, 4, 8 * 512, {2: 9 * 512}, taken)
    assert [str(address) for address in addresses] == ["U9.1", "U9.32", "U9.63", "U9.94"]
    assert [str(one[2].address) for one in every] == ["U10.1", "U10.49", "U10.97", "U10.145"]
    assert taken.end() == 9 * 512 + 192


def test_a_run_without_an_address_goes_to_the_next_free_universe() -> None:
    mode = head(ring="own")
    _, every = place_in_runs(mode, places_of(mode, ()), 2, 0, {}, Occupancy())
    assert [str(one[2].address) for one in every] == ["U2.1", "U2.49"]


def test_at_least_one_block_stays_on() -> None:
    with pytest.raises(InputError, match="All blocks would be off"):
        check_places(head(), (BlockPlace("off"),) * 3)


def test_places_in_words() -> None:
    mode = head(ring="own")
    places = read_places(mode, "halo off; Ring 10.29")
    assert places == (BlockPlace(), BlockPlace("off"), BlockPlace("own", Address(10, 29)))
    assert say_places(mode, places) == "Halo off; Ring U10.29"
    assert say_places(mode, places_of(mode, ())) == ""
    assert read_places(mode, "Ring follows")[2] == BlockPlace()
    assert say_places(mode, (BlockPlace(),) * 3) == "Ring follows"


def test_runs_are_what_lies_at_one_address() -> None:
    own = BlockPlace("own", Address(2, 1))
    assert runs_of(head(), (BlockPlace(), BlockPlace(), own)) == [(0, 1), (2,)]
    assert runs_of(head(), (BlockPlace(), own, BlockPlace())) == [(0,), (1, 2)]
    assert runs_of(head(), (BlockPlace("off"), BlockPlace("off"), own)) == [(), (2,)]


OWN = BlockPlace("own", Address(10, 1))


@pytest.mark.parametrize(
    ("names", "expected"),
    [
        (["Base", "Halo", "Ring"], [BlockPlace(), BlockPlace("off"), OWN]),
        (["Base", "Ring"], [BlockPlace(), OWN]),  # one is gone: the others keep their places by name
        (["Base", "Ring", "Halo"], [BlockPlace(), OWN, BlockPlace("off")]),
        (["Base", "Motion", "Ring"], [BlockPlace(), BlockPlace("off"), OWN]),  # one was only renamed
        (["Base", "Halo", "Ring", "Lamp"], [BlockPlace(), BlockPlace("off"), OWN, BlockPlace()]),
        (["Ring", "Base"], [BlockPlace(), BlockPlace()]),  # the first has no address of its own
        (["Halo"], [BlockPlace()]),  # all would be off: as the mode has it
    ],
)
def test_blocks_keep_their_places_when_the_mode_becomes_another(names: list[str], expected: list[BlockPlace]) -> None:
    stored = [place_to_json(place) for place in (BlockPlace(), BlockPlace("off"), OWN)]
    new = Mode("n", tuple(Block(name, (Channel("Control1"),), 0, ()) for name in names))
    assert list(places_after(head(), new, stored)) == expected
    assert places_after(None, new, stored) == places_after(head(), new, []) == places_of(new, ())
