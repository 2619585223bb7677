"""Drives through the public API: made about what is stored, merged, refused with what would be right, taken away."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import start


@pytest.fixture
def at(app: RunningApp, show: str) -> str:
    """The address of a line of Slats."""
    api, ids = app.api(), [str(uuid4()) for _ in range(6)]
    api.call("POST", "/api/fixtures", {"text": "3 x RGB lamp, from 1, Lamp {n}", "ids": ids[:3]})
    weave = {"selection": "all", "width": 3, "height": 1}
    api.call("POST", "/api/matrices", {"id": ids[3], "name": "Row", "width": 3, "height": 1, "weave": weave})
    line = {"id": ids[4], "paints": "effect", "effect": "Slats", "matrix": ids[3], "params": {"width": 40}}
    api.call("POST", "/api/looks", {"id": ids[5], "name": "L", "lines": [line]})
    return f"/api/looks/{ids[5]}/lines/{ids[4]}"


def drives(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")["looks"][0]["lines"][0]["drives"]
    return found


def test_a_drive_begins_about_what_is_stored_and_is_changed_field_by_field(app: RunningApp, at: str) -> None:
    api = app.api()
    assert drives(app) == {}
    api.call("PATCH", at, {"drives": {"params.width": {}}})
    begun = drives(app)["params.width"]
    assert (begun["wave"], begun["low"], begun["high"]) == ("sine", 16.0, 64.0)  # 40, 24 each way
    api.call("PATCH", at, {"drives": {"params.width": {"period": "2 bars", "over": "row"}, "opacity": {"low": 0.25}}})
    changed = drives(app)
    assert changed["params.width"] == {**begun, "period": {"value": 8.0, "unit": "beat"}, "over": "row"}
    assert (changed["opacity"]["low"], changed["opacity"]["high"]) == (0.25, 1.0)
    api.call("PATCH", at, {"drives": {"opacity": None}})
    assert set(drives(app)) == {"params.width"}
    api.call("PATCH", at, {"effect": "Grade"})
    assert drives(app) == {}  # Grade has no width
    api.call("POST", "/api/undo")
    assert set(drives(app)) == {"params.width"}


@pytest.mark.parametrize(
    ("given", "says"),
    [
        ({"params.width": {"high": 140.0}}, "A drive of width to 140 leaves 1 to 100"),
        ({"params.depth": {}}, "No drive can move 'params.depth' of this line"),
        ({"params.angle": {"over": "row"}}, "angle is one number for all cells"),
        ({"params.width": {"period": "soon"}}, "'soon' is no speed"),
        ({"params.width": {"period": "100 %"}}, "A drive takes seconds or beats"),
        ({"params.width": {"wave": "wobble"}}, "wave"),
        ({"params.width": {"points": [[0.5, 0], [0.2, 1]]}}, "in order of their places"),
        ({"speed": {"wave": "drift"}}, "A speed is driven by a wave or the beat"),
        ({"speed": {"period": "8 beats"}}, "This line runs by seconds: its speed is driven by them too"),
        ({"params.width": {"phase": 2}}, "phase"),
        ({"opacity": {"high": 1.5}}, "A drive of opacity to 1.5 leaves 0 to 1"),
    ],
)
def test_what_no_drive_can_do_is_refused_and_changes_nothing(
    app: RunningApp, at: str, given: dict[str, Any], says: str
) -> None:
    with pytest.raises(HeliographError, match=says):
        app.api().call("PATCH", at, {"drives": given})
    assert drives(app) == {}


def test_why_says_that_a_number_is_driven(app: RunningApp, at: str) -> None:
    api = app.api()
    api.call("PATCH", at, {"params": {"spacing": 200, "width": 100, "edge": 0}, "drives": {"opacity": {"low": 0.5}}})
    look = api.call("GET", "/api/show")["looks"][0]["id"]
    start(app, look)
    output = {"id": str(uuid4()), "name": "O", "protocol": "artnet", "mode": "unicast", "card": app.card}
    api.call(
        "POST",
        "/api/outputs",
        {**output, "destination": app.card, "first_universe": 1, "count": 1, "first_number": 0},
    )

    def said() -> str:
        try:
            return str(api.call("GET", "/api/why/1/1"))
        except HeliographError:  # the preview has not seen the universe yet
            return ""

    wait_for(lambda: "opacity driven" in said(), 8, "why does not say it")


def test_a_chart_of_a_drive_is_drawn_for_the_screens(app: RunningApp, at: str) -> None:
    api = app.api()
    body = {"source": "curve", "points": [[0, 0], [0.5, 1], [1, 0]], "period": "4 s", "low": 20, "high": 60}
    api.call("PATCH", at, {"drives": {"params.width": body, "shift": {"over": "distance"}, "speed": {}, "cycle": {}}})
    chart = api.call("GET", f"{at}/drives/params.width")
    assert (chart["length"], chart["lowest"], chart["highest"]) == ({"value": 4.0, "unit": "s"}, 20.0, 60.0)
    assert chart["asked"] == chart["reached"]
    assert api.call("GET", f"{at}/drives/opacity") is None  # taken away while a page asked for it


def test_a_drive_is_copied_to_another_number_by_one_command(app: RunningApp, at: str) -> None:
    api = app.api()
    api.call("PATCH", at, {"drives": {"params.width": {"low": 1, "high": 50.5, "over": "row", "rise": 0.5}}})
    api.call("POST", f"{at}/drives/params.width/copy", {"to": "opacity"})
    first, copied = (drives(app)[name] for name in ("params.width", "opacity"))
    assert copied == {**first, "low": 0.0, "high": 0.5, "over": ""}  # as far along 0 to 1 as along 1 to 100
    api.call("POST", "/api/undo")
    assert set(drives(app)) == {"params.width"}
    for name, to, says in (("opacity", "shift", "Nothing drives that"), ("params.width", "hue", "No drive can move")):
        with pytest.raises(HeliographError, match=says):
            api.call("POST", f"{at}/drives/{name}/copy", {"to": to})


def test_a_colour_goes_over_time_and_its_ribbon_is_drawn_out(app: RunningApp, at: str) -> None:
    api = app.api()

    def stored() -> dict[str, Any]:
        return dict(api.call("GET", "/api/show")["looks"][0]["lines"][0]["ribbons"])

    api.call("PATCH", at, {"ribbons": {"0": {}}})
    begun = stored()["0"]
    assert (len(begun["knots"]), begun["length"]) == (3, {"value": 8.0, "unit": "s"})
    api.call("PATCH", at, {"ribbons": {"0": {"threads": {"red": [[2, 50]]}}}})
    api.call("PATCH", at, {"ribbons": {"0": {"length": "4 s", "turns": True}}})
    drawn = stored()["0"]
    assert [knot[0] for knot in drawn["knots"]] == [0, 2, 4]
    assert (drawn["threads"], drawn["turns"]) == ({"red": [[1, 50]]}, True)
    chart = api.call("GET", f"{at}/ribbons/0")
    assert len(chart["colours"]) == len(chart["light"]) == 161
    for given, says in (
        ({"7": {}}, "The ramp has no colour 8"),
        ({"0": {"knots": [[9, 1, 1, 1, False]]}}, "lies outside the ribbon's 4"),
    ):
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", at, {"ribbons": given})
    api.call("PATCH", at, {"ribbons": {"0": None}})
    assert stored() == {}
    api.call("POST", "/api/undo")
    assert stored()["0"] == drawn


@pytest.mark.slow
def test_charts_asked_by_many_at_once_give_their_connections_back(app: RunningApp, at: str) -> None:
    """More readers than there are connections, again and again: an edit is still taken afterwards."""
    api = app.api()
    api.call("PATCH", at, {"drives": {"opacity": {}}, "ribbons": {"0": {}}})
    look = at.split("/")[3]
    paths = (f"{at}/drives/opacity", f"{at}/ribbons/0", f"/api/looks/{look}/flashes")

    def read(number: int) -> object:
        return app.api().call("GET", paths[number % len(paths)])

    with ThreadPoolExecutor(40) as many:
        assert all(list(many.map(read, range(240))))
    api.call("PATCH", at, {"opacity": 0.5})
