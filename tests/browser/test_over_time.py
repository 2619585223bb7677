"""Colours that go over time, and looks that flash, in the real browser and on the wire."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.browser.test_pictures import chip
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]


def ribbons(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")["looks"][0]["lines"][0]["ribbons"]
    return found


def test_a_colour_goes_over_time_by_knots_and_a_thread(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.77.14", wall_hang())
    light_wall(app, "127.0.77.14", [[0, 200, 100, 0]])
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 0], 8, "the wall is not lit")
    page = browse(app.address)
    page.open("looks")
    chip(page, 1, "one colour").click()
    page.press('button[aria-label="Colour 1: let it go over time"]')
    page.find('svg[aria-label="Colour over time"]')
    page.type_into('input[aria-label="Length of the ribbon"]', "2 s")
    seen: set[int] = set()

    def moves() -> bool:
        seen.add(receiver.picture()[0])
        return len(seen) > 8

    wait_for(moves, 8, f"it stands still: {seen}")
    assert 20 <= min(seen) <= max(seen) <= 200
    assert [knot[0] for knot in ribbons(app)["0"]["knots"]] == [0, 1, 2]
    knot = page.find('g[aria-label="Knot 2"][aria-valuenow="1"]')  # the page has the new length
    knot.send_keys(Keys.ARROW_RIGHT)
    wait_for(lambda: ribbons(app)["0"]["knots"][1][0] == 1.1, 5, "the knot was not moved")
    page.find('g[aria-label="Knot 2"][aria-valuenow="1.1"]')
    drag = ActionChains(page.driver).click_and_hold(page.find('g[aria-label="Knot 2"] circle'))
    drag.move_by_offset(40, 0).move_by_offset(40, 0).release().perform()
    wait_for(lambda: 1.2 < ribbons(app)["0"]["knots"][1][0] < 1.9, 5, f"it was not dragged: {ribbons(app)}")
    page.type_into('input[aria-label="Colour of the knot"]', "0 0 200")
    wait_for(lambda: ribbons(app)["0"]["knots"][1][1:4] == [0, 0, 200], 5, "the colour was not typed")
    page.click("Add a point")
    page.type_into('input[aria-label="Point 1 of the thread"]', "70")
    wait_for(lambda: ribbons(app)["0"]["threads"] == {"red": [[1.0, 70]]}, 5, f"no thread: {ribbons(app)}")
    page.find('path[data-thread="red"]')  # it is drawn where it leaves the ribbon
    page.find('circle[aria-label="Point 1 of red"]').send_keys(Keys.ARROW_UP)
    wait_for(lambda: ribbons(app)["0"]["threads"] == {"red": [[1.0, 71]]}, 5, "its point was not moved")
    now = page.find('path[data-now="ribbon"]')
    stood = now.get_attribute("transform")
    wait_for(lambda: now.get_attribute("transform") != stood, 5, "now stands still")
    page.press('button[aria-label="Take point 1 away"]')
    wait_for(lambda: ribbons(app)["0"]["threads"] == {"red": []}, 5, "the thread stays")
    page.click("Stand still")
    wait_for(lambda: ribbons(app) == {} and receiver.picture()[:3] == [200, 100, 0], 5, "it goes on")


def test_a_look_that_flashes_says_so_beside_its_name(app: RunningApp, browse: Browse) -> None:
    fast: dict[str, Any] = {"speed": {"value": 0.2, "unit": "s"}, "params": {"shape": "square"}}
    light_wall(app, "127.0.77.15", [[0, 255, 255, 255]], effect="Pulse", **fast)
    page = browse(app.address)
    page.open("looks")
    page.sees("flashes 5 times a second on Wall: line 1", 20)
    page.press('button[aria-label="Opacity 100 %"]')
    page.type_into('input[aria-label="Opacity, typed"]', "20")
    wait_for(lambda: "times a second on Wall" not in page.text(), 20, "it says so of a dim one")
