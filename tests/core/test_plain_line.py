"""The typed line as people say it, and profiles described in words."""

from __future__ import annotations

from typing import Any

import pytest

from heliograph.core.rig.add_line import read_add_line
from heliograph.core.rig.plain_line import described, with_commas
from heliograph.core.rig.suggesting import suggest


def shown_mode(name: str, cells: int, letters: str) -> dict[str, Any]:
    of = {"R": "ColorAdd_R", "G": "ColorAdd_G", "B": "ColorAdd_B", "A": "ColorAdd_RY", "W": "ColorAdd_W"}
    each = [{"attribute": of[letter]} for letter in letters]
    words = {"R": "red", "G": "green", "B": "blue", "A": "amber", "W": "white"}
    blocks = [{"cells": 0, "each": []}, {"cells": cells, "each": each}]
    emitters = [words[letter] for letter in letters]
    return {"name": name, "footprint": cells * len(letters), "cells": cells, "emitters": emitters, "blocks": blocks}


PROFILES: list[dict[str, Any]] = [
    {"id": "lamp", "maker": "Generic", "name": "RGB lamp", "kind": "lamp", "modes": [shown_mode("RGB", 1, "RGB")]},
    {
        "id": "bar",
        "maker": "Generic",
        "name": "Cell bar",
        "kind": "bar",
        "modes": [shown_mode("8 RGBA, dimmer and strobe", 8, "RGBA"), shown_mode("8 RGB", 8, "RGB")],
    },
]


@pytest.mark.parametrize(
    ("said", "line"),
    [
        ("21 RGB lamps", "21 RGB lamps"),
        ("21 x RGB lamp, from 201, Lamp {n}", "21 x RGB lamp, from 201, Lamp {n}"),
        ("7 bars of nine RGBA cells from 401 at U6.21", "7 bars of 9 RGBA cells, from 401, at U6.21"),
        ("twenty RGB lamps called Quay {n} from 30 unpatched", "20 RGB lamps, Quay {n}, from 30, unpatched"),
        ("4 Tern Bar 10 mode 46 at 3.1, Pier", "4 Tern Bar 10, mode 46, at 3.1, Pier"),
    ],
)
def test_a_line_without_commas_is_brought_into_its_form(said: str, line: str) -> None:
    assert with_commas(said) == line


def test_lamps_are_added_without_commas_and_in_the_plural() -> None:
    line = read_add_line("21 RGB lamps from 201 at U2.5", PROFILES)
    assert (line.count, line.profile, line.first_number, line.address) == (21, "lamp", 201, "U2.5")


def test_a_profile_s_own_name_is_taken_as_it_is() -> None:
    profiles = [*PROFILES]
    for name in ("Dual mode lamp", "Stage One", "Strip at 5 m"):
        profiles.append({**PROFILES[0], "id": name, "name": name})
        for said in (f"3 x {name}, from 7", f"3 {name}s, from 7"):
            line = read_add_line(said, profiles)
            assert (line.count, line.profile, line.first_number) == (3, name, 7)


@pytest.mark.parametrize(
    ("words", "found"),
    [
        ("bars of 9 RGBA cells", ("bar", 9, "RGBA")),
        ("RGBA bars with 9 cells", ("bar", 9, "RGBA")),
        ("9-cell rgba bar", ("bar", 9, "RGBA")),
        ("strips of 60 GRB pixels", ("strip", 60, "GRB")),
        ("DRGB lamps", ("lamp", 1, "DRGB")),
        ("bar", None),
        ("RGBA cells", None),
        ("bars of 9 RGBA cells with gobo", None),
        ("bars of 9 10 RGB", None),
        ("bars of RGB cells", None),  # how many?
        ("strips of 9999 RGB pixels", None),
    ],
)
def test_words_describe_a_thing_its_cells_and_their_emitters(words: str, found: tuple[str, int, str] | None) -> None:
    said = described(words)
    assert (None if said is None else (said.thing, said.cells, said.order)) == found


def test_what_fits_is_offered_first_and_else_making_it() -> None:
    there = suggest("7 bars of eight RGBA cells from 401", PROFILES)
    assert [one.text for one in there.items] == [
        "7 x Cell bar, mode 8 RGBA, dimmer and strobe, from 401",
        "7 x RGBA bar 8, from 401",
    ]
    missing = suggest("7 bars of nine RGBA cells from 401 at U6.21", PROFILES)
    assert missing.of == "no profile fits"
    (make,) = missing.items
    assert make.label == "make it: bar of 9 RGBA cells, 36 ch"
    assert make.text == "7 x RGBA bar 9, from 401, at U6.21"
    assert make.makes is not None
    (block,) = make.makes.mode()["blocks"]
    order = ["ColorAdd_R", "ColorAdd_G", "ColorAdd_B", "ColorAdd_RY"]
    assert (block["cell_count"], [one["attribute"] for one in block["cell_channels"]]) == (9, order)
