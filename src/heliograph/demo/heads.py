"""What of the demo is no picture: positions of the Signal heads, their motion, and the laser bar by word."""

from __future__ import annotations

from typing import Any

from heliograph.core.look.drive import drive_to_json
from heliograph.core.look.paths import path_drives
from heliograph.core.playing.tempo import Speed
from heliograph.demo.client import ApiClient
from heliograph.demo.names import key

Data = dict[str, Any]

HEADS = "Signal heads"
COUNT = 4

PRESETS: dict[str, Data] = {
    "Sea": {"kind": "position", "folder": "Signal heads", "sets": {"Pan": "-60° > 60°", "Tilt": "35°"}},
    "Quay": {"kind": "position", "folder": "Signal heads", "sets": {"Pan": "-18° > 18°", "Tilt": "-48°"}},
    "Lantern": {"kind": "position", "folder": "Signal heads", "sets": {"Pan": "24° > -24°", "Tilt": "82°"}},
    "Lamp room": {
        "kind": "colour",
        "folder": "Signal heads",
        "sets": {"ColorAdd_R": "255", "ColorAdd_G": "150", "ColorAdd_B": "52", "ColorAdd_W": "90"},
    },
    "Open, narrow": {"kind": "beam", "folder": "Signal heads", "sets": {"Shutter1": "open", "Zoom": "12 %"}},
    "Comb": {"kind": "laser", "folder": "Lantern room", "sets": {"Control1": "comb", "Tilt": "58 %"}},
}


def build_presets(api: ApiClient) -> None:
    for name, preset in PRESETS.items():
        api.call("POST", "/api/presets", {"id": key(f"preset {name}"), "name": name, **preset})


def heads_line(
    name: str, *presets: str, path: str = "", beats: float = 16.0, reach: tuple[float, float] = (24, 11)
) -> Data:
    """A line over the heads that stands at presets and moves along a ready path."""
    moved = path_drives(path, COUNT, Speed(beats, "beat"), reach) if path else {}
    drives = {f"params.{attribute}": drive_to_json(one) for attribute, one in moved.items() if one is not None}
    over = {"group": key(f"group {HEADS}")}
    shown = [key(f"preset {one}") for one in presets]
    return {"id": key(name), "paints": "attributes", **over, "presets": shown, "drives": drives}


def bar_line(name: str, preset: str) -> Data:
    """A line that chooses what the laser bar draws, by its word."""
    return {"id": key(name), "paints": "attributes", "selection": "811", "presets": [key(f"preset {preset}")]}
