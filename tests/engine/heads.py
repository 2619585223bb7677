"""Small rigs of heads, as sections, for tests of what lines set."""

from __future__ import annotations

from typing import Any

from heliograph.core.matrix.placements import CellKey, Placement, pack

PAN_DEG, TILT_DEG = 630.0, 265.0
GOBOS = [
    {"first": 0, "last": 9, "kind": "default", "name": "open"},
    {"first": 10, "last": 29, "kind": "named", "name": "ripples"},
    {"first": 30, "last": 49, "kind": "named", "name": "shingle"},
]
DIMS = [{"first": 0, "last": 7, "kind": "closed"}, {"first": 8, "last": 247, "kind": "dim"}]
HEAD: list[dict[str, Any]] = [
    {"attribute": "Pan", "home": 128, "physical": [-PAN_DEG / 2, PAN_DEG / 2]},
    {"attribute": "Pan", "fine": True},
    {"attribute": "Tilt", "home": 128, "physical": [-TILT_DEG / 2, TILT_DEG / 2]},
    {"attribute": "Tilt", "fine": True},
    {"attribute": "Gobo1", "ranges": GOBOS, "in_fade": "half-way"},
    {"attribute": "Zoom", "home": 40, "invert": True},
    {"attribute": "Dimmer", "ranges": DIMS},
]
"""Seven channels; a head with no pixels."""


def heads(count: int, channels: list[dict[str, Any]] | None = None) -> dict[str, Any]:
    """Heads h0, h1, ... of one block without cells, one behind another from U1.1."""
    shared = channels or HEAD
    block = {"name": "Head", "shared": shared, "cell_count": 0, "cell_channels": []}
    fixtures = [
        {
            "id": f"h{n}",
            "number": n + 1,
            "name": f"Signal {n + 1}",
            "mode": "m",
            "universe": 1,
            "channel": 1 + n * len(shared),
        }
        for n in range(count)
    ]
    return {"modes": {"m": {"mode": {"name": "7 channels", "blocks": [block]}, "guarded": False}}, "fixtures": fixtures}


def row(*members: str, cells: tuple[str, ...] = ()) -> dict[str, Any]:
    """What a line is over: these fixtures, or "<id>:<cell>"."""
    placements = pack(Placement(CellKey(name, "1"), float(n), 0.0) for n, name in enumerate(cells))
    shape = {"width": max(len(cells), 1), "height": 1, "placements": placements}
    return {"id": "M", "name": "M", "members": list(members), **shape}


def sets(key: str = "a", **fields: Any) -> dict[str, Any]:
    """A line that sets attributes."""
    return {
        "id": key,
        "paints": "attributes",
        "matrix": "M",
        "ramp": [[0, 255, 255, 255]],
        "opacity": 1.0,
        "blend": "over",
        "params": {},
        **fields,
    }


def wave(low: float, high: float, seconds: float, **fields: Any) -> dict[str, Any]:
    """A sine that goes between two values once in so many seconds."""
    return {"low": low, "high": high, "period": {"value": seconds, "unit": "s"}, **fields}
