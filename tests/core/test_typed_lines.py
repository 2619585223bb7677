"""The typed line that adds fixtures, and typed selections."""

from typing import Any

import pytest

from heliograph.core.add_line import name_at, read_add_line
from heliograph.core.errors import InputError
from heliograph.core.selection import NamedGroup, Selectable, select

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


RIG = [Selectable(f"f{n}", n, 4, "bar", "Tern Bar 4", ("red", "green", "blue")) for n in range(301, 309)]
RIG.append(Selectable("w", 400, 1, "lamp", "Tern Drop", ("white",)))
GROUPS = [
    NamedGroup("Quay", ("f303", "f302", "f301")),
    NamedGroup("Ends", (), ("f301:1", "f301:4", "f302:0"), "red"),
    NamedGroup("Bars", rule="all bars"),
    NamedGroup("Left - far", ("f308",)),
    NamedGroup("Circle", rule="Ring"),
    NamedGroup("Ring", rule="Circle"),
]


@pytest.mark.parametrize(
    ("text", "numbers", "cells"),
    [
        ("301-308", list(range(301, 309)), 32),
        ("301-308 /2", [301, 303, 305, 307], 16),
        ("301-308 /2+1", [302, 304, 306, 308], 16),
        ("304-302", [304, 303, 302], 12),
        ("301:3-4", [301], 2),
        ("301:0", [301], 0),
        ("all", [*range(301, 309), 400], 33),
        ("302, 301", [302, 301], 8),
        ("quay", [303, 302, 301], 12),
        ("Quay & odd", [303, 301], 8),
        ("Quay - 302", [303, 301], 8),
        ("all - 301-307", [308, 400], 5),
        ("301:1-4 & odd", [301], 2),
        ("301:1-4 /2+1", [301], 2),
        ("Quay:2", [303, 302, 301], 3),
        ("all bars", list(range(301, 309)), 32),
        ("lamps", [400], 1),
        ("tern drop", [400], 1),
        ("all strips", [], 0),
        ("Bars & even /2", [302, 306], 8),
        ("Left - far", [308], 4),
        ("all : white", [400], 1),
        ("Ends", [301, 302], 2),
        ("odd", [301, 303, 305, 307], 16),
    ],
)
def test_selections(text: str, numbers: list[int], cells: int) -> None:
    found = select(RIG, text, GROUPS)
    assert [f.number for f in found.fixtures] == numbers
    assert len(found.cells) == cells


def test_a_selection_knows_its_emitter_and_what_is_not_chosen_whole() -> None:
    assert select(RIG, "Quay : red", GROUPS).emitter == "red"
    assert select(RIG, "Ends", GROUPS).emitter == "red"
    assert select(RIG, "Ends /2", GROUPS).emitter == "red"
    assert select(RIG, "Quay", GROUPS).parts == ()
    assert select(RIG, "301:0").parts == ("f301:0",)  # the shared part alone, not its cells
    assert select(RIG, "301:2, 302").parts == ("f301:2", *(f"f302:{n}" for n in range(5)))


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("999", "no fixture 999"),
        ("301:9", "cells 1 to 4, not 9"),
        ("lamps please", "not a selection"),
        ("301-308 /0", "every 0th is nothing"),
        ("301:1-99", "cells 1 to 4, not 99"),
        ("Quay : mauve", "no emitter 'mauve'"),
        ("301 : red, 302 : blue", "several emitters"),
        ("Circle", "name each other in a circle"),
    ],
)
def test_what_is_no_selection(text: str, says: str) -> None:
    with pytest.raises(InputError) as told:
        select(RIG, text, GROUPS)
    assert says in str(told.value)
