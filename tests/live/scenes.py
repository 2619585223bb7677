"""Scenes on a running Heliograph: lamps that are lit and reach a simulated node."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from tests.conftest import RunningApp, at_rest, wait_for
from tests.moves import on


def wall_hang(universe: str = "artnet 0") -> dict[str, Any]:
    """18 RGB lamps from channel 1, hung in three rows of six."""
    rows = [{"universe": universe, "channel": 1 + 18 * y, "count": 6, "order": "RGB", "x": 0, "y": y} for y in range(3)]
    return {"name": "Gatehouse", "listens": [universe], "width": 6, "height": 3, "lamps": rows}


def light_wall(app: RunningApp, node: str, ramp: list[list[float]], **line: Any) -> dict[str, str]:
    """18 lamps as a 6 x 3 matrix, an Art-Net output to the node, one running look. Returns the ids."""
    at_rest(app)
    api = app.api()
    ids = {name: str(uuid4()) for name in ("show", "matrix", "look", "line", "output")}
    api.call("POST", "/api/shows", {"id": ids["show"], "name": "Wall"})
    api.call("POST", "/api/fixtures", {"text": "18 x RGB lamp, from 1", "ids": [str(uuid4()) for _ in range(18)]})
    weave = {"selection": "all", "width": 6, "height": 3}
    api.call("POST", "/api/matrices", {"id": ids["matrix"], "name": "Wall", "width": 6, "height": 3, "weave": weave})
    one = {"id": ids["line"], "paints": "effect", "effect": "Flat", "matrix": ids["matrix"], "ramp": ramp, **line}
    api.call("POST", "/api/looks", {"id": ids["look"], "name": "Dusk", "lines": [one]})
    api.call(
        "POST",
        "/api/outputs",
        {
            "id": ids["output"],
            "name": "To the node",
            "protocol": "artnet",
            "mode": "unicast",
            "destination": node,
            "card": app.card,
        },
    )
    start(app, ids["look"])
    return ids


def start(app: RunningApp, look: str) -> None:
    """Starts a look as soon as the engine knows it."""

    def begun() -> bool:
        try:
            app.api().call("POST", "/api/engine", on(look))
        except Exception:
            return False
        return True

    wait_for(begun, 10, "the look did not start")


def running(app: RunningApp) -> dict[str, Any]:
    answer: dict[str, Any] = app.engine().ask({"do": "status"})
    return answer
