"""Lists run on: the engine killed in a fade and in a row of follows, web and database away; looked at on the wire."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import UnavailableError
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, running, wall_hang
from tests.moves import move, off

MakeNode = Callable[[str, dict[str, Any]], Node]
HARBOUR, LAMP = (200, 40, 10), (10, 120, 240)
COUNT, EACH_S = 7, 0.8


class Evening:
    def __init__(self, app: RunningApp, receiver: Node) -> None:
        self.app, self.receiver, self.api = app, receiver, app.api()
        ids = light_wall(app, "127.0.87.2", [[0, 0, 0, 0]])
        app.engine().ask(off(ids["look"]))
        self.matrix, self.list = ids["matrix"], str(uuid4())
        self.api.call("POST", "/api/lists", {"id": self.list, "name": "Evening"})

    def look(self, name: str, colour: tuple[int, ...], opacity: float = 1.0) -> None:
        line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": self.matrix, "opacity": opacity}
        body = {"id": str(uuid4()), "name": name, "lines": [{**line, "ramp": [[0, *colour]]}]}
        self.api.call("POST", "/api/looks", body)

    def cue(self, **fields: Any) -> None:
        self.api.call("POST", f"/api/lists/{self.list}/cues", {"id": str(uuid4()), **fields})

    def press(self, name: str, value: Any = None) -> None:
        revision = self.api.call("GET", "/api/show")["show"]["revision"]
        wait_for(lambda: running(self.app)["revision"] >= revision, 10, "the show does not arrive")
        self.app.engine().ask(move(f"list/{self.list}/{name}", value))

    def plays(self) -> dict[str, Any]:
        """Nothing while no engine answers."""
        try:
            found = [one for one in running(self.app)["state"]["lists"] if one["of"] == self.list]
        except UnavailableError:
            return {}
        return dict(found[0]) if found else {}


@pytest.fixture
def evening(own_app: Callable[..., RunningApp], node: MakeNode) -> Evening:
    receiver = node("127.0.87.2", wall_hang())
    return Evening(own_app("127.0.87.1"), receiver)


def test_a_killed_engine_goes_on_in_the_same_place_of_the_same_fade(evening: Evening) -> None:
    evening.look("Harbour", HARBOUR)
    evening.look("Lamp", LAMP)
    act = {"handle": "master", "value": 0.5}
    evening.cue(looks="Harbour")
    evening.cue(looks="Lamp", fade_in="60 s", actions=[act])
    evening.press("go")
    wait_for(lambda: evening.receiver.picture()[:3] == list(HARBOUR), 10, "Go lights nothing")
    evening.press("go")
    evening.app.engine().ask(move("master", 1.0))  # what the cue did once is undone: it must not be done again
    wait_for(lambda: evening.plays()["fade_left_s"] < 58.0, 10, "the fade does not run")
    before = evening.plays()
    at = running(evening.app)["state"]["show_s"]
    evening.app.kill("engine")
    wait_for(lambda: evening.plays().get("cue") == before["cue"], 15, "the list did not come back")
    state = running(evening.app)["state"]
    [plays] = state["lists"]
    gone = state["show_s"] - at
    assert plays["fade_left_s"] == pytest.approx(before["fade_left_s"] - gone, abs=0.15)
    assert state["master"] == 1.0
    share = next(one["weight"] for one in plays["mix"] if one["cue"] == plays["cue"])

    def on_the_wire() -> bool:
        mix = [round(a * (1 - share) + b * share) for a, b in zip(HARBOUR, LAMP, strict=True)]
        return max(abs(a - b) for a, b in zip(evening.receiver.picture()[:3], mix, strict=True)) <= 12

    wait_for(on_the_wire, 5, "the wire shows another place of the fade")


def test_follows_go_on_at_their_moments_over_a_kill_and_with_web_and_database_away(evening: Evening) -> None:
    for number in range(COUNT):
        evening.look(f"L{number}", (30 + 30 * number, 0, 0))
        evening.cue(looks=f"L{number}", then=f"follow {EACH_S} s")
    evening.api.call("PATCH", f"/api/lists/{evening.list}", {"rounds": 0})
    evening.press("go")
    stored = evening.api.call("GET", "/api/show")["cue_lists"][0]["cues"]
    order = [one["id"] for one in stored]
    state = running(evening.app)["state"]
    [first] = state["lists"]
    began = state["show_s"] - first["went_s"] - order.index(first["cue"]) * EACH_S

    def in_time() -> bool:
        """Where it is is where it would be if nothing had happened."""
        state = running(evening.app)["state"]
        [plays] = state["lists"]
        went = state["show_s"] - plays["went_s"] - began
        number = round(went / EACH_S)
        return abs(went - number * EACH_S) < 0.002 and order.index(plays["cue"]) == number % COUNT

    assert in_time()
    evening.app.kill("engine")
    wait_for(lambda: bool(evening.plays()), 15, "the list did not come back")
    assert in_time()
    for name in ("web", "database"):
        evening.app.kill(name)
    seen: set[int] = set()

    def all_seen() -> bool:
        seen.add(evening.receiver.picture()[0])
        return {30 + 30 * number for number in range(COUNT)} <= seen

    wait_for(all_seen, 20, f"the list does not run on: {sorted(seen)}")
    assert in_time()
