"""The looks of the demo, and its saved ramps."""

from __future__ import annotations

from typing import Any

from heliograph.demo.chases import build_chase, chase_line
from heliograph.demo.client import ApiClient
from heliograph.demo.evening import STORM as STORM_CUE
from heliograph.demo.evening import add_cue, build_evening
from heliograph.demo.heads import bar_line, build_presets, heads_line
from heliograph.demo.midwinter import build_midwinter
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
    "fog lamp": [[0.0, 4, 12, 20], [0.45, 26, 92, 96], [0.8, 150, 214, 190], [1.0, 255, 236, 200]],
    "frost": [[0.0, 232, 244, 255], [1.0, 40, 78, 120]],
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


def _recolour_line(name: str, matrix: str, ramp: str, **fields: Any) -> Data:
    return {
        "id": key(name),
        "paints": "recolour",
        "matrix": key(matrix),
        "ramp": RAMPS[ramp],
        "saved_ramp": key(f"ramp {ramp}"),
        **fields,
    }


def _swing(low: float, high: float, beats: float, **fields: Any) -> Data:
    return {"low": low, "high": high, "period": {"value": beats, "unit": "beat"}, **fields}


def _windows(name: str, **fields: Any) -> Data:
    return _line(name, "Mist", "Windows", "hearth", 24, params={"scale": 34, "detail": 3, "contrast": 80}, **fields)


FOG_COMES = [[0.0, 0.0], [0.3, 1.0], [0.55, 0.8], [1.0, 0.0]]

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
        heads_line("swell heads", "Quay", "Lamp room", path="ring", beats=32, reach=(14, 8)),
        _line("swell lasers", "Relay", "Lantern room", "lamp warm", 4, params={"overlap": 60}),
    ],
    "Beacon turn": [
        _line("turn ground", "Flat", "Tower", "deep water", 4),
        _line("turn beam", "Beacon", "Tower", "lamp warm", 8, params={"form": "beam", "width": 6, "tail": 22}),
        _line("turn sea", "Beacon", "Breakwater", "salt", 8, params={"width": 6, "tail": 30, "turn": "going on"}),
        _windows("turn windows", opacity=0.5),
        chase_line(0.9),
        heads_line("turn heads", "Lantern"),
        bar_line("turn comb", "Comb"),
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
        _line("run gulls", "Glints", "Windows", "spray", 4, stencil=True, params={"density": 70, "decay": 90}),
        _windows("run windows", through={"line": key("run gulls"), "by": "light"}),
        _line(
            "run name",
            "Ticker",
            "Tower",
            "salt",
            48,
            blend="add",
            opacity=0.55,
            params={"text": "Skerry Point {time}", "height": 18, "spacing": 150},
        ),
    ],
    "Fog signal": [
        _line(
            "fog bank",
            "Slats",
            "Tower",
            "dusk",
            16,
            params={"angle": 70, "spacing": 46, "edge": 80},
            drives={
                "params.width": _swing(30, 75, 24, over="column", rise=0.4, fall=1.2),
                "shift": _swing(0, 1, 64, wave="saw up"),
            },
        ),
        _recolour_line(
            "fog lamp",
            "Tower",
            "fog lamp",
            params={"black": 4, "white": 92},
            drives={"opacity": _swing(0.15, 0.95, 32, source="curve", smooth=True, points=FOG_COMES)},
        ),
        _line("fog horn", "Pulse", "Tower", "lamp warm", 8, blend="add", params={"shape": "saw down"}, opacity=0.35),
        _line(
            "fog sea",
            "Swell",
            "Breakwater",
            "deep water",
            8,
            params={"wavelengths": 3},
            drives={"opacity": _swing(0.3, 1, 16)},
        ),
        _windows("fog windows", opacity=0.6, drives={"opacity": _swing(0.3, 0.8, 4, source="beat", decay=0.9)}),
        heads_line("fog beams", "Open, narrow", "Lamp room"),
        heads_line("fog heads", "Sea", path="knot 2:1", beats=32, reach=(24, 11)),
        _line("fog rings", "Vanes", "Signal rings", "lamp warm", 16, params={"count": 1, "width": 60, "edge": 80}),
    ],
    "Midwinter": [
        _line("winter ground", "Tide", "Tower", "deep water", 64, params={"foam": 0, "evenness": 30}, opacity=0.7),
        _line("winter snow", "Squall", "Tower", "frost", 12, params={"density": 45, "length": 12, "slant": 12}),
        _line("winter stars", "Glints", "Tower", "salt", 8, blend="add", params={"density": 8}, opacity=0.8),
        _line("winter sea", "Splash", "Breakwater", "shallows", 8, params={"drops": 3}),
        _line("winter hearths", "Ember", "Windows", "hearth", 6, params={"height": 160, "flicker": 60}),
        _line("winter drops", "Glints", "Net drops", "salt", 4, params={"density": 60, "decay": 80}),
    ],
}

STORM = [
    _clip_line("storm tower", "Tower"),
    _clip_line("storm sea", "Breakwater", fitting={"fit": "fill"}),
    _line("storm squall", "Mist", "Tower", "spray", 8, blend="multiply", opacity=0.8, params={"scale": 60}),
    _recolour_line("storm deep", "Breakwater", "shallows", only="hue", opacity=0.7),
    _windows("storm windows", opacity=0.35),
]


def build_looks(api: ApiClient) -> None:
    for name, stops in RAMPS.items():
        api.call("POST", "/api/ramps", {"id": key(f"ramp {name}"), "name": name, "stops": stops})
    build_chase(api)
    build_presets(api)
    for name, lines in LOOKS.items():
        api.call("POST", "/api/looks", {"id": key(name), "name": name, "lines": lines})
    build_evening(api)
    build_midwinter(api)


def add_storm(api: ApiClient) -> None:
    """The look of the clip, once the clip is there."""
    api.call("POST", "/api/looks", {"id": key("Storm reel"), "name": "Storm reel", "lines": STORM})
    add_cue(api, STORM_CUE)
