"""A cue list in the real browser: made of what runs, typed, gone through by keys, seen on the node."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any
from uuid import uuid4

from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]
MakeNode = Callable[..., Node]
COLOURS = {"Harbour": [200, 40, 10], "Lamp": [10, 120, 240], "Fog": [90, 90, 90]}
PLAYS = "return document.querySelector('[role=row][aria-current=true]')?.dataset.state ?? ''"


def looks(app: RunningApp, matrix: str) -> dict[str, str]:
    found = {}
    for name, colour in COLOURS.items():
        key = found[name] = str(uuid4())
        line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": matrix, "ramp": [[0, *colour]]}
        app.api().call("POST", "/api/looks", {"id": key, "name": name, "lines": [line]})
    return found


def cues(app: RunningApp) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = app.api().call("GET", "/api/show")["cue_lists"][0]["cues"]
    return found


def stop(page: Page, look: str) -> None:
    group = page.find(f'[role="group"][aria-label="{look}, on"]')
    group.find_element(By.XPATH, ".//button[.='Stop']").click()


def test_an_evening_is_made_of_what_runs_and_gone_through_by_keys(
    app: RunningApp, node: MakeNode, browse: Browse
) -> None:
    receiver = node("127.0.78.61", wall_hang())
    ids = light_wall(app, "127.0.78.61", [[0, 0, 0, 0]])
    looks(app, ids["matrix"])
    page = browse(app.address)
    page.open("run")
    page.click("Make a list")
    page.sees("No cue yet")
    stop(page, "Dusk")
    page.sees("Nothing runs")
    page.press('[aria-label="Start Harbour"]')
    page.type_into('input[aria-label="level of Harbour, typed"]', "40")
    page.click("Take what runs")
    page.find('input[aria-label="Looks of cue 1"]')
    assert [one["looks"] for one in cues(app)] == ["Harbour 40 %"]
    for number, typed in ((2, "lamp"), (3, "Fog 50 %, Lamp 20 %")):
        page.click("New cue")
        page.type_into(f'input[aria-label="Looks of cue {number}"]', typed)
    page.type_into('input[aria-label="Fade in of cue 2"]', "1 s")
    page.type_into('input[aria-label="Then of cue 2"]', "follow 0.5 s")
    page.type_into('input[aria-label="Name of cue 2"]', "Lamp turns")
    page.type_into('input[aria-label="Looks of cue 3"]', "Storm")
    page.sees("There is no look 'Storm'.")
    page.key(Keys.ESCAPE)
    wait_for(lambda: [one["looks"] for one in cues(app)] == ["Harbour 40 %", "Lamp", "Fog 50 %, Lamp 20 %"], 8)

    stop(page, "Harbour")
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 0], 8, "Stop leaves it lit")
    page.driver.execute_script("document.activeElement.blur()")
    page.key(" ")
    wait_for(lambda: receiver.picture()[:3] == [80, 16, 4], 8, "Space does not go")
    page.sees("Go")
    assert page.find('button[title^="Go: 2 Lamp turns"]')
    page.key(" ")
    wait_for(lambda: receiver.picture()[:3] == [10, 120, 240], 8, "the fade does not arrive")
    # The third follows by itself: half of fog, and a fifth of the lamp over that.
    expected = [round(45 * 0.8 + part * 0.2) for part in (10, 120, 240)]
    wait_for(
        lambda: max(abs(a - b) for a, b in zip(receiver.picture()[:3], expected, strict=True)) <= 1,
        8,
        "the third does not follow",
    )
    page.sees("the last cue stands")
    page.key(Keys.BACKSPACE)
    wait_for(lambda: receiver.picture()[:3] == [10, 120, 240], 8, "Back does not go back")
    page.key("r")
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 0], 12, "Release leaves it lit")
    page.sees("Nothing runs")


def test_hold_stops_a_fade_and_where_a_level_comes_from_is_seen(
    app: RunningApp, node: MakeNode, browse: Browse
) -> None:
    receiver = node("127.0.78.62", wall_hang())
    ids = light_wall(app, "127.0.78.62", [[0, 0, 0, 0]])
    made, key = looks(app, ids["matrix"]), str(uuid4())
    api = app.api()
    api.call("POST", "/api/lists", {"id": key, "name": "Evening"})
    for name, fade in (("Harbour", "0 s"), ("Lamp", "20 s")):
        api.call("POST", f"/api/lists/{key}/cues", {"id": str(uuid4()), "looks": name, "fade_in": fade})
    page = browse(app.address)
    page.open("run")
    page.find('button[title^="Go: 1"]')
    page.key(" ")
    wait_for(lambda: receiver.picture()[:3] == COLOURS["Harbour"], 8, "Space does not go")
    page.find('button[title^="Go: 2"]')
    page.key(" ")
    wait_for(lambda: page.driver.execute_script(PLAYS) == "coming", 8, "the row does not say that it comes")
    page.sees("s left of 20")
    wait_for(lambda: receiver.picture()[2] >= 45, 12, "the fade does not come in")
    page.key("h")
    page.sees("held")
    page.sees("s left of 20")

    def stands() -> bool:
        """For eight tenths of a second, in which the fade would go on by ten steps."""
        seen = set()
        for _ in range(40):
            time.sleep(0.02)
            seen.add(tuple(receiver.picture()[:3]))
        return len(seen) == 1

    wait_for(stands, 8, "held, the fade goes on")
    now = receiver.picture()[:3]
    page.press('[role="group"][aria-label="Lamp, on"] > button')
    page.sees("arrives")
    shown = page.find('[role="group"][aria-label="Lamp, on"]').text
    state = app.engine().ask({"do": "status"})["state"]
    [lamp] = [one for one in state["running"] if one["look"] == made["Lamp"]]
    assert f"{round(lamp['fade'] * 100)} %" in shown
    page.type_into('input[aria-label="level of Lamp, typed"]', "0")
    wait_for(lambda: receiver.picture()[2] < now[2] - 25, 8, "its own level does nothing")
    page.key("h")
    wait_for(lambda: page.driver.execute_script(PLAYS) == "coming", 8)
    page.key("r")
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 0], 16, "Release leaves it lit")


def test_many_cues_are_changed_at_once_dragged_and_deleted_by_key(app: RunningApp, browse: Browse) -> None:
    light_wall(app, "127.0.78.63", [[0, 0, 0, 0]])
    api, key = app.api(), str(uuid4())
    api.call("POST", "/api/lists", {"id": key, "name": "Evening"})
    for name in "abcde":
        api.call("POST", f"/api/lists/{key}/cues", {"id": str(uuid4()), "name": name, "looks": "Dusk"})
    page = browse(app.address)
    page.open("run")
    page.press('[role="row"][aria-rowindex="3"] [role="gridcell"]')
    table = page.find('[role="grid"][aria-label="Cues of Evening"]')
    table.send_keys(Keys.SHIFT, Keys.ARROW_DOWN, Keys.ARROW_DOWN, Keys.NULL)
    page.sees("3 cues chosen")
    page.type_into('input[aria-label="Fade in of 3 cues"]', "4 beats")
    wait_for(lambda: [one["fade_in"] for one in cues(app)] == ["0 s", *["4 beats"] * 3, "0 s"], 8)
    page.click("eased")
    wait_for(lambda: [one["curve"] for one in cues(app)].count("eased") == 3, 8)
    table = page.find('[role="grid"][aria-label="Cues of Evening"]')
    table.send_keys(Keys.DELETE)
    wait_for(lambda: [one["name"] for one in cues(app)] == ["a", "e"], 8, "they were not deleted")
    page.driver.execute_script("document.activeElement.blur()")
    page.key("z")
    wait_for(lambda: len(cues(app)) == 5, 8, "they do not come back")
