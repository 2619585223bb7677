"""Heads set, pointed and moved in the browser; what is held by hand kept as presets and as looks: on the wire."""

from __future__ import annotations

from collections.abc import Callable
from uuid import uuid4

import pytest
from selenium.webdriver.common.keys import Keys

from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.engine.heads import HEAD, PAN_DEG
from tests.live.scenes import running, wall_hang

Browse = Callable[[str], Page]
SIZE = len(HEAD)
NODE = "127.0.79.2"


@pytest.fixture
def receiver(app: RunningApp, node: Callable[..., Node]) -> Node:
    """Four heads 701 to 704 from U1.1 in a group, sent to a node."""
    receiver = node(NODE, wall_hang())
    at_rest(app)
    api = app.api()
    api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Heads"})
    mode = {"name": "7 channels", "blocks": [{"name": "Head", "shared": HEAD, "cell_count": 0, "cell_channels": []}]}
    profile = {"maker": "Kittiwake Optics", "name": "Signal head", "kind": "head", "modes": [mode]}
    api.call("POST", "/api/profiles", {"id": str(uuid4()), **profile})
    ids = [str(uuid4()) for _ in range(4)]
    api.call("POST", "/api/fixtures", {"text": "4 x Signal head, from 701, Signal {n}, at U1.1", "ids": ids})
    api.call("POST", "/api/groups", {"id": str(uuid4()), "name": "Signal heads", "selection": "701-704"})
    output = {"id": str(uuid4()), "name": "O", "protocol": "artnet", "mode": "unicast", "card": app.card}
    api.call("POST", "/api/outputs", {**output, "destination": NODE})
    return receiver


def sent(receiver: Node) -> list[int]:
    return list(bytes.fromhex(receiver.universe("artnet 0").get("data", "")))


def pans(receiver: Node) -> list[float]:
    """Where the four heads point on the wire, in degrees."""
    values = sent(receiver)
    wide = [values[n * SIZE] * 256 + values[n * SIZE + 1] for n in range(4)]
    return [one / 65_535 * PAN_DEG - PAN_DEG / 2 for one in wide]


def test_heads_are_set_by_word_and_degrees_and_move_along_a_path(
    app: RunningApp, receiver: Node, browse: Browse
) -> None:
    page = browse(app.address)
    page.open("looks")
    page.click("New")
    page.click("attributes")
    page.sees("choose what it sets")
    page.click("choose what it sets")
    page.says("button", "gobo").click()
    page.says("button", "shingle").click()
    page.sees("Leave it alone")
    page.click("Off")
    wait_for(lambda: running(app)["state"]["running"], 8, "the look did not start")
    wait_for(lambda: sent(receiver)[4::SIZE][:4] == [30] * 4, 8, "the word is not on the wire")

    page.click("set more")
    page.says("button", "pan").click()
    page.type_into('input[aria-label="pan is set to"]', "-90° > 90°")
    near = pytest.approx([-90, -30, 30, 90], abs=0.1)
    wait_for(lambda: pans(receiver) == near, 8, "the fan is not on the wire")
    page.type_into('input[aria-label="pan is set to"]', "limpets")
    page.sees("'limpets' is no value of pan")
    page.key(Keys.ESCAPE)

    page.click("set more")
    page.click("ring")
    page.sees("A round lasts")
    page.sees("Where the heads point")
    before = pans(receiver)
    wait_for(lambda: max(abs(a - b) for a, b in zip(pans(receiver), before, strict=True)) > 3, 12, "they do not move")
    assert all(abs(a - b) <= 25 for a, b in zip(pans(receiver), (-90, -30, 30, 90), strict=True))
    page.click("Stand still")
    wait_for(lambda: pans(receiver) == near, 8, "they do not stand still")


def test_a_position_is_taken_and_everything_by_hand_becomes_a_look_with_one_key(
    app: RunningApp, receiver: Node, browse: Browse
) -> None:
    page = browse(app.address)
    page.open("rig")
    page.type_into('input[aria-label="Select by typing"]', "701-702")
    page.find('[role="group"][aria-label="Presets"]')
    page.press('button[aria-label="Take a preset of position"]')
    page.sees("Nothing of position is held by hand.")
    api = app.api()
    fixtures = {one["number"]: one["id"] for one in api.call("GET", "/api/show")["fixtures"]}
    held = {f"{fixtures[701]}/1": 200, f"{fixtures[701]}/2": 7, f"{fixtures[702]}/1": 40, f"{fixtures[702]}/5": 33}
    api.call("POST", "/api/engine", {"do": "manual", "values": held})
    page.sees("Keep as look")
    page.press('button[aria-label="Take a preset of position"]')
    page.sees("kept of 2 fixtures")
    wait_for(lambda: sent(receiver)[:2] == [200, 7] and sent(receiver)[SIZE + 4] == 33, 8)
    by_hand = sent(receiver)

    page.press('[aria-label="Presets"]')  # the page has the keys
    page.key("k")
    page.sees("Kept as a look")
    page.press('button[title="Give what is chosen back to the looks"]')
    wait_for(lambda: sent(receiver)[:2] == [128, 0], 8, "it was not released")
    page.press('button[aria-label="Set Position 1"]')
    wait_for(lambda: sent(receiver)[:2] == [200, 7] and sent(receiver)[SIZE + 4] == 0, 8, "the preset is not held")
    page.press('button[title="Give what is chosen back to the looks"]')
    wait_for(lambda: sent(receiver)[:2] == [128, 0], 8, "it was not released")

    page.open("looks")
    page.says("button, [role=button]", "Kept 1", begins=True)
    page.key(" ")
    wait_for(lambda: sent(receiver) == by_hand, 8, "the look is not what was held, to the byte")
    page.sees("kept of 2 fixtures")


MATCHES = """
const e = document.activeElement;
return e && e !== document.body && (!arguments[0] || e.matches(arguments[0]))
  && (e.innerText || '').replace(/\\s+/g, ' ').trim().includes(arguments[1]);
"""


def tab_to(page: Page, css: str, says: str = "", most: int = 220) -> None:
    """Goes on with Tab until the focus is on what is meant: nothing here is reached by a pointer."""
    wait_for(lambda: page.driver.execute_script(ANY, css, says), 8, f"there is no {css} {says}")
    for _ in range(most):
        if page.driver.execute_script(MATCHES, css, says):
            return
        page.key(Keys.TAB)
    pytest.fail(f"Tab does not come to {css} {says}")


ANY = """
return [...document.querySelectorAll(arguments[0])].some(
  (e) => (e.innerText || '').replace(/\\s+/g, ' ').trim().includes(arguments[1]));
"""


def test_a_position_is_made_by_hand_and_a_figure_around_it_by_keyboard_alone(
    app: RunningApp, receiver: Node, browse: Browse
) -> None:
    page = browse(app.address)
    page.open("rig")
    tab_to(page, 'input[aria-label="Select by typing"]')
    page.key("701-704", Keys.ENTER)
    page.sees("Moves all 4 chosen")
    tab_to(page, 'input[aria-label="pan, typed"]')
    page.key("-90° > 90°", Keys.ENTER)  # what stood there was chosen with the focus
    near = pytest.approx([-90, -30, 30, 90], abs=0.1)
    wait_for(lambda: pans(receiver) == near, 8, "the fan by hand is not on the wire")
    tab_to(page, 'button[aria-label="Take a preset of position"]')
    page.key(Keys.ENTER)
    page.sees("kept of 4 fixtures")
    app.engine().ask({"do": "release"})
    wait_for(lambda: pans(receiver) != near, 8, "it was not released")

    page.open("looks")
    for css, says in (("button", "New"), ("button", "attributes"), ("button", "choose what it sets")):
        tab_to(page, css, says)
        page.key(Keys.ENTER)
    tab_to(page, "button", "Position 1")
    page.key(Keys.ENTER)
    page.sees("at position")
    page.driver.execute_script("document.activeElement.blur()")
    page.key(" ")
    wait_for(lambda: pans(receiver) == near, 8, "the position is not on the wire")
    tab_to(page, "button", "ring")
    page.key(Keys.ENTER)
    page.sees("A round lasts")
    wait_for(lambda: pans(receiver) != near, 12, "they do not move")
    assert all(abs(a - b) <= 25 for a, b in zip(pans(receiver), (-90, -30, 30, 90), strict=True))
    page.key("z")  # a step back takes the figure away and leaves the position
    wait_for(lambda: pans(receiver) == near, 8, "the figure was not taken back")
