"""Builds the demo show in a running Heliograph, through the API, and starts its looks."""

from __future__ import annotations

import time
from pathlib import Path
from typing import Any
from uuid import NAMESPACE_URL, uuid5

from heliograph.core.errors import HeliographError
from heliograph.demo.client import ApiClient
from heliograph.demo.reel import write_reel

NAME = "Skerry Point Winter Lights"
TEMPO = 112.0
HANG_LIST = Path(__file__).parent / "tower_hang.json"

STRIPS, PIXELS = 18, 50
RGB = [{"attribute": "ColorAdd_R"}, {"attribute": "ColorAdd_G"}, {"attribute": "ColorAdd_B"}]

DUSK = [[0.0, 6, 18, 46], [0.35, 18, 64, 104], [0.7, 214, 120, 72], [1.0, 255, 206, 128]]
LAMP_WARM = [[0.0, 255, 219, 150]]
DEEP = [[0.0, 4, 16, 34]]
DEPTHS = [[0.0, 2, 10, 24], [0.5, 6, 44, 70], [1.0, 2, 10, 24]]
SHALLOWS = [[0.0, 8, 84, 92], [0.6, 64, 196, 170], [1.0, 214, 255, 238]]


def _id(name: str) -> str:
    """Stable ids, so that a start that was cut short goes on where it was."""
    return str(uuid5(NAMESPACE_URL, f"heliograph:demo:{name}"))


def build_demo(address: str, pass_code: str, data: Path, card: str) -> None:
    """Opens the demo show, building what is missing of it; a look is started where none runs."""
    api = ApiClient(address, pass_code)
    listed = {show["id"]: show for show in api.call("GET", "/api/shows")}
    if _id("show") not in listed:
        api.call("POST", "/api/shows", {"id": _id("show"), "name": NAME})
    elif not listed[_id("show")]["is_open"]:
        api.call("POST", f"/api/shows/{_id('show')}/open")
    show = api.call("GET", "/api/show")
    if not show["undo"] and not show["fixtures"]:
        _rig(api, card)
        _looks(api)
        _start(api)
        _reel(api, data)
    _start(api)


def _rig(api: ApiClient, card: str) -> None:
    block = {"name": "Pixels", "cell_count": PIXELS, "cell_channels": RGB}
    api.call(
        "POST",
        "/api/profiles",
        {
            "id": _id("strip"),
            "maker": "Fulmar Works",
            "name": "Fulmar Strip 50",
            "kind": "strip",
            "modes": [{"name": "50 RGB", "blocks": [block]}],
        },
    )
    api.call(
        "POST",
        "/api/fixtures",
        {
            "text": f"{STRIPS} x Fulmar Strip 50, from 101, Tower {{n}}, at U1.1",
            "ids": [_id(f"strip {n}") for n in range(STRIPS)],
        },
    )
    weave = {
        "selection": "101-118",
        "width": STRIPS,
        "height": PIXELS,
        "corner": "bottom left",
        "along": "columns",
        "snake": True,
    }
    tower = {"id": _id("tower"), "name": "Tower", "width": STRIPS, "height": PIXELS, "weave": weave}
    api.call("POST", "/api/matrices", tower)
    api.call(
        "POST",
        "/api/outputs",
        {
            "id": _id("output"),
            "name": "Tower by sACN",
            "protocol": "sacn",
            "mode": "multicast",
            "card": card,
            "first_universe": 1,
            "count": 6,
            "first_number": 1,
        },
    )


def _reel(api: ApiClient, data: Path) -> None:
    """The clip last: it takes some seconds to draw, and there is light already."""
    reel = data / "media" / "storm_reel.mp4"
    write_reel(reel)
    try:
        api.upload("/api/clips", _id("reel"), "Storm reel.mp4", reel)
    finally:
        reel.unlink(missing_ok=True)
    layer = {
        "id": _id("reel layer"),
        "paints": "clip",
        "clip": _id("reel"),
        "matrix": _id("tower"),
        "speed": {"value": 1, "unit": "s"},
    }
    api.call("POST", "/api/looks", {"id": _id("Storm reel"), "name": "Storm reel", "layers": [layer]})


def _layer(name: str, **fields: Any) -> dict[str, Any]:
    return {"id": _id(name), "paints": "effect", "matrix": _id("tower"), **fields}


def _looks(api: ApiClient) -> None:
    swell = [
        _layer("swell mist", effect="Mist", ramp=DUSK, speed={"value": 32, "unit": "beat"}, params={"contrast": 70}),
        _layer(
            "swell lamp",
            effect="Beacon",
            ramp=LAMP_WARM,
            speed={"value": 16, "unit": "beat"},
            opacity=0.55,
            blend="add",
            params={"width": 8, "tail": 34, "angle": 20},
        ),
    ]
    turn = [
        _layer("turn ground", effect="Flat", ramp=DEEP),
        _layer(
            "turn beam",
            effect="Beacon",
            ramp=LAMP_WARM,
            speed={"value": 8, "unit": "beat"},
            params={"form": "beam", "width": 6, "tail": 22},
        ),
    ]
    run = [
        _layer("run ground", effect="Grade", ramp=DEPTHS, speed={"value": 32, "unit": "beat"}, params={"angle": 90}),
        _layer(
            "run shoal",
            effect="Relay",
            ramp=SHALLOWS,
            speed={"value": 16, "unit": "beat"},
            params={"order": "snake", "width": 120, "overlap": 100},
        ),
    ]
    for name, layers in (("Harbour swell", swell), ("Beacon turn", turn), ("Herring run", run)):
        api.call("POST", "/api/looks", {"id": _id(name), "name": name, "layers": layers})


def _start(api: ApiClient) -> None:
    """Starts the first look once the engine has the show; leaves alone what runs already."""
    until = time.monotonic() + 10
    while time.monotonic() < until:
        try:
            if not api.call("GET", "/api/engine")["state"]["running"]:
                api.call("POST", "/api/engine", {"do": "tempo", "bpm": TEMPO})
                api.call("POST", "/api/engine", {"do": "start", "look": _id("Harbour swell")})
            return
        except HeliographError:
            time.sleep(0.1)  # the show is on its way to the engine
