"""A chase drawn in the real browser and seen on the simulated node, pixel by pixel."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any
from uuid import uuid4

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.browser.test_pictures import chip
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]
WIDTH, HEIGHT = 6, 4
GOLD, TEAL = [255, 190, 30], [0, 160, 140]


def squares(page: Page, *path: tuple[int, int]) -> None:
    """Goes over squares of the frame with the pointer pressed."""
    grid = page.find('canvas[aria-label^="Squares of"]')
    cell, box = int(str(grid.get_attribute("data-cell"))), grid.rect
    moves = ActionChains(page.driver, duration=30)
    pointer = moves.w3c_actions.pointer_action

    def at(square: tuple[int, int]) -> tuple[int, int]:
        return round(box["x"] + (square[0] + 0.5) * cell), round(box["y"] + (square[1] + 0.5) * cell)

    pointer.move_to_location(*at(path[0]))
    pointer.pointer_down()
    for one in path[1:]:
        pointer.move_to_location(*at(one))
    pointer.pointer_up()
    moves.perform()


def rows(receiver: Node) -> list[list[list[int]]]:
    flat = receiver.picture()
    return [[flat[3 * (WIDTH * y + x) : 3 * (WIDTH * y + x) + 3] for x in range(WIDTH)] for y in range(HEIGHT)]


def chases(app: RunningApp) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = app.api().call("GET", "/api/show")["chases"]
    return found


def test_a_frame_is_drawn_and_the_lamps_show_it(app: RunningApp, node: Callable[..., Node], browse: Browse) -> None:
    receiver = node("127.0.78.41", wall_hang(high=HEIGHT))
    light_wall(app, "127.0.78.41", [[0, 0, 0, 0]], high=HEIGHT)
    page = browse(app.address)
    page.open("looks")
    page.press('button[title^="An empty frame on"]')
    page.type_into('input[aria-label="Name of the chase"]', "Gull steps")
    page.click("Use in Dusk")
    chip(page, 2, "Gull steps").click()
    page.press('button[title="Gull steps"]')
    page.type_into('input[aria-label="Colour to draw with, typed"]', "gold")
    squares(page, (0, 0), (3, 0), (3, 3))  # a pen that goes fast leaves no square out
    picture = [[GOLD if (y == 0 and x <= 3) or x == 3 else [0, 0, 0] for x in range(WIDTH)] for y in range(HEIGHT)]
    wait_for(lambda: rows(receiver) == picture, 8, "the pen is not on the lamps")
    page.click("fill")
    page.type_into('input[aria-label="Colour to draw with, typed"]', "teal")
    squares(page, (5, 2))
    for y in range(HEIGHT):
        picture[y][4:] = [TEAL, TEAL]
    wait_for(lambda: rows(receiver) == picture, 8, "what was filled is not on the lamps")
    page.click("erase")
    squares(page, (0, 0))
    picture[0][0] = [0, 0, 0]
    wait_for(lambda: rows(receiver) == picture, 8, "what was erased is still lit")
    page.click("rectangle")
    squares(page, (0, 1), (1, 2))
    for y in (1, 2):
        picture[y][:2] = [TEAL, TEAL]
    wait_for(lambda: rows(receiver) == picture, 8, "the rectangle is not on the lamps")
    page.type_into('input[aria-label="Cells and their colour"]', "2 = 9 8 7")
    picture[0][1] = [9, 8, 7]
    wait_for(lambda: rows(receiver) == picture, 8, "what was typed is not on the lamps")
    page.type_into('input[aria-label="Cells and their colour"]', "2 = sneeze")
    page.sees("'sneeze' is no colour")
    page.key(Keys.ESCAPE)
    page.driver.execute_script("document.activeElement.blur()")
    page.key("z")
    picture[0][1] = GOLD
    wait_for(lambda: rows(receiver) == picture, 8, "what was typed was not taken back")


def test_what_is_drawn_stands_on_the_lamps_and_is_let_go_of(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    """While its chase runs on beneath; until it is switched off, or the browser is gone."""
    receiver = node("127.0.78.44", wall_hang(high=HEIGHT))
    light_wall(app, "127.0.78.44", [[0, 0, 0, 0]], high=HEIGHT)
    api, key = app.api(), str(uuid4())
    show = api.call("GET", "/api/show")
    api.call("POST", "/api/chases", {"id": key, "name": "Gull steps", "matrix": show["matrices"][0]["id"]})
    first = chases(app)[0]["frames"][0]["id"]
    api.call("POST", f"/api/chases/{key}/frames", {"do": "times", "frames": [first], "hold": 0.1})
    for _ in range(3):
        api.call("POST", f"/api/chases/{key}/frames", {"do": "insert", "after": first})
    for n, frame in enumerate(chases(app)[0]["frames"]):
        shape = {"tool": "pen", "squares": [[n, 0]], "colour": GOLD}
        api.call("POST", f"/api/chases/{key}/draw", {"frame": frame["id"], **shape})
    line = {"id": str(uuid4()), "paints": "chase", "chase": key, "matrix": show["matrices"][0]["id"]}
    api.call("POST", f"/api/looks/{show['looks'][0]['id']}/lines", line)

    def lit() -> list[int]:
        return [n for n, one in enumerate(rows(receiver)[0]) if one == GOLD]

    def runs(what: str) -> None:
        seen: set[int] = set()

        def all_seen() -> bool:
            seen.update(lit())
            return seen == {0, 1, 2, 3}

        wait_for(all_seen, 8, what)

    runs("the chase does not run")
    page = browse(app.address)
    page.open("looks")
    page.press('button[title^="Gull steps"]')
    page.press('button[aria-label="Draw on frame 3"]')
    page.click("On the lamps")

    def stands() -> list[int]:
        """What is lit for half a second without a change; empty where it changes."""
        found = []
        for _ in range(25):
            found.append(lit())
            time.sleep(0.02)
        return found[0] if all(one == found[0] for one in found) else []

    wait_for(lambda: stands() == [2], 8, "the drawn frame does not stand on the lamps")
    page.press('button[aria-label="Draw on frame 2"]')
    wait_for(lambda: stands() == [1], 8, "the next one that is drawn does not")
    page.click("On the lamps")
    runs("it was not let go of")
    page.click("On the lamps")
    wait_for(lambda: stands() == [1], 8, "it does not stand again")
    page.driver.get("about:blank")
    runs("a page that is gone holds it still")


def test_a_frame_is_drawn_by_keyboard(app: RunningApp, browse: Browse) -> None:
    light_wall(app, "127.0.78.42", [[0, 0, 0, 0]], high=HEIGHT)
    page = browse(app.address)
    page.open("looks")
    page.press('button[title^="An empty frame on"]')
    grid = page.find('canvas[aria-label^="Squares of"]')
    empty = chases(app)[0]["frames"][0]["picture"]
    grid.send_keys(Keys.ARROW_RIGHT, Keys.ARROW_RIGHT, Keys.ARROW_DOWN, " ")
    wait_for(lambda: "23 clear" in page.text(), 8, "Space does not draw")
    grid = page.find('canvas[aria-label^="Squares of"]')
    grid.send_keys(Keys.DELETE)
    page.sees("24 clear")
    assert chases(app)[0]["frames"][0]["picture"] == empty


def test_a_line_is_unrolled_its_frames_pasted_and_stepped_through(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.78.43", wall_hang(high=HEIGHT))
    relay: dict[str, Any] = {"effect": "Relay", "params": {"order": "column", "overlap": 0.0}, "speed": "6 s"}
    light_wall(app, "127.0.78.43", [[0, 240, 100, 20]], high=HEIGHT, **relay)
    page = browse(app.address)
    page.open("looks")
    page.press('[role="group"][aria-label="Line 1"]')
    page.press('button[aria-label="Unroll line 1"]')
    page.sees("frames, its own number, over 6 s")
    page.press('[role="group"][aria-label="Unroll"] button')
    page.sees("unrolled from Dusk, line 1, 6 frames of 6 s")
    lines = app.api().call("GET", "/api/show")["looks"][0]["lines"]
    assert [(one["paints"], one["mute"]) for one in lines] == [("effect", True), ("chase", False)]
    page.sees("on the wire frame")

    page.press('button[aria-label="Draw on frame 2"]')
    ActionChains(page.driver).key_down(Keys.SHIFT).click(page.find('button[aria-label="Draw on frame 4"]')).key_up(
        Keys.SHIFT
    ).perform()
    page.sees("3 frames chosen")
    page.type_into('input[aria-label="hold of frame 3"]', "0.8")
    wait_for(lambda: [one["hold"] for one in chases(app)[0]["frames"]] == [1, 0.8, 0.8, 0.8, 1, 1], 8)
    page.click("copy")
    page.click("paste")
    page.sees("puts 3 in after 4")
    page.find('[role="group"][aria-label="Frames"]').send_keys(Keys.ESCAPE)
    assert len(chases(app)[0]["frames"]) == 6
    page.click("paste")
    page.find('[role="group"][aria-label="Frames"]').send_keys(Keys.ENTER)
    wait_for(lambda: len(chases(app)[0]["frames"]) == 9, 8, "they were not put in")
    assert chases(app)[0]["frames"][4]["picture"] == chases(app)[0]["frames"][1]["picture"]

    before = [one["id"] for one in chases(app)[0]["frames"]]
    page.press('button[aria-label="Draw on frame 9"]')
    page.click("cut")
    page.sees("They move to where you paste them.")
    page.press('button[aria-label="Draw on frame 1"]')
    page.click("paste")
    page.find('[role="group"][aria-label="Frames"]').send_keys(Keys.ENTER)
    wait_for(lambda: [one["id"] for one in chases(app)[0]["frames"]][2:] == before[1:8], 8, "it did not move")
    page.driver.execute_script("document.activeElement.blur()")
    page.key("z")
    wait_for(lambda: [one["id"] for one in chases(app)[0]["frames"]] == before, 8, "the move was not taken back")

    line = f"/api/looks/{app.api().call('GET', '/api/show')['looks'][0]['id']}/lines/{lines[1]['id']}"
    app.api().call("PATCH", line, {"speed": "0 %"})  # stands, so that steps are by hand alone

    def column() -> int:
        lit = [x for x in range(WIDTH) if any(rows(receiver)[0][x])]
        return lit[0] if len(lit) == 1 else -1

    def told() -> dict[str, Any]:
        runs = app.engine().ask({"do": "status"})["state"]["running"]
        found: dict[str, Any] = runs[0]["chases"][0] if runs and runs[0]["chases"] else {"frame": -1, "left_s": 0}
        return found

    def shown() -> int:
        return int(told()["frame"])

    page.driver.execute_script("document.activeElement.blur()")
    wait_for(lambda: told()["left_s"] is None, 8, "it does not stand")
    here = shown()
    columns = [0, 1, 2, 3, 1, 2, 3, 4, 5]
    for step in range(1, 4):
        page.key(".")
        wait_for(lambda s=step: shown() == (here + s) % 9, 8, "the key . does not step")  # type: ignore[misc]
        wait_for(lambda s=step: column() == columns[(here + s) % 9], 8, "the lamps do not step")  # type: ignore[misc]
    page.key(",")
    wait_for(lambda: column() == columns[(here + 2) % 9], 8, "the key , does not step back")
