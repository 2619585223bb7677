"""Parking through the public API: it reaches a node, is undone, travels with the show, and explains darkness."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang


def park(app: RunningApp, **values: int | None) -> None:
    app.api().call("PUT", "/api/parked", {"values": {key[1:].replace("_", "."): v for key, v in values.items()}})


def parked(app: RunningApp) -> list[tuple[int, int, int]]:
    found: list[dict[str, Any]] = app.api().call("GET", "/api/show")["parked"]
    return [(one["universe"], one["channel"], one["value"]) for one in found]


def test_it_is_held_until_it_is_released_and_can_be_undone(app: RunningApp, node: Callable[..., Node]) -> None:
    receiver = node("127.0.75.3", wall_hang())
    light_wall(app, "127.0.75.3", [[0, 20, 30, 40]])
    wait_for(lambda: receiver.picture()[:3] == [20, 30, 40])
    park(app, u1_1=200, u1_2=0)
    wait_for(lambda: receiver.picture()[:3] == [200, 0, 40], 5, "it is not parked")
    app.engine().ask({"do": "raw", "values": {"1.1": 5}})
    park(app, u1_1=201)
    wait_for(lambda: receiver.picture()[:3] == [201, 0, 40], 5, "it is not changed")
    assert parked(app) == [(1, 1, 201), (1, 2, 0)]
    app.api().call("POST", "/api/undo")
    wait_for(lambda: receiver.picture()[:3] == [200, 0, 40], 5, "undo does not reach the lamps")
    app.engine().ask({"do": "release"})
    copy = str(uuid4())
    original = app.api().call("GET", "/api/show")["show"]["id"]
    app.api().call("POST", "/api/shows", {"id": copy, "name": "Copy", "like": original})
    assert parked(app) == [(1, 1, 200), (1, 2, 0)]
    wait_for(lambda: receiver.picture()[:3] == [200, 0, 0], 5, "it is not parked in the copy, where no look is on")
    app.api().call("DELETE", "/api/parked")
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 0], 5, "it is not released")
    assert parked(app) == []


def test_a_lamp_that_is_dark_because_it_is_parked_says_so(app: RunningApp, node: Callable[..., Node]) -> None:
    receiver = node("127.0.75.4", wall_hang())
    light_wall(app, "127.0.75.4", [[0, 20, 30, 40]])
    wait_for(lambda: receiver.picture()[:3] == [20, 30, 40])
    park(app, u1_1=0, u1_2=0, u1_3=0)
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 0])
    first = app.api().call("GET", "/api/show")["fixtures"][0]["id"]
    found = wait_for(
        lambda: next(
            (one for one in [app.api().call("GET", f"/api/why-dark/{first}/1")] if one["kind"] == "parked"), None
        ),
        5,
        "parked is not named",
    )
    assert found["sentence"] == "1:1 is parked at 0."
    app.api().call("PUT", "/api/parked", found["repair"]["change"])
    wait_for(lambda: receiver.picture()[:3] == [20, 30, 40], 5, "the repair does not light it")


@pytest.mark.parametrize(
    ("values", "says"),
    [
        ({"1.600": 5}, "a universe has channels 1 to 512"),
        ({"1.1": 300}, "takes 0 to 255, not 300"),
        ({"lamp": 1}, "lamp"),
        ({}, "changes nothing"),
    ],
)
def test_what_cannot_be_parked(app: RunningApp, show: str, values: dict[str, int], says: str) -> None:
    with pytest.raises(HeliographError, match=says):
        app.api().call("PUT", "/api/parked", {"values": values})
    assert parked(app) == []
