"""The lights stay on: processes are killed by id while a look runs, and the node goes on receiving.

Gap lengths are measured in bench/; here only that packets go on, with what and in which sequence.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial
from typing import Any

import pytest

from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, running, wall_hang

AMBER = [10, 200, 30]
MakeNode = Callable[[str, dict[str, Any]], Node]


@pytest.fixture
def lit(own_app: Callable[..., RunningApp], node: MakeNode) -> tuple[RunningApp, Node, dict[str, str]]:
    receiver = node("127.0.86.2", wall_hang())
    app = own_app("127.0.86.1")
    ids = light_wall(app, "127.0.86.2", [[0, *AMBER]])
    wait_for(lambda: receiver.picture() == AMBER * 18, 10, "the node was not lit")
    return app, receiver, ids


def goes_on(receiver: Node, seconds: float) -> None:
    """Packets with the same picture keep arriving, none late, from one source."""
    receiver.reset()
    time.sleep(seconds)  # how many come in it is what the benches measure
    wait_for(lambda: receiver.universe("artnet 0").get("packets", 0) > seconds * 4, 5, "nothing arrives")
    universe = receiver.universe("artnet 0")
    assert universe["late"] == 0
    assert universe["sources"] == 1
    assert receiver.picture() == AMBER * 18


def test_web_database_receiver_and_media_may_die(lit: tuple[RunningApp, Node, dict[str, str]]) -> None:
    app, receiver, ids = lit
    pids = {name: app.pid(name) for name in ("web", "database", "receiver", "media", "preview")}
    receiver.reset()
    for name in pids:
        app.kill(name)
    goes_on(receiver, 1.0)
    for name, pid in pids.items():
        wait_for(partial(_is_another, app, name, pid), 15, f"{name} was not started again")
    wait_for(lambda: _shows(app), 20, "the show was not there again")
    assert app.api().call("GET", "/api/show")["looks"][0]["id"] == ids["look"]
    app.api().call("PATCH", f"/api/looks/{ids['look']}", {"name": "After"})  # and editing works again
    goes_on(receiver, 0.5)
    events = " ".join(event["text"] for event in app.api().call("GET", "/api/events"))
    assert "web ended (SIGKILL), it is started again" in events


def _is_another(app: RunningApp, name: str, pid: int) -> bool:
    return app.pid(name) != pid


def _shows(app: RunningApp) -> bool:
    try:
        return bool(app.api().call("GET", "/api/show"))
    except Exception:
        return False


def test_a_killed_engine_comes_back_with_the_same_look(lit: tuple[RunningApp, Node, dict[str, str]]) -> None:
    app, receiver, ids = lit
    before = running(app)["state"]
    last = receiver.universe("artnet 0")["sequences"][-1]
    receiver.reset()
    app.kill("engine")
    wait_for(lambda: receiver.universe("artnet 0").get("packets", 0) > 5, 10, "light did not come back")
    universe = receiver.universe("artnet 0")
    assert universe["late"] == 0, "a receiver would have discarded packets"
    assert universe["sources"] == 1
    assert receiver.picture() == AMBER * 18
    after = running(app)["state"]
    assert [run["look"] for run in after["running"]] == [ids["look"]]
    assert after["frame"] > before["frame"]
    assert after["show_s"] > before["show_s"]
    assert last  # sequences had been counted, so going on was tested


def test_stopping_ends_everything_it_started_and_nothing_else(lit: tuple[RunningApp, Node, dict[str, str]]) -> None:
    app, receiver, _ = lit
    pids = [app.pid(name) for name in ("web", "database", "receiver", "media", "preview", "engine")]
    app.stop()
    from pathlib import Path

    assert not [pid for pid in pids if Path(f"/proc/{pid}").exists()]
    assert receiver.process.poll() is None
    app.start()  # and the next start goes on with the same show and look
    wait_for(lambda: receiver.picture() == AMBER * 18 and receiver.universe("artnet 0")["silent_ms"] < 200, 15)
