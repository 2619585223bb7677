"""Lines of a look: an effect found and taken, drawn anew, let move by itself; on the wire."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any

from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.browser.test_pictures import chip
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]


def test_an_effect_is_found_by_a_plain_word_and_taken_by_keyboard_and_a_line_surprises(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.77.9", wall_hang())
    light_wall(app, "127.0.77.9", [[0, 0, 0, 0]])
    page = browse(app.address)
    page.open("looks")
    page.click("effect")
    page.find('input[aria-label="Find an effect"]').send_keys("fire")
    page.sees("a glow that rises and dies away")
    assert "soft-edged parallel bars" not in page.text()
    cards = page.driver.find_elements(By.CSS_SELECTOR, '[role="group"][aria-label="Effects"] button')
    assert len(cards) == 1
    shown = 'return arguments[0].querySelector("img").naturalWidth'
    wait_for(lambda: page.driver.execute_script(shown, cards[0]) > 0, 5, "it has no miniature")
    page.key(Keys.ARROW_DOWN, Keys.ENTER)
    chip(page, 2, "Ember")
    wait_for(lambda: max(receiver.picture()) > 200, 5, f"it does not burn: {receiver.picture()}")
    page.click("effect")
    page.find('input[aria-label="Find an effect"]').send_keys(Keys.ESCAPE)
    wait_for(lambda: not page.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Find an effect"]'), 5)

    def line_of(n: int) -> dict[str, Any]:
        found: dict[str, Any] = app.api().call("GET", "/api/show")["looks"][0]["lines"][n]
        return found

    before = line_of(1)
    page.key("r")
    page.sees("seed ")
    wait_for(lambda: line_of(1)["seed"] != before["seed"], 5)
    assert line_of(1)["ramp"] != before["ramp"]
    page.key("z")
    wait_for(lambda: line_of(1) == before, 5, "it was not taken back")


def test_a_number_is_let_move_by_itself_and_stands_still_again(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.77.10", wall_hang())
    light_wall(app, "127.0.77.10", [[0, 200, 200, 200]])
    wait_for(lambda: receiver.picture()[0] == 200, 8, "the wall is not lit")
    page = browse(app.address)
    page.open("looks")
    page.press('button[aria-label="Opacity 100 %"]')
    page.click("let it move by itself")
    page.type_into('input[aria-label="From"]', "10")
    page.type_into('input[aria-label="Period"]', "1 s")
    page.find('svg[aria-label^="opacity over time, now"]')
    seen: set[int] = set()

    def moves() -> bool:
        seen.add(receiver.picture()[0])
        return len(seen) > 8

    wait_for(moves, 8, f"it stands still: {seen}")
    assert 19 <= min(seen) <= max(seen) <= 200  # 10 % of 200 is 20
    page.type_into('input[aria-label="Period"]', "soon")
    page.sees("'soon' is no speed.")
    page.find('input[aria-label="Period"]').send_keys(Keys.ESCAPE)
    page.click("beat")
    page.find('input[aria-label="Decay"]')
    page.click("curve")
    point = page.find('circle[aria-label="Point 1"]')
    before = str(point.get_attribute("aria-valuetext"))
    point.send_keys(Keys.ARROW_UP)
    wait_for(lambda: opacity(app)["points"][0] == [0.0, 0.01], 5, f"the point at {before} was not moved")
    page.click("Stand still")
    wait_for(lambda: receiver.picture()[0] == 200, 5, "it moves on")
    time.sleep(0.7)
    assert receiver.picture()[0] == 200
    page.key("z")
    page.find('circle[aria-label="Point 1"]')
    choose(page, "Copy this drive to", "place along the ramp")
    wait_for(lambda: set(drives(app)) == {"opacity", "shift"}, 5, "the drive was not copied")
    assert {**drives(app)["shift"], "low": 0, "high": 0} == {**opacity(app), "low": 0, "high": 0}


def drives(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")["looks"][0]["lines"][0]["drives"]
    return found


def opacity(app: RunningApp) -> dict[str, Any]:
    return dict(drives(app)["opacity"])


def choose(page: Page, label: str, option: str) -> None:
    page.press(f'[role="combobox"][aria-label="{label}"]')
    page.says('[role="option"]', option).click()


def test_four_effects_are_tried_by_arrows_and_all_is_left_as_it_was(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.77.11", wall_hang())
    look = light_wall(app, "127.0.77.11", [[0, 200, 40, 0]])["look"]
    wait_for(lambda: receiver.picture()[:3] == [200, 40, 0], 8, "the wall is not lit")
    page = browse(app.address)
    page.open("looks")
    chip(page, 1, "Flat").click()
    page.find('input[aria-label="Find an effect"]')
    stored = app.api().call("GET", "/api/show")
    seen: list[list[int]] = []
    page.key(Keys.ARROW_DOWN)
    for _ in range(4):
        page.key(Keys.ARROW_RIGHT)
        seen.append(another(receiver, seen[-1] if seen else [200, 40, 0] * 18))
    page.key(Keys.ESCAPE)
    wait_for(lambda: receiver.picture() == [200, 40, 0] * 18, 5, "what was tried stayed")
    now = app.api().call("GET", "/api/show")
    assert (now["show"]["revision"], now["looks"]) == (stored["show"]["revision"], stored["looks"])
    assert look == stored["looks"][0]["id"]


def another(receiver: Node, last: list[int]) -> list[int]:
    """The next picture that is not the last one."""
    wait_for(lambda: receiver.picture() != last, 5, "nothing else was tried")
    return receiver.picture()


def test_an_empty_look_is_worth_watching_in_under_twelve_actions(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    """Mist through Glints with a driven contrast, each click and each thing typed counted."""
    receiver = node("127.0.77.12", wall_hang())
    light_wall(app, "127.0.77.12", [[0, 0, 0, 0]])
    page = browse(app.address)
    page.open("looks")
    actions = 0

    def done(act: Callable[..., object], *given: Any) -> None:
        nonlocal actions
        actions += 1
        act(*given)

    def found(word: str) -> None:
        page.find('input[aria-label="Find an effect"]').send_keys(word, Keys.ENTER)

    done(page.click, "New")
    done(found, "mist")
    page.sees("contrast")
    done(page.click, "effect")
    done(found, "glints")
    page.sees("density")
    done(page.find('[role="group"][aria-label="Line 1"]').click)
    done(lambda: chip(page, 1, "through").click())
    done(page.click, "2 Glints")
    done(page.click, "Glints stays unseen")
    done(parameter, page, "contrast")
    done(page.click, "let it move by itself")
    page.find('svg[aria-label^="contrast over time"]')
    done(page.key, " ")
    looks = app.api().call("GET", "/api/show")["looks"]
    mist, glints = looks[-1]["lines"]
    assert (mist["through"]["line"], glints["stencil"]) == (glints["id"], True)
    assert set(mist["drives"]) == {"params.contrast"}
    assert actions < 12
    seen: set[tuple[int, ...]] = set()

    def lives() -> bool:
        seen.add(tuple(receiver.picture()))
        return len(seen) > 10

    wait_for(lives, 8, "nothing moves on the wall")


def parameter(page: Page, name: str) -> None:
    """Opens the chip of a parameter by the word before it."""
    css = '[role="group"][aria-label="Line 1"] span button'

    def opened() -> bool:
        try:
            for one in page.driver.find_elements(By.CSS_SELECTOR, css):
                if one.find_element(By.XPATH, "..").text.startswith(name):
                    one.click()
                    return True
        except StaleElementReferenceException:  # React took it away while it was read
            pass
        return False

    wait_for(opened, 8, f"line 1 has no {name}")
