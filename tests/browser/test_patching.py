"""Patch by hand: dragging on rulers, changing places, the doctor's repairs, automatic addressing."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]


@pytest.fixture
def strips(app: RunningApp, show: str) -> list[str]:
    """Three strips of 48 channels at U1.1, U1.49 and U3.1, and a bar of 42 at U3.101."""
    api = app.api()
    keys = [str(uuid4()) for _ in range(4)]
    api.call("POST", "/api/fixtures", {"text": "2 x RGB pixel strip, mode 16 RGB, from 1, at U1.1", "ids": keys[:2]})
    api.call("POST", "/api/fixtures", {"text": "1 x RGB pixel strip, mode 16 RGB, from 3, at U3.1", "ids": keys[2:3]})
    api.call(
        "POST",
        "/api/fixtures",
        {"text": "1 x Cell bar, mode 10 RGBW, dimmer and strobe, from 4, at U3.101", "ids": keys[3:]},
    )
    return keys


def addresses(app: RunningApp) -> dict[int, str]:
    return {f["number"]: f["address"] for f in app.api().call("GET", "/api/show")["fixtures"]}


def drag(page: Page, fixture: str, to: str, channel: int) -> None:
    """Drags a fixture by its first channel to a channel of another universe's ruler."""
    block = page.find(f'button[aria-label="{fixture}"]')
    ruler = page.find(f'[data-universe="{to[1:]}"]')
    moves = ActionChains(page.driver, duration=20)
    pointer = moves.w3c_actions.pointer_action
    start, end = block.rect, ruler.rect
    pointer.move_to_location(round(start["x"]) + 3, round(start["y"]) + 12)
    pointer.pointer_down()
    pointer.move_to_location(round(start["x"]) + 30, round(start["y"]) + 20)
    pointer.move_to_location(round(end["x"]) + channel + 2, round(end["y"]) + 12)
    pointer.pointer_up()
    moves.perform()


def test_a_fixture_is_dragged_and_exchanged_and_taken_back(app: RunningApp, strips: list[str], browse: Browse) -> None:
    page = browse(app.address)
    page.open("patch")
    drag(page, "2 on U1", "U3", 301)
    wait_for(lambda: addresses(app)[2] == "U3.301", 5, f"it was not moved: {addresses(app)}")
    drag(page, "3 on U3", "U1", 20)  # upon fixture 1, which is as long
    wait_for(lambda: (addresses(app)[3], addresses(app)[1]) == ("U1.1", "U3.1"), 5, "they did not change places")
    page.driver.find_element(By.TAG_NAME, "body").click()
    page.key("z")
    wait_for(lambda: (addresses(app)[3], addresses(app)[1]) == ("U3.1", "U1.1"), 5, "one undo did not take it back")
    drag(page, "1 on U1", "U3", 500)  # 48 channels do not fit there: refused with a sentence, nothing moved
    page.sees("U3.500 + 48 channels ends at 547: a universe has 512.")
    assert addresses(app)[1] == "U1.1"


def finding(page: Page, kind: str) -> Any:
    return page.find(f'[role="group"][aria-label="{kind}"]')


def test_the_doctor_names_a_conflict_and_mends_it(app: RunningApp, strips: list[str], browse: Browse) -> None:
    page = browse(app.address)
    page.open("patch")
    drag(page, "4 on U3", "U3", 31)
    page.sees("3 RGB pixel strip 1 and 4 Cell bar 1 share channels of U3.")
    assert "U1 carries 1 RGB pixel strip 1 and is not sent: no output covers it." in page.text()
    page.find('[data-universe] svg[aria-label="overlap"]')  # the same sign on the ruler
    finding(page, "overlap").find_element(By.TAG_NAME, "button").click()
    wait_for(lambda: addresses(app)[4] == "U3.73", 5, f"it was not moved to the next free place: {addresses(app)}")
    wait_for(lambda: "share channels" not in page.text(), 8)


def test_a_number_that_is_off_by_one_is_seen_and_mended(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.67.2", {**wall_hang("artnet 1"), "name": "Boat shed"})
    light_wall(app, "127.0.67.2", [[0, 20, 30, 40]])  # which sends Port-Address 0
    page = browse(app.address)
    page.open("patch")
    page.sees("Boat shed (127.0.67.2) listens to Art-Net Net 0 Sub-Net 0 Universe 1;", 15)
    assert not any(receiver.picture())
    finding(page, "off by one").find_element(By.TAG_NAME, "button").click()
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18, 8, "the node is not lit after the repair")
    wait_for(lambda: "likely off by one" not in page.text(), 10)


def start_at(page: Page, address: str) -> None:
    """Types without Enter, which would do it."""
    field = page.find('input[aria-label="Start"]')
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys(address)


def test_automatic_addressing_shows_every_move_before_it_is_done(
    app: RunningApp, strips: list[str], browse: Browse
) -> None:
    page = browse(app.address)
    page.open("patch")
    before = addresses(app)
    page.click("Address automatically")
    page.sees("2 of 4 fixtures move; they take 1 universes")
    start_at(page, "U2.500")
    page.click("a universe each")
    page.sees("4 of 4 fixtures move; they take 4 universes")
    page.sees("U6.1")  # 48 channels do not fit at U2.500: a universe each from U3 on
    assert addresses(app) == before
    start_at(page, "U2.513")
    page.sees("a universe has channels 1 to 512")
    start_at(page, "U5.1")
    page.click("no fixture is split")
    page.sees("4 of 4 fixtures move; they take 1 universes")
    page.click("Move 4")
    wait_for(lambda: addresses(app) == {1: "U5.1", 2: "U5.49", 3: "U5.97", 4: "U5.145"}, 5, f"{addresses(app)}")
    page.driver.find_element(By.TAG_NAME, "body").click()
    page.key("z")
    wait_for(lambda: addresses(app) == before, 5, "one undo did not bring all addresses back")


def test_opening_every_field_and_choice_of_patch_changes_nothing(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.67.4", wall_hang())
    light_wall(app, "127.0.67.4", [[0, 20, 30, 40]])
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18)
    body = {"id": str(uuid4()), "name": "Spare", "protocol": "sacn", "mode": "multicast", "card": app.card}
    app.api().call("POST", "/api/outputs", {**body, "first_universe": 40, "count": 1, "first_number": 40, "on": False})
    before = app.api().call("GET", "/api/show")
    page = browse(app.address)
    page.open("patch")
    for number in (1, 2):
        page.press(f'[aria-label="Output {number}"] button[aria-expanded]')
    page.find('main input[aria-label="Destination"]')
    page.find('main input[aria-label="Synchronisation universe"]')
    fields = [one.get_attribute("aria-label") for one in page.driver.find_elements(By.CSS_SELECTOR, "main input")]
    texts = [str(name) for name in dict.fromkeys(fields) if name and not name.endswith(" on")]
    assert {"Destination", "Priority", "Frames a second", "Synchronisation universe"} <= set(texts)
    for name in texts:
        for field in page.driver.find_elements(By.CSS_SELECTOR, f'main input[aria-label="{name}"]'):
            if field.is_displayed() and field.is_enabled():
                field.click()
                field.send_keys(Keys.ENTER)
    choices = len(page.driver.find_elements(By.CSS_SELECTOR, 'main [role="combobox"]'))
    assert choices >= 6  # protocol, mode and card of both outputs
    for place in range(choices):
        page.driver.find_elements(By.CSS_SELECTOR, 'main [role="combobox"]')[place].send_keys(Keys.ENTER)
        page.find('[role="listbox"]').send_keys(Keys.ESCAPE)
        wait_for(lambda: not page.driver.find_elements(By.CSS_SELECTOR, '[role="listbox"]'), 5, "it stays open")
    page.click("Address automatically")
    for scheme in ("dense", "a universe each", "by node port", "strand", "place on the plan"):
        page.click(scheme)
    page.click("Cancel")
    for panel in ("Patch sheet", "Add output"):
        page.click(panel)
        page.says("button", "Close", "Cancel", begins=True).click()
    assert app.api().call("GET", "/api/show") == before
    assert receiver.picture() == [20, 30, 40] * 18


def test_a_sheet_with_ten_faults_tells_ten_and_loads_nothing(
    app: RunningApp, strips: list[str], browse: Browse, tmp_path: Path
) -> None:
    before = app.api().call("GET", "/api/show")["fixtures"]
    page = browse(app.address)
    page.open("patch")
    page.click("Patch sheet")
    bad = ["number,name,profile,mode,address"]
    bad += [
        "x,A,RGB lamp,,U1.1",
        "0,B,RGB lamp,,U1.1",
        "3,C,Nosuch,,U1.1",
        "4,D,RGB lamp,9,U1.1",
        "5,E,RGB lamp,,U1.513",
    ]
    bad += ["6,F,RGB lamp,,here", "7,G,RGB pixel strip,170 RGB,U1.9", "8,H,RGB lamp,,U64000.1", "9,I,RGB lamp,,U0.1"]
    bad += ["9999999,J,RGB lamp,,"]
    sheet = tmp_path / "sheet.csv"
    sheet.write_text("\n".join(bad))
    chooser = page.there('input[aria-label="Patch sheet file"]')
    chooser.send_keys(str(sheet))
    page.sees("sheet.csv: nothing was loaded. 10 things are wrong:")
    for row in range(2, 12):
        assert f"row {row}\n" in page.text()
    page.sees("There is no profile 'Nosuch'.")
    assert app.api().call("GET", "/api/show")["fixtures"] == before
    sheet.write_text("number,name,profile,address\n21,Gate,RGB lamp,U7.1\n1,Pier,RGB pixel strip,U1.1\n")
    chooser.send_keys(str(sheet))
    page.sees("1 added, 1 changed, 0 the same")
    page.click("Load 2")
    wait_for(lambda: addresses(app).get(21) == "U7.1", 5, "the sheet was not loaded")


def test_a_node_gets_what_is_sent_to_it_and_each_output_says_whom_it_reaches(
    app: RunningApp, node: Callable[..., Node], show: str, browse: Browse
) -> None:
    node("127.0.67.6", wall_hang())
    app.api().call("POST", "/api/fixtures", {"text": "1 x RGB lamp, from 1, at U1.1", "ids": [str(uuid4())]})
    key = str(uuid4())
    body: dict[str, Any] = {
        "id": key,
        "name": "Quay",
        "protocol": "artnet",
        "mode": "unicast",
        "destination": "127.0.67.99",
    }
    body |= {"card": app.card, "first_universe": 1, "count": 1, "first_number": 0}
    app.api().call("POST", "/api/outputs", body)
    page = browse(app.address)
    page.open("patch")
    page.sees("127.0.67.99 does not answer.", 12)
    page.sees("gets nothing", 12)
    page.sees("Whether anybody hears Quay is not known")
    assert "gets U1" not in page.text()
    app.api().call("PATCH", f"/api/outputs/{key}", {"destination": "127.0.67.6"})
    page.sees("answers and listens to its number.", 12)
    page.sees("gets U1", 12)
    page.sees("Every number meets a node that answers and listens to it.", 12)
    app.api().call("PATCH", f"/api/outputs/{key}", {"count": 2})
    page.sees("answers and does not listen to U2.", 12)
    app.api().call("PATCH", f"/api/outputs/{key}", {"on": False})
    page.sees("gets nothing", 12)
