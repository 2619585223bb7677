"""A small rig for test walks: eight strips as a wall, four lamps beside it, and a person who looks at them."""

from __future__ import annotations

import time
from dataclasses import dataclass
from typing import Any
from uuid import uuid4

from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import start

PIXELS, STRIPS = 10, 8
STRIP = {
    "maker": "Fulmar Works",
    "name": "Quay strip 10",
    "kind": "strip",
    "modes": [
        {
            "name": "10 RGB",
            "blocks": [
                {
                    "name": "Pixels",
                    "shared": [],
                    "cell_count": PIXELS,
                    "cell_channels": [{"attribute": f"ColorAdd_{letter}"} for letter in "RGB"],
                }
            ],
        }
    ],
}


def _lamp(name: str, *attributes: str) -> dict[str, Any]:
    cell = [{"attribute": one} for one in attributes]
    return {"name": name, "blocks": [{"name": "Base", "shared": [], "cell_count": 1, "cell_channels": cell}]}


LAMP = {
    "maker": "Tern & Daughter",
    "name": "Quay lamp",
    "kind": "lamp",
    "modes": [
        _lamp("4 ch dimmer first", "Dimmer", "ColorAdd_R", "ColorAdd_G", "ColorAdd_B"),
        _lamp("3 ch", "ColorAdd_R", "ColorAdd_G", "ColorAdd_B"),
        _lamp("4 ch dimmer last", "ColorAdd_R", "ColorAdd_G", "ColorAdd_B", "Dimmer"),
    ],
}
LETTERS = dict(zip(("ColorAdd_R", "ColorAdd_G", "ColorAdd_B"), range(3), strict=True))


def quay_hang() -> dict[str, Any]:
    """Eight strips up and down in turn on artnet 4 and 5, four lamps below them on artnet 6."""
    runs: list[dict[str, Any]] = []
    for n in range(STRIPS):
        up = n % 2 == 0
        place = {"x": n, "y": PIXELS - 1 if up else 0, "dx": 0, "dy": -1 if up else 1}
        runs.append({"universe": f"artnet {4 + n // 4}", "channel": 1 + 30 * (n % 4), "count": PIXELS, **place})
    runs += [{"universe": "artnet 6", "channel": 1 + 4 * n, "order": "DRGB", "x": n, "y": 11} for n in range(4)]
    return {"name": "Quay", "listens": ["artnet 4", "artnet 5", "artnet 6"], "width": 8, "height": 12, "lamps": runs}


@dataclass(slots=True)
class Quay:
    """The rig in the program, and the ids of what is in it."""

    app: RunningApp
    node: Node
    matrix: str
    lamps: str
    look: str

    def show(self) -> dict[str, Any]:
        found: dict[str, Any] = self.app.api().call("GET", "/api/show")
        return found

    def picture(self) -> list[int]:
        """The node's picture once it stands still, of frames that were made after now."""
        last: list[int] = []
        engine = self.app.engine()
        begun = engine.ask({"do": "status"})["state"]["frame"]
        wait_for(lambda: engine.ask({"do": "status"})["state"]["frame"] >= begun + 2, 5, "no frames are made")
        until = time.monotonic() + 6
        while time.monotonic() < until:
            now = self.node.picture()
            if now == last:
                return now
            last = now
            time.sleep(0.06)
        raise AssertionError("the picture does not come to rest")

    def lit(self) -> dict[tuple[int, int], list[int]]:
        """Squares of the wall that are lit, with their colour: what a person sees there."""
        flat = self.picture()
        return {(n % 8, n // 8): flat[3 * n : 3 * n + 3] for n in range(len(flat) // 3) if any(flat[3 * n : 3 * n + 3])}

    def number_of(self, fixture: str) -> int:
        return next(int(one["number"]) for one in self.show()["fixtures"] if one["id"] == fixture)


def build_quay(app: RunningApp, node: Node) -> Quay:
    """Patched as it hangs when nothing is wrong; a held gradient plays on both matrices."""
    at_rest(app)
    api = app.api()
    keys = {name: str(uuid4()) for name in ("show", "strip", "lamp", "wall", "row", "look", "output")}
    api.call("POST", "/api/shows", {"id": keys["show"], "name": "Quay"})
    api.call("POST", "/api/profiles", {"id": keys["strip"], **STRIP})
    api.call("POST", "/api/profiles", {"id": keys["lamp"], **LAMP})
    for text in ("4 x Quay strip 10, from 1, at U5.1", "4 x Quay strip 10, from 5, at U6.1"):
        api.call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(4)]})
    text = "4 x Quay lamp, mode 4 ch dimmer first, from 21, at U7.1"
    api.call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(4)]})
    wall = {"selection": "1-8", "width": 8, "height": 10, "corner": "bottom left", "along": "columns", "snake": 1}
    row = {"selection": "21-24", "width": 4, "height": 1}
    for name, weave in (("wall", wall), ("row", row)):
        body = {"id": keys[name], "name": name.title(), "width": weave["width"], "height": weave["height"]}
        api.call("POST", "/api/matrices", {**body, "weave": weave})
    ramp = [[0, 250, 20, 0], [0.5, 30, 240, 20], [1, 0, 40, 230]]
    lines = [
        {
            "id": str(uuid4()),
            "paints": "effect",
            "effect": "Grade",
            "matrix": keys[name],
            "ramp": ramp,
            "params": {"angle": 30},
        }
        for name in ("wall", "row")
    ]
    api.call("POST", "/api/looks", {"id": keys["look"], "name": "Slope", "lines": lines})
    output = {"id": keys["output"], "name": "To the quay", "protocol": "artnet", "mode": "unicast", "card": app.card}
    place = {"destination": node.address, "first_universe": 5, "count": 3, "first_number": 4}
    api.call("POST", "/api/outputs", {**output, **place})
    start(app, keys["look"])
    app.engine().ask({"do": "hold_time"})
    quay = Quay(app, node, keys["wall"], keys["row"], keys["look"])
    wait_for(lambda: len(quay.lit()) == STRIPS * PIXELS + 4, 10, "the quay is not lit")
    return quay
