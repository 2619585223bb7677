"""Test walks by the keys of the Check station and on a phone: every fault of the simulated node is found and repaired.

The person is played by the test, which looks at the node's lamps and presses what a person would press.
"""

from __future__ import annotations

import base64
import time
from collections.abc import Callable
from typing import Any

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, wait_for
from tests.live.quay import LETTERS, PIXELS, Quay, build_quay, quay_hang

Browse = Callable[[str], Page]
PLACE = tuple[int, int]
WORDS = {"ColorAdd_R": "red", "ColorAdd_G": "green", "ColorAdd_B": "blue"}


@pytest.fixture
def quay(app: RunningApp, node: Callable[..., Node]) -> Quay:
    return build_quay(app, node("127.0.71.2", quay_hang()))


def lit_now(page: Page) -> str:
    return page.find('[aria-label="Lit now"]').text


def begin(page: Page, over: str, way: str) -> None:
    page.find('[aria-label="Walk over"] , [role="combobox"]').send_keys(Keys.ENTER)
    page.says('[role="option"]', over).click()
    gone = '[role="listbox"], .MuiBackdrop-root'
    wait_for(lambda: not page.driver.find_elements(By.CSS_SELECTOR, gone), 5, "it stays open")
    page.says("button", way).click()


def press(page: Page, key: str, goes_on: bool = True) -> None:
    """Presses a key and waits until the walk went on."""
    before = lit_now(page)
    page.key(key)
    if goes_on:
        wait_for(lambda: lit_now(page) != before, 8, f"{key} does not go on from {before}")


def click_square(page: Page, matrix: str, square: PLACE) -> None:
    lamps = page.find(f'canvas[aria-label="Lamps of {matrix}"]')
    size, box = float(str(lamps.get_attribute("data-cell"))), lamps.rect
    moves = ActionChains(page.driver, duration=10)
    at = (round(box["x"] + (square[0] + 0.5) * size), round(box["y"] + (square[1] + 0.5) * size))
    moves.w3c_actions.pointer_action.move_to_location(*at)
    moves.w3c_actions.pointer_action.click()
    moves.perform()


def home(written: str) -> PLACE:
    """Where "3:7", or the first pixel of "3 Quay strip 3", hangs in the rig as it was planned."""
    number, _, cell = written.split(" ", 1)[0].partition(":")
    column, pixel = int(number) - 1, int(cell or 1)
    if column >= 20:
        return column - 20, 11
    return column, PIXELS - pixel if column % 2 == 0 else pixel - 1


def walk_over_the_wall(page: Page, quay: Quay, steps: int) -> None:
    """Looks at each step where it lit, and says so by key and by clicking the picture."""
    for _ in range(steps):
        label, seen = lit_now(page), set(quay.lit())
        if not seen:
            press(page, "d")
        elif home(label) in seen:
            press(page, "g")
        else:
            page.key("p")
            page.sees("Click it in the picture")
            click_square(page, "Wall", next(iter(seen)))
            wait_for(lambda label=label: lit_now(page) != label, 8, "the click does not mark")  # type: ignore[misc]


def answer_colours(page: Page, quay: Quay, place: PLACE) -> None:
    """Names what the lamp shows of each emitter that is asked about."""
    for _ in LETTERS:
        asked = page.find('[aria-label="Asked"] b').text
        rgb = quay.lit().get(place, [0, 0, 0])
        asking = page.find('[aria-label="Asked"]')
        for name, n in LETTERS.items():
            if rgb[n] >= 64:
                next(b for b in asking.find_elements(By.TAG_NAME, "button") if b.text == WORDS[name]).click()
        page.says("button", "It shows", begins=True).click()
        wait_for(
            lambda asked=asked: (
                not page.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Asked"] b')  # type: ignore[misc]
                or page.find('[aria-label="Asked"] b').text != asked
            ),
            8,
            "the answer is not taken",
        )


def test_all_six_faults_are_found_by_walking_and_repaired(quay: Quay, browse: Browse) -> None:
    intended = quay.picture()
    wiring: list[dict[str, Any]] = [
        {"fault": "exchanged", "runs": [3, 4]},
        {"fault": "reversed", "run": 5},
        {"fault": "order", "run": 6, "order": "GRB"},
        {"fault": "mode", "run": 11, "order": "RGBD"},
    ]
    dead = {"fault": "dead", "run": 2, "pixel": 7}
    quay.node.faults(*wiring, dead, {"fault": "universe", "by": 1})
    page = browse(quay.app.address)
    page.open("check")

    begin(page, "Wall", "fixtures")
    page.sees("1 Quay strip 10 1")
    walk_over_the_wall(page, quay, 8)
    page.sees("To the quay is off by 1")
    page.click("Send from Port-Address 5 on")
    wait_for(lambda: quay.show()["outputs"][0]["first_number"] == 5, 5, "the number is not put right")

    begin(page, "Wall", "cells along the strand")
    wait_for(lambda: lit_now(page) == "1:1", 5, "the walk by cells does not begin")
    walk_over_the_wall(page, quay, 80)
    page.sees("3 and 4 are exchanged.")
    page.sees("5 runs the other way round")
    page.sees("2 is dark from 2:7 on: the data line ends there. Look at 2:6 and 2:7.")
    page.click("Exchange the addresses of 3 and 4")
    page.click("Turn 5 round on every matrix")
    quay.node.faults(*wiring, {"fault": "universe", "by": 1})  # somebody at the wall mends the dead pixel
    page.click("It is mended")
    wait_for(lambda: not quay.app.api().call("GET", "/api/findings"), 5, "findings stay")

    begin(page, "Wall", "fixtures")
    wait_for(lambda: lit_now(page).startswith("1 "), 5, "the walk by fixtures does not begin")
    page.says("button", "red").click()
    for number in range(1, 9):
        if quay.lit()[home(str(number))] == [255, 0, 0]:
            press(page, "g")
        else:
            assert number == 6
            page.key("c")
            page.sees("What does it show?")
            answer_colours(page, quay, home("6"))
            wait_for(lambda: lit_now(page).startswith("7"), 8, "it does not go on")
            page.says("button", "red").click()
    page.sees("6: red shows green; green shows red; blue shows blue.")
    page.click("Its order is green, red, blue")

    begin(page, "Row", "fixtures")
    wait_for(lambda: lit_now(page).startswith("21 "), 5, "the walk over the row does not begin")
    page.says("button", "red").click()
    wait_for(lambda: quay.lit() == {(0, 11): [255, 0, 0]}, 5, "21 is not lit in red")
    press(page, "g")
    press(page, "g")
    assert quay.lit() == {}  # its red is the dimmer of another mode
    page.key("c")
    page.sees("What does it show?")
    answer_colours(page, quay, (2, 11))
    page.click("It is set to 4 ch dimmer last")
    wait_for(lambda: quay.show()["fixtures"][10]["mode"] == "4 ch dimmer last", 5, "the mode is not changed")
    page.click("End")
    wait_for(lambda: quay.picture() == intended, 8, "the picture is not the intended one, pixel by pixel")


def test_the_list_of_faults_prints(quay: Quay, browse: Browse) -> None:
    shown = quay.show()["fixtures"]
    api = quay.app.api()
    api.call("POST", "/api/marks", {"kind": "dark", "cells": [[shown[1]["id"], 7]], "onward": True})
    seen = {"fixture": shown[3]["id"], "cell": 0}
    api.call("POST", "/api/marks", {"kind": "wrong place", "cells": [[shown[2]["id"], 0]], "seen": seen})
    page = browse(quay.app.address)
    page.driver.get(f"{quay.app.address}/faults")
    page.sees("Faults, Quay")
    page.sees("2 is dark from 2:7 on")
    assert "lit at 4" in page.text()
    rows = [one.text for one in page.driver.find_elements(By.TAG_NAME, "tr")]
    assert len(rows) == 2
    assert "2:7-10" in rows[0]
    assert "U5.49" in rows[0]  # 2:7 is the seventh pixel of a strip that begins at U5.31
    paper = page.driver.execute_cdp_cmd("Page.printToPDF", {})
    assert base64.b64decode(paper["data"]).startswith(b"%PDF")


def test_a_phone_at_the_lamp(quay: Quay, browse: Browse) -> None:
    quay.node.faults({"fault": "exchanged", "runs": [1, 2]})
    page = browse(quay.app.address)
    page.driver.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride", {"width": 390, "height": 844, "deviceScaleFactor": 1, "mobile": True}
    )
    page.driver.get(f"{quay.app.address}/phone")
    page.says("button", "fixtures").click()
    wait_for(lambda: lit_now(page).startswith("1 "), 8, "the walk does not begin")
    assert set(quay.lit()) == {(1, y) for y in range(10)}
    width = page.driver.execute_script("return document.documentElement.scrollWidth")
    assert width <= 390
    for one in page.driver.find_elements(By.CSS_SELECTOR, "main button"):
        box = one.rect
        assert box["y"] + box["height"] <= 844, f"{one.text} is below the screen"
        assert box["height"] >= 40, f"{one.text} is too small for a thumb"
    page.click("wrong place")
    page.sees("Click it in the picture")
    click_square(page, "Wall", (1, 4))
    wait_for(lambda: lit_now(page).startswith("2 "), 8, "the tap does not mark")
    page.click("good")
    wait_for(lambda: lit_now(page).startswith("3 "), 8, "good does not go on")
    page.click("Back")
    wait_for(lambda: lit_now(page).startswith("2 "), 8, "it does not go back")
    marks = quay.show()["marks"]
    assert [(quay.number_of(one["fixture"]), one["cell"], one["kind"]) for one in marks] == [
        (1, 0, "wrong place"),
        (2, 0, "good"),
    ]
    assert quay.number_of(marks[0]["seen"]["fixture"]) == 2
    page.click("End walk")
    page.sees("Lights one after another")
    time.sleep(0.1)
    assert len(quay.lit()) == 84
