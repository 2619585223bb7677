"""A newcomer's five tasks, counted: an action is a press, a drag, a key, or a text typed and taken.

What each took before this was counted by hand when the first half of the job was built (22, 7, 17, 12 and 11); now each
may take two thirds of that at most. The lamps of a node say that the task is done.
"""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from uuid import uuid4

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.clips import write_clip
from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]
MakeNode = Callable[..., Node]


class Hand:
    """What a person does, counted."""

    def __init__(self, page: Page) -> None:
        self.page, self.actions = page, 0

    def clicks(self, text: str) -> None:
        self.page.click(text)
        self.actions += 1

    def presses(self, css: str) -> None:
        self.page.press(css)
        self.actions += 1

    def types(self, css: str, text: str) -> None:
        self.page.type_into(css, text)
        self.actions += 1

    def key(self, key: str) -> None:
        """A digit right after typing was meant for the field: a person's hand takes longer."""
        time.sleep(1.3)
        self.page.key(key)
        self.actions += 1

    def file(self, path: Path) -> None:
        self.page.there('input[type="file"]').send_keys(str(path))
        self.actions += 1


def begun(app: RunningApp, browse: Browse, station: str) -> tuple[Page, Hand]:
    at_rest(app)
    page = browse(app.address)
    page.open(station)
    return page, Hand(page)


def test_lamps_to_a_running_matrix(app: RunningApp, show: str, browse: Browse, node: MakeNode) -> None:
    receiver = node("127.0.67.81", wall_hang())
    page, hand = begun(app, browse, "rig")
    hand.types("#add-line", "18 x RGB lamp, from 1, Lamp {n}")
    page.sees("18 fixtures added")
    hand.presses('header a[href="/patch"]')
    hand.clicks("Add output")
    hand.clicks("Art-Net unicast")
    hand.types("#out-to", "127.0.67.81")
    page.sees("Net 0 Sub-Net 0 Universe 0")
    hand.presses('header a[href="/matrices"]')
    hand.types("#weave-columns", "6")
    hand.types("#weave-rows", "3")
    hand.clicks("Make the matrix")
    page.sees("every cell has its square")
    hand.presses('header a[href="/looks"]')
    hand.clicks("New")
    hand.clicks("Flat")
    hand.clicks("Off")
    wait_for(lambda: any(receiver.picture()), 8, "there is no light")
    assert hand.actions <= 22 * 2 // 3, hand.actions


def test_a_node_that_counts_from_one(app: RunningApp, show: str, browse: Browse, node: MakeNode) -> None:
    receiver = node("127.0.67.82", {**wall_hang("artnet 1"), "name": "Boat shed"})
    light_wall(app, "127.0.67.82", [[0, 20, 30, 40]])  # which sends Port-Address 0
    page, hand = begun(app, browse, "rig")
    hand.key("2")
    page.sees("Boat shed (127.0.67.82) listens to Art-Net Net 0 Sub-Net 0 Universe 1;", 15)
    page.find('[role="group"][aria-label="off by one"]').find_element(By.TAG_NAME, "button").click()
    hand.actions += 1
    look = app.api().call("GET", "/api/show")["looks"][0]["id"]
    app.engine().ask({"do": "move", "moves": [{"handle": f"look/{look}/on", "value": True}]})
    wait_for(lambda: receiver.picture()[:3] == [20, 30, 40], 8, "the node is not lit after the repair")
    assert hand.actions <= 7 * 2 // 3, hand.actions


def test_bars_whose_profile_is_not_there_are_set_by_typing(
    app: RunningApp, show: str, browse: Browse, node: MakeNode
) -> None:
    lamps = [
        {"universe": "artnet 0", "channel": 1 + 4 * n, "count": 1, "order": "RGB", "x": n, "y": 0} for n in range(9)
    ]
    receiver = node("127.0.67.83", {**wall_hang(), "width": 9, "height": 1, "lamps": lamps})
    output = {"id": str(uuid4()), "name": "To the node", "protocol": "artnet", "mode": "unicast"}
    numbers = {"first_universe": 1, "count": 1, "first_number": 0}
    app.api().call("POST", "/api/outputs", {**output, **numbers, "destination": "127.0.67.83", "card": app.card})
    page, hand = begun(app, browse, "rig")
    page.find("#add-line").send_keys("7 bars of nine RGBA cells from 401 at U1.1")
    hand.actions += 1
    hand.clicks("make it: bar of 9 RGBA cells, 36 ch")
    page.sees("No number and no channel is taken twice.")
    page.find("#add-line").send_keys(Keys.ENTER)
    hand.actions += 1
    page.sees("7 fixtures added, 63 cells")
    hand.types('input[aria-label="Select by typing"]', "401")
    page.sees("1 fixture, 9 cells")
    hand.types('input[aria-label="Colour, typed"]', "204 91 18")
    wait_for(lambda: receiver.picture() == [204, 91, 18] * 9, 8, "the bar is not lit")
    assert hand.actions <= 17 * 2 // 3, hand.actions


def test_a_wall_of_boards(app: RunningApp, show: str, browse: Browse) -> None:
    ids = [str(uuid4()) for _ in range(64)]
    app.api().call("POST", "/api/fixtures", {"text": "64 x RGB lamp, from 1", "ids": ids})
    page, hand = begun(app, browse, "rig")
    hand.key("3")
    hand.types("#weave-columns", "8")
    hand.types("#weave-rows", "8")
    hand.clicks("boards")
    hand.types('input[aria-label="Columns of a board"]', "4")
    hand.types('input[aria-label="Rows of a board"]', "4")
    page.sees("in boards of 4 × 4")
    hand.clicks("Make the matrix")
    page.sees("every cell has its square")
    weave = app.api().call("GET", f"/api/matrices/{made(app)}/woven")["weave"]
    assert (weave["board"]["width"], weave["board"]["height"]) == (4, 4)
    assert hand.actions <= 12 * 2 // 3, hand.actions


def test_a_video_on_it(app: RunningApp, browse: Browse, node: MakeNode, tmp_path: Path) -> None:
    receiver = node("127.0.67.84", wall_hang())
    look = light_wall(app, "127.0.67.84", [[0, 0, 0, 0]])["look"]
    app.api().call("DELETE", f"/api/looks/{look}")
    clip = tmp_path / "waves.mp4"
    write_clip(clip, [[[(240, 240, 240)] * 6] * 3] * 25)
    page, hand = begun(app, browse, "rig")
    hand.key("4")
    hand.file(clip)
    page.sees("waves.mp4", 20)
    hand.clicks("New")
    hand.clicks("clip waves.mp4")
    hand.clicks("Off")
    wait_for(lambda: min(receiver.picture()) > 225, 15, "the video is not on the lamps")
    assert hand.actions <= 11 * 2 // 3, hand.actions


def made(app: RunningApp) -> str:
    return str(app.api().call("GET", "/api/show")["matrices"][0]["id"])
