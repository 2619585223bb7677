"""The demo's page: for whoever stands at the quay with a tablet."""

from __future__ import annotations

from typing import Any

from heliograph.demo.client import ApiClient
from heliograph.demo.evening import NAME as EVENING
from heliograph.demo.names import key

NAME = "Quay"


def _look(name: str) -> str:
    return f"look/{key(name)}/on"


def _item(name: str, kind: str, x: int, y: int, w: int, h: int, *handles: str, **fields: Any) -> dict[str, Any]:
    place = {"x": x, "y": y, "w": w, "h": h}
    return {"id": key(f"page {name}"), "kind": kind, "words": name, "handles": list(handles), **place, **fields}


WINDOWS = f"group/{key('group Cottage windows')}/master"
HOLD: dict[str, Any] = {"touch": {"do": "on"}, "lift": {"do": "off"}}
TURN: dict[str, Any] = {"touch": {"do": "turn"}, "lift": {"do": "nothing"}}

ITEMS = (
    _item("Swell to beacon", "crossfader", 0, 0, 6, 2, _look("Harbour swell"), _look("Beacon turn")),
    _item("Tap", "tap", 6, 0, 4, 2),
    _item("Tower", "fader", 10, 0, 2, 6, f"group/{key('group Tower')}/master", mark="sent"),
    _item("Midwinter", "pad", 0, 2, 3, 2, _look("Midwinter"), mark="snow", hue="ice", **TURN),
    _item("Cottage windows", "pad", 3, 2, 3, 2, WINDOWS, mark="sent", hue="rope", **TURN),
    _item(
        "Herring run, 8 beats",
        "pad",
        6,
        2,
        4,
        2,
        _look("Herring run"),
        mark="sent",
        touch={"do": "beats", "beats": 8},
        lift={"do": "nothing"},
    ),
    _item("Fog signal", "pad", 0, 4, 4, 2, _look("Fog signal"), mark="fog", hue="slate", **HOLD),
    _item("Beacon turn", "pad", 4, 4, 3, 2, _look("Beacon turn"), mark="beam", hue="kelp", **HOLD),
    _item(
        "Midwinter evening",
        "pad",
        7,
        4,
        3,
        1,
        f"score/{key('Midwinter evening')}/start",
        mark="sun",
        hue="heather",
        touch={"do": "on"},
        lift={"do": "nothing"},
    ),
    _item(
        "Blackout off",
        "pad",
        7,
        5,
        3,
        1,
        "blackout",
        mark="",
        hue="bone",
        touch={"do": "off"},
        lift={"do": "nothing"},
    ),
    _item("Breakwater", "fader", 0, 6, 12, 1, f"group/{key('group Breakwater')}/master", hue="rope"),
    _item("Evening", "list", 0, 7, 12, 1, f"list/{key(EVENING)}/go"),
)


def build_page(api: ApiClient) -> None:
    """Once the engine has what it moves."""
    page = key(NAME)
    api.call("POST", "/api/pages", {"id": page, "name": NAME})
    for item in ITEMS:
        api.call("POST", f"/api/pages/{page}/items", item)
