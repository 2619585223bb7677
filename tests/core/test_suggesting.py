"""What the typed add line offers next, and that nothing inexact is taken."""

from __future__ import annotations

from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.core.rig.add_line import read_add_line
from heliograph.core.rig.suggesting import suggest


def profile(name: str, *modes: str) -> dict[str, Any]:
    return {
        "id": name,
        "maker": "Generic",
        "name": name,
        "kind": "pixel strip" if "strip" in name else "lamp",
        "modes": [
            {
                "name": mode,
                "footprint": 150 if mode.startswith("50") else len(mode),
                "cells": 1,
                "emitters": ["white"] if mode == "White" else ["red"],
            }
            for mode in modes
        ],
    }


ALL = [
    profile("RGB lamp", "RGB"),
    profile("RGB pixel strip", "16 RGB", "50 RGB"),
    profile("White lamp", "White"),
    profile("Cell bar", "10 RGBAWU", "10 RGBW", "4 RGB"),
]


def labels(text: str) -> list[str]:
    return [one.label for one in suggest(text, ALL).items]


@pytest.mark.parametrize(
    ("text", "offered"),
    [
        ("", ["RGB lamp", "RGB pixel strip", "White lamp", "Cell bar"]),
        ("18 x strip", ["RGB pixel strip"]),
        ("18 lamp", ["RGB lamp", "White lamp"]),
        ("2 x 150ch", ["RGB pixel strip"]),
        ("white", ["White lamp"]),
        ("21 RGB lamps", []),  # read as it stands: there is nothing to suggest
        ("4 x zzz", []),
        ("18 x RGB lamp", []),
        ("18 x RGB pixel strip", ["16 RGB", "50 RGB"]),
        ("18 x RGB pixel strip, mode 16 RGB", []),
        ("7 x Cell bar, mode 10 RGBA, from 401", ["10 RGBAWU", "10 RGBW"]),
    ],
)
def test_what_may_stand_next(text: str, offered: list[str]) -> None:
    assert labels(text)[: len(offered) or None] == offered


def test_a_suggestion_is_a_whole_line() -> None:
    assert suggest("18 x strip, from 101", ALL).items[0].text == "18 x RGB pixel strip, from 101"
    assert suggest("18 x RGB pixel strip, from 101", ALL).items[1].text == "18 x RGB pixel strip, mode 50 RGB, from 101"
    found = suggest("7 x Cell bar, from 401, mode 10 RGBA, at U6.21", ALL)
    assert found.of == "nearest modes of Cell bar"
    assert found.items[0].text == "7 x Cell bar, from 401, mode 10 RGBAWU, at U6.21"
    for one in found.items:
        assert read_add_line(one.text, ALL).mode == one.label


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("7 x Cell bar, mode 10 RGBA", "has no mode '10 RGBA'. Nearest: 10 RGBAWU; 10 RGBW"),
        ("2 x White", "no profile 'White'. Nearest: White lamp"),
        ("2 x RGB lmap", "no profile 'RGB lmap'. Nearest: RGB lamp"),
    ],
)
def test_what_is_only_like_a_name_is_asked_and_never_taken(text: str, says: str) -> None:
    with pytest.raises(InputError) as told:
        read_add_line(text, ALL)
    assert says in str(told.value)


def test_a_mode_whose_name_holds_commas_is_typed_whole() -> None:
    bars = [profile("Cell bar", "10 RGBW, dimmer and strobe", "10 RGBW")]
    line = read_add_line("2 x Cell bar, mode 10 RGBW, Dimmer and strobe, from 4, at U3.101", bars)
    assert (line.mode, line.first_number, line.address) == ("10 RGBW, dimmer and strobe", 4, "U3.101")
    line = read_add_line("2 x Cell bar, mode 10 RGBW, Bar {n}", bars)
    assert (line.mode, line.name) == ("10 RGBW", "Bar {n}")
    for one in suggest("2 x Cell bar, from 4", bars).items:
        assert read_add_line(one.text, bars).mode == one.label
        assert suggest(one.text, bars).items == ()
    [wide] = [one for one in suggest("2 x Cell bar, mode 10 RGBX, from 4", bars).items if "dimmer" in one.label]
    assert read_add_line(wide.text, bars).first_number == 4
