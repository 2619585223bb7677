"""Each cause of darkness is set up on a running Heliograph and named rightly; causes are trade practice, no source."""

from __future__ import annotations

import socket
from collections.abc import Callable
from dataclasses import replace
from typing import Any
from uuid import uuid4

import pytest

from heliograph.api.darkness import DarkCell, why_dark
from heliograph.core.errors import HeliographError
from heliograph.core.rig.arrays import build_rig
from heliograph.wire import sacn
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import light_wall, start, wall_hang
from tests.moves import group_master, level_of, move, off, on

NODE = "127.0.77.61"
WHITE: list[list[float]] = [[0, 255, 255, 255]]
MakeNode = Callable[..., Node]


class Scene:
    """Sixteen white lamps on a node; what is wrong with the first of them is asked."""

    def __init__(self, app: RunningApp) -> None:
        self.app, self.api = app, app.api()
        self.ids = light_wall(app, NODE, WHITE)
        self.lamp = self.api.call("GET", "/api/show")["fixtures"][0]["id"]
        self.answers("")

    def ask(self) -> dict[str, Any]:
        answer: dict[str, Any] = self.api.call("GET", f"/api/why-dark/{self.lamp}/1")
        return answer

    def answers(self, kind: str) -> dict[str, Any]:
        wait_for(lambda: self.ask()["kind"] == kind, 8, f"'{kind}' was not named, but '{self.ask()}'")
        return self.ask()

    def output(self, **change: Any) -> None:
        self.api.call("PATCH", f"/api/outputs/{self.ids['output']}", change)

    def line(self, **change: Any) -> None:
        self.api.call("PATCH", f"/api/looks/{self.ids['look']}/lines/{self.ids['line']}", change)

    def engine(self, **command: Any) -> None:
        self.api.call("POST", "/api/engine", command)

    def repaired(self, repair: dict[str, Any]) -> None:
        """Does what the repair says; then the lamp is lit."""
        if repair["table"] == "engine":
            self.engine(**repair["change"])
        elif repair["table"] == "walk":
            self.api.call("DELETE", "/api/walk")
        elif repair["table"] == "output":
            self.api.call("PATCH", f"/api/outputs/{repair['id']}", repair["change"])
        else:
            self.api.call("PATCH", f"/api/looks/{repair['parent']}/lines/{repair['id']}", repair["change"])
        self.answers("")


@pytest.fixture
def scene(app: RunningApp) -> Any:
    made = Scene(app)
    yield made
    at_rest(app)


def test_a_lit_lamp_has_no_cause_and_says_what_it_gets(scene: Scene) -> None:
    answer = scene.ask()
    assert answer["sentence"].startswith("1:1 leaves with 255, 255, 255")
    assert "It lies at U1.1." in answer["checked"]


def test_outputs(scene: Scene) -> None:
    scene.output(on=False)
    scene.repaired(scene.answers("output off")["repair"])
    scene.output(mute=True)
    scene.repaired(scene.answers("output muted")["repair"])
    scene.api.call("DELETE", f"/api/outputs/{scene.ids['output']}")
    assert scene.answers("no output")["sentence"] == "No output sends U1."


def test_switches_and_masters(scene: Scene) -> None:
    scene.engine(**move("blackout", True))
    scene.repaired(scene.answers("blackout")["repair"])
    scene.engine(**move("master", 0.0))
    answer = scene.answers("master")
    assert answer["sentence"] == "The grand master is at 0 %."
    scene.repaired(answer["repair"])
    body = {"id": str(uuid4()), "name": "Row one", "selection": "1-4"}
    scene.api.call("POST", "/api/groups", body)
    wait_for(lambda: has_group_master(scene, body["id"], 0.0), 5, "the engine does not know the group")
    assert scene.answers("master")["sentence"] == "The Row one is at 0 %."
    has_group_master(scene, body["id"], 1.0)
    scene.answers("")


def has_group_master(scene: Scene, group: str, level: float) -> bool:
    try:
        scene.engine(**group_master(group, level))
    except Exception:
        return False
    return True


def test_a_frozen_picture_that_was_dark(scene: Scene) -> None:
    scene.line(opacity=0.0)
    scene.answers("line silent")
    scene.engine(**move("freeze", True))
    scene.line(opacity=1.0)
    answer = scene.answers("freeze")
    scene.repaired(answer["repair"])


def test_looks_and_their_lines(scene: Scene) -> None:
    scene.engine(**off(scene.ids["look"]))
    assert scene.answers("nothing runs")["sentence"] == "No look is on."
    wait_for(lambda: started(scene), 5)
    scene.answers("")
    scene.line(mute=True)
    answer = scene.answers("line silent")
    assert answer["sentence"] == "Dusk, line 1, is muted."
    scene.repaired(answer["repair"])
    scene.line(ramp=[[0, 0, 0, 0]])
    assert "black" in scene.answers("line black")["sentence"]
    scene.line(ramp=WHITE)
    scene.answers("")


def test_a_look_that_was_faded_out_by_hand(scene: Scene) -> None:
    scene.engine(**level_of(scene.ids["look"], 0.0))
    answer = scene.answers("look faded")
    assert answer["sentence"] == "Dusk is faded to 0 %."
    scene.repaired(answer["repair"])


def started(scene: Scene) -> bool:
    scene.engine(**on(scene.ids["look"]))
    return True


def test_cells_without_a_place_and_looks_that_paint_elsewhere(scene: Scene) -> None:
    other = str(uuid4())
    weave = {"selection": "5-18", "width": 7, "height": 2}
    scene.api.call("POST", "/api/matrices", {"id": other, "name": "Low", "width": 7, "height": 2, "weave": weave})
    scene.line(matrix=other)
    assert "no line of it paints on a matrix that 1:1 stands on" in scene.answers("not reached")["sentence"]
    scene.api.call("POST", f"/api/matrices/{scene.ids['matrix']}/lift", {"squares": [[0, 0]]})
    assert scene.answers("not placed")["sentence"] == "1:1 stands on no matrix, so no look can reach it."


def test_values_by_hand(scene: Scene) -> None:
    scene.engine(do="manual", values={f"{scene.lamp}/{n}": 0 for n in (1, 2, 3)})
    answer = scene.answers("manual")
    assert answer["sentence"] == "1:1 is held by hand at 0."
    scene.repaired(answer["repair"])
    scene.engine(do="raw", values={f"U1.{n}": 0 for n in (1, 2, 3)})
    scene.repaired(scene.answers("raw")["repair"])


def test_a_lamp_without_an_address(scene: Scene) -> None:
    scene.api.call("PATCH", f"/api/fixtures/{scene.lamp}", {"address": ""})
    assert "has no address" in scene.answers("no address")["sentence"]


def test_a_laser_that_is_not_armed(app: RunningApp) -> None:
    scene = Scene(app)
    ids = [str(uuid4())]
    scene.api.call("POST", "/api/fixtures", {"text": "1 x RGB laser head, from 90, at U1.200", "ids": ids})
    scene.lamp = ids[0]
    wait_for(lambda: ask_cell(scene, ids[0], 1) == "guard", 8, "the guard was not named")


def ask_cell(scene: Scene, fixture: str, cell: int) -> str:
    try:
        return str(scene.api.call("GET", f"/api/why-dark/{fixture}/{cell}")["kind"])
    except Exception:
        return "not known yet"


def test_a_dimmer_above_the_cell_that_is_held_down(app: RunningApp) -> None:
    scene = Scene(app)
    shared = [{"attribute": "Dimmer"}]
    block = {"name": "b", "shared": shared, "cell_count": 1, "cell_channels": [{"attribute": "ColorAdd_R"}]}
    mode = {"name": "only", "blocks": [block]}
    profile = {"id": str(uuid4()), "maker": "Fulmar Works", "name": "Dimmed", "kind": "bar", "modes": [mode]}
    scene.api.call("POST", "/api/profiles", profile)
    key = str(uuid4())
    scene.api.call("POST", "/api/fixtures", {"text": "1 x Dimmed, from 90, at U1.300", "ids": [key]})
    weave = {"selection": "90", "width": 1, "height": 1}
    matrix = str(uuid4())
    scene.api.call("POST", "/api/matrices", {"id": matrix, "name": "One", "width": 1, "height": 1, "weave": weave})
    scene.line(matrix=matrix)
    wait_for(lambda: ask_cell(scene, key, 1) == "", 8, "it was not lit")
    scene.engine(do="manual", values={f"{key}/1": 0})
    wait_for(lambda: ask_cell(scene, key, 1) == "dimmer", 8, "the dimmer was not named")
    said = scene.api.call("GET", f"/api/why-dark/{key}/1")
    assert said["sentence"] == "The dimmer above it, U1.300, is at 0 %. Held by hand: 0."
    at_rest(app)


def test_another_sender_of_higher_priority(scene: Scene) -> None:
    scene.output(protocol="sacn", first_number=41, priority=100)
    sender = socket.socket(socket.AF_INET, socket.SOCK_DGRAM)
    sender.bind(("127.0.77.62", 0))
    sequence = iter(range(1, 10_000))

    def heard() -> bool:
        packet = sacn.encode_data(bytes([7] * 16), "Desk", 41, bytes(512), next(sequence) % 256, priority=150)
        sender.sendto(packet, (scene.app.card, sacn.PORT))
        return bool(scene.ask()["kind"] == "other sender")

    wait_for(heard, 8, "the other sender was not named")
    answer = scene.ask()
    sender.close()
    assert answer["sentence"].startswith("Desk (127.0.77.62) sends sACN 41 with priority 150, above our 100")
    assert answer["repair"]["change"] == {"priority": 151}


@pytest.mark.slow
def test_a_node_that_listens_one_beside_and_one_that_falls_silent(scene: Scene, node: MakeNode) -> None:
    one = node(NODE, wall_hang("artnet 1"))
    answer = scene.answers("off by one")
    assert answer["repair"]["change"] == {"first_number": 1}
    scene.repaired(answer["repair"])
    one.stop()
    wait_for(lambda: scene.ask()["kind"] == "node silent", 14, "its silence was not named")
    assert "Gatehouse" in scene.ask()["sentence"]


def explained(value: int, *steps: dict[str, Any]) -> dict[str, Any]:
    return {"value": value, "sent": True, "made": value, "steps": list(steps)}


def test_a_test_walk(app: RunningApp, node: MakeNode) -> None:
    node(NODE, wall_hang())
    scene = Scene(app)
    matrix = scene.ids["matrix"]
    scene.api.call("POST", "/api/walk", {"by": "cell", "matrix": matrix})
    scene.answers("")  # the first lamp is the one that is walked to
    scene.api.call("POST", "/api/walk/go", {"by": 1})
    found = scene.answers("walk")
    assert found["sentence"] == "A test walk is on, and keeps it dark."
    scene.repaired(found["repair"])


def test_a_background_behind_its_own_pixels(app: RunningApp, node: MakeNode) -> None:
    """A head whose ring of pixels hides the light of its base, asked about while the ring is lit."""
    at_rest(app)
    api, ids = app.api(), {name: str(uuid4()) for name in ("show", "profile", "head", "matrix", "look", "line", "out")}
    api.call("POST", "/api/shows", {"id": ids["show"], "name": "Ring"})
    red = [{"attribute": "ColorAdd_R"}]
    blocks = [
        {"name": "Base", "shared": red, "cell_count": 0, "cell_channels": []},
        {"name": "Ring", "shared": [], "cell_count": 1, "cell_channels": red, "hides": True},
    ]
    profile = {"maker": "Kittiwake Optics", "name": "Ring", "kind": "head", "modes": [{"name": "m", "blocks": blocks}]}
    api.call("POST", "/api/profiles", {"id": ids["profile"], **profile})
    api.call("POST", "/api/fixtures", {"text": "1 x Ring, from 701", "ids": [ids["head"]]})
    weave = {"selection": "all", "width": 1, "height": 1}
    api.call("POST", "/api/matrices", {"id": ids["matrix"], "name": "M", "width": 1, "height": 1, "weave": weave})
    line = {"id": ids["line"], "paints": "effect", "effect": "Flat", "matrix": ids["matrix"], "ramp": WHITE}
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "L", "lines": [line]})
    route = {"protocol": "artnet", "mode": "unicast", "destination": NODE, "card": app.card}
    api.call("POST", "/api/outputs", {"id": ids["out"], "name": "Out", **route})
    receiver = node(NODE, wall_hang())
    start(app, ids["look"])
    app.engine().ask({"do": "manual", "values": {f"{ids['head']}/1": 200}})
    wait_for(lambda: receiver.picture()[:2] == [200, 255], 8, "base and ring are not lit")

    def kind() -> str:
        return str(api.call("GET", f"/api/why-dark/{ids['head']}/0")["kind"])

    wait_for(lambda: kind() == "hidden", 8, "it is not named")
    app.engine().ask(off(ids["look"]))
    wait_for(lambda: kind() == "", 8, "it is still named")
    at_rest(app)


def dark_cell(**fields: Any) -> DarkCell:
    """What the API would ask about, for causes that no test can make on this machine."""
    mode = {"name": "m", "blocks": [{"name": "b", "cell_count": 1, "cell_channels": [{"attribute": "ColorAdd_R"}]}]}
    lamp = {"id": "f", "number": 1, "name": "Lamp", "mode": "m", "universe": 1, "channel": 1}
    rig = build_rig({"modes": {"m": {"mode": mode, "guarded": False}}, "fixtures": [lamp]})
    route = {
        "id": "o",
        "name": "Out",
        "on": True,
        "protocol": "artnet",
        "mode": "broadcast",
        "address": "192.0.2.255",
        "card": "192.0.2.7",
        "first_universe": 1,
        "count": 1,
        "first_number": 0,
        "priority": 100,
    }
    known: dict[str, Any] = {
        "channels": [explained(200)],
        "sections": {"outputs": {"outputs": [route]}},
        "engine": {"outputs": [{"id": "o", "last_error": ""}], "state": {"running": []}},
        "receiver": {"nodes": [], "streams": []},
        **fields,
    }
    return DarkCell(rig.fixtures["f"], 1, [0], **known)


def test_a_network_card_that_is_gone() -> None:
    engine = {"outputs": [{"id": "o", "last_error": "No such device"}], "state": {"running": []}}
    found = why_dark(dark_cell(engine=engine))
    assert (found.kind, found.sentence) == (
        "network card",
        "Out cannot send from the network card 192.0.2.7: No such device.",
    )
    assert why_dark(dark_cell()).kind == ""


@pytest.mark.parametrize(("pixel", "background", "kind"), [(9, True, "hidden"), (0, True, ""), (9, False, "")])
def test_a_background_that_its_own_pixels_hide(pixel: int, background: bool, kind: str) -> None:
    red = [{"attribute": "ColorAdd_R"}]
    base = {"name": "Base", "shared": [{"attribute": "Dimmer"}]}
    ring = {"name": "Ring", "cell_count": 1, "cell_channels": red, "hides": True}
    head = {"id": "f", "number": 701, "name": "Head", "mode": "m", "universe": 1, "channel": 1}
    modes = {"m": {"mode": {"name": "m", "blocks": [base, ring]}, "guarded": False}}
    rig = build_rig({"modes": modes, "fixtures": [head]})
    channels = [explained(255), explained(pixel)]
    cell = replace(dark_cell(), fixture=rig.fixtures["f"], positions=[0, 1], channels=channels, background=background)
    assert why_dark(cell).kind == kind


def test_an_animation_of_the_fixture_itself_in_black_cells(app: RunningApp, node: MakeNode) -> None:
    """Asked of the head, while it is set by hand, and beside the line that chooses the animation."""
    at_rest(app)
    api, ids = app.api(), {name: str(uuid4()) for name in ("show", "profile", "head", "look", "line", "out")}
    api.call("POST", "/api/shows", {"id": ids["show"], "name": "Wheel"})
    words = [{"first": 0, "last": 9, "name": "off"}, {"first": 10, "last": 255, "name": "turning"}]
    block = {"name": "Face", "shared": [{"attribute": "Effects1", "ranges": words}], "cell_count": 3}
    block["cell_channels"] = [{"attribute": "ColorAdd_R"}]
    profile = {
        "maker": "Kittiwake Optics",
        "name": "Wheel",
        "kind": "head",
        "modes": [{"name": "m", "blocks": [block]}],
    }
    api.call("POST", "/api/profiles", {"id": ids["profile"], **profile})
    api.call("POST", "/api/fixtures", {"text": "1 x Wheel, from 704", "ids": [ids["head"]]})
    line = {"id": ids["line"], "paints": "attributes", "selection": "704", "params": {"Effects1": "turning"}}
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "L", "lines": [line]})
    route = {"protocol": "artnet", "mode": "unicast", "destination": NODE, "card": app.card}
    api.call("POST", "/api/outputs", {"id": ids["out"], "name": "Out", **route})
    receiver = node(NODE, wall_hang())
    beside = f"/api/looks/{ids['look']}/lines/{ids['line']}/attributes"

    def said() -> tuple[Any, str, str]:
        """Nothing while the show is on its way."""
        try:
            return asked()
        except HeliographError:
            return None, "", ""

    def asked() -> tuple[Any, str, str]:
        still = api.call("POST", "/api/why-still", {"fixtures": [ids["head"]]})["said"]
        return still, api.call("GET", beside)["said"], api.call("GET", f"/api/why-dark/{ids['head']}/0")["kind"]

    wait_for(lambda: said() == ("", "", "nothing runs"), 8, "said while no animation is on")
    start(app, ids["look"])
    wait_for(lambda: receiver.picture()[0] >= 10, 8, "the animation is not chosen on the wire")
    wait_for(lambda: "704: it moves in the colours of the 3 cells" in str(said()[0]), 8, "not said by hand")
    still, line_says, kind = said()
    assert (line_says, kind) == (still, "cells black")
    app.engine().ask({"do": "manual", "values": {f"{ids['head']}/3": 40}})
    wait_for(lambda: said() == ("", "", ""), 8, "still said of cells that are lit")
    app.engine().ask({"do": "release"})
    app.engine().ask(off(ids["look"]))
    wait_for(lambda: said()[:2] == ("", ""), 8, "still said of an animation that is off")
    api.call("POST", "/api/fixtures/delete", {"ids": [ids["head"]]})
    assert api.call("POST", "/api/why-still", {"fixtures": [ids["head"]]})["said"] in (None, "")
    at_rest(app)
