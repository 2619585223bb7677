"""Masks, components and recolouring through the public API: refused with what would be right, kept and let go of."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from heliograph.core.show.references import renamed
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import light_wall
from tests.moves import move


@pytest.fixture
def look(app: RunningApp, show: str) -> str:
    return light_wall(app, "127.0.78.7", [[0, 20, 60, 90]])["look"]


def lines(app: RunningApp) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = app.api().call("GET", "/api/show")["looks"][0]["lines"]
    return found


def add(app: RunningApp, look: str, **fields: Any) -> str:
    key = str(uuid4())
    line = {"id": key, "paints": "effect", "effect": "Glints", "matrix": lines(app)[0]["matrix"], **fields}
    app.api().call("POST", f"/api/looks/{look}/lines", line)
    return key


def test_a_line_is_painted_through_another_until_that_is_deleted(app: RunningApp, look: str) -> None:
    api = app.api()
    mask = add(app, look, stencil=True)
    top = add(app, look, effect="Flat", through={"line": mask, "by": "cover"}, only="hue")
    at = f"/api/looks/{look}/lines/{top}"
    assert lines(app)[2]["through"] == {"line": mask, "by": "cover", "inverse": False}
    assert (lines(app)[1]["stencil"], lines(app)[2]["only"]) == (True, "hue")
    api.call("PATCH", at, {"region": {"squares": [[0, 0, 2, 2]]}})
    api.call("PATCH", at, {"region": "none", "only": ""})
    assert (lines(app)[2]["region"], lines(app)[2]["only"]) == (None, "")
    for key, says in (
        (top, "A line is not painted through itself"),
        (str(uuid4()), "The line to paint through is not in this look"),
    ):
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", at, {"through": {"line": key}})
    with pytest.raises(HeliographError, match="not one of a matrix"):
        api.call("PATCH", at, {"region": {"squares": [[-1, 0, 2, 2]]}})
    api.call("DELETE", f"/api/looks/{look}/lines/{mask}")
    assert lines(app)[1]["through"] is None
    api.call("POST", "/api/undo")
    assert lines(app)[2]["through"]["line"] == mask


def test_what_recolours_has_parameters_of_its_own(app: RunningApp, look: str) -> None:
    api = app.api()
    key = str(uuid4())
    given = {"id": key, "paints": "recolour", "matrix": lines(app)[0]["matrix"], "params": {"turn": 30}}
    api.call("POST", f"/api/looks/{look}/lines", given)
    at = f"/api/looks/{look}/lines/{key}"
    api.call("PATCH", at, {"drives": {"params.turn": {"over": "row"}}})
    assert (lines(app)[1]["params"], len(lines(app)[1]["ramp"])) == ({"turn": 30}, 2)
    names = {one["name"] for one in api.call("GET", "/api/recolouring")}
    assert names == {"onto", "turn", "saturation", "black", "white"}
    for given, says in (
        ({"params": {"turn": 200}}, "turn 200.0 is outside -180 to 180 degrees"),
        ({"params": {"scale": 2}}, "A line that recolours has no parameter 'scale'"),
        ({"speed": "4 s"}, "A line that recolours has no speed"),
        ({"effect": "Flat"}, "A line that recolours has no effect"),
    ):
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", at, given)
    handle = f"look/{look}/{key}/turn"
    wait_for(lambda: handle in str(api.call("GET", "/api/handles?words=turn")), 5, "it is no handle")
    app.engine().ask(move(handle, 120))
    app.engine().ask({"do": "release"})


def test_a_copied_look_is_painted_through_its_own_lines() -> None:
    lines = [{"id": "m", "matrix": "x"}, {"id": "a", "matrix": "x", "through": {"line": "m", "by": "light"}}]
    found = renamed("look", {"lines": lines, "name": "L"}, lambda key: f"new {key}")["lines"]
    assert (found[0]["id"], found[1]["through"]) == ("new m", {"line": "new m", "by": "light"})
