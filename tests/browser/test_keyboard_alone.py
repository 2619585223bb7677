"""By keyboard alone, as without a mouse: from an empty show to light on a node's lamps, and a patch repaired."""

from __future__ import annotations

import time
from collections.abc import Callable
from uuid import uuid4

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import wall_hang

NODE = "127.0.89.9"
PRESSES_MOST = 120
"""So many presses of Tab go through the longest of these screens."""


def tab_to(page: Page, css: str, words: str = "") -> None:
    """Presses Tab until the focus is on what is meant."""
    script = """
    const one = document.activeElement;
    return Boolean(one && one.matches(arguments[0]) && one.innerText.includes(arguments[1]));
    """
    page.find(css)
    for _ in range(PRESSES_MOST):
        if page.driver.execute_script(script, css, words):
            return
        page.key(Keys.TAB)
    pytest.fail(f"Tab does not come to {css} {words}")


def press(page: Page, words: str, key: str = Keys.ENTER) -> None:
    page.button(words)
    tab_to(page, "button", words)
    page.key(key)


def fill(page: Page, css: str, text: str, then: str = Keys.ENTER) -> None:
    tab_to(page, css)
    page.driver.switch_to.active_element.send_keys(Keys.CONTROL, "a")
    page.key(text, then)


def to_station(page: Page, number: str, name: str) -> None:
    """A digit soon after typing is meant for the field: a moment is waited, as who looks up from it does."""
    page.key(Keys.ESCAPE)
    time.sleep(1.4)
    page.key(number)
    page.find(f'nav a[href="/{name}"][aria-current="page"]')


@pytest.fixture
def empty(app: RunningApp) -> RunningApp:
    at_rest(app)
    app.api().call("POST", "/api/shows", {"id": str(uuid4()), "name": "By keys"})
    return app


def test_from_an_empty_show_to_a_running_look_by_keyboard_alone(
    empty: RunningApp, browse: Callable[[str], Page], node: Callable[..., Node]
) -> None:
    receiver = node(NODE, wall_hang())
    page = browse(empty.address)
    page.open("rig")
    fill(page, "#add-line", "18 x RGB lamp, from 1, Lamp {n}", then="")
    page.sees("U1.52 to U1.54")
    page.key(Keys.ENTER)
    page.sees("18 fixtures, 18 cells")

    to_station(page, "2", "patch")
    press(page, "Add output")
    press(page, "Art-Net unicast", Keys.SPACE)
    fill(page, "#out-to", NODE)
    page.sees("Net 0 Sub-Net 0 Universe 0 (Port-Address 0, counted from 1: 1)")

    to_station(page, "3", "matrices")
    fill(page, "#weave-columns", "6")
    fill(page, "#weave-rows", "3")
    page.sees("6 wide, 3 high, from the top left, each row to the right, 18 cells")
    press(page, "Make the matrix")
    page.sees("every cell has its square")

    to_station(page, "4", "looks")
    press(page, "New")
    press(page, "Flat")
    page.sees("one colour")
    press(page, "Off", Keys.SPACE)
    wait_for(lambda: any(receiver.picture()), 8, "nothing is lit")


def test_a_patch_is_repaired_by_keyboard_alone(empty: RunningApp, browse: Callable[[str], Page]) -> None:
    api = empty.api()
    strips = [str(uuid4()) for _ in range(2)]
    api.call("POST", "/api/fixtures", {"text": "2 x RGB pixel strip, mode 16 RGB, from 1, at U3.1", "ids": strips})
    api.call("PATCH", f"/api/fixtures/{strips[1]}", {"address": "U3.31"})
    page = browse(empty.address)
    page.open("rig")
    to_station(page, "2", "patch")
    page.sees("1 RGB pixel strip 1 and 2 RGB pixel strip 2 share channels of U3.")
    tab_to(page, '[role="group"][aria-label="overlap"] button')
    page.key(Keys.ENTER)
    wait_for(lambda: addresses(empty) == ["U3.1", "U3.79"], 8, "it was not moved to the next free place")
    wait_for(lambda: "share channels" not in page.text(), 8, "the doctor names it still")


def addresses(app: RunningApp) -> list[str]:
    return [one["address"] for one in app.api().call("GET", "/api/show")["fixtures"]]
