"""How what lines set ends, read on the wire: the look off, the line deleted or muted, its fixtures moved or gone from
its group, the engine killed, a laser disarmed. What is no longer set rests, and nothing stays where it was."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Any
from uuid import uuid4

import pytest

from tests.conftest import Node, RunningApp, wait_for
from tests.engine.heads import HEAD
from tests.live.laser_scene import DARK, Wire, laser_scene
from tests.live.scenes import start, wall_hang
from tests.moves import move, off

SIZE = len(HEAD)
REST, SET = [128, 0], [200, 145]
OwnApp = Callable[..., RunningApp]


class Scene:
    """Three heads from U1.1 in a group by rule, of which a running look sets pan and gobo."""

    def __init__(self, app: RunningApp, receiver: Node) -> None:
        self.app, self.api, self.receiver = app, app.api(), receiver
        self.ids = {name: str(uuid4()) for name in ("group", "look", "line", "output")}
        self.heads = [str(uuid4()) for _ in range(3)]
        self.api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Heads"})
        block = {"name": "Head", "shared": HEAD, "cell_count": 0, "cell_channels": []}
        profile = {"maker": "Kittiwake Optics", "name": "Signal head", "kind": "head"}
        modes = [{"name": "7 channels", "blocks": [block]}]
        self.api.call("POST", "/api/profiles", {"id": str(uuid4()), **profile, "modes": modes})
        self.api.call("POST", "/api/fixtures", {"text": "3 x Signal head, from 701, at U1.1", "ids": self.heads})
        rule = {"name": "Signals", "selection": "701-703", "by_rule": True}
        self.api.call("POST", "/api/groups", {"id": self.ids["group"], **rule})
        line: dict[str, Any] = {"id": self.ids["line"], "paints": "attributes", "group": self.ids["group"]}
        line |= {"params": {"Pan": "51345", "Gobo1": "shingle"}}
        self.api.call("POST", "/api/looks", {"id": self.ids["look"], "name": "L", "lines": [line]})
        output = {"id": self.ids["output"], "name": "O", "protocol": "artnet", "mode": "unicast", "card": app.card}
        self.api.call("POST", "/api/outputs", {**output, "destination": receiver.address})
        start(app, self.ids["look"])
        self.stands([1, 1, 1])

    @property
    def line(self) -> str:
        return f"/api/looks/{self.ids['look']}/lines/{self.ids['line']}"

    def sent(self) -> list[int]:
        return list(bytes.fromhex(self.receiver.universe("artnet 0").get("data", "")))

    def stands(self, which: list[int]) -> None:
        """Waits until on the wire these heads are set and the others rest."""

        def there() -> bool:
            values = self.sent()
            if len(values) < 3 * SIZE:
                return False
            found = [[values[n * SIZE], values[n * SIZE + 1], values[n * SIZE + 4]] for n in range(3)]
            return found == [[*SET, 30] if on else [*REST, 0] for on in which]

        wait_for(there, 8, f"the wire does not say {which}")


@pytest.fixture
def wire() -> Iterator[Wire]:
    one = Wire("127.0.97.43")
    yield one
    one.close()


@pytest.fixture
def scene(app: RunningApp, node: Callable[..., Node]) -> Scene:
    return Scene(app, node("127.0.97.40", wall_hang()))


def test_off_muted_deleted_and_undone(scene: Scene) -> None:
    api, engine = scene.api, scene.app.engine()
    engine.ask(off(scene.ids["look"]))
    scene.stands([0, 0, 0])
    start(scene.app, scene.ids["look"])
    scene.stands([1, 1, 1])
    api.call("PATCH", scene.line, {"mute": True})
    scene.stands([0, 0, 0])
    api.call("POST", "/api/undo")
    scene.stands([1, 1, 1])
    api.call("DELETE", scene.line)
    scene.stands([0, 0, 0])
    api.call("POST", "/api/undo")
    scene.stands([1, 1, 1])
    engine.ask(move("freeze", True))
    api.call("DELETE", scene.line)
    scene.stands([1, 1, 1])  # what is frozen stays as it was
    engine.ask(move("freeze", False))
    scene.stands([0, 0, 0])


def test_who_leaves_the_group_or_the_address_rests_and_who_goes_leaves_nothing_behind(scene: Scene) -> None:
    api = scene.api
    api.call("PATCH", f"/api/groups/{scene.ids['group']}", {"selection": "701, 703", "by_rule": True})
    scene.stands([1, 0, 1])
    api.call("POST", "/api/undo")
    scene.stands([1, 1, 1])
    api.call("PATCH", f"/api/fixtures/{scene.heads[0]}", {"address": "U1.101"})
    wait_for(lambda: scene.sent()[:SIZE] == [0] * SIZE and scene.sent()[100:102] == SET, 8, "it is not moved")
    api.call("POST", "/api/fixtures/delete", {"ids": [scene.heads[0]]})
    wait_for(lambda: scene.sent()[100:102] == [0, 0], 8, "its value stays where it was")


def test_an_engine_that_is_killed_sets_the_same_again(own_app: OwnApp, node: Callable[..., Node]) -> None:
    app = own_app("127.0.97.41")
    scene = Scene(app, node("127.0.97.42", wall_hang()))
    pid = app.kill("engine")
    wait_for(lambda: app.pid("engine") != pid, 10)
    scene.receiver.reset()
    wait_for(lambda: scene.receiver.universe("artnet 0").get("packets", 0) > 5, 10, "light did not come back")
    scene.stands([1, 1, 1])


def test_no_line_lights_a_laser_that_is_safe(own_app: OwnApp, wire: Wire) -> None:
    """A line sets every channel of the laser to full: armed it is so on the wire; made safe, its safe values stand."""
    app = own_app("127.0.97.1")
    ids = laser_scene(app, wire)
    api = app.api()
    ray = next(one for one in api.call("GET", "/api/show")["fixtures"] if one["id"] == ids["ray"])
    mode: dict[str, Any] = {"mode": ray["mode"], "values": {str(n): 255 for n in range(1, 5)}}
    line = {"id": str(uuid4()), "paints": "attributes", "selection": str(ray["number"]), "kept": {ids["ray"]: mode}}
    look: dict[str, Any] = {"id": str(uuid4()), "name": "All of it", "lines": [line]}
    api.call("POST", "/api/looks", look)
    start(app, look["id"])
    wait_for(lambda: wire.last()[:4] == [255] * 4, 8, "the armed laser is not set")
    app.engine().ask(move("safe"))
    safe = [3, 0, 0, 0]
    wait_for(lambda: wire.last()[:4] == safe, 8, "the line lights a laser that is safe")
    api.call("PATCH", f"/api/looks/{look['id']}/lines/{line['id']}", {"opacity": 0.5})
    wait_for(lambda: wire.last()[:4] == safe, 8)
    ids["holder"].leave()
    app.stop()
    assert wire.rests() == DARK
