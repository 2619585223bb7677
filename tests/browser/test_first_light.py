"""The main job, in a real browser: from an empty show to light on a node's lamps, and back."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any
from uuid import uuid4

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.clips import write_clip
from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, at_rest, wait_for

NODE = "127.0.89.2"

# The hang list, written by hand: 18 RGB lamps from channel 1, three channels each, in rows of six as
# they hang; but the first lamp really hangs at the lower right and the last at the upper left.
HANG: dict[str, Any] = {
    "name": "Gatehouse",
    "listens": ["artnet 0"],
    "width": 6,
    "height": 3,
    "lamps": [
        {"universe": "artnet 0", "channel": 52, "count": 1, "order": "RGB", "x": 0, "y": 0},
        {"universe": "artnet 0", "channel": 4, "count": 5, "order": "RGB", "x": 1, "y": 0},
        {"universe": "artnet 0", "channel": 19, "count": 6, "order": "RGB", "x": 0, "y": 1},
        {"universe": "artnet 0", "channel": 37, "count": 5, "order": "RGB", "x": 0, "y": 2},
        {"universe": "artnet 0", "channel": 1, "count": 1, "order": "RGB", "x": 5, "y": 2},
    ],
}

COLOURS = [
    [(250, 20, 20), (20, 220, 40), (30, 40, 240), (240, 230, 30), (60, 200, 120), (210, 90, 200)],
    [(200, 120, 40), (90, 30, 160), (20, 180, 170), (128, 128, 128), (100, 100, 30), (30, 90, 60)],
    [(255, 255, 255), (10, 10, 10), (160, 60, 90), (70, 140, 210), (180, 190, 60), (40, 60, 110)],
]
YUV_TOLERANCE = 6
"""8-bit 4:2:0 video keeps a flat colour to within some steps; the comparison of node and screen is exact."""


def same_as_node(page: Page, node: Node, lit: bool = True) -> list[int]:
    """The picture on the screen, once it equals the node's lamps pixel by pixel. Show time is held."""

    def equal() -> list[int] | None:
        _, screen = page.picture("Matrix 1")
        return screen if screen == node.picture() and any(screen) is lit else None

    found: list[int] = wait_for(equal, 10, "the screen and the node's lamps differ")
    return found


def test_from_nothing_to_light_and_back(
    app: RunningApp, browse: Callable[[str], Page], node: Callable[..., Node], tmp_path: Path
) -> None:
    receiver = node(NODE, HANG)
    at_rest(app)
    app.api().call("POST", "/api/shows", {"id": str(uuid4()), "name": "From nothing"})
    page = browse(app.address)

    page.open("rig")
    page.sees("Nothing hangs here yet")
    page.sees("Type what hangs here, such as")  # the first of five steps
    page.find("#add-line").send_keys("18 x RGB lamp, from 1, Lamp {n}")
    page.sees("U1.52 to U1.54")  # every address is shown before anything is added
    page.key(Keys.ENTER)
    page.sees("18 fixtures, 18 cells")

    page.press('[aria-label="First steps"] a[aria-current="step"][href="/patch"]')
    page.click("Add output")
    page.click("Art-Net unicast")
    page.find("#out-to").send_keys(NODE)
    page.sees("U1 is Port-Address 0 on the wire; a node that counts from 1 calls it 1.")
    page.find("#out-to").send_keys(Keys.ENTER)
    page.sees("Net 0 Sub-Net 0 Universe 0 (Port-Address 0, counted from 1: 1)")
    wait_for(lambda: receiver.universe("artnet 0").get("packets"), 10, "nothing reached the node")

    page.press('[aria-label="First steps"] a[aria-current="step"][href="/matrices"]')
    page.type_into("#weave-columns", "6")
    page.type_into("#weave-rows", "3")
    page.sees("6 wide, 3 high, from the top left, each row to the right, 18 cells")
    page.click("Make the matrix")
    page.sees("every cell has its square")
    page.drag_square((0, 0), (5, 2))
    wait_for(lambda: "Exchanged squares 1, 1 and 6, 3" in app.api(*person(page)).call("GET", "/api/show")["undo"])

    page.press('[aria-label="First steps"] a[aria-current="step"][href="/looks"]')
    page.click("New")
    page.click("Relay")
    page.sees("overlap")
    (look,) = app.api().call("GET", "/api/show")["looks"]
    lamp_by_lamp = {"params": {"order": "address", "overlap": 0}, "ramp": [[0, 255, 206, 128]]}
    mine = app.api(*person(page))
    mine.call("PATCH", f"/api/looks/{look['id']}/lines/{look['lines'][0]['id']}", lamp_by_lamp)
    page.click("one colour")
    page.type_into('input[aria-label="Colour, typed"]', "204 91 18")
    page.click("Off")
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["running"], 5, "the look did not start")
    page.sees("There is light:")
    page.click("Done")
    wait_for(lambda: "There is light" not in page.text(), 3, "the steps stay")
    page.open("run")
    page.click("Hold time")
    page.sees("held: everything moving stands still")
    screen = same_as_node(page, receiver)
    assert sum(1 for i in range(0, 54, 3) if screen[i : i + 3] == [204, 91, 18]) == 1

    page.type_into('input[aria-label="Show time, seconds"]', "60")
    page.open("looks")
    clip = tmp_path / "known.mp4"
    write_clip(clip, [COLOURS] * 25)
    page.there('input[type="file"]').send_keys(str(clip))
    page.sees("clip known.mp4", 20)
    page.click("clip known.mp4")
    page.sees("all of it")  # the line: known.mp4 over Matrix 1 at 100 %, all of it, fill
    wanted = [channel for row in COLOURS for colour in row for channel in colour]

    def shows_clip() -> bool:
        _, screen = page.picture("Matrix 1")
        return max(abs(a - b) for a, b in zip(screen, wanted, strict=True)) <= YUV_TOLERANCE

    wait_for(shows_clip, 15, "the clip's colours did not reach the screen")
    same_as_node(page, receiver)

    undo_and_redo(page, app, receiver)


def person(page: Page) -> tuple[str, str]:
    return str(page.driver.execute_script("return localStorage.getItem('heliograph.person')")), "x"


def undo_and_redo(page: Page, app: RunningApp, receiver: Node) -> None:
    """Z until there is nothing left: the node falls silent and the rig is empty; Shift Z brings all of it back."""
    api = app.api(*person(page))
    page.driver.find_element(By.TAG_NAME, "body").click()
    steps = 0
    while api.call("GET", "/api/show")["undo"]:
        label = api.call("GET", "/api/show")["undo"]
        page.key("z")
        wait_for(lambda: api.call("GET", "/api/show")["redo"] == label, 5, f"'{label}' was not undone")  # noqa: B023
        steps += 1
    assert steps >= 9
    shown = api.call("GET", "/api/show")
    assert not any(shown[name] for name in ("fixtures", "matrices", "looks", "outputs", "clips"))
    wait_for(lambda: receiver.universe("artnet 0")["silent_ms"] > 400, 5, "the output was not taken back")
    for _ in range(steps):
        label = api.call("GET", "/api/show")["redo"]
        page.shift_key("z")
        wait_for(lambda: api.call("GET", "/api/show")["undo"] == label, 5, f"'{label}' was not done again")  # noqa: B023
    assert not api.call("GET", "/api/show")["redo"]
    same_as_node(page, receiver)
