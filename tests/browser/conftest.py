"""A real Chromium, driven through ChromeDriver; a test fails on severe console entries."""

from __future__ import annotations

import contextlib
import os
import re
import shutil
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from selenium import webdriver
from selenium.common.exceptions import StaleElementReferenceException, WebDriverException
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from tests.conftest import wait_for

SWITCHES = (
    "--headless=new",
    "--no-sandbox",
    "--disable-gpu",
    "--disable-dev-shm-usage",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
)

LATE, LATE_MOST = "status of 503", 20
"""A part that is late or being begun anew is told as *not at the moment*, and pages ask again: so often in one test."""

REFUSED = [f"status of {code}" for code in (401, 403, 409, 422)] + ["Unexpected response code: 403", LATE]
"""A refused request is answered with a status from 400 on, which Chromium notes as an error of the network."""

FIRST = """
const [css, way, words, enabled] = arguments;
const ways = {any: () => true, has: (text) => text.includes(words), is: (text) => text === words,
  begins: (text) => words.some((word) => text.startsWith(word))};
const sized = (one) => one.getBoundingClientRect().width > 0 && one.getBoundingClientRect().height > 0;
for (const one of document.querySelectorAll(css)) {
  if (!one.checkVisibility({opacityProperty: true, visibilityProperty: true})) continue;
  if (!sized(one) && ![...one.querySelectorAll('*')].some(sized)) continue;
  if (ways[way](one.innerText === undefined ? '' : one.innerText.trim()) && !(enabled && one.disabled)) return one;
}
return null;
"""
"""The first element of a selector that shows and says something, looked for in one step within the page: asking the
driver for the words of every button took most of a test's time."""

READ_CANVAS = """
const c = document.querySelector(arguments[0]);
if (!c || !c.width || c.dataset.frame === undefined) return null;
return {frame: Number(c.dataset.frame), state: c.dataset.state, width: c.width, height: c.height,
  rgba: Array.from(c.getContext('2d').getImageData(0, 0, c.width, c.height).data)};
"""


class Page:
    """What a person does, in few words. Elements are found by role and name."""

    def __init__(self, driver: webdriver.Chrome, address: str) -> None:
        self.driver, self.address = driver, address

    def open(self, station: str) -> None:
        self.driver.get(f"{self.address}/{station}")
        self.find('header [aria-label="Name of the show"]')
        self.find("main")  # the station itself is fetched by its own

    def find(self, css: str, seconds: float = 8.0) -> WebElement:
        return self._first(f"'{css}' is not there", seconds, css, "any")

    def there(self, css: str) -> WebElement:
        """What is in the page, seen or not: a chooser of files."""
        found: list[WebElement] = wait_for(
            lambda: self.driver.find_elements(By.CSS_SELECTOR, css), 8, f"'{css}' is not there"
        )
        return found[0]

    def says(self, css: str, *words: str, begins: bool = False) -> WebElement:
        """The first element that shows and says just this; or, with `begins`, begins with one of these."""
        way: tuple[Any, ...] = ("begins", words) if begins else ("is", words[0])
        return self._first(f"no {css} says {' or '.join(words)}", 8.0, css, *way)

    def _first(self, why: str, seconds: float, *asked: Any) -> WebElement:
        found: WebElement = wait_for(lambda: self.driver.execute_script(FIRST, *asked), seconds, why)
        return found

    def places(self, css: str) -> list[list[float]]:
        """Left and top of all that are found, in pixels."""
        boxes = "[...document.querySelectorAll(arguments[0])].map(e => e.getBoundingClientRect())"
        self.find(css)
        found: list[list[float]] = self.driver.execute_script(f"return {boxes}.map(b => [b.x, b.y])", css)
        return found

    def box_of(self, word: str) -> dict[str, float]:
        """From where to where the button that begins with this word goes, in the station's work."""
        found: WebElement = self._first(f"no button says {word}", 8.0, "main button", "begins", (word,))
        box: dict[str, float] = self.driver.execute_script("return arguments[0].getBoundingClientRect()", found)
        return {side: box[side] for side in ("x", "width")}

    def press(self, css: str) -> None:
        """Clicks what is found, also where React draws it anew meanwhile."""
        self._pressed(lambda: self.find(css), css)

    def _pressed(self, found: Callable[[], WebElement], named: str) -> None:
        def pressed() -> bool:
            try:
                found().click()
            except StaleElementReferenceException:
                return False
            return True

        wait_for(pressed, 8, f"'{named}' could not be pressed")

    def button(self, text: str) -> WebElement:
        return self._first(f"there is no button '{text}'", 8.0, "button", "has", text, True)

    def click(self, text: str) -> None:
        self._pressed(lambda: self.button(text), text)

    def type_into(self, css: str, text: str) -> None:
        """Replaces what stands in a field and confirms it."""
        self.press(css)
        field = self.find(css)
        field.send_keys(Keys.CONTROL, "a")
        field.send_keys(text, Keys.ENTER)

    def key(self, *keys: str) -> None:
        ActionChains(self.driver).send_keys(*keys).perform()

    def shift_key(self, key: str) -> None:
        ActionChains(self.driver).key_down(Keys.SHIFT).send_keys(key).key_up(Keys.SHIFT).perform()

    def text(self) -> str:
        """What shows, read in one step: a page that loads anew has no body for a moment."""
        return str(self.driver.execute_script("return document.body ? document.body.innerText : ''"))

    def sees(self, text: str, seconds: float = 8.0) -> None:
        wait_for(lambda: text in self.text(), seconds, f"'{text}' does not show")

    def lives(self) -> None:
        """Sees that frames are told of, however many a busy machine sends."""
        wait_for(lambda: re.search(r"[1-9]\d*\.\d\s+frames/s", self.text()), 8, "the page is not live")

    def picture(self, matrix: str) -> tuple[int, list[int]]:
        """Frame number and rows of RGB bytes of a matrix in the live strip."""
        css = f'footer canvas[aria-label="{matrix} as sent"]'
        read: dict[str, Any] = wait_for(lambda: self.driver.execute_script(READ_CANVAS, css), 8, "no live picture")
        rgba = read["rgba"]
        return read["frame"], [rgba[i + c] for i in range(0, len(rgba), 4) for c in range(3)]

    def drag_square(self, a: tuple[int, int], b: tuple[int, int]) -> None:
        """Drags on the matrix grid, from the middle of one square to the middle of another."""
        grid = self.find('canvas[aria-label^="Squares of"]')
        cell, left, top = (int(str(grid.get_attribute(f"data-{name}"))) for name in ("cell", "left", "top"))
        box = grid.rect

        def at(square: tuple[int, int]) -> tuple[int, int]:
            x = box["x"] + left + square[0] * cell + cell // 2
            y = box["y"] + top + square[1] * cell + cell // 2
            return round(x), round(y)

        moves = ActionChains(self.driver, duration=20)
        pointer = moves.w3c_actions.pointer_action
        pointer.move_to_location(*at(a))
        pointer.pointer_down()
        middle = tuple((p + q) // 2 for p, q in zip(at(a), at(b), strict=True))
        pointer.move_to_location(*middle)
        pointer.move_to_location(*at(b))
        pointer.pointer_up()
        moves.perform()


class Browsers:
    """Browsers that tests take and give back as they began: starting one for each test took a fifth of the whole."""

    def __init__(self, folder: Path) -> None:
        self._folder, self._started = folder, 0
        self._free: list[webdriver.Chrome] = []

    def take(self) -> webdriver.Chrome:
        """One at 1280 x 800 that has seen nothing yet."""
        driver = self._free.pop() if self._free else self._new()
        size = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
        driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
        return driver

    def give_back(self, driver: webdriver.Chrome, addresses: set[str]) -> None:
        """Takes away all that a test left in it; one that cannot be cleared is ended."""
        try:
            used = driver.window_handles
            driver.switch_to.new_window("tab")  # what a tab keeps for its session goes with it
            fresh = driver.current_window_handle
            for other in used:
                driver.switch_to.window(other)
                driver.close()
            driver.switch_to.window(fresh)
            for address in addresses:
                everything = {"origin": address, "storageTypes": "all"}
                driver.execute_cdp_cmd("Storage.clearDataForOrigin", everything)
            driver.execute_cdp_cmd("Network.clearBrowserCookies", {})
            driver.execute_cdp_cmd("Emulation.setEmulatedMedia", {"media": "", "features": []})
            driver.execute_cdp_cmd("Emulation.setTouchEmulationEnabled", {"enabled": False})
            driver.get_log("browser")
        except WebDriverException:
            driver.quit()
            return
        self._free.append(driver)

    def end(self) -> None:
        for driver in self._free:
            driver.quit()

    def _new(self) -> webdriver.Chrome:
        options = Options()
        options.binary_location = shutil.which("chromium") or "/usr/bin/chromium"
        for switch in SWITCHES:
            options.add_argument(switch)
        self._started += 1
        options.add_argument(f"--user-data-dir={self._folder / f'profile{self._started}'}")
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        return webdriver.Chrome(options=options, service=Service(self._driver()))

    def _driver(self) -> str | None:
        """ChromeDriver, and so Chromium, without the right to raise itself above what it looks at (root has it)."""
        driver = shutil.which("chromedriver")
        if driver is None or os.geteuid() != 0 or shutil.which("setpriv") is None:
            return driver
        wrapped = self._folder / "chromedriver"
        if not wrapped.exists():
            wrapped.write_text(f'#!/bin/sh\nexec setpriv --bounding-set -sys_nice {driver} "$@"\n')
            wrapped.chmod(0o755)
        return str(wrapped)


@pytest.fixture(scope="session")
def browsers(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Browsers]:
    those = Browsers(tmp_path_factory.mktemp("browsers"))
    yield those
    those.end()


@pytest.fixture
def browse(tmp_path: Path, browsers: Browsers) -> Iterator[Callable[[str], Page]]:
    """Opens browsers: browse(address). Each has seen nothing yet, 1280 x 800."""
    drivers: list[webdriver.Chrome] = []
    addresses: set[str] = set()

    def start(address: str) -> Page:
        drivers.append(browsers.take())
        addresses.add(address)
        return Page(drivers[-1], address)

    yield start
    severe: list[str] = []
    with contextlib.ExitStack() as stack:  # what one does not give keeps nobody from ending the others
        for number, driver in enumerate(drivers):
            stack.callback(browsers.give_back, driver, addresses)
            with contextlib.suppress(WebDriverException):
                driver.save_screenshot(str(tmp_path / f"browser{number}.png"))
            with contextlib.suppress(WebDriverException):
                severe += [entry["message"] for entry in driver.get_log("browser") if entry["level"] == "SEVERE"]
    wrong = [message for message in severe if not any(words in message for words in REFUSED)]
    assert not wrong, "\n".join(wrong)
    late = [message for message in severe if LATE in message]
    assert len(late) <= LATE_MOST, "\n".join(late)
