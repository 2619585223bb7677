"""The frame and its habits: keys, fields edited in place, bad input beside its cause, two browsers."""

from __future__ import annotations

import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from uuid import uuid4

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, saved_show, wait_for
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]


@pytest.fixture
def lamps(app: RunningApp, show: str) -> list[str]:
    """Four lamps in the open show."""
    keys = [str(uuid4()) for _ in range(4)]
    app.api().call("POST", "/api/fixtures", {"text": "4 x RGB lamp, from 1, Lamp {n}", "ids": keys})
    return keys


def test_the_stations_are_one_key_away(app: RunningApp, show: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open("rig")
    page.driver.find_element(By.TAG_NAME, "main").click()
    for key, station in zip("123456", ("rig", "patch", "matrices", "looks", "run", "check"), strict=True):
        page.key(key)
        wait_for(partial(is_at, page, station), 3)
    page.key("2")
    heading = page.says("h2", "Patch doctor")
    ActionChains(page.driver).move_to_element(heading).send_keys("?").perform()
    page.sees("Looks for what will go wrong")
    ActionChains(page.driver).move_by_offset(300, 200).perform()
    wait_for(lambda: "Looks for what will go wrong" not in page.text(), 3, "it stays where it was not asked")
    page.key("1")
    page.find("#add-line").send_keys(Keys.F1)
    page.sees("Type what hangs there as you would say it")
    page.key(Keys.ESCAPE, Keys.ESCAPE)
    ActionChains(page.driver).move_to_element(page.find('[aria-label="Heliograph"], header svg')).perform()
    page.driver.execute_script("document.activeElement.blur()")
    page.key("?")
    page.sees("From nothing to light")
    page.key(Keys.ESCAPE)
    page.key("b")
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["blackout"], 3, "B did not black out")
    page.find('footer button[aria-pressed="true"]')
    page.key("b")
    wait_for(lambda: not app.engine().ask({"do": "status"})["state"]["blackout"], 3)


def is_at(page: Page, station: str) -> bool:
    return str(page.driver.current_url).endswith(f"/{station}")


def test_values_are_edited_in_place_and_refused_beside_their_cause(
    app: RunningApp, lamps: list[str], browse: Browse
) -> None:
    page = browse(app.address)
    page.open("rig")
    page.type_into('input[aria-label="Name of 2"]', "Porch")
    page.type_into('input[aria-label="Address of 2"]', "U1.513")
    page.sees("a universe has channels 1 to 512. Counting on, that channel is U2.1.")
    page.key(Keys.ESCAPE)
    page.type_into('input[aria-label="Address of 2"]', "+1")
    wait_for(lambda: app.api().call("GET", "/api/show")["fixtures"][1]["address"] == "U1.5", 5)
    page.sees("meets 3")  # a conflict is visible at once, and not forbidden
    assert app.api().call("GET", "/api/show")["fixtures"][1]["name"] == "Porch"


def test_a_second_browser_follows_and_a_conflict_is_explained(
    app: RunningApp, lamps: list[str], browse: Browse
) -> None:
    one, two = browse(app.address), browse(app.address)
    one.open("rig")
    two.open("rig")
    one.sees("2 here")
    one.type_into('input[aria-label="Name of 3"]', "Gate")
    wait_for(lambda: two.find('input[aria-label="Name of 3"]').get_attribute("value") == "Gate", 5)
    field = two.find('input[aria-label="Name of 4"]')
    field.click()
    field.send_keys("Mine")
    app.api("skua", "Skua").call("PATCH", f"/api/fixtures/{lamps[3]}", {"name": "Theirs"})
    wait_for(lambda: one.find('input[aria-label="Name of 4"]').get_attribute("value") == "Theirs", 5)
    field.send_keys(Keys.ENTER)
    two.sees("Meanwhile it became 'Theirs'. Press Enter again to store yours")
    assert app.api().call("GET", "/api/show")["fixtures"][3]["name"] == "Theirs"
    field.send_keys(Keys.ENTER)
    wait_for(lambda: app.api().call("GET", "/api/show")["fixtures"][3]["name"] == "Mine", 5)


def test_every_channel_tells_its_owner(app: RunningApp, node: Callable[..., Node], browse: Browse) -> None:
    receiver = node("127.0.90.2", wall_hang())
    light_wall(app, "127.0.90.2", [[0, 12, 34, 56]])
    wait_for(lambda: receiver.picture() == [12, 34, 56] * 18)
    page = browse(app.address)
    page.open("check")
    page.sees("To the node: Net 0 Sub-Net 0 Universe 0")
    grid = page.find('canvas[aria-label="Channels of universe 1"]')
    grid.click()
    grid.send_keys(Keys.HOME)
    page.sees("red of 1:1 RGB lamp 1")
    grid.send_keys(Keys.ARROW_DOWN, Keys.ARROW_UP)  # folded: eight lamps on a line, equal emitters beneath each other
    page.sees("red of 1:1 RGB lamp 1")
    grid.send_keys(Keys.ARROW_DOWN)
    page.sees("red of 9:1 RGB lamp 9")
    page.click("by 24")
    grid.send_keys(Keys.HOME, *[Keys.ARROW_RIGHT] * 52)
    page.sees("green of 18:1 RGB lamp 18")
    wait_for(lambda: "34" in page.find('[aria-label="Channel"]').text, 3)
    page.driver.execute_async_script(KEYS_WITHOUT_A_PAUSE, grid)
    page.sees("green of 18:1 RGB lamp 18")  # it is where it was, and the page still stands


# A key held on a busy machine: they come before the page has got round to anything else.
KEYS_WITHOUT_A_PAUSE = """
    const [grid, done] = arguments;
    (async () => {
      for (let n = 0; n < 120; n++) {
        const key = n % 2 ? "ArrowRight" : "ArrowLeft";
        grid.dispatchEvent(new KeyboardEvent("keydown", { key, bubbles: true, cancelable: true }));
        for (let turn = 0; turn < 5; turn++) await null;
      }
      done();
    })();
"""


def test_a_slider_reaches_the_lamps_before_it_is_released(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.91.2", wall_hang())
    ids = light_wall(app, "127.0.91.2", [[0, 200, 100, 40]])
    wait_for(lambda: receiver.picture() == [200, 100, 40] * 18)
    page = browse(app.address)
    page.open("looks")
    page.click("one colour")
    revision = app.api().call("GET", "/api/show")["show"]["revision"]
    thumb = page.find('input[aria-label="Light"]')
    moves = ActionChains(page.driver)
    moves.click_and_hold(thumb).move_by_offset(-60, 0).perform()
    wait_for(lambda: 0 < receiver.picture()[0] < 190, 5, "the drag did not reach the node")
    dragged = receiver.picture()[0]
    assert app.api().call("GET", "/api/show")["show"]["revision"] == revision  # nothing stored yet
    moves.release().perform()
    stored = wait_for(lambda: line_red(app, ids) != 200 and line_red(app, ids), 5, "the release was not stored")
    assert stored == dragged
    assert stored / 200 == pytest.approx(line_colour(app, ids)[1] / 100, abs=0.01)  # its hue and tint stay
    wait_for(lambda: receiver.picture()[:3] == line_colour(app, ids), 5)
    page.driver.execute_script("document.activeElement.blur()")
    page.key("z")
    wait_for(lambda: receiver.picture() == [200, 100, 40] * 18, 5, "one undo did not take the move back")


def line_colour(app: RunningApp, ids: dict[str, str]) -> list[int]:
    looks = app.api().call("GET", "/api/show")["looks"]
    return list(next(look for look in looks if look["id"] == ids["look"])["lines"][0]["ramp"][0][1:])


def line_red(app: RunningApp, ids: dict[str, str]) -> int:
    return line_colour(app, ids)[0]


def test_channels_are_moved_by_hand_and_given_back(app: RunningApp, node: Callable[..., Node], browse: Browse) -> None:
    receiver = node("127.0.69.2", wall_hang())
    light_wall(app, "127.0.69.2", [[0, 20, 30, 40]])
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18)
    page = browse(app.address)
    page.open("rig")
    page.press('input[aria-label="Name of 2"]')
    page.type_into('input[aria-label="green, typed"]', "200")
    wait_for(lambda: receiver.picture()[:9] == [20, 30, 40, 20, 200, 40, 20, 30, 40], 5, "the fader did not act")
    page.click("Release 1")
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18, 5, "it was not given back")
    page.click("channels")
    page.type_into('input[aria-label="2 green, typed"]', "100")
    wait_for(lambda: receiver.picture()[3:6] == [20, 100, 40], 5, "the channel's fader did not act")
    page.press('button[aria-label="Release 2 green"]')
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18, 5, "it was not given back")

    page.driver.execute_script("document.activeElement.blur()")
    ActionChains(page.driver).key_down("h").perform()
    wait_for(lambda: receiver.picture()[:9] == [20, 30, 40, 255, 255, 255, 20, 30, 40], 5, "H did not light it up")
    ActionChains(page.driver).key_up("h").perform()
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18, 5, "highlight was not taken back")
    page.click("Keep lit")  # alone, and nobody stands at the key
    wait_for(lambda: receiver.picture() == [0, 0, 0, 255, 255, 255, *[0] * 48], 5, "it is not lit alone")
    page.sees("test\nwalk")  # the strip says so wherever one goes
    page.click("End")
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18, 5, "the lamps were not given back")

    page.open("check")
    page.sees("click a channel to keep it")
    grid = page.find('canvas[aria-label="Channels of universe 1"]')
    grid.send_keys(Keys.ARROW_RIGHT)
    page.sees("green of 1:1")
    page.type_into('input[aria-label="Raw 1.2, typed"]', "50 %")
    wait_for(lambda: receiver.picture()[:3] == [20, 128, 40], 5, "the raw fader did not act")
    page.press('button[aria-label="Release Raw 1.2"]')
    wait_for(lambda: receiver.picture()[:3] == [20, 30, 40], 5)


def hold_until_armed(page: Page) -> None:
    """As a hand does it: held until the sign says that it is armed, however long a busy machine takes."""
    sign = page.find('button[aria-label="Lasers safe: hold to arm"]')
    ActionChains(page.driver).move_to_element(sign).click_and_hold().perform()
    page.find('button[aria-label="Lasers armed: make safe"]')
    ActionChains(page.driver).release().perform()


def test_a_laser_is_dark_until_it_is_armed_and_a_press_makes_it_safe(
    app: RunningApp, show: str, browse: Browse
) -> None:
    api = app.api()
    ids = [str(uuid4()), str(uuid4())]
    api.call("POST", "/api/fixtures", {"text": "2 x RGB laser head, from 801, Ray {n}, at U1.1", "ids": ids})
    output = {"id": str(uuid4()), "name": "Out", "protocol": "artnet", "mode": "unicast", "destination": "127.0.69.3"}
    api.call("POST", "/api/outputs", {**output, "card": app.card})

    def sent() -> list[int]:
        values: list[int] = api.call("GET", "/api/levels/1")["values"][:10]
        return values

    page = browse(app.address)
    page.open("rig")
    page.press('input[aria-label="Name of 801"]')
    page.type_into('input[aria-label="shutter, typed"]', "200")
    page.sees("Release 1")
    page.driver.execute_script("document.activeElement.blur()")
    ActionChains(page.driver).key_down("h").pause(0.5).key_up("h").perform()
    assert sent() == [0] * 10  # by hand, highlighted: safe all the same
    sign = page.find('button[aria-label="Lasers safe: hold to arm"]')
    ActionChains(page.driver).move_to_element(sign).click_and_hold().pause(0.5).release().perform()
    assert page.find('button[aria-label="Lasers safe: hold to arm"]')  # half a second is not meant
    hold_until_armed(page)
    wait_for(lambda: sent()[0] == 200, 5, "holding did not arm")
    page.press('button[aria-label="Lasers armed: make safe"]')
    wait_for(lambda: sent() == [0] * 10, 5, "one press did not make it safe")
    hold_until_armed(page)
    wait_for(lambda: sent()[0] == 200, 5, "holding did not arm")
    time.sleep(12)  # the page renews what it holds
    assert sent()[0] == 200
    page.key("l")
    wait_for(lambda: sent() == [0] * 10, 5, "key L did not make it safe")
    hold_until_armed(page)
    wait_for(lambda: sent()[0] == 200, 5, "holding did not arm")
    page.driver.get("about:blank")
    wait_for(lambda: sent() == [0] * 10, 14, "it stayed armed without its page")
    app.engine().ask({"do": "release"})


def test_shows_are_begun_opened_saved_and_loaded(
    app: RunningApp, lamps: list[str], browse: Browse, tmp_path: Path
) -> None:
    page = browse(app.address)
    page.open("rig")
    page.sees("4 fixtures, 4 cells")
    saved = tmp_path / "pier.heliograph.zip"
    with saved_show(app) as answer:
        saved.write_bytes(answer.read())
    page.press('button[aria-label="Shows"]')
    page.click("New show")
    page.sees("Nothing hangs here yet")
    page.press('button[aria-label="Shows"]')
    known = len(app.api().call("GET", "/api/shows"))
    text = tmp_path / "notes.zip"
    text.write_text("no show")
    chooser = page.there('input[aria-label="Show file"]')
    chooser.send_keys(str(text))
    page.sees("The file cannot be read as a show")
    assert len(app.api().call("GET", "/api/shows")) == known
    chooser.send_keys(str(saved))
    wait_for(lambda: len(app.api().call("GET", "/api/shows")) == known + 1, 10, "the file was not loaded")
    page.sees("Nothing hangs here yet")  # what is open stays open until another is chosen
    shows = app.api().call("GET", "/api/shows")
    assert sum(show["is_open"] for show in shows) == 1
    page.sees(": 4 fixtures.")  # what came, and the way to it
    page.says('[role="status"] button', "Open").click()
    page.sees("4 fixtures, 4 cells")
    loaded = next(one for one in app.api().call("GET", "/api/shows") if one["is_open"])
    page.press('button[aria-label="Shows"]')
    page.press('button[aria-label="Delete show New show"]')
    page.sees("Deleted: ")
    gone = [one["name"] for one in app.api().call("GET", "/api/shows") if one["deleted_s"] is not None]
    assert gone.count("New show") >= 1
    page.click("Deleted: ")
    page.press('button[aria-label="Bring back New show"]')
    wait_for(lambda: page.driver.find_elements(By.CSS_SELECTOR, 'button[aria-label="Delete show New show"]'), 5)
    assert next(one for one in app.api().call("GET", "/api/shows") if one["is_open"])["id"] == loaded["id"]


def test_brightness_by_hand_keeps_the_colour_of_each_cell(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    """A red, a half blue and a dark lamp: looking changes nothing, half the brightness halves each, and what was
    released comes back."""
    receiver = node("127.0.99.2", wall_hang())
    light_wall(app, "127.0.99.2", [[0, 0, 0, 0]])
    lamps = [one["id"] for one in app.api().call("GET", "/api/show")["fixtures"][:3]]
    colours = ((200, 0, 0), (0, 0, 100), (0, 0, 0))
    values = {f"{lamps[n]}/{c + 1}": colours[n][c] for n in range(3) for c in range(3)}
    app.engine().ask({"do": "manual", "values": values})
    wait_for(lambda: receiver.picture()[:9] == [200, 0, 0, 0, 0, 100, 0, 0, 0])
    page = browse(app.address)
    page.open("rig")
    page.type_into('input[aria-label="Select by typing"]', "1-3")
    assert wait_for(lambda: page.find('[aria-label="The colours that are sent: mixed"]'), 5)
    assert page.find('input[aria-label="Colour, typed"]').get_attribute("placeholder") == "mixed"
    assert receiver.picture()[:9] == [200, 0, 0, 0, 0, 100, 0, 0, 0]
    wait_for(lambda: page.find('input[aria-label="Light, typed"]').get_attribute("value") == "78 %", 5)
    page.type_into('input[aria-label="Light, typed"]', "39.2")
    wait_for(lambda: receiver.picture()[:9] == [100, 0, 0, 0, 0, 50, 0, 0, 0], 5, "it did not scale each")
    page.click("Release 9")
    wait_for(lambda: receiver.picture()[:9] == [0] * 9, 5, "it was not released")
    page.sees("9 channels released.")
    page.click("Take back")
    wait_for(lambda: receiver.picture()[:9] == [100, 0, 0, 0, 0, 50, 0, 0, 0], 5, "it was not taken back")
