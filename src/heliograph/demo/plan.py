"""The demo's plan: the front of the lighthouse in metres, a line drawing of ours behind it, everything in its place."""

from __future__ import annotations

import json
import math
import tempfile
from collections.abc import Iterator, Sequence
from pathlib import Path
from typing import Any

from PIL import Image, ImageDraw

from heliograph.demo.client import ApiClient
from heliograph.demo.names import key
from heliograph.demo.rig import BARS, DROPS, HEADS, STRIPS, WINDOWS

Data = dict[str, Any]
Line = Sequence[tuple[float, float]]

WIDTH, HEIGHT = 26.0, 18.0
"""Metres; x to the right, y up from the sea."""

PIXELS_A_METRE = 60
FRONT_SQUARE = 0.25
"""Metres a square of the matrix that is made of the plan: 99 x 55 squares."""

INK, SOFT = (120, 150, 152, 255), (70, 96, 100, 255)
GROUND, TOWER_X = 3.0, 11.0

TOWER: Line = ((8.6, 3.0), (9.3, 13.0), (12.7, 13.0), (13.4, 3.0))
GALLERY: Line = ((8.8, 13.0), (8.8, 13.4), (13.2, 13.4), (13.2, 13.0), (8.8, 13.0))
LANTERN: Line = ((9.8, 13.4), (9.8, 15.3), (12.2, 15.3), (12.2, 13.4))
COTTAGE: Line = ((1.6, 3.0), (1.6, 5.9), (6.9, 5.9), (6.9, 3.0))
ROOF: Line = ((1.2, 5.9), (2.6, 7.6), (5.9, 7.6), (7.3, 5.9), (1.2, 5.9))
CHIMNEY: Line = ((5.2, 7.6), (5.2, 8.5), (5.9, 8.5), (5.9, 7.6))
MAST: Line = ((24.6, 3.0), (24.6, 8.4))
QUAY: Line = ((0.6, 2.6), (25.4, 2.6), (25.4, 0.8), (0.6, 0.8), (0.6, 2.6))


def elevation() -> Image.Image:
    """The line drawing, on nothing."""
    size = (round(WIDTH * PIXELS_A_METRE), round(HEIGHT * PIXELS_A_METRE))
    image = Image.new("RGBA", size, (0, 0, 0, 0))
    draw = ImageDraw.Draw(image)

    def pixels(line: Line) -> list[tuple[float, float]]:
        return [(x * PIXELS_A_METRE, (HEIGHT - y) * PIXELS_A_METRE) for x, y in line]

    dome = [(TOWER_X + 1.2 * math.cos(a), 15.3 + 1.1 * math.sin(a)) for a in (math.pi * n / 24 for n in range(25))]
    ripples = [
        [(x + n / 4, 0.4 + 0.12 * math.sin(n * math.pi / 2)) for n in range(9)] for x in (2.0, 7.5, 12.0, 16.5, 21.0)
    ]
    rope = [_rope(n / 24) for n in range(25)]
    for line in (TOWER, GALLERY, LANTERN, dome, COTTAGE, ROOF, CHIMNEY, MAST, QUAY, ((0.0, GROUND), (WIDTH, GROUND))):
        draw.line(pixels(line), fill=INK, width=4, joint="curve")
    for line in (rope, *ripples):
        draw.line(pixels(line), fill=SOFT, width=3, joint="curve")
    return image


def _rope(along: float) -> tuple[float, float]:
    """The net between the gallery and the mast, hanging through."""
    return 13.2 + 11.4 * along, 13.2 - 4.9 * along - 3.4 * 4 * along * (1 - along) * 0.62


def _item(name: str, kind: str, x: float, y: float, w: float, h: float, **more: Any) -> Data:
    return {"id": key(name), "kind": kind, "x": round(x, 3), "y": round(y, 3), "w": w, "h": h, **more}


def items() -> Iterator[Data]:
    """Every fixture in its place, and labels."""
    for n in range(STRIPS):
        across = (n + 0.5) / STRIPS * 2 - 1
        turn = math.degrees(math.atan(0.6 * across / 9.4))  # the tower narrows to its top
        yield _item(f"strip {n}", "fixture", TOWER_X + across * 1.85, 7.9, 0.13, 9.4, turn=round(turn, 2))
    for n in range(BARS):
        yield _item(f"bar {n}", "fixture", 2.3 + n % 7 * 3.57, 2.15 - n // 7 * 0.9, 3.3, 0.33)
    for n in range(WINDOWS):
        column, row = n % 6, n // 6
        x = 2.55 + column // 2 * 1.6 + column % 2 * 0.42
        yield _item(f"lantern {n}", "fixture", x, 5.2 - row * 0.42, 0.34, 0.34)
    for n in range(DROPS):
        x, y = _rope((n + 0.7) / (DROPS + 0.4))
        yield _item(f"drop {n}", "fixture", x, y - 0.3, 0.28, 0.28)
    for n, (x, y) in enumerate(((8.2, 13.7), (13.8, 13.7), (7.9, 3.5), (14.1, 3.5))[:HEADS]):
        yield _item(f"signal {n}", "fixture", x, y, 0.6, 0.6)
    for n in range(3):
        yield _item(f"ray {n}", "fixture", TOWER_X - 0.7 + n * 0.7, 14.7, 0.35, 0.35)
    yield _item("ray bar 0", "fixture", TOWER_X, 13.85, 2.0, 0.2)
    for text, x, y in (
        ("Lantern room, lasers", 14.6, 14.6),
        ("Tower", 14.4, 9.0),
        ("Net drops", 19.4, 10.4),
        ("Cottage windows", 1.2, 8.9),
        ("Breakwater", 15.6, 3.3),
    ):
        yield _item(f"label {text}", "label", x, y, 1.0, 0.3, text=text)


def build_plan(api: ApiClient, hang_lists: Sequence[Path], nodes: Sequence[str]) -> None:
    """Makes the plan; `nodes` are the addresses of those that have the `hang_lists`."""
    plan = key("plan")
    api.call("POST", "/api/plans", {"id": plan, "name": "Front elevation"})
    with tempfile.TemporaryDirectory() as folder:
        drawing = Path(folder) / "elevation.png"
        elevation().save(drawing)
        api.upload(f"/api/plans/{plan}/picture", "", "elevation.png", drawing)
    middle = {"picture_x": WIDTH / 2, "picture_y": HEIGHT / 2}
    api.call("PATCH", f"/api/plans/{plan}", {"picture_width_m": WIDTH, "picture_height_m": HEIGHT, **middle})
    names = [json.loads(path.read_text())["name"] for path in hang_lists]
    places = ((15.9, 6.4), (21.0, 4.6), (17.0, 13.2))
    hung = [
        _item(f"node {name}", "node", x, y, 0.4, 0.3, text=f"{name} {address}")
        for name, address, (x, y) in zip(names, nodes, places, strict=True)
    ]
    put = {"put": [*items(), *hung], "label": "Placed everything on the plan"}
    api.call("POST", f"/api/plans/{plan}/items", put)
    front = {"id": key("Whole front"), "name": "Whole front", "plan": plan, "square": FRONT_SQUARE}
    api.call("POST", "/api/matrices/from-plan", front)
