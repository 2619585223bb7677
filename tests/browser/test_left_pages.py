"""Pages that were left, and pages whose news are old: what is shown as live is live, and the keys act all the same."""

from __future__ import annotations

import os
import signal
from collections.abc import Callable
from uuid import uuid4

from selenium.webdriver.common.action_chains import ActionChains

from tests.browser.conftest import Page
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import light_wall, running

Browse = Callable[[str], Page]
STATIONS = ("rig", "patch", "matrices", "looks", "run", "check")


def test_twenty_page_loads_in_one_browser_leave_every_page_seeing(app: RunningApp, browse: Browse) -> None:
    """After about ten, every page went blind: left pages kept their sockets and read no more."""
    light_wall(app, "127.0.63.2", [[0, 200, 100, 40]])
    page = browse(app.address)
    for n in range(20):
        page.open(STATIONS[n % len(STATIONS)])
    page.lives()
    page.sees("1 here")
    assert "not live" not in page.text()
    page.key("b")
    wait_for(lambda: running(app)["state"]["blackout"], 5, "key B did not black out")
    wait_for(lambda: page.button("Black").get_attribute("aria-pressed") == "true", 5, "the button says another thing")
    page.key("b")
    wait_for(lambda: not running(app)["state"]["blackout"], 5, "key B did not bring the light back")
    page.driver.back()
    page.lives()


def test_what_is_old_says_so_and_nothing_is_disabled(own_app: Callable[..., RunningApp], browse: Browse) -> None:
    app = own_app("127.0.63.1")
    light_wall(app, "127.0.63.3", [[0, 200, 100, 40]])
    page = browse(app.address)
    page.open("run")
    page.lives()
    pids = (app.process.pid, app.pid("engine"))  # the supervisor would end an engine that hangs
    for pid in pids:
        os.kill(pid, signal.SIGSTOP)
    try:
        page.sees("not live", 5)
        assert "Nothing runs" not in page.text()
        assert page.driver.execute_script("return document.documentElement.hasAttribute('data-old')")
        for name in ("Blackout", "Freeze"):
            assert page.button(name).is_enabled()
        page.key("b")
        page.key("l")
    finally:
        for pid in reversed(pids):
            os.kill(pid, signal.SIGCONT)
    wait_for(lambda: running(app)["state"]["blackout"], 8, "the key did not act")
    wait_for(lambda: "not live" not in page.text(), 8, "it is still said to be old")
    page.key("b")
    wait_for(lambda: not running(app)["state"]["blackout"], 8, "the key did not bring the light back")


def test_the_sign_says_what_can_be_armed_and_why_not(app: RunningApp, show: str, browse: Browse) -> None:
    text = {"text": "1 x RGB laser head, from 801, Ray, at U1.1", "ids": [str(uuid4())]}
    app.api().call("POST", "/api/fixtures", text)
    page = browse(app.address)
    page.open("check")
    sign = page.find('button[aria-label="Lasers safe: hold to arm"]')
    wait_for(lambda: running(app)["lasers"], 8)
    ActionChains(page.driver).move_to_element(sign).click().perform()
    page.sees("is not sent: U1 leaves by no output that is on.")
    page.click("Close")
    output = {"id": str(uuid4()), "name": "Out", "protocol": "artnet", "mode": "unicast"}
    app.api().call("POST", "/api/outputs", {**output, "destination": "127.0.63.4", "card": app.card})
    wait_for(lambda: not running(app)["lasers"][0]["fault"], 8)
    ActionChains(page.driver).move_to_element(sign).click().perform()
    page.sees("stay armed until")
    page.type_into('input[aria-label="Stay armed until"]', "25:00")
    page.sees("Type a time of day like 23:40")


def test_an_address_a_laser_left_is_listed_until_it_is_said_to_be_gone(
    app: RunningApp, show: str, browse: Browse
) -> None:
    ray = str(uuid4())
    app.api().call("POST", "/api/fixtures", {"text": "1 x RGB laser head, from 801, Ray, at U1.1", "ids": [ray]})
    output = {"id": str(uuid4()), "name": "Out", "protocol": "artnet", "mode": "unicast"}
    app.api().call("POST", "/api/outputs", {**output, "destination": "127.0.63.5", "card": app.card})
    wait_for(lambda: [one for one in running(app)["lasers"] if not one["fault"]], 8)
    page = browse(app.address)
    page.open("check")
    app.api().call("POST", "/api/fixtures/delete", {"ids": [ray]})
    page.sees("lay at U1.1 to 5. Nothing else reaches it there.")
    page.click("The laser is gone from here")
    wait_for(lambda: "Held safe by address" not in page.text(), 8, "it is still listed")
    assert running(app)["state"]["left"] == []


def test_taking_a_guard_away_lists_the_fixtures_first(app: RunningApp, show: str, browse: Browse) -> None:
    ray = str(uuid4())
    app.api().call("POST", "/api/fixtures", {"text": "1 x RGB laser head, from 801, Ray, at U1.1", "ids": [ray]})
    profile = next(one for one in app.api().call("GET", "/api/show")["fixtures"] if one["id"] == ray)["profile"]
    page = browse(app.address)
    page.driver.get(f"{app.address}/rig/profiles/{profile}")
    page.click("guarded until armed")
    page.sees("Take the guard from RGB laser head?")
    page.sees("U1.1")
    page.click("Leave it guarded")
    wait_for(lambda: "Take the guard from" not in page.text(), 5)
    page.click("guarded until armed")
    page.click("Take the guard away")
    page.sees("not guarded")
    assert app.api().call("GET", f"/api/profiles/{profile}")["guarded"] is False
