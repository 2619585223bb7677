"""Lines over groups and typed selections without a matrix: on the wire, and whoever joins is painted too."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import start


def levels(app: RunningApp) -> list[int]:
    values: list[int] = app.api().call("GET", "/api/levels/1")["values"]
    return values


@pytest.fixture
def ids(app: RunningApp, show: str) -> dict[str, str]:
    """Six lamps sent to loopback, and a look with one line over the group of the first three."""
    api = app.api()
    ids = {name: str(uuid4()) for name in ("group", "look", "line", "output")}
    api.call("POST", "/api/fixtures", {"text": "6 x RGB lamp, from 1", "ids": [str(uuid4()) for _ in range(6)]})
    group = {"id": ids["group"], "name": "Quay", "selection": "1-3", "by_rule": True}
    api.call("POST", "/api/groups", group)
    line = {"id": ids["line"], "paints": "effect", "effect": "Flat", "group": ids["group"], "ramp": [[0, 90, 0, 0]]}
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "L", "lines": [line]})
    output = {"id": ids["output"], "name": "O", "protocol": "artnet", "mode": "unicast", "card": app.card}
    api.call("POST", "/api/outputs", {**output, "destination": "127.0.69.9"})
    start(app, ids["look"])
    return ids


def reds(app: RunningApp) -> list[int]:
    return levels(app)[0:18:3]


def test_a_line_over_a_group_paints_whoever_is_in_it(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    wait_for(lambda: reds(app) == [90, 90, 90, 0, 0, 0], 8, "the group is not painted")
    api.call("PATCH", f"/api/groups/{ids['group']}", {"selection": "1-5", "by_rule": True})
    wait_for(lambda: reds(app) == [90, 90, 90, 90, 90, 0], 8, "who joined is not painted")
    found: dict[str, Any] = api.call("GET", "/api/show")
    assert [(one["id"], one["name"], one["width"]) for one in found["canvases"]] == [(ids["group"], "Quay", 5)]
    assert found["looks"][0]["lines"][0]["canvas"] == ids["group"]
    with pytest.raises(HeliographError, match="L"):  # a look paints it
        api.call("DELETE", f"/api/groups/{ids['group']}")


def test_a_line_over_typed_words_goes_where_they_say(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    at = f"/api/looks/{ids['look']}/lines/{ids['line']}"
    api.call("PATCH", at, {"selection": "Quay & odd, 6"})
    wait_for(lambda: reds(app) == [90, 0, 90, 0, 0, 90], 8, "the selection is not painted")
    for given, says in (
        ({"selection": "nobody"}, "nobody"),
        ({"selection": "Quay : cyan"}, "not painted over 'cyan'"),
        ({"emitter": "mauve"}, "not painted over 'mauve'"),
        ({"group": str(uuid4())}, ""),
    ):
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", at, given)
    api.call("POST", "/api/undo")
    wait_for(lambda: reds(app) == [90, 90, 90, 0, 0, 0], 8, "it was not taken back")
    line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat"}
    with pytest.raises(HeliographError, match="over a matrix, a group or a selection"):
        api.call("POST", f"/api/looks/{ids['look']}/lines", line)


def test_a_copied_look_is_off_and_painted_through_its_own_lines(app: RunningApp, ids: dict[str, str]) -> None:
    api = app.api()
    top = {"id": str(uuid4()), "paints": "effect", "effect": "Mist", "group": ids["group"]}
    api.call("POST", f"/api/looks/{ids['look']}/lines", {**top, "through": {"line": ids["line"]}})
    api.call("POST", f"/api/looks/{ids['look']}/copy", {"id": str(uuid4())})
    first, copy = api.call("GET", "/api/show")["looks"]
    assert copy["name"] == "L, copy"
    assert copy["lines"][1]["through"]["line"] == copy["lines"][0]["id"] != first["lines"][0]["id"]


def test_a_line_over_one_emitter_reaches_only_that_one(app: RunningApp, ids: dict[str, str]) -> None:
    """By a typed selection, by its own word, and by a group that is about one emitter."""
    api = app.api()
    api.call(
        "POST", "/api/fixtures", {"text": "2 x RGBW lamp, from 21, at U1.101", "ids": [str(uuid4()) for _ in "ab"]}
    )
    at = f"/api/looks/{ids['look']}/lines/{ids['line']}"
    grey = [[0, 100, 100, 100]]

    def lamp() -> list[int]:
        return levels(app)[100:104]

    api.call("PATCH", at, {"selection": "21 : white", "ramp": grey})
    wait_for(lambda: lamp() == [0, 0, 0, 100], 8, "its white is not lit alone")
    [canvas] = api.call("GET", "/api/show")["canvases"]
    assert (canvas["name"], canvas["emitter"]) == ("21 : white", "white")
    api.call("PATCH", at, {"selection": "21", "emitter": "green"})
    wait_for(lambda: lamp() == [0, 100, 0, 0], 8, "its green is not lit alone")
    assert api.call("GET", f"{at}/emitters") == {"words": ["red", "green", "blue", "white"], "plain": ""}
    group = {"id": str(uuid4()), "name": "Reds", "selection": "21-22 : red", "by_rule": True}
    api.call("POST", "/api/groups", group)
    with pytest.raises(HeliographError, match="red alone"):
        api.call("PATCH", at, {"group": group["id"]})
    with pytest.raises(HeliographError, match="no hue"):
        api.call("PATCH", at, {"only": "hue"})
    api.call("PATCH", at, {"group": group["id"], "emitter": ""})
    wait_for(lambda: levels(app)[100:108] == [100, 0, 0, 0] * 2, 8, "the group's red is not lit alone")
    api.call("PATCH", f"/api/groups/{group['id']}", {"selection": "21", "by_rule": True})  # about its colours now
    wait_for(lambda: levels(app)[100:108] == [0, 0, 0, 100, 0, 0, 0, 0], 8, "the group's colour is not painted")
