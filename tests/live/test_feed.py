"""A live picture on the wire: within a quarter of a second of its clock, held or black once it is lost, back again."""

from __future__ import annotations

import time
from collections.abc import Callable

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import Node, RunningApp, wait_for
from tests.live.camera_scene import Camera, check_in_time, late
from tests.live.scenes import light_wall, wall_hang

ADDRESS = "udp://127.0.0.1:17020"


def test_a_live_picture_comes_is_lost_and_comes_back(app: RunningApp, node: Callable[..., Node]) -> None:
    receiver = node("127.0.77.20", wall_hang())
    ids = light_wall(app, "127.0.77.20", [[0, 0, 0, 0]])
    api, at = app.api(), f"/api/looks/{ids['look']}/lines"
    camera = Camera(ADDRESS)
    try:
        line = {"id": "7b1c5c86-0d6a-4a39-9f5c-2d3bb1b2b8f0", "paints": "feed", "matrix": ids["matrix"]}
        api.call("POST", at, {**line, "address": ADDRESS, "fitting": {"fit": "stretch"}, "lost": "black"})
        wait_for(lambda: late(receiver) < 40, 15, "no live picture on the lamps")
        check_in_time(receiver)
    finally:
        camera.stop()
    wait_for(lambda: max(receiver.picture()) == 0, 8, "what is lost is not black")
    api.call("PATCH", f"{at}/{line['id']}", {"lost": "hold"})
    again = Camera(ADDRESS)
    try:
        wait_for(lambda: max(receiver.picture()) > 200 and late(receiver) < 40, 12, "it did not come back")
    finally:
        again.stop()
    held = receiver.picture()
    time.sleep(4)
    assert max(receiver.picture()) > 200, held  # the last picture stays
    for address, says in (("http://192.0.2.9/x", "not let in"), ("/etc/passwd", "is no address")):
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", f"{at}/{line['id']}", {"address": address})
    api.call("DELETE", f"{at}/{line['id']}")
    wait_for(lambda: max(receiver.picture()) == 0, 5, "a deleted feed stays lit")
