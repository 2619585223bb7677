"""The typed line that adds fixtures, and typed selections."""

from typing import Any

import pytest

from heliograph.core.add_line import name_at, read_add_line
from heliograph.core.errors import InputError
from heliograph.core.rig import Rig, build_rig
from heliograph.core.selection import select

PROFILES: list[dict[str, Any]] = [
    {"id": "lamp", "maker": "Generic", "name": "RGB lamp", "modes": [{"name": "RGB"}]},
    {"id": "strip", "maker": "Generic", "name": "RGB pixel strip", "modes": [{"name": "50 RGB"}, {"name": "144 RGB"}]},
    {"id": "fulmar", "maker": "Fulmar Works", "name": "Fulmar Strip 50", "modes": [{"name": "50 RGB"}]},
]


def test_a_whole_line() -> None:
    line = read_add_line("18 x Fulmar Strip 50, mode 50 RGB, from 101, Tower {n}, at U1.1", PROFILES)
    assert (line.count, line.profile, line.mode, line.first_number) == (18, "fulmar", "50 RGB", 101)
    assert (line.name, line.address, line.patched) == ("Tower {n}", "U1.1", True)


@pytest.mark.parametrize("text", ["RGB lamp", "1 rgb lamp", "1x lamp", "1 × lamp, unpatched"])
def test_short_lines(text: str) -> None:
    line = read_add_line(text, PROFILES)
    assert (line.count, line.profile) == (1, "lamp")
    assert line.patched is ("unpatched" not in text)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "Type what to add"),
        ("4 x toaster", "no profile 'toaster'. There are: RGB lamp"),
        ("4 x strip", "may be RGB pixel strip, Fulmar Strip 50"),
        ("0 x RGB lamp", "1 to 2000"),
        ("9999 x RGB lamp", "1 to 2000"),
        ("4 x RGB lamp, from zero", "not a fixture number"),
        ("4 x pixel strip, mode 51", "no mode '51'. It has: 50 RGB, 144 RGB"),
    ],
)
def test_what_cannot_be_read_gets_a_sentence(text: str, says: str) -> None:
    with pytest.raises(InputError) as told:
        read_add_line(text, PROFILES)
    assert says in str(told.value)


def test_names_count_on() -> None:
    assert [name_at("Tower {n}", i, 101 + i) for i in range(2)] == ["Tower 1", "Tower 2"]
    assert name_at("No. {number}", 0, 7) == "No. 7"
    assert name_at("Lamp", 2, 9) == "Lamp 3"


def rig() -> Rig:
    rgb = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
    mode = {"name": "m", "blocks": [{"name": "b", "cell_count": 4, "cell_channels": rgb}]}
    fixtures = [
        {"id": f"f{n}", "number": n, "name": f"Bar {n}", "mode": "m", "universe": 1, "channel": 1 + 12 * i}
        for i, n in enumerate(range(301, 309))
    ]
    return build_rig({"modes": {"m": {"mode": mode, "guarded": False}}, "fixtures": fixtures})


@pytest.mark.parametrize(
    ("text", "numbers", "cells"),
    [
        ("301-308", list(range(301, 309)), 32),
        ("301-308 /2", [301, 303, 305, 307], 16),
        ("301-308 /2+1", [302, 304, 306, 308], 16),
        ("304-302", [304, 303, 302], 12),
        ("301:3-4", [301], 2),
        ("301:0", [301], 0),
        ("all", list(range(301, 309)), 32),
        ("302, 301", [302, 301], 8),
    ],
)
def test_selections(text: str, numbers: list[int], cells: int) -> None:
    found = select(rig(), text)
    assert [f.number for f in found.fixtures] == numbers
    assert len(found.cells) == cells


@pytest.mark.parametrize("text", ["999", "301:9", "lamps please", "301-308 /0", "301:1-99"])
def test_what_is_no_selection(text: str) -> None:
    with pytest.raises(InputError):
        select(rig(), text)
