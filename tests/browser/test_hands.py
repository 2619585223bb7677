"""Work by keyboard, the tray, errors beside their cause, the pass code, the light theme."""

from __future__ import annotations

import time
from collections.abc import Callable
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from heliograph.core.matrix.placements import unpack
from tests.browser.conftest import Page
from tests.conftest import RunningApp, wait_for
from tests.live.test_coming_in import codes

Browse = Callable[[str], Page]
GRID = 'canvas[aria-label^="Squares of"]'


@pytest.fixture
def wall(app: RunningApp, show: str) -> list[str]:
    """18 lamps as a 6 x 3 matrix; returns the lamps."""
    api = app.api()
    lamps = [str(uuid4()) for _ in range(18)]
    api.call("POST", "/api/fixtures", {"text": "18 x RGB lamp, from 1", "ids": lamps})
    weave = {"selection": "all", "width": 6, "height": 3}
    api.call("POST", "/api/matrices", {"id": str(uuid4()), "name": "Wall", "width": 6, "height": 3, "weave": weave})
    return lamps


def squares(app: RunningApp) -> dict[tuple[int, int], str]:
    matrix = app.api().call("GET", "/api/show")["matrices"][0]
    return {one.square: one.key.fixture for one in unpack(matrix["placements"])}


def test_cells_are_exchanged_and_lifted_by_keyboard(app: RunningApp, wall: list[str], browse: Browse) -> None:
    page = browse(app.address)
    page.open("matrices")
    page.sees("every cell has its square")
    grid = page.find(GRID)
    page.driver.execute_script("arguments[0].focus()", grid)
    grid.send_keys(Keys.ARROW_RIGHT)
    page.sees("2:1 RGB lamp 2, U1.4, column 2, row 1")
    grid.send_keys(Keys.ENTER, Keys.ARROW_DOWN, Keys.ARROW_DOWN)
    page.sees("column 2, row 3")
    grid.send_keys(Keys.ENTER)
    wait_for(lambda: squares(app)[(1, 2)] == wall[1], 5, "Enter did not exchange")
    assert squares(app)[(1, 0)] == wall[13]
    grid.send_keys(Keys.DELETE)
    page.sees("1 cells")
    wait_for(lambda: (1, 2) not in squares(app), 5, "Delete did not lift the cell")
    page.button("2:1").click()
    page.sees("In hand 2:1")
    page.driver.execute_script("arguments[0].focus()", page.find(GRID))
    page.find(GRID).send_keys(Keys.ENTER)
    wait_for(lambda: squares(app).get((1, 2)) == wall[1], 5, "the cell was not put back")
    page.sees("every cell has its square")


def test_a_cell_dragged_off_the_grid_goes_to_the_tray(app: RunningApp, wall: list[str], browse: Browse) -> None:
    page = browse(app.address)
    page.open("matrices")
    page.sees("every cell has its square")
    page.drag_square((5, 2), (8, 1))
    wait_for(lambda: len(squares(app)) == 17, 5, "it stayed on the grid")
    page.sees("18:1")


def test_a_weave_that_cannot_be_done_says_so_before(app: RunningApp, wall: list[str], browse: Browse) -> None:
    page = browse(app.address)
    page.open("matrices")
    page.type_into("#weave-rows", "2")
    page.sees("18 cells do not fit on 6 x 2 = 12 squares. With 6 columns it takes 3 rows.")
    assert not [
        b for b in page.driver.find_elements(By.TAG_NAME, "button") if b.text == "Weave Wall" and b.is_enabled()
    ]
    page.type_into("#weave-rows", "0")
    page.sees("A matrix of 6 x 0 has no squares.")
    page.type_into("#weave-cells", "1-99x")
    page.sees("'1-99x' is not a selection.")
    assert len(squares(app)) == 18


def test_an_output_that_cannot_be_is_refused_in_its_form(app: RunningApp, show: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open("patch")
    page.sees("Nothing leaves the machine yet")
    page.click("Add output")
    page.click("Art-Net unicast")
    page.find("#out-to").send_keys("no-such-node.invalid", Keys.ENTER)
    page.sees("The name 'no-such-node.invalid' does not resolve to an address.")
    assert page.find("#out-to").get_attribute("value") == "no-such-node.invalid"  # nothing typed is lost
    page.type_into("#out-to", "127.0.84.9")
    output: Any = wait_for(lambda: app.api().call("GET", "/api/show")["outputs"], 5)
    assert (output[0]["address"], output[0]["card"]) == ("127.0.84.9", app.card)
    css = f'input[aria-label="{output[0]["name"]} on"]'
    switch = wait_for(lambda: page.driver.find_elements(By.CSS_SELECTOR, css), 5, "the output has no switch")[0]
    page.driver.execute_script("arguments[0].click()", switch)
    wait_for(lambda: not app.api().call("GET", "/api/show")["outputs"][0]["on"], 5)
    page.sees("0 on, 1 off")


def test_bad_media_are_told_where_they_were_dropped(app: RunningApp, show: str, browse: Browse, tmp_path: Path) -> None:
    page = browse(app.address)
    page.open("looks")
    text = tmp_path / "notes.mp4"
    text.write_text("This is not a video.")
    wait_for(lambda: page.driver.find_elements(By.CSS_SELECTOR, 'input[type="file"]'), 5)
    page.there('input[type="file"]').send_keys(str(text))
    page.sees("'notes.mp4' cannot be read as a video", 15)


def test_opening_a_control_changes_nothing(app: RunningApp, wall: list[str], browse: Browse) -> None:
    api = app.api()
    matrix = api.call("GET", "/api/show")["matrices"][0]["id"]
    line = {"id": str(uuid4()), "paints": "effect", "effect": "Relay", "matrix": matrix, "opacity": 0.37}
    line |= {"ramp": [[0, 1, 2, 3], [0.5, 77, 88, 99], [1, 250, 251, 252]]}
    api.call("POST", "/api/looks", {"id": str(uuid4()), "name": "Dusk", "lines": [line]})
    before = api.call("GET", "/api/show")
    page = browse(app.address)
    page.open("looks")
    for chip in ("Relay", "3 colours", "Wall", "4 s", "column", "37 %"):
        group = page.find('[role="group"][aria-label="Line 1"]')
        found = [b for b in group.find_elements(By.TAG_NAME, "button") if chip in b.text]
        found[0].click()
        page.key(Keys.TAB, Keys.TAB, Keys.ESCAPE)
    assert api.call("GET", "/api/show") == before


def test_the_theme_is_kept(app: RunningApp, show: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open("rig")
    page.click("Night")
    page.button("Light")
    page.open("check")
    page.button("Light")
    assert page.driver.execute_script("return document.documentElement.dataset.theme") == "light"


def test_another_host_types_its_pass_code(own_app: Callable[..., RunningApp], browse: Browse) -> None:
    running = own_app("127.0.80.1", "--host", "0.0.0.0")
    known = codes(running)
    page = browse(running.address)
    page.driver.get(running.address)
    page.find("#pass").send_keys("puffin", Keys.ENTER)
    page.sees("That is not a pass code of this server.")
    page.find("#pass").send_keys(Keys.CONTROL, "a")
    page.find("#pass").send_keys(known["edit"].lower(), Keys.ENTER)
    page.sees("Nothing hangs here yet")
    page.lives()  # the live connection is let in too
    page.click("edit")
    page.sees(known["run"])
    assert page.find('img[alt="QR code that lets a phone in as run"]')
    shown = page.find('[aria-label="Code for view"]').text
    page.driver.find_elements("xpath", "//button[text()='New code']")[0].click()
    wait_for(lambda: page.find('[aria-label="Code for view"]').text != shown, 8, "the code is the old one")
    page.driver.delete_all_cookies()
    page.driver.execute_cdp_cmd(
        "Emulation.setDeviceMetricsOverride", {"width": 390, "height": 844, "deviceScaleFactor": 1, "mobile": True}
    )
    page.driver.get(f"{running.address}/phone")
    page.find("#pass").send_keys(known["run"], Keys.ENTER)
    page.sees("Lights one after another")
    page.driver.delete_all_cookies()
    page.driver.get(f"{running.address}/join#{known['run']}")  # as the QR code leads
    page.sees("Lights one after another")
    assert known["run"] not in page.driver.current_url
    assert page.driver.execute_script("return document.documentElement.scrollWidth") <= 390


def test_what_a_deletion_takes_along_is_said_before(app: RunningApp, wall: list[str], browse: Browse) -> None:
    page = browse(app.address)
    page.open("rig")
    page.press('input[aria-label="Name of 3"]')
    page.sees("1 fixture would go: 3, 1 cell. The matrix Wall loses 1 of 18 cells. Undo brings everything back.")
    page.click("Delete fixture")
    wait_for(lambda: len(squares(app)) == 17, 5, "its cell did not leave the matrix")
    page.click("Undo")
    wait_for(lambda: squares(app).get((2, 0)) == wall[2], 5, "undo did not bring it back")


def test_a_digit_typed_on_into_nothing_leaves_no_station(app: RunningApp, show: str, browse: Browse) -> None:
    """Enter takes the value and gives the focus back; a digit right after it was meant for the field, and no key makes
    anything while one is typing."""
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "3 x RGB lamp, from 1", "ids": [str(uuid4()) for _ in range(3)]})
    page = browse(app.address)
    page.open("rig")
    field = page.find('input[aria-label="Number of RGB lamp 1"]')
    field.click()
    field.send_keys(Keys.CONTROL, "a")
    field.send_keys("12", Keys.ENTER)
    wait_for(lambda: page.driver.switch_to.active_element.tag_name != "input", 5, "Enter kept the focus")
    page.key("3")
    wait_for(lambda: api.call("GET", "/api/show")["fixtures"][2]["number"] == 12, 5, "the number was not taken")
    assert page.driver.current_url.endswith("/rig")
    time.sleep(1.5)
    page.key("3")
    wait_for(lambda: page.driver.current_url.endswith("/matrices"), 5, "later the key goes to the station")


def test_what_is_parked_leads_to_its_place_and_a_moment_is_typed(app: RunningApp, show: str, browse: Browse) -> None:
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "2 x RGB lamp, from 1", "ids": [str(uuid4()) for _ in range(2)]})
    api.call("PUT", "/api/parked", {"values": {"1.5": 90}})
    page = browse(app.address)
    page.open("check")
    page.click("U1.5, parked")
    page.sees("green of 2:1 RGB lamp 2")
    page.type_into('input[aria-label="How long ago, typed"]', "59:00")  # further back than any run of these tests
    page.sees("are kept.")
    wait_for(lambda: api.call("GET", "/api/back")["seconds"] > 3, 10)
    page.type_into('input[aria-label="How long ago, typed"]', "0:02")
    page.sees("not now:")
    api.call("PUT", "/api/parked", {"values": {"1.5": None}})


BOXES = """
    return arguments[0].map((css) => [...document.querySelectorAll(css)].map((one) => {
      const box = one.getBoundingClientRect();
      return [box.left, box.top, box.right, box.bottom];
    }));
"""


def meet(a: list[float], b: list[float]) -> bool:
    return a[0] < b[2] and b[0] < a[2] and a[1] < b[3] and b[1] < a[3]


def test_what_is_wrong_covers_neither_the_next_field_nor_another_wrong_one(
    app: RunningApp, show: str, browse: Browse
) -> None:
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "5 x RGB lamp, from 1", "ids": [str(uuid4()) for _ in range(5)]})
    page = browse(app.address)
    page.open("rig")
    page.type_into("input[aria-label='Number of RGB lamp 2']", "two")
    page.sees("A number is 1 to 999999.")
    page.type_into("input[aria-label='Address of 2']", "U1.600")
    page.sees("512")

    def boxes(*css: str) -> list[list[list[float]]]:
        found: list[list[list[float]]] = page.driver.execute_script(BOXES, list(css))
        return found

    wait_for(lambda: len(boxes("[data-bubble]")[0]) == 2, 8, "both are not wrong")
    bubbles, *fields = boxes(
        "[data-bubble]",
        "input[aria-label='Name of 2']",
        "input[aria-label='Number of RGB lamp 3']",
        "input[aria-label='Address of 3']",
        "input[aria-label='Number of RGB lamp 2']",
        "input[aria-label='Address of 2']",
    )
    assert not meet(*bubbles)
    for (field,) in fields:
        assert not any(meet(bubble, field) for bubble in bubbles)
    page.find("input[aria-label='Number of RGB lamp 2']").send_keys(Keys.ESCAPE)
    wait_for(lambda: len(boxes("[data-bubble]")[0]) == 1, 8, "Escape leaves what was wrong")
    page.type_into("input[aria-label='Address of 2']", "U1.100")
    wait_for(lambda: not boxes("[data-bubble]")[0], 8, "a right value leaves what was wrong")
    page.find("input[aria-label='Name of 4']").send_keys(Keys.CONTROL, "a")
    page.find("input[aria-label='Name of 4']").send_keys("Taken back", Keys.ESCAPE)
    page.type_into("input[aria-label='Name of 5']", "Lantern")
    wait_for(lambda: api.call("GET", "/api/show")["fixtures"][4]["name"] == "Lantern", 8, "it is not stored")
    fourth = api.call("GET", "/api/show")["fixtures"][3]
    assert fourth["name"] == "RGB lamp 4", "Escape stored what it takes back"
