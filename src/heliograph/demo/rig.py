"""The rig of the demo: profiles, fixtures, groups, matrices, outputs. Makers and names are invented."""

from __future__ import annotations

from typing import Any

from heliograph.demo.client import ApiClient
from heliograph.demo.names import key

STRIPS, PIXELS = 18, 50
BARS, BAR_CELLS = 14, 10
WINDOWS, DROPS = 24, 12

Data = dict[str, Any]


def _channels(*attributes: str) -> list[Data]:
    return [{"attribute": name} for name in attributes]


RGB = _channels("ColorAdd_R", "ColorAdd_G", "ColorAdd_B")
RGBW = [*RGB, {"attribute": "ColorAdd_W", "kelvin": 5600}]
LANTERN_DIMMER = {
    "attribute": "Dimmer",
    "ranges": [
        {"first": 0, "last": 7, "kind": "closed", "name": "dark"},
        {"first": 8, "last": 134, "kind": "dim", "name": "dark to full"},
        {"first": 135, "last": 239, "kind": "strobe", "name": "strobe"},
        {"first": 240, "last": 255, "kind": "open", "name": "full"},
    ],
}
BAR_SHARED = _channels("Dimmer", "Shutter1Strobe", "ColorMacro1", "ColorMacro1Rate", "Control1", "Control2")


def _profile(maker: str, name: str, kind: str, mode: str, shared: list[Data], cells: int, each: list[Data]) -> Data:
    block = {"name": "Cells", "shared": shared, "cell_count": cells, "cell_channels": each}
    return {
        "id": key(name),
        "maker": maker,
        "name": name,
        "kind": kind,
        "modes": [{"name": mode, "blocks": [block]}],
    }


PROFILES = (
    _profile("Fulmar Works", "Fulmar Strip 50", "strip", "50 RGB", [], PIXELS, RGB),
    _profile("Tern & Daughter", "Tern Bar 10", "bar", "46", BAR_SHARED, BAR_CELLS, RGBW),
    _profile("Tern & Daughter", "Tern Lantern", "lamp", "4", [LANTERN_DIMMER], 1, RGB),
    _profile("Tern & Daughter", "Tern Drop", "lamp", "1", [], 1, _channels("ColorAdd_W")),
)

FIXTURES = (
    (f"{STRIPS} x Fulmar Strip 50, from 101, Tower {{n}}, at U1.1", "strip", STRIPS),
    (f"{BARS} x Tern Bar 10, from 401, Breakwater {{n}}, at U7.1", "bar", BARS),
    (f"{WINDOWS} x Tern Lantern, from 501, Window {{n}}, at U8.201", "lantern", WINDOWS),
    (f"{DROPS} x Tern Drop, from 601, Drop {{n}}, at U8.301", "drop", DROPS),
)

GROUPS = (
    ("Tower", "101-118"),
    ("Breakwater", "401-414"),
    ("Cottage windows", "501-524"),
    ("Net drops", "601-612"),
)


def _matrix(name: str, selection: str, width: int, height: int, **weave: Any) -> Data:
    woven = {"selection": selection, "width": width, "height": height, **weave}
    return {"id": key(name), "name": name, "width": width, "height": height, "weave": woven}


MATRICES = (
    _matrix("Tower", "101-118", STRIPS, PIXELS, corner="bottom left", along="columns", snake=True),
    _matrix("Breakwater", "401-414", BARS * BAR_CELLS // 2, 2),
    _matrix("Breakwater line", "401-414", BARS * BAR_CELLS, 1),
    _matrix("Windows", "501-524", 6, 4),
    _matrix("Net drops", "601-612", DROPS, 1),
)


def _output(name: str, first: int, count: int, **route: Any) -> Data:
    return {"id": key(name), "name": name, "first_universe": first, "count": count, **route}


def build_rig(api: ApiClient, card: str, quay: str) -> None:
    """`card` sends; `quay` is the address of the Art-Net node. sACN universe = n, Port-Address = n - 1."""
    for profile in PROFILES:
        api.call("POST", "/api/profiles", profile)
    for text, name, count in FIXTURES:
        api.call("POST", "/api/fixtures", {"text": text, "ids": [key(f"{name} {n}") for n in range(count)]})
    for name, selection in GROUPS:
        api.call("POST", "/api/groups", {"id": key(f"group {name}"), "name": name, "selection": selection})
    for matrix in MATRICES:
        api.call("POST", "/api/matrices", matrix)
    by_sacn = {"protocol": "sacn", "mode": "multicast", "card": card, "first_number": 1}
    by_artnet = {"protocol": "artnet", "mode": "unicast", "card": card, "first_number": 6, "destination": quay}
    api.call("POST", "/api/outputs", _output("Tower by sACN", 1, 6, **by_sacn))
    api.call("POST", "/api/outputs", _output("Quay by Art-Net", 7, 2, **by_artnet))
