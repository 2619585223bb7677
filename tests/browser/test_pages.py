"""Pages in a real browser: touched by one and by two fingers, slid, asleep while held, at four sizes; two tablets see
each other; laid out by squares and by keys.

Fingers are real touch events of Chromium (DevTools, Input.dispatchTouchEvent).
"""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any
from uuid import uuid4

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import light_wall, wall_hang
from tests.moves import off

MakeNode = Callable[..., Node]
Browse = Callable[[str], Page]
LIT = [10, 120, 240]
SIZES = [(1280, 800), (1024, 768), (768, 1024), (390, 844)]


@pytest.fixture
def quay(app: RunningApp) -> Any:
    made = Quay(app)
    yield made
    at_rest(app)


@pytest.fixture
def receiver(node: MakeNode) -> Node:
    return node("127.0.67.71", wall_hang())


class Quay:
    """A page with a pad that is held, one that turns over, and a fader of the master."""

    def __init__(self, app: RunningApp) -> None:
        self.app, self.api = app, app.api()
        ids = light_wall(app, "127.0.67.71", [[0, *LIT]])
        app.engine().ask(off(ids["look"]))
        self.look, self.page = ids["look"], str(uuid4())
        other = str(uuid4())
        line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": ids["matrix"], "opacity": 0.5}
        self.api.call("POST", "/api/looks", {"id": other, "name": "Red", "lines": [{**line, "ramp": [[0, 200, 0, 0]]}]})
        self.api.call("POST", "/api/pages", {"id": self.page, "name": "Quay"})
        wait_for(lambda: other in str(app.engine().ask({"do": "handles", "words": "Red", "most": 9})), 8, "no handle")
        held = {"touch": {"do": "on"}, "lift": {"do": "off"}}
        self.item("Fog signal", "pad", f"look/{ids['look']}/on", **held)
        self.item("Red", "pad", f"look/{other}/on", touch={"do": "turn"})
        self.item("Master", "fader", "master", w=4, h=5)

    def item(self, words: str, kind: str, *handles: str, **fields: Any) -> None:
        body = {"id": str(uuid4()), "kind": kind, "words": words, "handles": list(handles), **fields}
        self.api.call("POST", f"/api/pages/{self.page}/items", body)


class Fingers:
    """Touches of a page, by where things are."""

    def __init__(self, page: Page) -> None:
        self._page, self._driver = page, page.driver
        self._down: dict[int, tuple[float, float]] = {}

    def place(self, css: str, x: float = 0.5, y: float = 0.5) -> tuple[float, float]:
        box = self._driver.execute_script(
            "const b = document.querySelector(arguments[0]).getBoundingClientRect();"
            "return [b.left, b.top, b.width, b.height];",
            css,
        )
        return box[0] + box[2] * x, box[1] + box[3] * y

    def down(self, finger: int, css: str, x: float = 0.5, y: float = 0.5) -> None:
        self._down[finger] = self.place(css, x, y)
        self._send("touchStart")

    def move(self, finger: int, css: str, x: float, y: float) -> None:
        self._down[finger] = self.place(css, x, y)
        self._send("touchMove")

    def up(self, finger: int) -> None:
        del self._down[finger]
        self._send("touchEnd")

    def _send(self, kind: str) -> None:
        points = [{"x": x, "y": y, "id": finger} for finger, (x, y) in self._down.items()]
        self._driver.execute_cdp_cmd("Input.dispatchTouchEvent", {"type": kind, "touchPoints": points})


def opened(page: Page, width: int, height: int) -> None:
    """The page Quay at a size, with fingers."""
    page.driver.get(f"{page.address}/page/quay")
    metrics = {"width": width, "height": height, "deviceScaleFactor": 1, "mobile": width < 800}
    page.driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", metrics)
    page.driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": True, "maxTouchPoints": 5})
    page.find("main")


HELD = ("Fog signal",)
PAD, TURN, FADER = "[aria-label='Fog signal']", "[aria-label='Red']", "[aria-label='Master'][role=slider]"


def shows(receiver: Node, colour: list[int], why: str, within: int = 1) -> None:
    def as_wanted() -> bool:
        return max(abs(a - b) for a, b in zip(receiver.picture()[:3], colour, strict=True)) <= within

    wait_for(as_wanted, 6, why)


@pytest.mark.parametrize("size", SIZES, ids=lambda size: f"{size[0]}x{size[1]}")
def test_press_and_hold_slide_and_two_fingers(
    quay: Quay, browse: Browse, receiver: Node, size: tuple[int, int]
) -> None:
    browser = browse(quay.app.address)
    opened(browser, *size)
    browser.find(PAD)
    fingers = Fingers(browser)
    fingers.down(1, PAD)
    shows(receiver, LIT, "a finger on it lights nothing")
    browser.find(f"{PAD}[data-held=mine]")
    time.sleep(1.4)
    shows(receiver, LIT, "a finger that stays went by itself")
    fingers.down(2, TURN)
    shows(receiver, [105, 60, 120], "a second finger does nothing beside the first", 2)
    fingers.up(2)
    fingers.up(1)
    shows(receiver, [100, 0, 0], "lifting does nothing")
    browser.find(f"{TURN}[aria-pressed=true]")
    if size[0] <= 600:
        browser.click("Levels")
    fingers.down(1, FADER, 0.5, 0.5)
    fingers.move(1, FADER, 0.5, 0.97)
    shows(receiver, [0, 0, 0], "sliding to the end leaves light")
    fingers.move(1, FADER, 0.5, 0.5)
    fingers.up(1)
    shows(receiver, [50, 0, 0], "the middle is not half", 2)


def test_asleep_while_held_it_lets_go_after_a_second(quay: Quay, browse: Browse, receiver: Node) -> None:
    browser = browse(quay.app.address)
    opened(browser, 1024, 768)
    browser.find(PAD)
    Fingers(browser).down(1, PAD)
    shows(receiver, LIT, "a finger on it lights nothing")
    browser.driver.execute_cdp_cmd("Page.setWebLifecycleState", {"state": "frozen"})
    begun = time.monotonic()
    shows(receiver, [0, 0, 0], "a tablet that sleeps holds for ever")
    assert time.monotonic() - begun >= 0.3
    browser.driver.execute_cdp_cmd("Page.setWebLifecycleState", {"state": "active"})
    browser.driver.get_log("browser")  # its connection was away


def test_two_tablets_see_each_other_and_anybody_lets_go(quay: Quay, browse: Browse, receiver: Node) -> None:
    browser, second = browse(quay.app.address), browse(quay.app.address)
    for one in (browser, second):
        opened(one, 1024, 768)
        one.find(PAD)
    fingers = Fingers(browser)
    fingers.down(1, PAD)
    second.find(f"{PAD}[data-held=other]")
    shows(receiver, LIT, "a finger on it lights nothing")
    second.click("1 by hand, let go")
    shows(receiver, [0, 0, 0], "nobody else can let go")
    fingers.up(1)
    browser.find(f"{PAD}[aria-pressed=false]")
    Fingers(second).down(1, TURN)
    browser.find(f"{TURN}[aria-pressed=true]")


def test_at_run_its_pads_are_pressed_and_say_who_has_it_open(quay: Quay, browse: Browse, receiver: Node) -> None:
    desk, tablet = browse(quay.app.address), browse(quay.app.address)
    desk.open("run")
    desk.sees("no tablet has it open")
    opened(tablet, 1024, 768)
    desk.sees("1 tablet has it open")
    pads = '[aria-label="Pads of Quay"] button'
    places = desk.places(pads)
    desk.says(pads, "Red\noff").click()
    tablet.find(f"{TURN}[aria-pressed=true]")
    shows(receiver, [100, 0, 0], "a pad at Run lights nothing")
    desk.sees("1 on")
    assert desk.places(pads) == places, "what is pressed moved when something began"
    desk.says(pads, "Red\non").click()
    shows(receiver, [0, 0, 0], "it is not turned over again")
    fingers = Fingers(tablet)
    fingers.down(1, PAD)
    wait_for(lambda: "s held" in desk.says(pads, *HELD, begins=True).text, 8, "a finger elsewhere does not show")
    fingers.up(1)
    shows(receiver, [0, 0, 0], "lifting does nothing")
    pad = desk.says(pads, *HELD, begins=True)
    desk.driver.execute_script("arguments[0].scrollIntoView({block: 'center'})", pad)
    ActionChains(desk.driver).click_and_hold(pad).perform()
    shows(receiver, LIT, "a pad that is held at Run lights nothing")
    desk.key("6")  # the station is left with the button down
    shows(receiver, [0, 0, 0], "what was held on a page that was left stays held")


def test_it_says_while_it_is_away_and_comes_back_by_itself(quay: Quay, browse: Browse) -> None:
    browser = browse(quay.app.address)
    opened(browser, 1024, 768)
    browser.sees("connected")
    quay.app.kill("web")
    browser.sees("away: what you see may be old")
    browser.sees("connected")
    wait_for(lambda: "safe now" in browser.driver.page_source, 8, "lasers safe is not there")
    browser.driver.get_log("browser")  # its connection was away


def test_laid_out_by_drag_by_keys_and_by_typing(quay: Quay, browse: Browse) -> None:
    browser = browse(quay.app.address)
    browser.open("run/pages")
    css = "[aria-label='pad Fog signal']"
    browser.press(css)
    browser.key(Keys.ARROW_DOWN)

    def stored() -> dict[str, Any]:
        found: dict[str, Any] = quay.api.call("GET", "/api/show")["pages"][0]["items"][0]
        return found

    wait_for(lambda: (stored()["x"], stored()["y"]) == (0, 1), 5, "an arrow does not move it")
    browser.type_into("[aria-label='Words on the item']", "Horn")
    wait_for(lambda: stored()["words"] == "Horn", 5, "words are not stored")
    browser.click("turn over")
    wait_for(lambda: stored()["touch"]["do"] == "turn", 5, "the touch is not stored")
    browser.type_into("[aria-label='Column']", "4")
    browser.sees("would lie over")
    assert stored()["x"] == 0
