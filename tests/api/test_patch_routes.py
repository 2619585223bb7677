"""Automatic addressing, exchanging places and the doctor through the public API; groups, ramps, colour."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from heliograph.demo.client import ApiClient
from tests.conftest import RunningApp, wait_for
from tests.moves import group_master


def add(api: ApiClient, text: str, count: int) -> list[str]:
    keys = [str(uuid4()) for _ in range(count)]
    api.call("POST", "/api/fixtures", {"text": text, "ids": keys})
    return keys


def addresses(api: ApiClient) -> dict[int, str]:
    return {f["number"]: f["address"] for f in api.call("GET", "/api/show")["fixtures"]}


def test_a_plan_changes_nothing_and_its_doing_is_one_edit(app: RunningApp, show: str) -> None:
    api = app.api()
    add(api, "4 x RGB lamp, from 1, Lamp {n}, at U3.7", 4)
    add(api, "1 x RGB pixel strip, mode 170 RGB, from 9, at U1.1", 1)
    before = addresses(api)
    body = {"selection": "1-4", "scheme": "no split fixture", "order": "number", "start": "U1.1"}
    plan = api.call("POST", "/api/patch/plan", body)
    assert [(one["before"], one["address"], one["end"]) for one in plan["moves"]] == [
        ("U3.7", "U2.1", "U2.3"),  # the strip keeps U1; two channels are left there, a lamp takes three
        ("U3.10", "U2.4", "U2.6"),
        ("U3.13", "U2.7", "U2.9"),
        ("U3.16", "U2.10", "U2.12"),
    ]
    assert (plan["changed"], plan["universes"], addresses(api)) == (4, 1, before)
    api.call("POST", "/api/patch/apply", body)
    assert addresses(api) == {1: "U2.1", 2: "U2.4", 3: "U2.7", 4: "U2.10", 9: "U1.1"}
    assert api.call("POST", "/api/undo")["label"] == "Addressed fixtures"
    assert addresses(api) == before


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"selection": "500"}, "There is no fixture 500"),
        ({"start": "U1.513"}, "a universe has channels 1 to 512"),
        ({"start": "U63999.511"}, "past universe 63999"),
    ],
)
def test_a_plan_that_cannot_be_says_why(app: RunningApp, show: str, change: dict[str, str], says: str) -> None:
    api = app.api()
    add(api, "2 x RGB lamp, from 1", 2)
    plan = api.call("POST", "/api/patch/plan", change)
    assert says in plan["problem"]
    with pytest.raises(HeliographError, match=says):
        api.call("POST", "/api/patch/apply", change)
    assert addresses(api) == {1: "U1.1", 2: "U1.4"}


def test_two_fixtures_change_places_where_both_fit(app: RunningApp, show: str) -> None:
    api = app.api()
    a, b = add(api, "2 x RGB lamp, from 1, at U1.509", 2)
    [strip] = add(api, "1 x RGB pixel strip, mode 16 RGB, from 3, at U5.1", 1)
    assert addresses(api) == {1: "U1.509", 2: "U2.1", 3: "U5.1"}
    api.call("POST", "/api/patch/exchange", {"a": a, "b": b})
    assert addresses(api) == {1: "U2.1", 2: "U1.509", 3: "U5.1"}
    with pytest.raises(HeliographError, match=r"U1.509 \+ 48 channels ends at 556"):
        api.call("POST", "/api/patch/exchange", {"a": b, "b": strip})
    assert addresses(api) == {1: "U2.1", 2: "U1.509", 3: "U5.1"}


def kinds(api: ApiClient) -> list[str]:
    return [one["kind"] for one in api.call("GET", "/api/patch/doctor")]


def test_each_repair_of_the_doctor_is_an_edit_that_mends(app: RunningApp, show: str) -> None:
    api = app.api()
    a, b = add(api, "2 x RGB lamp, from 1, at U1.1", 2)
    api.call("PATCH", f"/api/fixtures/{b}", {"address": "U1.2"})
    output: dict[str, Any] = {"id": str(uuid4()), "name": "Out", "protocol": "sacn", "mode": "multicast"}
    api.call("POST", "/api/outputs", {**output, "first_number": 1, "card": app.card, "on": False})
    assert sorted(kinds(api)) == ["not sent", "overlap"]
    for _ in range(2):
        repair = api.call("GET", "/api/patch/doctor")[0]["repair"]
        api.call("PATCH", f"/api/{repair['table']}s/{repair['id']}", repair["change"])
    assert kinds(api) == []
    assert addresses(api) == {1: "U1.1", 2: "U1.5"}
    assert api.call("GET", "/api/show")["outputs"][0]["on"] is True
    assert a != b


def test_deleting_a_saved_ramp_leaves_its_colours_with_the_lines(app: RunningApp, show: str) -> None:
    api = app.api()
    matrix, ramp, look, key = (str(uuid4()) for _ in range(4))
    api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 2, "height": 2})
    stops = [[0.0, 6, 18, 46], [1.0, 255, 206, 128]]
    api.call("POST", "/api/ramps", {"id": ramp, "name": "dusk", "stops": stops})
    line = {"id": key, "paints": "effect", "effect": "Mist", "matrix": matrix, "saved_ramp": ramp}
    api.call("POST", "/api/looks", {"id": look, "name": "L", "lines": [line]})
    assert api.call("GET", "/api/show")["ramps"][0]["used_by"] == 1
    api.call("DELETE", f"/api/ramps/{ramp}")
    [kept] = api.call("GET", "/api/show")["looks"][0]["lines"]
    assert (kept["saved_ramp"], kept["ramp"]) == ("", stops)
    api.call("POST", "/api/undo")
    [back] = api.call("GET", "/api/show")["looks"][0]["lines"]
    assert back["saved_ramp"] == ramp


@pytest.mark.parametrize(
    ("path", "body", "says"),
    [
        ("/api/ramps", {"name": "x", "stops": [[0.6, 0, 0, 0], [0.5, 0, 0, 0]]}, "in order of their places"),
        ("/api/ramps", {"name": "x", "stops": [[0, 0, 0, 256]]}, "blue 256 is outside 0 to 255"),
        ("/api/ramps", {"name": "x", "stops": []}, "stops"),
        ("/api/groups", {"name": "x", "selection": "7-9"}, "There is no fixture 7-9"),
        ("/api/groups", {"name": "x", "selection": ""}, "A group has at least one fixture"),
        ("/api/groups", {"name": "", "selection": "all"}, "name"),
    ],
)
def test_ramps_and_groups_that_cannot_be(
    app: RunningApp, show: str, path: str, body: dict[str, Any], says: str
) -> None:
    api = app.api()
    add(api, "2 x RGB lamp, from 1", 2)
    with pytest.raises(HeliographError, match=says):
        api.call("POST", path, {"id": str(uuid4()), **body})
    shown = api.call("GET", "/api/show")
    assert (shown["ramps"], shown["groups"]) == ([], [])


def test_a_groups_master_reaches_the_engine_and_only_known_groups_have_one(app: RunningApp, show: str) -> None:
    api = app.api()
    add(api, "2 x RGB lamp, from 1", 2)
    group = str(uuid4())
    api.call("POST", "/api/groups", {"id": group, "name": "Pier", "selection": "2"})

    def moved() -> bool:
        try:
            state = api.call("POST", "/api/engine", group_master(group, 0.5))["state"]
        except HeliographError:  # the show is on its way to the engine
            return False
        return bool(state["masters"] == {group: 0.5})

    wait_for(moved, 5, "the master did not reach the engine")
    for level, name, says in ((0.5, str(uuid4()), "not in the running show"), (1.5, group, "outside 0 to 100 %")):
        with pytest.raises(HeliographError, match=says):
            api.call("POST", "/api/engine", group_master(name, level))


def test_how_fixtures_make_colour_is_one_edit_for_all_of_them(app: RunningApp, show: str) -> None:
    api = app.api()
    keys = add(api, "3 x RGBW lamp, from 1", 3)
    api.call("POST", "/api/fixtures/colour", {"ids": keys[:2], "extra": "match", "response": "CIE lightness"})
    found = [(f["extra"], f["response"]) for f in api.call("GET", "/api/show")["fixtures"]]
    assert found == [("match", "CIE lightness")] * 2 + [("replace", "as is")]
    api.call("POST", "/api/undo")
    assert {f["extra"] for f in api.call("GET", "/api/show")["fixtures"]} == {"replace"}
    with pytest.raises(HeliographError, match="extra"):
        api.call("POST", "/api/fixtures/colour", {"ids": keys, "extra": "bleach"})
