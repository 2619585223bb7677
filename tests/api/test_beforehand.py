"""A word about the light before something is deleted or another show is opened; all others hear of it by name; undo
brings it back as it was."""

from __future__ import annotations

import asyncio
import contextlib
import json
from collections.abc import Callable, Iterator
from functools import partial
from typing import Any
from uuid import uuid4

import pytest
import websockets

from heliograph.core.errors import HeliographError
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import light_wall, running, wall_hang
from tests.moves import move, off

LIT = [10, 120, 240]


class Scene:
    """A wall that is lit by a look, a list with it, a group."""

    def __init__(self, app: RunningApp) -> None:
        self.app, self.api = app, app.api()
        self.ids = light_wall(app, "127.0.66.75", [[0, *LIT]])
        self.list, self.group = str(uuid4()), str(uuid4())
        self.api.call("POST", "/api/lists", {"id": self.list, "name": "Evening"})
        self.api.call("POST", f"/api/lists/{self.list}/cues", {"id": str(uuid4()), "looks": "Dusk"})
        self.api.call("POST", "/api/groups", {"id": self.group, "name": "Upper", "selection": "1-6"})
        revision = self.api.call("GET", "/api/show")["show"]["revision"]
        wait_for(lambda: running(app)["revision"] >= revision, 10, "the show does not arrive")

    def says(self, doing: str, key: str) -> str:
        return str(self.api.call("GET", f"/api/before/{doing}/{key}")["says"])


@pytest.fixture
def scene(app: RunningApp) -> Iterator[Scene]:
    yield Scene(app)
    at_rest(app)


def test_what_would_happen_to_the_light_is_said(scene: Scene) -> None:
    look, engine = scene.ids["look"], scene.app.engine()
    assert scene.says("look", look) == "Dusk is running, by hand: its light goes out."
    engine.ask(move(f"list/{scene.list}/go"))
    assert scene.says("look", look) == "Dusk is running, by hand and in Evening: its light goes out."
    assert scene.says("list", scene.list) == "Evening plays cue 1: its light goes out."
    assert scene.says("group", scene.group) == ""
    engine.ask(move(f"group/{scene.group}/master", 0.4))
    assert scene.says("group", scene.group) == (
        "The master of Upper stands at 40 %: without it what runs there goes to full."
    )
    shows = scene.api.call("GET", "/api/shows")
    other = next(one["id"] for one in shows if not one["is_open"] and one["deleted_s"] is None)
    name = next(one["name"] for one in shows if one["id"] == other)
    assert scene.says("open", other) == f"1 look is running: the lamps go dark until something is started in {name}."
    assert scene.says("open", scene.ids["show"]) == ""


def test_a_group_that_something_plays_over_says_what(scene: Scene) -> None:
    line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "group": scene.group, "ramp": [[0, 9, 9, 9]]}
    scene.api.call("POST", f"/api/looks/{scene.ids['look']}/lines", line)
    assert scene.says("group", scene.group) == "Dusk plays over Upper: that light goes out."
    scene.app.engine().ask(off(scene.ids["look"]))
    assert scene.says("group", scene.group) == ""


def test_nothing_is_said_of_what_changes_no_lamp(scene: Scene) -> None:
    scene.app.engine().ask(off(scene.ids["look"]))
    for doing, key in (("look", scene.ids["look"]), ("list", scene.list), ("group", scene.group)):
        assert scene.says(doing, key) == ""
    with pytest.raises(HeliographError) as gone:
        scene.says("look", str(uuid4()))
    assert gone.value.what == "It is not in the running show any more."


@pytest.mark.slow
def test_all_others_hear_who_did_it_and_undo_lights_it_as_it_was(
    scene: Scene, node: Callable[[str, dict[str, Any]], Node]
) -> None:
    receiver = node("127.0.66.75", wall_hang())
    wait_for(lambda: receiver.picture()[:3] == LIT, 10, "it is not lit")
    since = running(scene.app)["state"]["running"][0]["since_s"]
    mine = scene.app.api("teal-1", "Teal")

    async def told() -> tuple[list[str], list[str]]:
        address = f"ws://127.0.0.1:{scene.app.port}/api/live"
        live = partial(websockets.connect, address, max_size=None, close_timeout=0.5)
        async with live() as other, live() as own:
            await other.send(json.dumps({"type": "hello", "person": "petrel", "name": "Petrel"}))
            await own.send(json.dumps({"type": "hello", "person": "teal-1", "name": "Teal"}))
            await asyncio.sleep(0.3)
            await asyncio.to_thread(mine.call, "DELETE", f"/api/looks/{scene.ids['look']}")
            return await heard(other), await heard(own)

    theirs, own = asyncio.run(told())
    assert theirs == ["Teal deleted Dusk, which was running."]
    assert own == []
    wait_for(lambda: not any(receiver.picture()), 10, "deleted, it stays lit")
    mine.call("POST", "/api/undo")
    wait_for(lambda: receiver.picture()[:3] == LIT, 10, "undone, it stays dark")
    assert running(scene.app)["state"]["running"][0]["since_s"] >= since, "it began anew"


async def heard(live: Any) -> list[str]:
    """What was told to a browser, until nothing more comes for a moment."""
    found: list[str] = []
    with contextlib.suppress(TimeoutError):
        async with asyncio.timeout(1.5):
            while True:
                raw = await live.recv()
                if isinstance(raw, str) and (message := json.loads(raw))["type"] == "told":
                    found.append(message["what"])
    return found
