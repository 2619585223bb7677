"""Every station at five sizes: nothing cut, nothing outside, no control upon another; in both themes no violation of
the rules of axe-core; on a small show, on an empty one and on one of 2,000 fixtures with long names."""

from __future__ import annotations

import json
import time
from collections.abc import Callable
from pathlib import Path
from uuid import uuid4

import pytest

from heliograph.demo.client import ApiClient
from tests.browser.conftest import Page
from tests.conftest import RunningApp
from tests.live.scenes import light_wall

Browse = Callable[[str], Page]

SIZES = ((1024, 768), (1280, 800), (1440, 900), (1920, 1080), (2560, 1440))
OF_RUN = ("run", "run/score", "run/pages", "run/clock")
STATIONS = ("rig", "rig/plan", "rig/profiles", "patch", "matrices", "looks", *OF_RUN, "check")
MEASURE = (Path(__file__).parent / "measure_page.js").read_text()
AXE = Path(__file__).parents[2] / "web" / "node_modules" / "axe-core" / "axe.min.js"
RUN_AXE = """
const done = arguments[0];
axe.run(document, { resultTypes: ['violations'] }).then((found) => done(JSON.stringify(found.violations.map(
  (one) => [one.id, one.impact, one.nodes.slice(0, 3).map((node) => node.html.slice(0, 160))]))));
"""
SETTLE = """
const [width, height, done] = arguments;
const there = () => innerWidth === width && matchMedia(`(width: ${width}px) and (height: ${height}px)`).matches;
const look = () => requestAnimationFrame(() => (there() ? requestAnimationFrame(() => setTimeout(done, 120)) : look()));
look();
"""
MANY = 2_000
WHOLE = {"wide": 0, "cut": [], "outside": [], "upon": []}


def fill(api: ApiClient, card: str) -> None:
    """2,000 lamps with long names on a matrix, a look and an output."""
    name = "Breakwater lantern by the northern harbour wall {n}"
    text = f"{MANY} x RGB lamp, from 1001, {name}"
    plan = str(uuid4())
    api.call("POST", "/api/plans", {"id": plan, "name": "Front elevation of the breakwater, landward side"})
    api.call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(MANY)], "plan": plan})
    matrix = str(uuid4())
    long = "Lanterns along the whole of the breakwater, landward side"
    weave = {"selection": "all", "width": 50, "height": 40}
    api.call("POST", "/api/matrices", {"id": matrix, "name": long, "width": 50, "height": 40, "weave": weave})
    line = {"id": str(uuid4()), "paints": "effect", "effect": "Grade", "matrix": matrix}
    api.call("POST", "/api/looks", {"id": str(uuid4()), "name": f"{long}, slowly", "lines": [line]})
    output = {"id": str(uuid4()), "name": long, "protocol": "sacn", "mode": "multicast", "card": card}
    api.call("POST", "/api/outputs", {**output, "first_universe": 1, "count": 12, "first_number": 1, "on": False})


def drawn(api: ApiClient, what: str) -> None:
    """A chase on the first matrix, of as many frames as there may be work for."""
    key = str(uuid4())
    matrix = api.call("GET", "/api/show")["matrices"][0]["id"]
    name = "Gull steps" if what == "small" else "Gull steps along the whole of the breakwater, landward"
    api.call("POST", "/api/chases", {"id": key, "name": name, "matrix": matrix})
    shape = {"tool": "rectangle", "squares": [[0, 0], [2, 1]], "colour": [255, 176, 84]}
    frame = api.call("GET", "/api/show")["chases"][0]["frames"][0]["id"]
    api.call("POST", f"/api/chases/{key}/draw", {"frame": frame, **shape})
    look = api.call("GET", "/api/show")["looks"][0]["id"]
    line = {"id": str(uuid4()), "paints": "attributes", "selection": "all", "params": {"ColorAdd_G": "10 % > 40 %"}}
    api.call("POST", f"/api/looks/{look}/lines", line)
    evening = str(uuid4())
    long = "" if what == "small" else " along the whole of the breakwater, landward"
    api.call("POST", "/api/lists", {"id": evening, "name": f"Winter evening{long}"})
    for _ in range(7):
        cue = {"id": str(uuid4()), "name": f"Lamp turns{long}", "note": f"on the bell{long}", "fade_in": "4 beats"}
        played = api.call("GET", "/api/show")["looks"][0]["name"]
        played = f'"{played}" 40 %, "{played}" 20 % from the start'
        api.call("POST", f"/api/lists/{evening}/cues", {**cue, "looks": played, "then": "follow 600 s"})
    preset = {"id": str(uuid4()), "name": name, "kind": "colour", "sets": {"ColorAdd_R": "204", "ColorAdd_G": "91"}}
    api.call("POST", "/api/presets", preset)
    for _ in range(1 if what == "small" else 4):
        api.call("POST", f"/api/chases/{key}/frames", {"do": "insert", "after": frame})
        api.call("POST", f"/api/chases/{key}/frames", {"do": "paste", "frames": [frame], "after": frame})


def started(api: ApiClient, what: str) -> None:
    """A score, a page and a clock, with long names where there is much."""
    show = api.call("GET", "/api/show")
    long = "" if what == "small" else " along the whole of the breakwater, landward"
    members = "all" if what == "small" else "1001-1400"
    for number in range(2 if what == "small" else 7):
        body = {"id": str(uuid4()), "name": f"Lamps {number}{long}", "selection": members}
        api.call("POST", "/api/groups", body)
    score = str(uuid4())
    api.call("POST", "/api/scores", {"id": score, "name": f"Midwinter{long}"})
    staves = next(one for one in api.call("GET", "/api/show")["scores"] if one["id"] == score)["staves"]
    for number, stave in enumerate(staves):
        entry = str(uuid4())
        text = f"{show['looks'][0]['name']} 60 % at {number + 1}.1 for 3 bars"
        api.call("POST", f"/api/scores/{score}/entries", {"id": entry, "stave": stave["id"], "text": text})
        api.call("POST", f"/api/scores/{score}/accents", {"id": str(uuid4()), "stave": stave["id"], "place": "6.2"})
    api.call("PATCH", f"/api/scores/{score}", {"bar": 9, "note": "choir walks in"})
    page = str(uuid4())
    api.call("POST", "/api/pages", {"id": page, "name": f"Quay{long}"})
    for kind in ("pad", "fader", "tap", "words"):
        item = {
            "id": str(uuid4()),
            "kind": kind,
            "words": f"Lamp turns{long}"[:60],
            "mark": "fog" if kind == "pad" else "",
        }
        handles = {"pad": ["blackout"], "fader": ["master"]}.get(kind, [])
        api.call("POST", f"/api/pages/{page}/items", {**item, "handles": handles})
    api.call("PATCH", "/api/clock", {"place": "57.70 N 2.00 W"})
    for number in range(2 if what == "small" else 9):
        rule = {"id": str(uuid4()), "name": f"the gate shuts{long}", "when": f"every 1 h from 1{number}:00 on Fri, Sat"}
        api.call("POST", "/api/clock/rules", {**rule, "does": "Blackout on"})


def resized(page: Page, width: int, height: int) -> None:
    size = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": False}
    page.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    page.driver.execute_async_script(SETTLE, width, height)


def wrong_at(page: Page, station: str) -> list[str]:
    """What the page shows wrong at each size."""
    wrong = []
    for width, height in SIZES:
        resized(page, width, height)
        until = time.monotonic() + 12  # a busy machine lays the page out some frames after it was resized
        while (found := page.driver.execute_script(MEASURE)) != WHOLE and time.monotonic() < until:
            time.sleep(0.2)
            # Chromium now and then leaves the styles of the size before, until a media query turns over again.
            resized(page, 2560 if width < 1900 else 1024, height)
            resized(page, width, height)
        if found != WHOLE:
            wrong.append(f"{station} at {width} x {height}: {found}")
    return wrong


def against_axe(page: Page, station: str, theme: str) -> list[str]:
    resized(page, 1280, 800)
    if not page.driver.execute_script("return 'axe' in window"):
        page.driver.execute_script(AXE.read_text())
    return [f"{station}, {theme}: {one}" for one in json.loads(page.driver.execute_async_script(RUN_AXE))]


@pytest.mark.parametrize("what", ["small", "full"])
def test_nothing_is_cut_and_every_rule_of_axe_holds(app: RunningApp, browse: Browse, show: str, what: str) -> None:
    if what == "full":
        fill(app.api(), app.card)
    else:
        light_wall(app, "127.0.78.2", [[0, 20, 60, 90], [1, 255, 206, 128]])
    page = browse(app.address)
    wrong: list[str] = []
    drawn(app.api(), what)
    started(app.api(), what)
    for station in (*STATIONS, "looks, a chase"):
        page.open(station.partition(",")[0])
        if station == "run":
            page.press('[role="row"][aria-rowindex="3"] [role="gridcell"]')
            page.press('button[title^="Go:"]')
            page.press('[role="group"][aria-label="Running looks"] button')
        if station == "run/score":
            page.find('[role="group"][aria-label="Fill"]')
        if station == "run/pages":
            page.press('[role="group"][aria-label^="pad "]')
        if station.endswith("a chase"):
            page.press('button[title^="Gull steps"]')
            page.find('[role="group"][aria-label="Frames"]')
        page.lives()
        wrong += wrong_at(page, station)
        for theme in ("Night", "Light"):  # other colours, and nothing in another place
            wrong += against_axe(page, station, theme)
            resized(page, 1280, 800)
            page.click(theme)
    assert not wrong, "\n".join(wrong)


def test_an_empty_show_is_as_whole(app: RunningApp, browse: Browse, show: str) -> None:
    page = browse(app.address)
    wrong: list[str] = []
    for station in STATIONS:
        page.open(station)
        wrong += wrong_at(page, station) + against_axe(page, station, "Night")
    assert not wrong, "\n".join(wrong)
