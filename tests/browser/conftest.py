"""A real Chromium, driven through ChromeDriver; a test fails on severe console entries."""

from __future__ import annotations

import shutil
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest
from selenium import webdriver
from selenium.common.exceptions import StaleElementReferenceException
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
        return self.first(css, lambda one: one.is_displayed(), f"'{css}' is not there", seconds)

    def first(self, css: str, fits: Callable[[WebElement], bool], why: str, seconds: float = 8.0) -> WebElement:
        """The first element that fits; one that React takes away while it is looked at counts as not there."""

        def look() -> WebElement | None:
            for one in self.driver.find_elements(By.CSS_SELECTOR, css):
                try:
                    if fits(one):
                        return one
                except StaleElementReferenceException:
                    continue
            return None

        found: WebElement = wait_for(look, seconds, why)
        return found

    def button(self, text: str) -> WebElement:
        return self.first("button", lambda one: text in one.text and one.is_enabled(), f"there is no button '{text}'")

    def click(self, text: str) -> None:
        self.button(text).click()

    def type_into(self, css: str, text: str) -> None:
        """Replaces what stands in a field and confirms it."""
        field = self.find(css)
        field.click()
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


@pytest.fixture
def browse(tmp_path: Path) -> Iterator[Callable[[str], Page]]:
    """Opens browsers: browse(address). A fresh profile each, 1280 x 800."""
    drivers: list[webdriver.Chrome] = []

    def start(address: str) -> Page:
        options = Options()
        options.binary_location = shutil.which("chromium") or "/usr/bin/chromium"
        for switch in SWITCHES:
            options.add_argument(switch)
        options.add_argument(f"--user-data-dir={tmp_path / f'profile{len(drivers)}'}")
        options.set_capability("goog:loggingPrefs", {"browser": "ALL"})
        driver = webdriver.Chrome(options=options, service=Service(shutil.which("chromedriver")))
        drivers.append(driver)
        driver.execute_cdp_cmd(
            "Emulation.setDeviceMetricsOverride",
            {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False},
        )
        return Page(driver, address)

    yield start
    for number, driver in enumerate(drivers):
        driver.save_screenshot(str(tmp_path / f"browser{number}.png"))
    severe = [entry for driver in drivers for entry in driver.get_log("browser") if entry["level"] == "SEVERE"]
    for driver in drivers:
        driver.quit()
    # A refused request is answered with a status from 400 on, which Chromium notes as an error of the network.
    refused = [f"status of {code}" for code in (401, 403, 409, 422)] + ["Unexpected response code: 403"]
    wrong = [e["message"] for e in severe if not any(words in e["message"] for words in refused)]
    assert not wrong, "\n".join(wrong)
