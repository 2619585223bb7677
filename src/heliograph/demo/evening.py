"""The demo's cue list: an evening at Skerry Point, from dusk until the last lamp goes out."""

from __future__ import annotations

from typing import Any

from heliograph.demo.client import ApiClient
from heliograph.demo.names import key

NAME = "Winter evening"

Row = tuple[int, str, str, str, str, str]

CUES: tuple[Row, ...] = (
    (1, "Dusk", "Harbour swell", "0 s", "hold", "gate opens"),
    (2, "Lamp is lit", "Beacon turn", "4 s", "follow 12 s", "lantern first"),
    (3, "Snow on quay", "Midwinter", "6 s", "hold", "choir walks in"),
    (4, "Harbour", "Harbour swell 40 %", "5 s", "hold", "on the bell"),
    (5, "Lamp turns", "Beacon turn 60 %", "8 s", "hold", "bells stop"),
    (6, "Fog", "Fog signal", "4 s", "on the beat", "on the horn"),
    (7, "Herring run", "Herring run", "2 beats", "follow 16 beats", "nets flash"),
    (9, "After the storm", "Midwinter", "12 s", "hold", "very slow"),
    (10, "First boat", "Harbour swell, Herring run 30 % over Net drops", "6 s", "hold", "engine heard"),
    (11, "She is in", "Beacon turn, Midwinter 50 %", "3 s", "follow 8 s", "all wave"),
    (12, "Thanks", "Midwinter, Beacon turn 25 %", "5 s", "hold", "applause"),
    (13, "Walk home", "Harbour swell 70 %", "15 s", "hold", "crowd leaves"),
    (14, "Last lamp", "Harbour swell 12 %", "20 s", "hold", "until the gate shuts"),
)
STORM: Row = (8, "Storm", "Storm reel, Midwinter 40 %", "0 s", "on the beat", "strobe sign up")
"""Once its clip is there."""

MARKS = {2: "amber", 6: "sea", 8: "coral"}


def build_evening(api: ApiClient) -> None:
    api.call("POST", "/api/lists", {"id": key(NAME), "name": NAME})
    for row in CUES:
        add_cue(api, row)


def add_cue(api: ApiClient, row: Row) -> None:
    number, name, looks, fade_in, then, note = row
    cue: dict[str, Any] = {"id": key(f"cue {number}"), "number": number, "name": name, "looks": looks}
    mark = MARKS.get(number, "")
    api.call(
        "POST",
        f"/api/lists/{key(NAME)}/cues",
        {**cue, "fade_in": fade_in, "then": then, "note": note, "mark": mark},
    )
