"""Editing through the public API: undo and redo, conflicts, persons."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from heliograph.demo.client import ApiClient
from tests.conftest import RunningApp

WEAVE = {"selection": "all", "width": 6, "height": 3, "corner": "top left", "along": "rows", "snake": False}


def ids(count: int) -> list[str]:
    return [str(uuid4()) for _ in range(count)]


def whole(api: ApiClient) -> dict[str, Any]:
    """The show without what counts on with every edit."""
    show = api.call("GET", "/api/show")
    plain = {k: show[k] for k in ("fixtures", "matrices", "looks", "outputs", "profiles", "clips", "ramps", "groups")}
    for rows in plain.values():
        for row in rows:
            row.pop("rev")
    return plain


def edits(api: ApiClient) -> list[tuple[str, str, dict[str, Any] | None]]:
    """One of everything: (method, path, body)."""
    matrix, look, line, output, ramp, group = (str(uuid4()) for _ in range(6))
    lamps = ids(18)
    return [
        ("POST", "/api/fixtures", {"text": "18 x RGBW lamp, from 1, Lamp {n}, at U1.1", "ids": lamps}),
        ("POST", "/api/fixtures/colour", {"ids": lamps[:4], "extra": "match", "response": "gamma 2.2"}),
        ("POST", "/api/groups", {"id": group, "name": "Front", "selection": "1-8 every 2nd"}),
        ("PATCH", f"/api/groups/{group}", {"name": "Odd", "selection": "1-15 every 2nd"}),
        ("POST", "/api/fixtures/delete", {"ids": lamps[14:15]}),
        ("POST", "/api/ramps", {"id": ramp, "name": "dusk", "stops": [[0, 6, 18, 46], [1, 255, 206, 128]]}),
        ("PATCH", f"/api/ramps/{ramp}", {"stops": [[0.5, 1, 2, 3]]}),
        ("POST", "/api/matrices", {"id": matrix, "name": "Wall", "width": 6, "height": 3, "weave": WEAVE}),
        ("POST", f"/api/matrices/{matrix}/exchange", {"a": [0, 0], "b": [5, 2]}),
        ("POST", f"/api/matrices/{matrix}/lift", {"squares": [[1, 1]]}),
        ("POST", "/api/looks", {"id": look, "name": "Dusk", "lines": []}),
        (
            "POST",
            f"/api/looks/{look}/lines",
            {"id": line, "paints": "effect", "effect": "Relay", "matrix": matrix},
        ),
        ("PATCH", f"/api/looks/{look}/lines/{line}", {"opacity": 0.5, "params": {"width": 3}}),
        ("PATCH", f"/api/looks/{look}/lines/{line}", {"saved_ramp": ramp, "blend": "multiply", "solo": True}),
        (
            "POST",
            f"/api/looks/{look}/lines?above={line}",
            {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": matrix},
        ),
        ("DELETE", f"/api/ramps/{ramp}", None),
        (
            "POST",
            "/api/outputs",
            {
                "id": output,
                "name": "Out",
                "protocol": "artnet",
                "mode": "unicast",
                "destination": "127.0.84.9",
                "card": "127.0.84.1",
                "on": False,
            },
        ),
        ("PATCH", f"/api/outputs/{output}", {"on": True}),
    ]


@pytest.mark.slow
def test_undo_all_the_way_back_and_redo(app: RunningApp, show: str) -> None:
    api = app.api()
    states = [whole(api)]
    for method, path, body in edits(api):
        api.call(method, path, body)
        states.append(whole(api))
    for state in reversed(states[:-1]):
        api.call("POST", "/api/undo")
        assert whole(api) == state
    with pytest.raises(HeliographError, match="nothing to undo"):
        api.call("POST", "/api/undo")
    for state in states[1:]:
        api.call("POST", "/api/redo")
        assert whole(api) == state
    with pytest.raises(HeliographError, match="nothing to redo"):
        api.call("POST", "/api/redo")


def test_a_new_edit_ends_redo(app: RunningApp, show: str) -> None:
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "RGB lamp", "ids": ids(1)})
    api.call("POST", "/api/undo")
    api.call("POST", "/api/fixtures", {"text": "2 x RGB lamp", "ids": ids(2)})
    assert api.call("GET", "/api/show")["redo"] == ""


def test_undo_is_per_person_and_refuses_what_others_built_on(app: RunningApp, show: str) -> None:
    skua, gannet = app.api("skua", "Skua"), app.api("gannet", "Gannet")
    (lamp,) = ids(1)
    skua.call("POST", "/api/fixtures", {"text": "RGB lamp, Lamp", "ids": [lamp]})
    with pytest.raises(HeliographError, match="nothing to undo"):
        gannet.call("POST", "/api/undo")
    skua.call("PATCH", f"/api/fixtures/{lamp}", {"name": "Porch"})
    gannet.call("PATCH", f"/api/fixtures/{lamp}", {"name": "Gate"})
    with pytest.raises(HeliographError, match="Gannet has changed it since"):
        skua.call("POST", "/api/undo")
    gannet.call("POST", "/api/undo")
    assert skua.call("POST", "/api/undo")["label"] == "Changed name of a fixture"
    assert skua.call("GET", "/api/show")["fixtures"][0]["name"] == "Lamp 1"


def test_a_stale_writer_is_told_who_changed_what(app: RunningApp, show: str) -> None:
    skua, gannet = app.api("skua", "Skua"), app.api("gannet", "Gannet")
    (lamp,) = ids(1)
    skua.call("POST", "/api/fixtures", {"text": "RGB lamp, Lamp", "ids": [lamp]})
    seen = skua.call("GET", "/api/show")["fixtures"][0]["rev"]
    gannet.call("PATCH", f"/api/fixtures/{lamp}", {"name": "Gate", "rev": seen})
    with pytest.raises(HeliographError, match="Gannet changed name of this fixture meanwhile"):
        skua.call("PATCH", f"/api/fixtures/{lamp}", {"name": "Porch", "rev": seen})
    skua.call("PATCH", f"/api/fixtures/{lamp}", {"number": 7, "rev": seen})  # another field: no conflict
    fixture = skua.call("GET", "/api/show")["fixtures"][0]
    assert (fixture["name"], fixture["number"]) == ("Gate", 7)


def test_two_quick_changes_of_ones_own_are_no_conflict(app: RunningApp, show: str) -> None:
    api = app.api()
    [lamp] = ids(1)
    api.call("POST", "/api/fixtures", {"text": "1 x RGB lamp, from 1", "ids": [lamp]})
    seen = api.call("GET", "/api/show")["fixtures"][0]["rev"]
    for name in ("Porch", "Gate"):  # both with the revision that was seen before the first
        api.call("PATCH", f"/api/fixtures/{lamp}", {"name": name, "rev": seen})
    assert api.call("GET", "/api/show")["fixtures"][0]["name"] == "Gate"
    with pytest.raises(HeliographError, match="Tester changed name of this fixture meanwhile"):
        app.api("skua", "Skua").call("PATCH", f"/api/fixtures/{lamp}", {"name": "Roof", "rev": seen})


def test_two_people_at_two_lines(app: RunningApp, show: str) -> None:
    skua, gannet = app.api("skua", "Skua"), app.api("gannet", "Gannet")
    skua.call("POST", "/api/fixtures", {"text": "RGB lamp", "ids": ids(1)})
    matrix, look, a, b = ids(4)
    one = {**WEAVE, "width": 1, "height": 1}
    skua.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 1, "height": 1, "weave": one})
    lines = [{"id": key, "paints": "effect", "effect": "Flat", "matrix": matrix} for key in (a, b)]
    skua.call("POST", "/api/looks", {"id": look, "name": "L", "lines": lines})
    seen = skua.call("GET", "/api/show")["looks"][0]["rev"]
    gannet.call("PATCH", f"/api/looks/{look}/lines/{a}", {"opacity": 0.2, "rev": seen})
    skua.call("PATCH", f"/api/looks/{look}/lines/{b}", {"opacity": 0.4, "rev": seen})
    with pytest.raises(HeliographError, match="Gannet changed opacity"):
        skua.call("PATCH", f"/api/looks/{look}/lines/{a}", {"opacity": 0.9, "rev": seen})
    gannet.call("POST", "/api/undo")
    opacities = [line["opacity"] for line in skua.call("GET", "/api/show")["looks"][0]["lines"]]
    assert opacities == [1.0, 0.4]


def test_deleting_fixtures_takes_their_cells_along_and_undo_brings_both(app: RunningApp, show: str) -> None:
    api = app.api()
    lamps = ids(18)
    api.call("POST", "/api/fixtures", {"text": "18 x RGB lamp", "ids": lamps})
    matrix = str(uuid4())
    api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 6, "height": 3, "weave": WEAVE})
    before = whole(api)
    api.call("POST", "/api/fixtures/delete", {"ids": lamps[:3]})
    assert len(api.call("GET", "/api/show")["fixtures"]) == 15
    api.call("POST", "/api/undo")
    assert whole(api) == before


def test_numbers_can_be_exchanged_only_where_free(app: RunningApp, show: str) -> None:
    api = app.api()
    a, b = ids(2)
    api.call("POST", "/api/fixtures", {"text": "2 x RGB lamp, from 5", "ids": [a, b]})
    with pytest.raises(HeliographError, match="Fixture number 6 is taken"):
        api.call("PATCH", f"/api/fixtures/{a}", {"number": 6})
