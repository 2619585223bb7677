"""The demo's plan: everything that hangs has its place on it, inside the drawing, nothing upon another."""

from __future__ import annotations

import itertools

from heliograph.demo.names import key
from heliograph.demo.plan import HEIGHT, PIXELS_A_METRE, WIDTH, elevation, items
from heliograph.demo.rig import FIXTURES, HEAD_BASE, PROFILES, RAY

PLACED = {one["id"]: one for one in items()}


def test_every_fixture_of_the_table_is_on_it() -> None:
    """76 fixtures: 18 + 14 + 24 + 12 + 4 + 3 + 1 (the demo's table, product page)."""
    hung = {key(f"{name} {n}") for _, name, count in FIXTURES for n in range(count)}
    assert len(hung) == 76
    assert {one["id"] for one in PLACED.values() if one["kind"] == "fixture"} == hung


def test_it_lies_inside_the_drawing() -> None:
    assert elevation().size == (round(WIDTH * PIXELS_A_METRE), round(HEIGHT * PIXELS_A_METRE))
    for one in PLACED.values():
        assert 0 < one["x"] < WIDTH
        assert 0 < one["y"] < HEIGHT


def test_no_fixture_hides_another() -> None:
    lamps = [one for one in PLACED.values() if one["kind"] == "fixture" and one["h"] < 1]
    for a, b in itertools.combinations(lamps, 2):
        apart_x = abs(a["x"] - b["x"]) - (a["w"] + b["w"]) / 2
        apart_y = abs(a["y"] - b["y"]) - (a["h"] + b["h"]) / 2
        assert max(apart_x, apart_y) > 0, (a, b)


def test_heads_and_lasers_have_the_channels_of_the_table() -> None:
    """Base 22, halo 9, a ring of 12 RGBW; 20 a projector; 8 heads with 4 shared (product page)."""
    by_name = {profile["name"]: profile["modes"][0]["blocks"] for profile in PROFILES}
    sizes = {
        name: [len(b["shared"]) + b["cell_count"] * len(b["cell_channels"]) for b in blocks]
        for name, blocks in by_name.items()
    }
    assert sizes["Kittiwake Ring 12"] == [22, 9, 48]
    assert (sizes["Kittiwake Ray"], sizes["Kittiwake Ray Bar 8"]) == ([20], [28])
    assert len(HEAD_BASE) == 22
    assert all(channel["safe"] == 0 for channel in RAY)
