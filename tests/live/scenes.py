"""Scenes on a running Heliograph: lamps that are lit and reach a simulated node."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from tests.conftest import RunningApp, at_rest, wait_for
from tests.moves import on


def wall_hang(universe: str = "artnet 0", high: int = 3) -> dict[str, Any]:
    """RGB lamps from channel 1, hung in `high` rows of six."""
    each = {"universe": universe, "count": 6, "order": "RGB", "x": 0}
    rows = [{**each, "channel": 1 + 18 * y, "y": y} for y in range(high)]
    return {"name": "Gatehouse", "listens": [universe], "width": 6, "height": high, "lamps": rows}


def light_wall(app: RunningApp, node: str, ramp: list[list[float]], high: int = 3, **line: Any) -> dict[str, str]:
    """Lamps as a matrix of 6 x `high`, an Art-Net output to the node, one running look. Returns the ids."""
    at_rest(app)
    api = app.api()
    ids = {name: str(uuid4()) for name in ("show", "matrix", "look", "line", "output")}
    api.call("POST", "/api/shows", {"id": ids["show"], "name": "Wall"})
    lamps = [str(uuid4()) for _ in range(6 * high)]
    api.call("POST", "/api/fixtures", {"text": f"{len(lamps)} x RGB lamp, from 1", "ids": lamps})
    shape = {"width": 6, "height": high}
    weave = {"selection": "all", **shape}
    api.call("POST", "/api/matrices", {"id": ids["matrix"], "name": "Wall", **shape, "weave": weave})
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


def frame(app: RunningApp) -> int:
    """The number of the engine's last frame."""
    return int(running(app)["state"]["frame"])


def goes_on(app: RunningApp) -> None:
    """The engine makes frame after frame; how fast is what the benches measure."""
    at = frame(app)
    wait_for(lambda: frame(app) > at + 20, 10, "the engine makes no frames")
