"""A score in the real browser: written by typing and by choosing, moved by keys, filled before it is kept, played with
accents by keys; seen on the node."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any
from uuid import uuid4

from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang
from tests.moves import off

Browse = Callable[[str], Page]
MakeNode = Callable[..., Node]
LIT = [200, 40, 10]


def score(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")["scores"][0]
    return found


def entries(app: RunningApp) -> list[str]:
    return [f"{one['name']} {one['place']}" for one in score(app)["entries"] if not one["accent"]]


def played(app: RunningApp) -> float:
    """The beat of the score, from 0."""
    [plays] = app.engine().ask({"do": "status"})["state"]["scores"]
    return float(plays["beat"])


def left_the_field(page: Page) -> None:
    """What was typed is taken, and keys are the page's again."""
    typing = "return document.activeElement?.tagName === 'INPUT'"
    wait_for(lambda: not page.driver.execute_script(typing), 8, "the field keeps the keys")


def test_a_score_is_written_filled_and_played(app: RunningApp, node: MakeNode, browse: Browse) -> None:
    receiver = node("127.0.78.63", wall_hang())
    ids = light_wall(app, "127.0.78.63", [[0, *LIT]])
    app.engine().ask(off(ids["look"]))
    for name, members in (("Upper", "1-6"), ("Lower", "7-18")):
        app.api().call("POST", "/api/groups", {"id": str(uuid4()), "name": name, "selection": members})
    page = browse(app.address)
    page.open("run/score")
    page.click("Make a score")
    page.type_into('input[aria-label="Entry on Upper"]', "Dusk 50 % at 2.1 for 2 bars")
    wait_for(lambda: entries(app) == ["Dusk 2.1 for 2 bars"], 8, "the entry is not written")
    page.type_into('input[aria-label="Place of Dusk"]', "2.5")
    page.sees("A bar has 4 beats, not 5.")
    page.key(Keys.ESCAPE)
    page.type_into('input[aria-label="Place of Dusk"]', "2.1 to 5.1")
    wait_for(lambda: entries(app) == ["Dusk 2.1 for 3 bars"], 8, "the place is not stored")
    page.type_into('input[aria-label="Fade in of Dusk"]', "2 beats")
    wait_for(lambda: score(app)["entries"][0]["fade_in"] == 2.0, 8, "the fade is not stored")
    left_the_field(page)
    page.key(Keys.ARROW_RIGHT)
    wait_for(lambda: entries(app) == ["Dusk 2.2 for 3 bars"], 8, "an arrow does not move it")
    page.key("z")
    wait_for(lambda: entries(app) == ["Dusk 2.1 for 3 bars"], 8, "it is not undone")

    page.key(Keys.ESCAPE)
    page.type_into('input[aria-label="Bars to fill"]', "9 to 16")
    page.click("Show what it would write")
    page.sees("by hand stay", 20)
    wait_for(lambda: "Looking whether" not in page.text(), 30, "it is still looked at whether looks flash")
    before = len(score(app)["entries"])
    assert before == 1
    page.click("Keep")
    wait_for(lambda: len(score(app)["entries"]) > before, 8, "nothing is written")
    page.key("z")
    wait_for(lambda: len(score(app)["entries"]) == before, 8, "fill is not undone")

    page.type_into('input[aria-label="Bar and beat to go on from"]', "3.1")
    wait_for(lambda: receiver.picture()[:3] == [100, 20, 5], 8, "the bar is not on the wire")
    left_the_field(page)
    assert not any(receiver.picture()[18:])
    page.press('input[aria-label="Bar and beat to go on from"]')
    stood = played(app)
    wait_for(lambda: played(app) > stood + 1.0, 8, "the score does not play on")
    page.key("30.1")  # upon what was selected, though the place has moved on meanwhile
    page.key(Keys.ENTER)
    wait_for(lambda: played(app) >= 116.0, 8, "what was typed while it played was not taken")
    left_the_field(page)
    page.key("h")
    page.find('canvas[aria-label="What is sent now, stave by stave"]')
    page.key("s")
    wait_for(lambda: any(one["accent"] for one in score(app)["entries"]), 8, "a key sets no accent")
    page.type_into('input[aria-label="Bar and beat to go on from"]', "20.1")
    wait_for(lambda: not any(receiver.picture()), 8, "it does not end")
    left_the_field(page)
    page.key("r")
    page.find("button")
    wait_for(lambda: not app.engine().ask({"do": "status"})["state"]["scores"][0]["running"], 8, "R lets go of nothing")
    page.key("p")
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["scores"][0]["running"], 8, "P starts nothing")


def test_a_rule_of_the_clock_is_made_changed_and_listed(app: RunningApp, browse: Browse) -> None:
    light_wall(app, "127.0.78.64", [[0, *LIT]])
    page = browse(app.address)
    page.open("run/clock")
    page.sees("Nothing starts by itself yet")
    page.click("dusk")
    page.click("Blackout off")
    page.click("Add")
    page.sees("When it is dusk depends on where this is.")
    page.type_into('input[aria-label="Where this is, degrees"]', "57.70 N 2.00 W")
    wait_for(lambda: app.api().call("GET", "/api/show")["clocks"], 8, "the place is not stored")
    page.click("Add")
    page.find('input[aria-label="When, of Blackout off"]')
    page.type_into('input[aria-label="When, of Blackout off"]', "at 23:30 on weekdays")
    wait_for(lambda: clock(app)["rules"][0]["when"] == "at 23:30 on Mon-Fri", 8, "the rule is not changed")
    page.type_into('input[aria-label="Name of the rule at 23:30 on Mon-Fri"]', "the gate shuts")
    page.sees("5 due")
    page.press('input[type="checkbox"]')
    page.sees("nothing due")
    page.key("z")
    page.sees("5 due")
    page.click("Delete")
    page.sees("Nothing starts by itself yet")
    page.key("z")
    page.sees("the gate shuts")


def clock(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")["clocks"][0]
    return found
