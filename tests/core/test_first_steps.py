"""The five steps from an empty show to light: each done or not, by what is there."""

from __future__ import annotations

from typing import Any

from heliograph.core.show.first_steps import first_steps

OUTPUT = {"on": True, "mute": False, "first_universe": 1, "count": 2}
MATRIX = {"name": "Wall", "placements": {"packed": "AAAA"}}
LOOK = {"id": "l", "name": "Dusk", "lines": [{}]}
WHOLE: dict[str, Any] = {
    "rig": {"fixtures": [{}, {}]},
    "outputs": {"outputs": [OUTPUT]},
    "matrix:m": MATRIX,
    "look:l": LOOK,
}


def done(sections: dict[str, Any], universes: set[int], running: set[str]) -> str:
    return "".join("x" if step.done else "." for step in first_steps(sections, universes, running))


def test_an_empty_show_has_all_before_it_and_says_what_to_do() -> None:
    steps = first_steps({}, set(), set())
    assert [step.station for step in steps] == ["rig", "patch", "matrices", "looks", "looks"]
    assert not any(step.done for step in steps)
    assert steps[0].says.startswith("Type what hangs here")


def test_each_is_done_by_what_is_there() -> None:
    assert done(WHOLE, {1}, {"l"}) == "xxxxx"
    assert [step.says for step in first_steps(WHOLE, {1}, {"l"})] == [
        "2 fixtures",
        "1 universe sent",
        "Wall",
        "Dusk",
        "Dusk is on",
    ]
    assert done(WHOLE, {1}, set()) == "xxxx."
    assert done({**WHOLE, "rig": {"fixtures": []}}, set(), {"l"}) == "..xxx"


def test_what_reaches_no_lamp_does_not_count() -> None:
    for changed in ({"on": False}, {"mute": True}, {"first_universe": 7}):
        assert done({**WHOLE, "outputs": {"outputs": [{**OUTPUT, **changed}]}}, {1}, {"l"}) == "x.xxx"
    assert done({**WHOLE, "matrix:m": {"name": "Wall", "placements": {"packed": ""}}}, {1}, {"l"}) == "xx.xx"
    assert done({**WHOLE, "look:l": {**LOOK, "lines": []}}, {1}, set()) == "xxx.."
