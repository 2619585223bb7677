"""The looks of the demo, and its saved ramps."""

from __future__ import annotations

from typing import Any

from heliograph.demo.client import ApiClient
from heliograph.demo.names import key

Data = dict[str, Any]
Ramp = list[list[float]]

RAMPS: dict[str, Ramp] = {
    "dusk": [[0.0, 6, 18, 46], [0.35, 18, 64, 104], [0.7, 214, 120, 72], [1.0, 255, 206, 128]],
    "lamp warm": [[0.0, 255, 219, 150]],
    "shallows": [[0.0, 2, 22, 30], [0.45, 8, 84, 92], [0.75, 64, 196, 170], [1.0, 214, 255, 238]],
    "hearth": [[0.0, 70, 22, 4], [0.5, 214, 104, 28], [1.0, 255, 196, 96]],
    "deep water": [[0.0, 2, 10, 24], [0.5, 6, 44, 70], [1.0, 2, 10, 24]],
    "spray": [[0.0, 30, 40, 60], [1.0, 255, 255, 255]],
    "salt": [[0.0, 255, 255, 255]],
}


def _line(name: str, effect: str, matrix: str, ramp: str, beats: float, **fields: Any) -> Data:
    return {
        "id": key(name),
        "paints": "effect",
        "effect": effect,
        "matrix": key(matrix),
        "ramp": RAMPS[ramp],
        "saved_ramp": key(f"ramp {ramp}"),
        "speed": {"value": beats, "unit": "beat"},
        **fields,
    }


def _clip_line(name: str, matrix: str, **fields: Any) -> Data:
    return {
        "id": key(name),
        "paints": "clip",
        "clip": key("reel"),
        "matrix": key(matrix),
        "speed": {"value": 1, "unit": "times"},
        **fields,
    }


def _windows(name: str, **fields: Any) -> Data:
    return _line(name, "Mist", "Windows", "hearth", 24, params={"scale": 34, "detail": 3, "contrast": 80}, **fields)


LOOKS: dict[str, list[Data]] = {
    "Harbour swell": [
        _line("swell mist", "Mist", "Tower", "dusk", 32, params={"contrast": 70}),
        _line(
            "swell lamp",
            "Beacon",
            "Tower",
            "lamp warm",
            16,
            opacity=0.55,
            blend="add",
            params={"width": 8, "tail": 34, "angle": 20},
        ),
        _line("swell sea", "Grade", "Breakwater line", "shallows", 8, params={"repeats": 3}),
        _windows("swell windows"),
        _line(
            "swell drops", "Relay", "Net drops", "salt", 16, opacity=0.7, params={"order": "shuffle", "overlap": 100}
        ),
        _line("swell rings", "Grade", "Signal rings", "shallows", 16, params={"repeats": 4}),
        _line("swell lasers", "Relay", "Lantern room", "lamp warm", 4, params={"overlap": 60}),
    ],
    "Beacon turn": [
        _line("turn ground", "Flat", "Tower", "deep water", 4),
        _line("turn beam", "Beacon", "Tower", "lamp warm", 8, params={"form": "beam", "width": 6, "tail": 22}),
        _line("turn sea", "Beacon", "Breakwater", "salt", 8, params={"width": 6, "tail": 30, "turn": "going on"}),
        _windows("turn windows", opacity=0.5),
        _line("turn rings", "Beacon", "Signal rings", "lamp warm", 8, params={"width": 20, "tail": 40}),
    ],
    "Herring run": [
        _line("run ground", "Grade", "Tower", "deep water", 32, params={"angle": 90}),
        _line(
            "run shoal",
            "Relay",
            "Tower",
            "shallows",
            16,
            params={"order": "snake", "width": 120, "overlap": 100},
        ),
        _line("run sea", "Mist", "Breakwater", "shallows", 16, params={"scale": 20}),
    ],
}

STORM = [
    _clip_line("storm tower", "Tower"),
    _clip_line("storm sea", "Breakwater", fitting={"fit": "fill"}),
    _line("storm squall", "Mist", "Tower", "spray", 8, blend="multiply", opacity=0.8, params={"scale": 60}),
    _windows("storm windows", opacity=0.35),
]


def build_looks(api: ApiClient) -> None:
    for name, stops in RAMPS.items():
        api.call("POST", "/api/ramps", {"id": key(f"ramp {name}"), "name": name, "stops": stops})
    for name, lines in LOOKS.items():
        api.call("POST", "/api/looks", {"id": key(name), "name": name, "lines": lines})


def add_storm(api: ApiClient) -> None:
    """The look of the clip, once the clip is there."""
    api.call("POST", "/api/looks", {"id": key("Storm reel"), "name": "Storm reel", "lines": STORM})
