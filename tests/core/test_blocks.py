"""Blocks of a fixture: after the one before, at an address of their own, nowhere."""

from __future__ import annotations

import pytest

from heliograph.core.errors import InputError
from heliograph.core.patch.blocks import (
    FOLLOWS,
    NOWHERE,
    BlockPlace,
    check_places,
    lying_at,
    newer_part,
    places_after,
    places_of,
    read_lies,
    read_places,
    runs_of,
    say_lies,
    say_places,
)
from heliograph.core.patch.dmx import Address
from heliograph.core.patch.places import Occupancy, all_positions, place_in_runs, place_mode
from heliograph.core.profiles.channel import Channel
from heliograph.core.profiles.profile import AFTER, Block, Mode

RGBW = tuple(Channel(f"ColorAdd_{name}") for name in "RGBW")


def head(pixels: int = 12, ring: bool = True) -> Mode:
    """Base 22, halo 9, pixels of 4 (common practice, no published source)."""
    channels = (Channel("Control1"),)
    return Mode(
        "m",
        (
            Block("Base", channels * 22, 0, ()),
            Block("Halo", channels * 9, 0, ()),
            Block("Ring", (), pixels, RGBW, follows=ring),
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


def test_without_the_halo_the_pixels_follow_the_base() -> None:
    assert starts(head(), FOLLOWS, NOWHERE) == [1, 0, 23]


def test_a_block_with_its_own_address_may_lie_in_another_universe() -> None:
    own = lying_at(Address(10, 1))
    assert starts(head(), FOLLOWS, FOLLOWS, own) == [1, 23, 9 * 512 + 1]
    assert starts(head(), FOLLOWS, own, FOLLOWS) == [1, 9 * 512 + 1, 9 * 512 + 10]  # what follows goes along
    assert starts(head(), NOWHERE, FOLLOWS, own) == [0, 1, 9 * 512 + 1]


def test_signal_heads_count_on_in_both_universes() -> None:
    """701-704 of the demo: 31 on U9 from 1 (124 used), 48 on U10 from 1 (192 used): product page."""
    mode, taken = head(ring=False), Occupancy()
    places = places_of(mode, [AFTER, AFTER, "U10.1"])
    addresses, every = place_in_runs(mode, places, 4, 8 * 512, {2: 9 * 512}, taken)
    assert [str(address) for address in addresses] == ["U9.1", "U9.32", "U9.63", "U9.94"]
    assert [str(one[2].address) for one in every] == ["U10.1", "U10.49", "U10.97", "U10.145"]
    assert taken.end() == 9 * 512 + 192


def test_a_run_whose_address_is_not_named_goes_to_the_next_free_universe() -> None:
    mode = head()
    _, every = place_in_runs(mode, places_of(mode, [AFTER, AFTER, "U77.5"]), 2, 0, {}, Occupancy())
    assert [str(one[2].address) for one in every] == ["U2.1", "U2.49"]


def test_at_least_one_block_lies_somewhere() -> None:
    with pytest.raises(InputError, match="Every block would be nowhere"):
        check_places(head(), (NOWHERE,) * 3)


def test_places_in_words() -> None:
    mode = head(ring=False)
    places = read_places(mode, ["without halo", " Ring at 10.29"])
    assert places == (FOLLOWS, NOWHERE, lying_at(Address(10, 29)))
    assert say_places(mode, places) == "without Halo; Ring at U10.29"
    assert say_places(mode, places_of(mode, ())) == ""
    assert read_places(mode, ["Ring after Halo"]) == read_places(mode, ["ring AFTER"]) == (FOLLOWS,) * 3
    assert say_places(mode, (FOLLOWS,) * 3) == "Ring after Halo"


@pytest.mark.parametrize(
    ("places", "said"),
    [
        ((FOLLOWS, FOLLOWS, FOLLOWS), ["first", "after Base", "after Halo"]),
        ((FOLLOWS, NOWHERE, FOLLOWS), ["first", "", "after Base"]),
        ((NOWHERE, FOLLOWS, lying_at(Address(10, 1))), ["", "first", "U10.1"]),
        ((FOLLOWS, lying_at(Address(4, 7)), FOLLOWS), ["first", "U4.7", "after Halo"]),
    ],
)
def test_where_a_block_lies_is_one_field_that_is_read_as_it_is_said(
    places: tuple[BlockPlace, ...], said: list[str]
) -> None:
    mode = head()
    assert [say_lies(mode, places, n) for n in range(3)] == said
    assert tuple(read_lies(mode, places, n, text) for n, text in enumerate(said)) == places


@pytest.mark.parametrize(
    ("block", "text", "says"),
    [
        (0, "U3.1", "Base is the first block: it lies at the fixture's address, or nowhere."),
        (1, "after Ring", "Halo cannot lie 'after Ring'. Write 'after Base'."),
        (2, "after Base", "Ring cannot lie 'after Base'. Write 'after Halo'."),
        (2, "first", "Ring cannot lie 'first'. Write 'after Halo'."),
        (2, "somewhere", "somewhere"),
        (2, "U3.600", "a universe has channels 1 to 512"),
    ],
)
def test_where_a_block_cannot_lie(block: int, text: str, says: str) -> None:
    with pytest.raises(InputError) as told:
        read_lies(head(), (FOLLOWS,) * 3, block, text)
    assert says in str(told.value)


@pytest.mark.parametrize(
    ("older", "newer"),
    [
        ("Halo off", "without Halo"),
        ("ring no address", "without ring"),
        ("Ring follows", "Ring after"),
        ("Ring U10.29", "Ring U10.29"),
        ("Ring at U10.29", "Ring at U10.29"),
        ("Lid off", "Lid off"),
    ],
)
def test_the_older_writing_of_patch_sheets_is_known_and_refused_where_it_is_typed(older: str, newer: str) -> None:
    assert newer_part(head(), older) == newer
    if newer != older:
        with pytest.raises(InputError, match="where a block lies is one field now") as told:
            read_places(head(), [older])
        assert newer in told.value.repair
        read_places(head(), [newer])


def test_runs_are_what_lies_at_one_address() -> None:
    own = lying_at(Address(2, 1))
    assert runs_of(head(), (FOLLOWS, FOLLOWS, own)) == [(0, 1), (2,)]
    assert runs_of(head(), (FOLLOWS, own, FOLLOWS)) == [(0,), (1, 2)]
    assert runs_of(head(), (NOWHERE, NOWHERE, own)) == [(), (2,)]


OWN = lying_at(Address(10, 1))


@pytest.mark.parametrize(
    ("names", "expected"),
    [
        (["Base", "Halo", "Ring"], [FOLLOWS, NOWHERE, OWN]),
        (["Base", "Ring"], [FOLLOWS, OWN]),  # one is gone: the others keep their places by name
        (["Base", "Ring", "Halo"], [FOLLOWS, OWN, NOWHERE]),
        (["Base", "Motion", "Ring"], [FOLLOWS, NOWHERE, OWN]),  # one was only renamed
        (["Base", "Halo", "Ring", "Lamp"], [FOLLOWS, NOWHERE, OWN, FOLLOWS]),
        (["Ring", "Base"], [FOLLOWS, FOLLOWS]),  # the first has no address of its own
        (["Halo"], [FOLLOWS]),  # it would lie nowhere: as the mode has it
    ],
)
def test_blocks_keep_their_places_when_the_mode_becomes_another(names: list[str], expected: list[BlockPlace]) -> None:
    stored = [place.stored for place in (FOLLOWS, NOWHERE, OWN)]
    new = Mode("n", tuple(Block(name, (Channel("Control1"),), 0, ()) for name in names))
    assert list(places_after(head(), new, stored)) == expected
    assert places_after(None, new, stored) == places_after(head(), new, []) == places_of(new, ())
