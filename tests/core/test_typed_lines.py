"""The typed line that adds fixtures, and typed selections."""

from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.core.rig.add_line import name_at, read_add_line
from heliograph.core.rig.selection import NamedGroup, Selectable, select

PROFILES: list[dict[str, Any]] = [
    {"id": "lamp", "maker": "Generic", "name": "RGB lamp", "modes": [{"name": "RGB"}]},
    {"id": "strip", "maker": "Generic", "name": "RGB pixel strip", "modes": [{"name": "50 RGB"}, {"name": "144 RGB"}]},
    {"id": "fulmar", "maker": "Fulmar Works", "name": "Fulmar Strip 50", "modes": [{"name": "50 RGB"}]},
]


def test_a_whole_line() -> None:
    line = read_add_line("18 x Fulmar Strip 50, mode 50 RGB, from 101, Tower {n}, at U1.1", PROFILES)
    assert (line.count, line.profile, line.mode, line.first_number) == (18, "fulmar", "50 RGB", 101)
    assert (line.name, line.address, line.patched) == ("Tower {n}", "U1.1", True)


@pytest.mark.parametrize("text", ["RGB lamp", "1 rgb lamp", "1x RGB lamp", "1 × Generic RGB lamp, unpatched"])
def test_short_lines(text: str) -> None:
    line = read_add_line(text, PROFILES)
    assert (line.count, line.profile) == (1, "lamp")
    assert line.patched is ("unpatched" not in text)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "Type what to add"),
        ("4 x toaster", "no profile 'toaster'. Choose one from the library"),
        ("4 x strip", "no profile 'strip'. Nearest: RGB pixel strip, Fulmar Strip 50"),
        ("0 x RGB lamp", "1 to 2000"),
        ("9999 x RGB lamp", "1 to 2000"),
        ("4 x RGB lamp, from zero", "not a fixture number"),
        ("4 x RGB pixel strip, mode 51", "no mode '51'. Nearest: 50 RGB"),
        ("4 x RGB pixel strip, mode 50", "no mode '50'. Nearest: 50 RGB"),
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


RIG = [Selectable(f"f{n}", n, 4, "bar", "Tern Bar 4", ("red", "green", "blue")) for n in range(401, 409)]
RIG.append(Selectable("w", 440, 1, "lamp", "Tern Drop", ("white",)))
GROUPS = [
    NamedGroup("Quay", ("f403", "f402", "f401")),
    NamedGroup("Ends", (), ("f401:1", "f401:4", "f402:0"), "red"),
    NamedGroup("Bars", rule="all bars"),
    NamedGroup("Left - far", ("f408",)),
    NamedGroup("Circle", rule="Ring"),
    NamedGroup("Ring", rule="Circle"),
]


@pytest.mark.parametrize(
    ("text", "numbers", "cells"),
    [
        ("401-408", list(range(401, 409)), 32),
        ("401-408 every 2nd", [401, 403, 405, 407], 16),
        ("401-408 every 2nd from 2", [402, 404, 406, 408], 16),
        ("404-402", [404, 403, 402], 12),
        ("401:3-4", [401], 2),
        ("401:0", [401], 0),
        ("all", [*range(401, 409), 440], 33),
        ("402, 401", [402, 401], 8),
        ("quay", [403, 402, 401], 12),
        ("Quay & odd", [403, 401], 8),
        ("Quay - 402", [403, 401], 8),
        ("all - 401-407", [408, 440], 5),
        ("401:1-4 & odd", [401], 2),
        ("401:1-4 every 2nd from 2", [401], 2),
        ("Quay:2", [403, 402, 401], 3),
        ("all bars", list(range(401, 409)), 32),
        ("lamps", [440], 1),
        ("tern drop", [440], 1),
        ("all strips", [], 0),
        ("Bars & even every 2nd", [402, 406], 8),
        ("Left - far", [408], 4),
        ("all : white", [440], 1),
        ("Ends", [401, 402], 2),
        ("odd", [401, 403, 405, 407], 16),
    ],
)
def test_selections(text: str, numbers: list[int], cells: int) -> None:
    found = select(RIG, text, GROUPS)
    assert [f.number for f in found.fixtures] == numbers
    assert len(found.cells) == cells


def test_a_selection_knows_its_emitter_and_what_is_not_chosen_whole() -> None:
    assert select(RIG, "Quay : red", GROUPS).emitter == "red"
    assert select(RIG, "Ends", GROUPS).emitter == "red"
    assert select(RIG, "Ends every 2nd", GROUPS).emitter == "red"
    assert select(RIG, "Quay", GROUPS).parts == ()
    assert select(RIG, "401:0").parts == ("f401:0",)  # the shared part alone, not its cells
    assert select(RIG, "401:2, 402").parts == ("f401:2", *(f"f402:{n}" for n in range(5)))


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("999", "no fixture 999"),
        ("401:9", "cells 1 to 4, not 9"),
        ("401-408 every 2nd from 0", "counting begins at 1"),
        ("lamps please", "not a selection"),
        ("401-408 every 0th", "every 0th is nothing"),
        ("401:1-99", "cells 1 to 4, not 99"),
        ("Quay : mauve", "no emitter 'mauve'"),
        ("401 : red, 402 : blue", "several emitters"),
        ("Circle", "name each other in a circle"),
    ],
)
def test_what_is_no_selection(text: str, says: str) -> None:
    with pytest.raises(InputError) as told:
        select(RIG, text, GROUPS)
    assert says in str(told.value)


def test_a_stride_alone_is_of_all() -> None:
    assert [one.number for one in select(RIG, "every 3rd from 2").fixtures] == [402, 405, 408]
