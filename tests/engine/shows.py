"""Small shows as sections, for tests of the engine."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from heliograph.core.matrix.placements import CellKey, pack
from heliograph.core.matrix.weaving import Weave, place
from heliograph.render.compiled import CompiledShow, compile_show

RGB = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
SECOND = 1_000_000_000


def lamps(count: int, *, guarded: bool = False, channels: Any = None, start: int = 1) -> dict[str, Any]:
    """`count` one-cell fixtures f0, f1, ... from U1.`start` on."""
    cell = channels or RGB
    mode = {"name": "m", "blocks": [{"name": "b", "cell_count": 1, "cell_channels": cell}]}
    size = len(cell)
    per = 512 // size
    fixtures = [
        {
            "id": f"f{n}",
            "number": n + 1,
            "name": f"Lamp {n + 1}",
            "mode": "m",
            "universe": 1 + n // per,
            "channel": start + n % per * size,
        }
        for n in range(count)
    ]
    return {"modes": {"m": {"mode": mode, "guarded": guarded}}, "fixtures": fixtures}


def grid(width: int, height: int, count: int | None = None) -> dict[str, Any]:
    keys = [CellKey(f"f{n}", "1") for n in range(width * height if count is None else count)]
    placed = place(keys, Weave(width, height, "top left", "rows", False))
    return {"id": "M", "name": "M", "width": width, "height": height, "placements": pack(placed)}


def line(key: str, effect: str, **fields: Any) -> dict[str, Any]:
    return {
        "id": key,
        "paints": "effect",
        "matrix": "M",
        "effect": effect,
        "ramp": [[0, 255, 255, 255]],
        "speed": {"value": 4, "unit": "s"},
        "opacity": 1.0,
        "blend": "over",
        "params": {},
        **fields,
    }


def look(*lines: dict[str, Any]) -> dict[str, Any]:
    return {"id": "L", "name": "L", "lines": list(lines)}


def output(**fields: Any) -> dict[str, Any]:
    return {
        "id": "o",
        "name": "o",
        "protocol": "artnet",
        "mode": "unicast",
        "address": "127.0.0.1",
        "card": "127.0.0.1",
        "first_universe": 1,
        "count": 1,
        "first_number": 0,
        "priority": 100,
        "on": True,
        **fields,
    }


def compiled(rig: dict[str, Any], matrix: dict[str, Any], *looks: dict[str, Any], outputs: Any = ()) -> CompiledShow:
    sections = {"rig": rig, "matrix:M": matrix, "outputs": {"outputs": list(outputs)}}
    sections |= {f"look:{one['id']}": one for one in looks}
    return compile_show(sections, Path("/nonexistent"))
