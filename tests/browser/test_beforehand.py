"""A word before light goes out, in the real browser: at the button, by keyboard, and only where a lamp would change."""

from __future__ import annotations

from collections.abc import Callable
from uuid import uuid4

from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang
from tests.moves import off

Browse = Callable[[str], Page]


def test_deleting_a_look_that_runs_says_what_happens_and_undo_lights_it(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.77.62", wall_hang())
    ids = light_wall(app, "127.0.77.62", [[0, 200, 100, 0]])
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 0], 8, "the wall is not lit")
    page, other = browse(app.address), browse(app.address)
    other.open("check")
    page.open("looks")
    page.click("Delete")
    page.sees("Dusk is running, by hand: its light goes out.")
    page.key(Keys.ENTER)  # what is in focus leaves it
    wait_for(lambda: "its light goes out" not in page.text(), 8, "Enter does not leave it")
    assert receiver.picture()[:3] == [200, 100, 0]
    page.click("Delete")
    page.click("Delete it")
    wait_for(lambda: not any(receiver.picture()), 8, "it is not deleted")
    other.sees("deleted Dusk, which was running.")
    page.key("z")
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 0], 8, "undo does not light it")
    app.engine().ask(off(ids["look"]))
    page.find('button[aria-pressed="false"]')
    page.click("Delete")
    wait_for(lambda: not app.api().call("GET", "/api/show")["looks"], 8, "one that is off is not deleted at once")


def test_nothing_moves_under_the_pointer_when_a_look_begins_and_ends(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    """A press that is on its way to *Delete* must not land beside it because the look has just been lit elsewhere."""
    node("127.0.77.62", wall_hang())
    ids = light_wall(app, "127.0.77.62", [[0, 200, 100, 0]])
    page = browse(app.address)
    page.open("looks")
    page.button("Blind")
    lit = {word: page.box_of(word) for word in ("Duplicate", "Unroll", "Delete", "On")}
    app.engine().ask(off(ids["look"]))
    page.button("Off")
    unlit = {word: page.box_of(word) for word in ("Duplicate", "Unroll", "Delete")}
    assert unlit == {word: lit[word] for word in unlit}
    assert page.box_of("Off") == lit["On"]


def test_opening_another_show_under_running_lights_says_what_happens(app: RunningApp, browse: Browse) -> None:
    app.api().call("POST", "/api/shows", {"id": str(uuid4()), "name": "Rehearsal"})
    light_wall(app, "127.0.77.62", [[0, 200, 100, 0]])
    page = browse(app.address)
    page.open("looks")
    page.press('button[aria-label="Shows"]')
    page.click("Rehearsal")
    page.sees("1 look is running: the lamps go dark until something is started in Rehearsal.")
    page.click("Leave it")
    assert app.api().call("GET", "/api/show")["show"]["name"] == "Wall"
