"""The generic profiles every new show begins with."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

RGB = [{"attribute": "ColorAdd_R"}, {"attribute": "ColorAdd_G"}, {"attribute": "ColorAdd_B"}]
STRIP_PIXELS = (16, 25, 30, 32, 50, 60, 64, 72, 100, 144, 150, 170)
LONG_STRIP_PIXELS = (200, 288, 300, 340, 510, 600, 1000)


def strip_mode(pixels: int, runs_on: bool) -> dict[str, Any]:
    """A mode of `pixels` RGB cells without shared channels."""
    block = {"name": "Pixels", "shared": [], "cell_count": pixels, "cell_channels": RGB, "runs_on": runs_on}
    return {"name": f"{pixels} RGB", "blocks": [block]}


def generic_profiles() -> list[tuple[str, dict[str, Any]]]:
    """(id, columns) of each profile; ids are new for every show."""
    lamp = {"name": "Lamp", "shared": [], "cell_count": 1, "cell_channels": RGB, "runs_on": False}
    laser_channels = [
        {"attribute": "Shutter1", "home": 0, "safe": 0},
        {"attribute": "Dimmer", "home": 0, "safe": 0},
    ]
    laser_cells = [{**channel, "safe": 0} for channel in RGB]
    head = {"name": "Zone", "shared": laser_channels, "cell_count": 1, "cell_channels": laser_cells, "runs_on": False}
    profiles: list[dict[str, Any]] = [
        {
            "name": "RGB lamp",
            "kind": "lamp",
            "guarded": False,
            "modes": [{"name": "RGB", "blocks": [lamp]}],
        },
        {
            "name": "RGB pixel strip",
            "kind": "strip",
            "guarded": False,
            "modes": [strip_mode(n, False) for n in STRIP_PIXELS] + [strip_mode(n, True) for n in LONG_STRIP_PIXELS],
        },
        {
            "name": "RGB laser head",
            "kind": "laser",
            "guarded": True,
            "modes": [{"name": "5 channels", "blocks": [head]}],
        },
    ]
    return [(str(uuid4()), {"maker": "Generic", **profile}) for profile in profiles]
