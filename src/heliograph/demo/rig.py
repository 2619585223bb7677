"""The rig of the demo: profiles, fixtures, groups, matrices, outputs. Makers and names are invented."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from heliograph.demo.client import ApiClient
from heliograph.demo.names import key

STRIPS, PIXELS = 18, 50
BARS, BAR_CELLS = 14, 10
WINDOWS, DROPS = 24, 12
HEADS, RING = 4, 12
UPRIGHT = {"kind": "upright"}

ORIGIN = "The demo, invented at Skerry Point"

Data = dict[str, Any]


def _channels(*attributes: str) -> list[Data]:
    return [{"attribute": name} for name in attributes]


RGB = _channels("ColorAdd_R", "ColorAdd_G", "ColorAdd_B")
RGBW = [*RGB, {"attribute": "ColorAdd_W", "kelvin": 5600}]
LANTERN_DIMMER = {
    "attribute": "Dimmer",
    "ranges": [
        {"first": 0, "last": 4, "kind": "closed", "name": "dark"},
        {"first": 5, "last": 184, "kind": "dim", "name": "dark to full"},
        {"first": 185, "last": 249, "kind": "strobe", "name": "strobe"},
        {"first": 250, "last": 255, "kind": "open", "name": "full"},
    ],
}
BAR_SHARED = _channels("Dimmer", "Shutter1Strobe", "ColorMacro1", "ColorMacro1Rate", "Control1", "Control2")


def _block(name: str, shared: list[Data], cells: int = 0, each: Sequence[Data] = (), **more: Any) -> Data:
    return {"name": name, "shared": shared, "cell_count": cells, "cell_channels": list(each), **more}


def _profile(maker: str, name: str, kind: str, mode: str, *blocks: Data, **more: Any) -> Data:
    modes = [{"name": mode, "blocks": list(blocks)}]
    return {"id": key(name), "maker": maker, "name": name, "kind": kind, "modes": modes, "origin": ORIGIN, **more}


HEAD_BASE: list[Data] = [
    {"attribute": "Pan", "home": 128, "physical": [-270, 270]},
    {"attribute": "Pan", "fine": True},
    {"attribute": "Tilt", "home": 128, "physical": [-135, 135]},
    {"attribute": "Tilt", "fine": True},
    *_channels("Dimmer"),
    {"attribute": "Dimmer", "fine": True},
    {
        "attribute": "Shutter1",
        "home": 255,
        "in_fade": "half-way",
        "ranges": [
            {"first": 0, "last": 9, "kind": "closed", "name": "closed"},
            {"first": 10, "last": 219, "kind": "strobe", "name": "strobe"},
            {"first": 220, "last": 255, "kind": "open", "name": "open"},
        ],
    },
    *RGBW,
    {"attribute": "CTO"},
    {"attribute": "Zoom", "home": 128},
    {"attribute": "Zoom", "fine": True},
    *_channels("Focus1"),
    {"attribute": "Focus1", "fine": True},
    *_channels("Frost1", "Iris", "Prism1", "Fans", "Control1", "Control3"),
]
HALO = _channels("Effects1", "Effects1Rate", "Effects2", "Effects2Rate", "ColorMacro1", "ColorMacro1Rate")
HALO += _channels("Effects3", "Effects3Rate", "Control2")
SAFE_RGB = [{**channel, "safe": 0} for channel in RGB]


def _safe(*attributes: str, **home: int) -> list[Data]:
    return [{"attribute": name, "home": home.get(name, 0), "safe": 0} for name in attributes]


RAY = [
    {
        "attribute": "LEDZoneMode",
        "home": 200,
        "safe": 0,
        "ranges": [
            {"first": 0, "last": 49, "kind": "closed", "name": "off"},
            {"first": 50, "last": 149, "kind": "named", "name": "by itself"},
            {"first": 150, "last": 255, "kind": "named", "name": "by DMX"},
        ],
    },
    *_safe("Dimmer", "Gobo1", "Gobo1Pos", "Pan", "Tilt", "Zoom", "Effects1", "Effects1Rate", Pan=128, Tilt=128),
    *_safe(*(f"Control{n}" for n in range(1, 9))),
]


BAR_DRAWS: Data = {
    "attribute": "Control1",
    "home": 0,
    "safe": 0,
    "in_fade": "half-way",
    "ranges": [
        {"first": 0, "last": 31, "kind": "default", "name": "beams by DMX"},
        {"first": 32, "last": 95, "kind": "named", "name": "comb"},
        {"first": 96, "last": 159, "kind": "named", "name": "breakers"},
        {"first": 160, "last": 255, "kind": "named", "name": "by itself"},
    ],
}

PROFILES = (
    _profile(
        "Fulmar Works",
        "Fulmar Strip 50",
        "strip",
        "50 RGB",
        _block("Cells", [], PIXELS, RGB, layout={"kind": "upright"}),
    ),
    _profile("Tern & Daughter", "Tern Bar 10", "bar", "46", _block("Cells", BAR_SHARED, BAR_CELLS, RGBW)),
    _profile("Tern & Daughter", "Tern Lantern", "lamp", "4", _block("Cells", [], 1, [*RGB, LANTERN_DIMMER])),
    _profile("Tern & Daughter", "Tern Drop", "lamp", "1", _block("Cells", [], 1, _channels("ColorAdd_W"))),
    _profile(
        "Kittiwake Optics",
        "Kittiwake Ring 12",
        "head",
        "79",
        _block("Base", HEAD_BASE),
        _block("Halo", HALO),
        _block("Ring", [], RING, RGBW, lies="", layout={"kind": "ring"}, hides=True),
    ),
    _profile("Kittiwake Optics", "Kittiwake Ray", "laser", "20", _block("Zone", RAY, 1, SAFE_RGB), guarded=True),
    _profile(
        "Kittiwake Optics",
        "Kittiwake Ray Bar 8",
        "laser",
        "28",
        _block("Bar", [*_safe("Dimmer", "Shutter1", "Tilt", Shutter1=255, Tilt=128), BAR_DRAWS], 8, SAFE_RGB),
        guarded=True,
    ),
)

FIXTURES = (
    (f"{STRIPS} x Fulmar Strip 50, from 101, Tower {{n}}, at U1.1", "strip", STRIPS),
    (f"{BARS} x Tern Bar 10, from 401, Breakwater {{n}}, at U7.1", "bar", BARS),
    (f"{WINDOWS} x Tern Lantern, from 501, Window {{n}}, at U8.161", "lantern", WINDOWS),
    (f"{DROPS} x Tern Drop, from 601, Drop {{n}}, at U8.301", "drop", DROPS),
    (f"{HEADS} x Kittiwake Ring 12, from 701, Signal {{n}}, at U9.1, block Ring at U10.1", "signal", HEADS),
    ("3 x Kittiwake Ray, from 801, Ray {n}, at U11.1", "ray", 3),
    ("1 x Kittiwake Ray Bar 8, from 811, Ray bar, at U11.101", "ray bar", 1),
)

GROUPS = (
    ("Tower", "101-118"),
    ("Breakwater", "401-414"),
    ("Cottage windows", "501-524"),
    ("Net drops", "601-612"),
    ("Signal heads", "701-704"),
    ("Lantern room", "801-811"),
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
    _matrix("Signal rings", "701-704", RING * HEADS, 1),
    _matrix("Lantern room", "811", 8, 1),
)


def _output(name: str, first: int, count: int, **route: Any) -> Data:
    return {"id": key(name), "name": name, "first_universe": first, "count": count, **route}


def build_rig(api: ApiClient, card: str, nodes: Sequence[str]) -> None:
    """`card` sends; `nodes` are the addresses of the Tower, the quay and the lantern gallery. sACN universe = n,
    Port-Address = n - 1."""
    for profile in PROFILES:
        api.call("POST", "/api/profiles", profile)
    for text, name, count in FIXTURES:
        api.call("POST", "/api/fixtures", {"text": text, "ids": [key(f"{name} {n}") for n in range(count)]})
    for name, selection in GROUPS:
        api.call("POST", "/api/groups", {"id": key(f"group {name}"), "name": name, "selection": selection})
    for matrix in MATRICES:
        api.call("POST", "/api/matrices", matrix)
    by_sacn = {"protocol": "sacn", "mode": "multicast", "card": card, "first_number": 1}
    by_artnet = {"protocol": "artnet", "mode": "unicast", "card": card}
    quay, gallery = ({**by_artnet, "destination": node} for node in nodes[1:3])
    api.call("POST", "/api/outputs", _output("Tower by sACN", 1, 6, **by_sacn))
    api.call("POST", "/api/outputs", _output("Quay by Art-Net", 7, 2, **quay, first_number=6))
    api.call("POST", "/api/outputs", _output("Heads by Art-Net", 9, 1, **gallery, first_number=8))
    api.call("POST", "/api/outputs", _output("Rings by sACN", 10, 1, **{**by_sacn, "first_number": 10}))
    api.call("POST", "/api/outputs", _output("Lasers by Art-Net", 11, 1, **gallery, first_number=10))
