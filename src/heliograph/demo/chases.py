"""The demo's chase: a lit window column that walks along, and gulls that settle on sills."""

from __future__ import annotations

from heliograph.demo.client import ApiClient
from heliograph.demo.names import key

NAME = "Gull steps"
LAMP, GULL = (255, 176, 84), (205, 232, 255)
COLUMNS, ROWS = 6, 4
GULLS = (((2, 1), (4, 2)), ((3, 0), (5, 3)), ((0, 1), (4, 3)), ((1, 2), (5, 0)), ((0, 0), (2, 3)), ((1, 2), (3, 0)))
"""Where two of them sit in each frame, column and row from 0."""


def build_chase(api: ApiClient) -> None:
    """A frame for each column of the windows, a beat each."""
    at = f"/api/chases/{key(NAME)}"
    api.call("POST", "/api/chases", {"id": key(NAME), "name": NAME, "matrix": key("Windows")})
    api.call("PATCH", at, {"unit": "beat"})
    [first] = frames_of(api)
    api.call("POST", f"{at}/frames", {"do": "times", "frames": [first], "fade": 0.25, "hold": 0.75})
    for _ in GULLS[1:]:
        api.call("POST", f"{at}/frames", {"do": "insert", "after": first})
    for column, (frame, gulls) in enumerate(zip(frames_of(api), GULLS, strict=True)):
        lamp = {"tool": "rectangle", "squares": [[column, 0], [column, ROWS - 1]], "colour": LAMP}
        api.call("POST", f"{at}/draw", {"frame": frame, **lamp})
        api.call("POST", f"{at}/draw", {"frame": frame, "tool": "pen", "squares": gulls, "colour": GULL})


def frames_of(api: ApiClient) -> list[str]:
    """The ids of its frames, in their order."""
    found = next(one for one in api.call("GET", "/api/show")["chases"] if one["id"] == key(NAME))
    return [frame["id"] for frame in found["frames"]]


def chase_line(opacity: float) -> dict[str, object]:
    """A line that plays it on the windows."""
    shown = {"paints": "chase", "chase": key(NAME), "matrix": key("Windows")}
    return {"id": key(f"line {NAME}"), **shown, "opacity": opacity, "blend": "lighten"}
