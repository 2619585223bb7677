"""Test walks: what is lit is what the node shows, everything is as before afterwards, and six faults are found.

The person who walks is played by the test: it looks at the simulated node's lamps, which know nothing of the show.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import Node, RunningApp, wait_for
from tests.live.quay import LETTERS, PIXELS, STRIPS, Quay, build_quay, quay_hang
from tests.moves import move

PLACE = tuple[int, int]


@pytest.fixture
def quay(app: RunningApp, node: Callable[..., Node]) -> Quay:
    return build_quay(app, node("127.0.71.1", quay_hang()))


def call(quay: Quay, method: str, path: str, body: Any = None) -> Any:
    return quay.app.api().call(method, f"/api/{path}", body)


def walk(quay: Quay, **how: Any) -> dict[str, Any]:
    """Begins a walk, by hand."""
    found: dict[str, Any] = call(quay, "POST", "walk", {"by": "cell", **how})
    return found


def marked(quay: Quay, kind: str, **more: Any) -> None:
    call(quay, "POST", "marks", {"kind": kind, **more})


def home(quay: Quay, fixture: str, cell: int) -> PLACE:
    """Where a cell hangs in the true rig, by the hang list; lamps are below the wall."""
    number = quay.number_of(fixture) - 1
    if number >= 20:
        return number - 20, 11
    return number, PIXELS - cell if number % 2 == 0 else cell - 1


def cell_at(quay: Quay, place: PLACE) -> dict[str, Any]:
    """The cell that the plan of the rig has at a place."""
    x, y = place
    number = x + 1 if y < 11 else x + 21
    fixture = next(one["id"] for one in quay.show()["fixtures"] if one["number"] == number)
    cell = 1 if y >= 11 else PIXELS - y if x % 2 == 0 else y + 1
    return {"fixture": fixture, "cell": cell}


def look_and_mark(quay: Quay, matrix: str) -> list[dict[str, Any]]:
    """Walks over a matrix cell by cell and marks what is seen; returns what it comes to."""
    view = walk(quay, matrix=matrix)
    for step in range(view["count"]):
        view = call(quay, "POST", "walk/go", {"to": step})
        at = view["cells"][0]
        seen = quay.lit()
        wanted = home(quay, at["fixture"], at["cell"])
        if not seen:
            marked(quay, "dark")
        elif wanted in seen:
            marked(quay, "good")
        else:
            marked(quay, "wrong place", seen=cell_at(quay, next(iter(seen))))
    call(quay, "DELETE", "walk")
    found: list[dict[str, Any]] = call(quay, "GET", "findings")
    return found


def colours_of(quay: Quay, fixture: str, cell: int) -> dict[str, list[str]]:
    """Lights a lamp in one emitter after another and names what it shows."""
    call(quay, "POST", "walk/go", {"fixture": fixture, "cell": cell})
    place, answers = home(quay, fixture, cell), {}
    for emitter in LETTERS:
        call(quay, "PATCH", "walk", {"emitter": emitter})
        rgb = quay.lit().get(place, [0, 0, 0])
        answers[emitter] = [name for name, n in LETTERS.items() if rgb[n] >= 64]
    call(quay, "PATCH", "walk", {"emitter": ""})
    return answers


def repair(quay: Quay, finding: dict[str, Any], says: str) -> None:
    label = next(one["label"] for one in finding["repairs"] if says in one["label"])
    call(quay, "POST", "findings/repair", {"key": finding["key"], "label": label})


def is_as_before(quay: Quay, before: list[int]) -> None:
    wait_for(lambda: quay.picture() == before, 8, "the picture is not the intended one")


def test_a_walk_lights_one_thing_and_leaves_all_as_it_was(quay: Quay) -> None:
    before = quay.picture()
    engine = quay.app.engine()
    engine.ask(move("master", 0.3))
    engine.ask({"do": "manual", "values": {f"{quay.show()['fixtures'][0]['id']}/1": 200}})
    dimmed = quay.picture()
    view = walk(quay, matrix=quay.matrix)
    assert (view["count"], view["label"], view["place"]) == (80, "1:1", "U5.1")
    assert quay.lit() == {(0, 9): [255, 255, 255]}
    call(quay, "PATCH", "walk", {"level": 0.5, "emitter": "ColorAdd_G"})
    assert quay.lit() == {(0, 9): [0, 128, 0]}
    call(quay, "POST", "walk/go", {"by": 10})
    assert quay.lit() == {(1, 0): [0, 128, 0]}
    around = call(quay, "PATCH", "walk", {"alone": False, "level": 1.0})
    assert around["label"] == "2:1"
    assert len(quay.lit()) == 84
    assert quay.lit()[1, 0] == [0, 255, 0]
    call(quay, "DELETE", "walk")
    is_as_before(quay, dimmed)
    engine.ask({"do": "release"})
    engine.ask(move("master", 1.0))
    is_as_before(quay, before)


@pytest.mark.parametrize(
    ("by", "steps", "lit"),
    [("fixture", 8, 10), ("row", 10, 8), ("column", 8, 10), ("universe", 2, 40), ("all", 1, 80), ("emitter", 3, 80)],
)
def test_each_way_lights_what_it_says(quay: Quay, by: str, steps: int, lit: int) -> None:
    view = walk(quay, by=by, matrix=quay.matrix)
    assert view["count"] == steps
    covered = set(quay.lit())
    assert len(covered) == lit
    for _ in range(steps - 1):
        call(quay, "POST", "walk/go", {"by": 1})
        covered |= set(quay.lit())
    assert len(covered) == STRIPS * PIXELS
    call(quay, "DELETE", "walk")


def test_numbers_lines_and_addresses(quay: Quay) -> None:
    walk(quay, by="number", matrix=quay.matrix)
    call(quay, "POST", "walk/go", {"to": 7})
    seven = {(x, y) for x in range(1, 7) for y in range(2)} | {(x, y) for x in (5, 6) for y in range(10)}
    assert set(quay.lit()) == seven  # 3 x 5, drawn twice as large in the middle of 8 x 10
    view = walk(quay, by="line", matrix=quay.matrix)
    assert view["count"] == 18
    assert set(quay.lit()) == {(0, y) for y in range(10)}
    with pytest.raises(HeliographError, match="needs 3 x 5 squares; here are 4 x 1"):
        walk(quay, by="number", matrix=quay.lamps)
    view = walk(quay, by="address", universe=7)
    assert (view["count"], view["label"]) == (512, "U7.1")
    assert quay.lit() == {}  # a dimmer alone
    call(quay, "POST", "walk/go", {"to": 2})
    assert quay.lit() == {(0, 11): [0, 255, 0]}  # and a colour with the dimmer above it
    call(quay, "DELETE", "walk")


def test_a_timed_walk_goes_by_itself_and_holds(quay: Quay) -> None:
    walk(quay, by="fixture", matrix=quay.matrix, seconds=0.2)
    wait_for(lambda: call(quay, "GET", "walk")["index"] >= 3, 5, "it does not go on")
    call(quay, "PATCH", "walk", {"hold": True})
    held = call(quay, "GET", "walk")
    with pytest.raises(HeliographError, match=r"too short: 0.05 s is the least"):
        call(quay, "PATCH", "walk", {"seconds": 0.01})
    assert call(quay, "GET", "walk")["index"] == held["index"]
    call(quay, "DELETE", "walk")


def test_a_selection_without_a_matrix_is_a_line(quay: Quay) -> None:
    view = walk(quay, by="column", selection="2 - 2:6-10")
    assert view["count"] == 5
    assert set(quay.lit()) == {(1, 0)}
    call(quay, "DELETE", "walk")


def test_blackout_is_above_a_walk_and_said(quay: Quay) -> None:
    walk(quay, by="all", matrix=quay.matrix)
    quay.app.engine().ask(move("blackout", True))
    wait_for(lambda: quay.lit() == {}, 5, "blackout does not reach it")
    assert call(quay, "GET", "walk")["blackout"]
    quay.app.engine().ask(move("blackout", False))
    call(quay, "DELETE", "walk")


def test_two_exchanged_strips(quay: Quay) -> None:
    before = quay.picture()
    quay.node.faults({"fault": "exchanged", "runs": [3, 4]})
    assert quay.picture() != before
    findings = look_and_mark(quay, quay.matrix)
    assert [one["sentence"] for one in findings] == ["3 and 4 are exchanged."]
    doctor = call(quay, "GET", "patch/doctor")
    assert ("seen on a walk", "3 and 4 are exchanged.") in [(one["kind"], one["sentence"]) for one in doctor]
    repair(quay, findings[0], "Exchange the addresses of 3 and 4")
    is_as_before(quay, before)
    assert all(mark["kind"] == "good" for mark in quay.show()["marks"])
    quay.app.api().call("POST", "/api/undo")
    assert call(quay, "GET", "findings") == findings


def test_a_reversed_strip(quay: Quay) -> None:
    before = quay.picture()
    quay.node.faults({"fault": "reversed", "run": 5})
    findings = look_and_mark(quay, quay.matrix)
    assert [one["sentence"] for one in findings] == ["5 runs the other way round: 5:1 lit at 5:10."]
    repair(quay, findings[0], "Turn 5 round on every matrix")
    is_as_before(quay, before)


def test_another_order_of_colours(quay: Quay) -> None:
    before = quay.picture()
    quay.node.faults({"fault": "order", "run": 6, "order": "GRB"})
    walk(quay, by="fixture", matrix=quay.matrix)
    strip = next(one["id"] for one in quay.show()["fixtures"] if one["number"] == 6)
    marked(quay, "wrong colour", cells=[[strip, 0]], seen=colours_of(quay, strip, 1))
    call(quay, "DELETE", "walk")
    findings = call(quay, "GET", "findings")
    assert [one["sentence"] for one in findings] == ["6: red shows green; green shows red; blue shows blue."]
    repair(quay, findings[0], "Its order is green, red, blue")
    is_as_before(quay, before)
    assert next(one["mode"] for one in quay.show()["fixtures"] if one["number"] == 6) == "10 RGB, green red blue"


def test_a_universe_that_is_off_by_one(quay: Quay) -> None:
    before = quay.picture()
    quay.node.faults({"fault": "universe", "by": 1})
    findings = look_and_mark(quay, quay.matrix)
    assert len(findings) == 1, [one["sentence"] for one in findings]
    assert findings[0]["sentence"].startswith("To the quay is off by 1: 5:1, 5:2, 5:3 and 37 more lit in lamps")
    assert "40 more stayed dark" in findings[0]["sentence"]
    repair(quay, findings[0], "Send from")
    wait_for(lambda: quay.show()["outputs"][0]["first_number"] == 5)
    is_as_before(quay, before)


def test_a_dead_pixel_and_what_is_behind_it(quay: Quay) -> None:
    before = quay.picture()
    quay.node.faults({"fault": "dead", "run": 2, "pixel": 7})
    findings = look_and_mark(quay, quay.matrix)
    assert [one["sentence"] for one in findings] == [
        "2 is dark from 2:7 on: the data line ends there. Look at 2:6 and 2:7."
    ]
    quay.node.faults()  # somebody mended it
    repair(quay, findings[0], "It is mended")
    assert look_and_mark(quay, quay.matrix) == []
    is_as_before(quay, before)


def test_a_lamp_in_another_mode(quay: Quay) -> None:
    before = quay.picture()
    quay.node.faults({"fault": "mode", "run": 11, "order": "RGBD"})
    walk(quay, by="fixture", matrix=quay.lamps)
    lamp = next(one["id"] for one in quay.show()["fixtures"] if one["number"] == 23)
    marked(quay, "wrong colour", cells=[[lamp, 1]], seen=colours_of(quay, lamp, 1))
    call(quay, "DELETE", "walk")
    findings = call(quay, "GET", "findings")
    assert findings[0]["sentence"] == "23:1: red shows nothing; green shows nothing; blue shows red."
    repair(quay, findings[0], "It is set to 4 ch dimmer last")
    is_as_before(quay, before)


def test_marks_that_cannot_be_are_refused(quay: Quay) -> None:
    walk(quay, matrix=quay.matrix)
    for body, says in (
        ({"kind": "wrong colour", "seen": {"ColorAdd_A": ["ColorAdd_R"]}}, "'ColorAdd_A' is no emitter"),
        ({"kind": "wrong place", "seen": {"fixture": "x"}}, "is a cell"),
        ({"kind": "good", "seen": {"fixture": "x", "cell": 1}}, "needs no word"),
        ({"kind": "dark", "cells": []}, "nothing here to mark"),
    ):
        with pytest.raises(HeliographError, match=says):
            call(quay, "POST", "marks", body)
    first = quay.show()["fixtures"][0]["id"]
    marked(quay, "good", cells=[[first, 1], [first, 1]])
    assert len(quay.show()["marks"]) == 1
    marked(quay, "dark", onward=True)
    assert [mark["cell"] for mark in quay.show()["marks"]] == list(range(1, 11))
    call(quay, "DELETE", "marks")
    assert quay.show()["marks"] == []
    quay.app.api().call("POST", "/api/undo")
    assert len(quay.show()["marks"]) == 10
    call(quay, "DELETE", "walk")


def test_a_walk_goes_on_after_the_engine_was_started_anew(quay: Quay) -> None:
    walk(quay, matrix=quay.matrix)
    call(quay, "POST", "walk/go", {"to": 3})
    assert set(quay.lit()) == {(0, 6)}
    quay.app.kill("engine")

    def back() -> bool:
        try:
            call(quay, "GET", "walk")
            return set(quay.lit()) == {(0, 6)}
        except HeliographError:  # it is being started again
            return False

    wait_for(back, 20, "the walk is not lit again")
    call(quay, "DELETE", "walk")


def test_a_walk_ends_with_the_web_process_that_led_it(quay: Quay) -> None:
    before = quay.picture()
    walk(quay, matrix=quay.matrix)
    assert len(quay.lit()) == 1
    quay.app.kill("web")
    wait_for(lambda: quay.node.picture() == before, 20, "the lamps stay as the walk left them")
