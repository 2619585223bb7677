"""Heads of several blocks through the whole renderer: two universes, blocks that are nowhere, what is held by hand."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.colour.ramps import to_bytes
from heliograph.core.colour.reading import ColourReader, SentValues
from heliograph.core.matrix.placements import CellKey, pack
from heliograph.core.matrix.weaving import Weave, place
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import line, look

RGB = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
HEAD = {
    "name": "head",
    "blocks": [
        {"name": "Base", "shared": [{"attribute": "Pan", "home": 128, "safe": 3}, {"attribute": "Dimmer", "safe": 0}]},
        {"name": "Halo", "shared": [{"attribute": "Gobo1", "home": 7}]},
        {"name": "Ring", "cell_count": 2, "cell_channels": RGB},
    ],
}
WHITE = [255] * 6


def head(*lies: str, guarded: bool = False) -> CompiledShow:
    """One head at U9.1, white painted on its ring; `lies`: where each of its blocks lies, as it is stored."""
    fixture = {"id": "f", "number": 701, "name": "Signal", "mode": "m", "universe": 9, "channel": 1, "blocks": lies}
    placed = place([CellKey("f", "1"), CellKey("f", "2")], Weave(2, 1, "top left", "rows", False))
    sections: dict[str, Any] = {
        "rig": {"modes": {"m": {"mode": HEAD, "guarded": guarded}}, "fixtures": [fixture]},
        "matrix:M": {"id": "M", "name": "M", "width": 2, "height": 1, "placements": pack(placed)},
        "look:L": look(line("a", "Flat", ramp=[[0, 255, 255, 255]])),
        "outputs": {"outputs": []},
    }
    return compile_show(sections, Path("/nonexistent"))


def sent(show: CompiledShow, **state: Any) -> dict[int, list[int]]:
    """Universe -> its first channels."""
    begun = advance(PlaybackState(**state).started("L", 0), show.lines, 0)
    data = Renderer().render(show, begun, 0)
    return {int(u): [int(v) for v in data[row, :10]] for row, u in enumerate(show.universes)}


def test_blocks_that_follow_on_lie_in_one_piece() -> None:
    assert sent(head()) == {9: [128, 255, 7, *WHITE, 0]}


def test_a_ring_in_another_universe_is_dimmed_by_its_base() -> None:
    show = head("after", "after", "U10.3")
    assert sent(show) == {9: [128, 255, 7, *[0] * 7], 10: [0, 0, *WHITE, 0, 0]}
    half = sent(show, master=0.5)
    assert half[9][1] == 128  # the real dimmer takes the level, the colour stays
    assert half[10] == [0, 0, *WHITE, 0, 0]


def test_what_is_nowhere_sends_nothing_and_what_follows_moves_up() -> None:
    assert sent(head("after", "", "after")) == {9: [128, 255, *WHITE, 0, 0]}
    assert sent(head("", "after", "after"), master=0.5) == {9: [7, *[128] * 6, 0, 0, 0]}  # a virtual dimmer


def test_a_ring_that_is_nowhere_leaves_its_cells_nowhere() -> None:
    show = head("after", "after", "")
    assert sent(show) == {9: [128, 0, 7, *[0] * 7]}  # nobody is below its dimmer
    assert show.rig.cell_count == 2


@pytest.mark.parametrize(
    ("lies", "held", "expected"),
    [
        ((), {"f/4": 9}, {9: [128, 255, 7, 9, *[255] * 5, 0]}),
        (("after", ""), {"f/3": 9, "f/4": 9}, {9: [128, 255, 9, *[255] * 5, 0, 0]}),
        (("after", "after", "U10.1"), {"f/9": 9}, {9: [128, 255, 7, *[0] * 7], 10: [*[255] * 5, 9, 0, 0, 0, 0]}),
    ],
)
def test_channels_by_hand_are_counted_over_all_blocks(
    lies: tuple[str, ...], held: dict[str, int], expected: dict[int, list[int]]
) -> None:
    """Also over those that are nowhere, so that a value stays with its channel when a block is switched."""
    assert sent(head(*lies), manual=held) == expected


def test_the_guard_covers_every_block_wherever_it_lies() -> None:
    show = head("after", "after", "U10.1", guarded=True)
    dark = {9: [3, *[0] * 9], 10: [0] * 10}
    assert sent(show) == dark
    assert sent(show, manual={"f/5": 200, "f/1": 200}, highlight=frozenset({"f"}), raw={"10.2": 200}) == dark
    assert sent(show, armed=frozenset({"f"}))[10] == [*WHITE, 0, 0, 0, 0]


def test_a_base_without_an_address_leaves_the_others() -> None:
    sections: dict[str, Any] = {
        "rig": {
            "modes": {"m": {"mode": HEAD, "guarded": False}},
            "fixtures": [
                {
                    "id": "f",
                    "number": 1,
                    "name": "x",
                    "mode": "m",
                    "universe": None,
                    "channel": None,
                    "blocks": ["after", "after", "U2.1"],
                }
            ],
        }
    }
    show = compile_show(sections, Path("/nonexistent"))
    assert show.universes.tolist() == [2]
    assert show.rig.emitters[:, 0].tolist() == [512, 515]


def test_a_pixel_that_is_split_between_universes_is_sent_in_both_and_read_back() -> None:
    """Pixel 170 (from 0) of a dense controller: red and green end the first universe, blue begins the second."""
    block = {"name": "b", "cell_count": 172, "cell_channels": RGB, "runs_on": True, "splits": True}
    reel = {"id": "f", "number": 1, "name": "Reel", "mode": "m", "universe": 1, "channel": 1}
    keys = [CellKey("f", str(n + 1)) for n in range(172)]
    sections: dict[str, Any] = {
        "rig": {"modes": {"m": {"mode": {"name": "m", "blocks": [block]}, "guarded": False}}, "fixtures": [reel]},
        "matrix:M": {"id": "M", "name": "M", "width": 172, "height": 1, "placements": pack(place(keys, Weave(172, 1)))},
        "look:L": look(line("a", "Flat", ramp=[[0, 10, 20, 30]])),
        "outputs": {"outputs": []},
    }
    show = compile_show(sections, Path("/nonexistent"))
    begun = advance(PlaybackState().started("L", 0), show.lines, 0)
    data = Renderer().render(show, begun, 0)
    assert data[0, 507:].tolist() == [10, 20, 30, 10, 20]
    assert data[1, :5].tolist() == [30, 10, 20, 30, 0]
    both = SentValues(show.universes.astype(np.uint16), np.ones(2, np.uint8), data)
    assert (to_bytes(ColourReader(show.rig).read(both).rgb).T == [10, 20, 30]).all()
