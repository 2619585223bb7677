"""Where channels lie, for any mode and any places of its blocks: properties that must hold whatever is typed."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from heliograph.core.errors import InputError
from heliograph.core.hand.values import channels_of
from heliograph.core.patch.addressing import ToAddress, plan_addresses
from heliograph.core.patch.blocks import (
    FOLLOWS,
    NOWHERE,
    Places,
    lying_at,
    places_of,
    read_places,
    run_mode,
    runs_of,
    say_places,
)
from heliograph.core.patch.dmx import SLOTS, Address
from heliograph.core.patch.places import (
    Occupancy,
    all_positions,
    channel_positions,
    place_in_runs,
    place_many,
    place_mode,
)
from heliograph.core.profiles.channel import Channel
from heliograph.core.profiles.profile import Block, Mode

RED, OTHER = Channel("ColorAdd_R"), Channel("Control1")


@st.composite
def blocks(draw: st.DrawFn, name: str) -> Block:
    shared = draw(st.integers(0, 30))
    cells = draw(st.integers(0, 40))
    size = draw(st.integers(1, 6)) if cells else 0
    assume(shared + cells)
    runs_on = draw(st.booleans())
    return Block(name, (OTHER,) * shared, cells, (RED,) * size, runs_on)


@st.composite
def modes(draw: st.DrawFn) -> Mode:
    count = draw(st.integers(1, 4))
    return Mode("m", tuple(draw(blocks(f"B{n}")) for n in range(count)))


@st.composite
def placed_modes(draw: st.DrawFn) -> tuple[Mode, Address, Places]:
    mode = draw(modes())
    usual = st.sampled_from([FOLLOWS, NOWHERE])
    apart = [lying_at(Address(20 + 10 * n, draw(st.integers(1, SLOTS)))) for n in range(len(mode.blocks))]
    places = tuple(draw(usual | st.just(own) if n else usual) for n, own in enumerate(apart))
    assume(any(place.lies for place in places))
    return mode, Address(1, draw(st.integers(1, SLOTS))), places


@settings(max_examples=200, deadline=None)
@given(placed_modes())
def test_every_channel_lies_once_and_no_cell_is_split(case: tuple[Mode, Address, Places]) -> None:
    mode, start, places = case
    try:
        placed = place_mode(mode, start, places)
    except InputError:  # a block would cross a universe: said, not done
        return
    positions = all_positions(placed)
    assert len(set(positions.tolist())) == positions.size
    assert channel_positions(placed).size == mode.footprint
    assert positions.size == sum(b.footprint for b, p in zip(mode.blocks, places, strict=True) if p.lies)
    for one in placed:
        if not one.is_placed:
            assert (one.positions == -1).all()
            continue
        if one.block.cell_count:
            assert (one.cells[:, 0] // SLOTS == one.cells[:, -1] // SLOTS).all()
        if not one.block.runs_on:
            assert one.first // SLOTS == (one.end - 1) // SLOTS
            assert one.end - one.first == one.block.footprint


@settings(max_examples=100, deadline=None)
@given(placed_modes())
def test_blocks_that_follow_begin_where_the_one_before_ends(case: tuple[Mode, Address, Places]) -> None:
    mode, start, places = case
    try:
        placed = place_mode(mode, start, places)
    except InputError:
        return
    for run in runs_of(mode, places):
        for a, b in pairwise(run):
            begin, end = placed[b].first, placed[a].end
            assert begin == end or (placed[b].block.runs_on and 0 < begin - end < SLOTS)


@settings(max_examples=100, deadline=None)
@given(placed_modes())
def test_places_survive_being_written_down(case: tuple[Mode, Address, Places]) -> None:
    mode, _, places = case
    assert read_places(mode, say_places(mode, places).split(";")) == places


@settings(max_examples=60, deadline=None)
@given(modes(), st.integers(1, 12), st.integers(0, SLOTS * 2))
def test_many_never_lie_upon_each_other(mode: Mode, count: int, start: int) -> None:
    taken = Occupancy()
    try:
        starts, every = place_in_runs(mode, places_of(mode, ()), count, start, {}, taken)
    except InputError:  # a run of blocks that fits no universe
        return
    everything = np.concatenate(
        [all_positions(place_mode(mode, at, places)) for at, places in zip(starts, every, strict=True)]
    )
    assert len(set(everything.tolist())) == everything.size == count * mode.footprint
    assert everything.min() >= start


@settings(max_examples=60, deadline=None)
@given(st.lists(modes().filter(lambda m: m.footprint <= SLOTS), min_size=1, max_size=8), st.integers(0, 300))
def test_automatic_addresses_are_free_and_as_place_mode_has_them(wanted: list[Mode], blocked: int) -> None:
    """The quick way for what lies in one piece must say the same as laying out every channel."""
    taken = Occupancy()
    taken.take(np.arange(blocked, blocked + 40))
    fixtures = [ToAddress(str(n), n + 1, f"f{n}", mode, None) for n, mode in enumerate(wanted)]
    moves = plan_addresses(fixtures, "no split fixture", Address(1, 1), taken)
    covered: set[int] = set(range(blocked, blocked + 40))
    for move, mode in zip(moves, wanted, strict=True):
        positions = all_positions(place_mode(mode, move.to)).tolist()
        assert not covered & set(positions)
        assert max(positions) == move.end.position
        assert move.to.universe == move.end.universe
        covered.update(positions)


@settings(max_examples=100, deadline=None)
@given(modes())
def test_channels_are_counted_over_all_blocks(mode: Mode) -> None:
    assert len(channels_of(mode).channels) == mode.footprint
    for run in runs_of(mode, places_of(mode, ())):
        assert run_mode(mode, run).footprint == sum(mode.blocks[n].footprint for n in run)


def test_a_run_taken_at_once_is_taken() -> None:
    taken = Occupancy()
    assert taken.take_run(10, 20)
    assert not taken.take_run(19, 25)
    assert taken.is_free(np.arange(20, 25))
    lamp = Mode("m", (Block("b", (), 1, (RED,) * 3),))
    assert [str(one) for one in place_many(lamp, 2, 9, taken)] == ["U1.21", "U1.24"]
