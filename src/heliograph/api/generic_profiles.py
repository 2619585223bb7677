"""The generic profiles every new show begins with."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any
from uuid import uuid4

Data = dict[str, Any]

STRIP_PIXELS = (16, 25, 30, 32, 50, 60, 64, 72, 100, 144, 150, 170)
LONG_STRIP_PIXELS = (200, 288, 300, 340, 510, 600, 1000)
RGBW_STRIP_PIXELS = (16, 30, 60, 72, 120, 128)
BAR_CELLS = (4, 6, 8, 10, 12, 16)

ATTRIBUTES = {
    "R": "ColorAdd_R",
    "G": "ColorAdd_G",
    "B": "ColorAdd_B",
    "W": "ColorAdd_W",
    "A": "ColorAdd_RY",
    "U": "ColorAdd_UV",
    "D": "Dimmer",
    "S": "Shutter1Strobe",
}
"""Letters of a channel list -> GDTF attributes; amber is ColorAdd_RY (facts 5)."""

STROBE_DIMMER = {
    "attribute": "Dimmer",
    "ranges": [
        {"first": 0, "last": 7, "kind": "closed", "name": "dark"},
        {"first": 8, "last": 134, "kind": "dim", "name": "dark to full"},
        {"first": 135, "last": 239, "kind": "strobe", "name": "strobe, slow to fast"},
        {"first": 240, "last": 255, "kind": "open", "name": "full"},
    ],
}
"""Dimmer and strobe in one, a layout that is common (common practice, no source)."""


def channels(letters: str) -> list[Data]:
    """`DRGB` -> a dimmer, red, green, blue. A strobe rests at 0: steady light."""
    return [{"attribute": ATTRIBUTES[letter]} for letter in letters]


def block(name: str, shared: Sequence[Data], cells: int, each: Sequence[Data], runs_on: bool = False) -> Data:
    return {
        "name": name,
        "shared": list(shared),
        "cell_count": cells,
        "cell_channels": list(each),
        "runs_on": runs_on,
    }


def lamp_mode(name: str, shared: Sequence[Data], each: Sequence[Data]) -> Data:
    """One cell."""
    return {"name": name, "blocks": [block("Lamp", shared, 1, each)]}


def strip_mode(pixels: int, runs_on: bool, letters: str = "RGB") -> Data:
    """`pixels` cells without shared channels."""
    return {"name": f"{pixels} {letters}", "blocks": [block("Pixels", [], pixels, channels(letters), runs_on)]}


def bar_mode(cells: int, letters: str) -> Data:
    """Dimmer and strobe for all, then the cells."""
    name = f"{cells} {letters}, dimmer and strobe"
    return {"name": name, "blocks": [block("Bar", channels("DS"), cells, channels(letters))]}


def tube_mode() -> Data:
    """16 pixels of 8 channels, of which only 5 to 7 are RGB (check values of the trade, no published source)."""
    pixel: list[Data] = [
        {"attribute": "Dimmer"},
        {"attribute": "Dimmer", "fine": True},
        {"attribute": "ColorMacro1"},
        {"attribute": "ColorMacro1Rate"},
        *channels("RGB"),
        {"attribute": "Shutter1", "home": 255},
    ]
    return {"name": "16 pixels of 8 channels", "blocks": [block("Pixels", [], 16, pixel)]}


def _laser() -> Data:
    shared = [{"attribute": "Shutter1", "home": 0, "safe": 0}, {"attribute": "Dimmer", "home": 0, "safe": 0}]
    each = [{**channel, "safe": 0} for channel in channels("RGB")]
    return {"name": "5 channels", "blocks": [block("Zone", shared, 1, each)]}


def _profiles() -> list[Data]:
    strips = [strip_mode(n, False) for n in STRIP_PIXELS] + [strip_mode(n, True) for n in LONG_STRIP_PIXELS]
    return [
        {"name": "RGB lamp", "kind": "lamp", "modes": [lamp_mode("RGB", [], channels("RGB"))]},
        {"name": "RGBW lamp", "kind": "lamp", "modes": [lamp_mode("RGBW", [], channels("RGBW"))]},
        {"name": "RGBA lamp", "kind": "lamp", "modes": [lamp_mode("RGBA", [], channels("RGBA"))]},
        {"name": "RGBAW+UV lamp", "kind": "lamp", "modes": [lamp_mode("RGBAW+UV", [], channels("RGBAWU"))]},
        {"name": "White lamp", "kind": "lamp", "modes": [lamp_mode("White", [], channels("W"))]},
        {
            "name": "Dimmer and RGB lamp",
            "kind": "lamp",
            "modes": [
                lamp_mode("Dimmer, RGB", channels("D"), channels("RGB")),
                lamp_mode("Dimmer, strobe, RGB", channels("DS"), channels("RGB")),
                lamp_mode("Dimmer and strobe in one, RGB", [STROBE_DIMMER], channels("RGB")),
                lamp_mode("Dimmer, RGBW", channels("D"), channels("RGBW")),
            ],
        },
        {"name": "RGB pixel strip", "kind": "strip", "modes": strips},
        {
            "name": "RGBW pixel strip",
            "kind": "strip",
            "modes": [strip_mode(n, False, "RGBW") for n in RGBW_STRIP_PIXELS],
        },
        {
            "name": "Cell bar",
            "kind": "bar",
            "modes": [bar_mode(n, letters) for letters in ("RGB", "RGBW", "RGBA") for n in BAR_CELLS],
        },
        {"name": "Pixel tube", "kind": "bar", "modes": [tube_mode()]},
        {"name": "RGB laser head", "kind": "laser", "guarded": True, "modes": [_laser()]},
    ]


def generic_profiles() -> list[tuple[str, Data]]:
    """(id, columns) of each profile; ids are new for every show."""
    return [(str(uuid4()), {"maker": "Generic", "guarded": False, **profile}) for profile in _profiles()]
