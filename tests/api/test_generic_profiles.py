"""The profiles every show begins with: each mode parses, is as long as it says, and can be lit."""

from __future__ import annotations

import json
from pathlib import Path
from typing import Any

import pytest

from heliograph.core.matrix.placements import CellKey, pack
from heliograph.core.matrix.weaving import Weave, place
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.profiles.attributes import EMITTERS
from heliograph.core.profiles.generic import generic_profiles
from heliograph.core.profiles.profile import Mode, mode_from_json
from heliograph.render.compiled import compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import line, look

PROFILES = {columns["name"]: columns for _, columns in generic_profiles()}
MODES = [(name, data) for name, columns in PROFILES.items() for data in columns["modes"]]


def mode(profile: str, name: str) -> Mode:
    return mode_from_json(next(data for data in PROFILES[profile]["modes"] if data["name"] == name))


def test_all_kinds_of_lamp_are_there() -> None:
    assert set(PROFILES) >= {
        "RGB lamp",
        "RGBW lamp",
        "RGBA lamp",
        "RGBAW+UV lamp",
        "White lamp",
        "Dimmer and RGB lamp",
        "Cell bar",
        "Pixel tube",
        "RGB pixel strip",
        "RGB laser head",
    }
    assert all(columns["maker"] == "Generic" for columns in PROFILES.values())
    assert len(PROFILES) >= 40
    assert {columns["kind"] for columns in PROFILES.values()} == {"lamp", "strip", "bar", "head", "laser", "other"}


def test_every_channel_of_a_laser_has_a_safe_value() -> None:
    for columns in PROFILES.values():
        if columns["kind"] == "laser":
            blocks = [block for data in columns["modes"] for block in mode_from_json(data).blocks]
            assert columns["guarded"]
            assert all(c.safe is not None for block in blocks for c in (*block.shared, *block.cell_channels))


@pytest.mark.parametrize(
    ("profile", "name", "footprint", "cells"),
    [
        # Channels counted by hand: common practice, no published source.
        ("RGB lamp", "RGB", 3, 1),
        ("RGBAW+UV lamp", "RGBAW+UV", 6, 1),
        ("White lamp", "White", 1, 1),
        ("Dimmer and RGB lamp", "Dimmer and strobe in one, RGB", 4, 1),
        ("Pixel tube", "24 RGBW, a strobe each", 120, 24),
        ("RGB pixel strip", "170 RGB", 510, 170),
        ("RGBW pixel strip", "128 RGBW", 512, 128),
        ("Cell bar", "12 RGBA, dimmer and strobe", 50, 12),
        ("Ring head with 12 pixels", "12 pixels, 8 bit", 54, 12),
        ("Ring head with 20 pixels", "20 pixels, 16 bit", 91, 20),
        ("Hue lamp", "3 cells of hue, saturation, dimmer", 9, 3),
        ("Laser projector", "11 channels, 8 bit", 11, 1),
        ("Laser projector", "14 channels, 16 bit", 14, 1),
        ("Laser bar", "8 heads, tilt and dimmer", 26, 8),
        ("Fine RGB pixel strip", "85 RGB, 16 bit", 510, 85),
        ("Cell bar without dimmer", "8 RGBAWU", 48, 8),
    ],
)
def test_footprints(profile: str, name: str, footprint: int, cells: int) -> None:
    found = mode(profile, name)
    assert (found.footprint, found.cell_count) == (footprint, cells)


def test_ids_are_new_for_every_show_and_names_stand_once() -> None:
    first, second = generic_profiles(), generic_profiles()
    assert not {key for key, _ in first} & {key for key, _ in second}
    for columns in PROFILES.values():
        names = [data["name"] for data in columns["modes"]]
        assert len(set(names)) == len(names)


def test_no_two_modes_are_one_list_twice() -> None:
    """Two ways to say the same channels leave a technician to guess which one is meant."""
    seen: dict[str, str] = {}
    for profile, data in MODES:
        said = f"{profile}: {data['name']}"
        kind = PROFILES[profile]["kind"]
        same = seen.setdefault(json.dumps([kind, data["blocks"]], sort_keys=True), said)
        assert same == said, f"{said} is {same} again"


def test_every_origin_says_that_nobodys_chart_was_copied() -> None:
    assert {columns["origin"] for columns in PROFILES.values()} == {"made up for this library"}


def white_on(data: dict[str, Any], guarded: bool, armed: bool) -> list[tuple[str, int]]:
    """(attribute, value) of every channel of the first universe with white painted on all cells."""
    parsed = mode_from_json(data)
    keys = [CellKey("f", str(n + 1)) for n in range(parsed.cell_count)]
    placed = pack(place(keys, Weave(parsed.cell_count, 1, "top left", "rows", False)))
    sections: dict[str, Any] = {
        "rig": {
            "modes": {"m": {"mode": data, "guarded": guarded}},
            "fixtures": [{"id": "f", "number": 1, "name": "x", "mode": "m", "universe": 1, "channel": 1}],
        },
        "matrix:M": {"id": "M", "name": "M", "width": parsed.cell_count, "height": 1, "placements": placed},
        "look:L": look(line("a", "Flat", ramp=[[0, 255, 255, 255]])),
        "outputs": {"outputs": []},
    }
    show = compile_show(sections, Path("/nonexistent"))
    state = advance(PlaybackState(armed=frozenset({"f"} if armed else ())).started("L", 0), show.lines, 0)
    values = Renderer().render(show, state, 0)[0].tolist()
    channels = [c for block in parsed.blocks for c in (*block.shared, *(block.cell_channels * block.cell_count))]
    return [(c.attribute, v) for c, v in zip(channels, values, strict=False)]


@pytest.mark.parametrize(("profile", "data"), MODES, ids=[f"{name}: {data['name']}" for name, data in MODES])
def test_white_lights_every_lamp_and_nothing_strobes(profile: str, data: dict[str, Any]) -> None:
    if not mode_from_json(data).cell_count:
        pytest.skip("it has no cells that pixels could light")
    guarded = bool(PROFILES[profile]["guarded"])
    sent = white_on(data, guarded, armed=True)
    assert any(value == 255 for attribute, value in sent if attribute in {*EMITTERS, "HSB_Brightness", "Dimmer"})
    assert all(value == 255 for attribute, value in sent if attribute == "Dimmer")
    assert not any(value for attribute, value in sent if attribute == "Shutter1Strobe")
    if guarded:
        assert not any(value for _, value in white_on(data, guarded, armed=False))
