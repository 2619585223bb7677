"""The demo's score: 32 bars at Skerry Point, from the first window to all voices."""

from __future__ import annotations

from heliograph.demo.client import ApiClient
from heliograph.demo.names import key

NAME = "Midwinter evening"
BARS = 32
STAVES = ("Tower", "Breakwater", "Cottage windows", "Net drops", "Signal heads")

ENTRIES: tuple[tuple[str, str, str, str], ...] = (
    ("Tower", "Midwinter 60 % at 1.1 for 4 bars", "4 bars", "0"),
    ("Tower", "Herring run 80 % at 5.1 for 2 bars", "2 beats", "1"),
    ("Tower", "Beacon turn 90 % at 8.1 for 5 bars", "1 bar", "0"),
    ("Tower", "Midwinter at 13.1 for 4 bars", "2 beats", "2"),
    ("Tower", "Fog signal 80 % at 21.1 for 4 bars", "2 beats", "0"),
    ("Tower", "Herring run at 25.1 for 4 bars", "2 beats", "0"),
    ("Tower", "Beacon turn at 29.1 for 4 bars", "2 beats", "6"),
    ("Breakwater", "Harbour swell 50 % at 1.1 for 8 bars", "8", "0"),
    ("Breakwater", "Harbour swell 70 % at 9.1 for 8 bars", "1", "2"),
    ("Breakwater", "Harbour swell 90 % at 17.1 for 8 bars", "4", "0"),
    ("Breakwater", "Fog signal 90 % at 25.1 for 8 bars", "1 bar", "4"),
    ("Cottage windows", "Midwinter 60 % at 3.1 for 14 bars", "6", "4"),
    ("Cottage windows", "Midwinter 80 % at 25.1 for 8 bars", "2", "4"),
    ("Net drops", "white 30 % at 13.1 for 4 bars", "2", "0"),
    ("Net drops", "white 50 % at 25.1 for 4 bars", "2", "4"),
    ("Signal heads", "Beacon turn 80 % at 8.1 for 5 bars", "1 bar", "0"),
    ("Signal heads", "Fog signal 70 % at 13.1 for 4 bars", "2 beats", "2"),
    ("Signal heads", "Beacon turn 90 % at 25.1 for 8 bars", "1 bar", "4"),
)

ACCENTS = ("5.1", "5.3", "6.1", "6.3", "11.1", "12.3", "15.1", "15.3", "16.1", "16.3", "25.2", "26.2", "27.2", "28.2")

POSITIONS = (("Sea", "5.1"), ("Lantern", "13.1"), ("Quay", "25.1"))

NOTES = ((9, "choir walks in"), (25, "all voices"))


CLOCK = (
    ("the lamp is lit", "dusk", "Winter evening: go to 1"),
    ("all of it", "every 1 h from 18:00 to 22:00 on Fri, Sat", f"{NAME}: start"),
    ("the gate shuts", "at 22:30", "Winter evening: release"),
)
PLACE, ZONE = "57.70 N 2.00 W", "Europe/London"


def build_clock(api: ApiClient) -> None:
    """Once the engine has the lists: rules act on what is there."""
    api.call("PATCH", "/api/clock", {"place": PLACE, "zone": ZONE})
    for name, when, does in CLOCK:
        body = {"id": key(f"clock {name}"), "name": name, "when": when, "does": does}
        api.call("POST", "/api/clock/rules", body)


def build_midwinter(api: ApiClient) -> None:
    score = key(NAME)
    groups = [key(f"group {name}") for name in STAVES]
    api.call("POST", "/api/scores", {"id": score, "name": NAME, "bars": BARS, "groups": groups})
    [stored] = [one for one in api.call("GET", "/api/show")["scores"] if one["id"] == score]
    staves = {one["name"]: one["id"] for one in stored["staves"]}
    for number, (stave, text, fade_in, fade_out) in enumerate(ENTRIES):
        entry = key(f"{NAME} {number}")
        body = {"id": entry, "stave": staves[stave], "text": text}
        api.call("POST", f"/api/scores/{score}/entries", body)
        fades = {"entries": [entry], "fade_in": fade_in, "fade_out": fade_out}
        api.call("PATCH", f"/api/scores/{score}/entries", fades)
    for place in ACCENTS:
        body = {"id": key(f"{NAME} accent {place}"), "stave": staves["Net drops"], "place": place}
        api.call("POST", f"/api/scores/{score}/accents", body)
    for preset, place in POSITIONS:
        held = {"stave": staves["Signal heads"], "preset": key(f"preset {preset}"), "place": place}
        api.call("POST", f"/api/scores/{score}/positions", {"id": key(f"{NAME} at {place}"), **held})
    for bar, note in NOTES:
        api.call("PATCH", f"/api/scores/{score}", {"bar": bar, "note": note})
