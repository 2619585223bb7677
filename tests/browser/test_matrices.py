"""Work on a matrix by hand: many squares at once, a cell placed freely, a matrix made of the plan, one arrangement
for two matrices."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import uuid4

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from heliograph.core.matrix.placements import unpack
from tests.browser.conftest import Page
from tests.conftest import RunningApp, wait_for

Browse = Callable[[str], Page]
GRID = 'canvas[aria-label^="Squares of"]'


@pytest.fixture
def wall(app: RunningApp, show: str) -> str:
    """32 lamps as 8 x 4; returns the matrix."""
    api, key = app.api(), str(uuid4())
    api.call("POST", "/api/fixtures", {"text": "32 x RGB lamp, from 1", "ids": [str(uuid4()) for _ in range(32)]})
    weave = {"selection": "all", "width": 8, "height": 4}
    api.call("POST", "/api/matrices", {"id": key, "name": "Wall", "width": 8, "height": 4, "weave": weave})
    return key


def at(app: RunningApp, name: str = "Wall") -> dict[int, tuple[float, float, float, float]]:
    """Lamp number -> where it stands."""
    show: dict[str, Any] = app.api().call("GET", "/api/show")
    numbers = {one["id"]: one["number"] for one in show["fixtures"]}
    matrix = next(one for one in show["matrices"] if one["name"] == name)
    return {numbers[p.key.fixture]: (p.x, p.y, p.w, p.h) for p in unpack(matrix["placements"])}


def focus(page: Page) -> Any:
    grid = page.find(GRID)
    page.driver.execute_script("arguments[0].focus()", grid)
    return grid


def test_many_squares_are_chosen_and_lifted_at_once(app: RunningApp, wall: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open("matrices")
    grid = focus(page)
    grid.send_keys(Keys.ARROW_RIGHT)  # column 2, row 1
    for key in (Keys.ARROW_RIGHT, Keys.ARROW_DOWN):
        ActionChains(page.driver).key_down(Keys.SHIFT).send_keys(key).key_up(Keys.SHIFT).perform()
    page.sees("3 chosen")
    page.click("its row")
    page.sees("8 chosen")
    page.type_into('input[aria-label="Range of the strand"]', "9-12, 40")
    page.sees("The strand has 32 cells, 1 to 32.")
    page.type_into('input[aria-label="Range of the strand"]', "9-12")
    page.sees("4 chosen")
    page.click("To the tray")
    wait_for(lambda: len(at(app)) == 28, 5, "they are not in the tray")
    assert not set(range(9, 13)) & set(at(app))
    page.key("z")
    wait_for(lambda: len(at(app)) == 32, 5, "one undo did not bring them back")


def test_a_frame_is_drawn_with_shift(app: RunningApp, wall: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open("matrices")
    grid = page.find(GRID)
    cell, left, top = (int(str(grid.get_attribute(f"data-{name}"))) for name in ("cell", "left", "top"))
    box = grid.rect

    def centre(x: int, y: int) -> tuple[int, int]:
        return round(box["x"] + left + (x + 0.5) * cell), round(box["y"] + top + (y + 0.5) * cell)

    ActionChains(page.driver).key_down(Keys.SHIFT).perform()
    moves = ActionChains(page.driver, duration=20)
    pointer = moves.w3c_actions.pointer_action
    pointer.move_to_location(*centre(1, 1))
    pointer.pointer_down()
    pointer.move_to_location(*centre(3, 1))
    pointer.move_to_location(*centre(4, 2))
    pointer.pointer_up()
    moves.perform()
    ActionChains(page.driver).key_up(Keys.SHIFT).perform()
    page.sees("8 chosen")
    assert at(app)[1] == (0, 0, 1, 1)  # nothing was moved
    page.click("Choose at Rig")
    page.sees("and 7 more chosen")


def test_a_cell_is_placed_between_squares_by_typing(app: RunningApp, wall: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open("matrices")
    focus(page).send_keys(Keys.ARROW_RIGHT)
    page.type_into('input[aria-label="Place and size in squares"]', "7.5, 3, 2 x 1")
    page.sees("go off the matrix of 8 x 4")
    page.type_into('input[aria-label="Place and size in squares"]', "6.5, 3, 2 x 1")
    wait_for(lambda: at(app)[2] == (5.5, 2, 2, 1), 5, f"it is not there: {at(app)[2]}")
    page.driver.find_element(By.TAG_NAME, "body").click()
    page.key("z")
    wait_for(lambda: at(app)[2] == (1, 0, 1, 1), 5, "undo does not bring it back")


def test_a_matrix_is_made_as_the_lamps_hang_on_the_plan(app: RunningApp, wall: str, browse: Browse) -> None:
    api, plan = app.api(), str(uuid4())
    api.call("POST", "/api/plans", {"id": plan, "name": "Front"})
    fixtures = api.call("GET", "/api/show")["fixtures"]
    put = [
        {"id": one["id"], "kind": "fixture", "x": n % 4 * 0.5, "y": 5 - n // 4 * 0.5, "w": 0.2, "h": 0.2}
        for n, one in enumerate(fixtures)
    ]
    api.call("POST", f"/api/plans/{plan}/items", {"put": put})
    page = browse(app.address)
    page.open("matrices")
    page.click("New")
    page.type_into('input[aria-label="Cells of the new matrix"]', "1-16")
    page.click("As on the plan")
    page.sees("4 × 4, 16 cells")
    assert at(app, "Front")[16] == (3, 3, 1, 1)


def test_one_correction_reaches_both_matrices(app: RunningApp, wall: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open("matrices")
    page.click("Arrange")
    page.says("button", "Copy").click()
    page.sees("Wall copy")
    if not page.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Arrange"]'):
        page.click("Arrange")
    page.find('[aria-label="Arrangement"] , [role="combobox"]').send_keys(Keys.ENTER)
    page.says('[role="option"]', "that of Wall").click()
    shared = lambda: [bool(one["shares"]) for one in app.api().call("GET", "/api/show")["matrices"]]  # noqa: E731
    wait_for(lambda: shared() == [False, True], 5, "it is not shared")
    gone = '[role="listbox"], .MuiBackdrop-root'
    wait_for(lambda: not page.driver.find_elements(By.CSS_SELECTOR, gone), 5, "the list still lies over the grid")
    page.drag_square((0, 0), (1, 0))
    wait_for(lambda: at(app)[1] == at(app, "Wall copy")[1] == (1, 0, 1, 1), 5, "not both are corrected")


def test_light_it_walks_along_the_strand(app: RunningApp, wall: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open("matrices")
    page.click("Light it")
    page.sees("1 of 32, Wall")
    walk = app.api().call("GET", "/api/walk")
    assert (walk["by"], walk["matrix"], walk["label"]) == ("cell", wall, "1:1")
    page.click("End")
    wait_for(lambda: not app.api().call("GET", "/api/walk")["running"], 5, "it does not end")


def test_the_panel_says_how_the_matrix_was_woven_and_what_weaving_would_move(
    app: RunningApp, show: str, browse: Browse
) -> None:
    api, key = app.api(), str(uuid4())
    api.call("POST", "/api/fixtures", {"text": "18 x RGB lamp, from 1", "ids": [str(uuid4()) for _ in range(18)]})
    board = {"width": 2, "height": 3, "corner": "top left", "along": "columns", "snake": 0}
    weave = {"selection": "1-18", "width": 6, "height": 3, "board": board}
    api.call("POST", "/api/matrices", {"id": key, "name": "Gatehouse", "width": 6, "height": 3, "weave": weave})
    page = browse(app.address)
    page.open("matrices")
    page.sees("in boards of 2 × 3, each from its top left")
    page.sees("It lies so already: nothing would change.")
    button = page.says("button", "Weave Gatehouse")
    assert not button.is_enabled()
    page.drag_square((0, 0), (5, 2))
    page.sees("2 cells would move.")
    assert button.is_enabled()
    button.click()
    page.sees("It lies so already: nothing would change.")
    assert at(app, "Gatehouse")[1] == (0.0, 0.0, 1.0, 1.0)
    page.key("z")
    page.sees("2 cells would move.")
