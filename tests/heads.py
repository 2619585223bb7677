"""A head of three blocks for tests: base 22, halo 9, a ring of RGBW pixels.

Of 12 pixels it is 79 channels long, with the halo off 70, and its ring begins at 32, or 23. Common practice, no
published source: footprints add up, blocks follow one another.
"""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from tests.conftest import RunningApp

BASE, HALO = 22, 9


def channels(*attributes: str) -> list[dict[str, Any]]:
    return [{"attribute": one} for one in attributes]


def head_mode(pixels: int) -> dict[str, Any]:
    base = channels("Pan", "Tilt", "Dimmer", "Zoom", *(f"Control{n + 1}" for n in range(BASE - 4)))
    halo = channels(*(f"Effects{n + 1}" for n in range(HALO)))
    ring = channels(*(f"ColorAdd_{c}" for c in "RGBW"))
    blocks: tuple[tuple[str, list[Any], int, list[Any]], ...]
    blocks = (("Base", base, 0, []), ("Halo", halo, 0, []), ("Ring", [], pixels, ring))
    return {
        "name": f"{BASE + HALO + 4 * pixels} channels",
        "blocks": [
            {"name": name, "shared": shared, "cell_count": cells, "cell_channels": each}
            for name, shared, cells, each in blocks
        ],
    }


def add_head(app: RunningApp, pixels: int = 12) -> str:
    """Adds its profile to the open show; answers the name."""
    name = f"Ring of {pixels}"
    body = {"id": str(uuid4()), "maker": "Kittiwake Optics", "name": name, "kind": "head", "modes": [head_mode(pixels)]}
    app.api().call("POST", "/api/profiles", body)
    return name
