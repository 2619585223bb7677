"""Check, outputs and weaving in a real browser, with what a node receives as the judge."""

from __future__ import annotations

import socket
import time
from collections.abc import Callable
from uuid import uuid4

from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.keys import Keys

from heliograph.core.matrix.placements import unpack
from heliograph.wire import sacn
from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import light_wall, wall_hang
from tests.moves import move

Browse = Callable[[str], Page]
MakeNode = Callable[..., Node]
WHITE: list[list[float]] = [[0, 200, 100, 50]]


def test_a_channel_says_why_and_a_dark_lamp_is_mended(app: RunningApp, node: MakeNode, browse: Browse) -> None:
    receiver = node("127.0.77.71", wall_hang())
    light_wall(app, "127.0.77.71", WHITE)
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 50], 8, "the wall is not lit")
    page = browse(app.address)
    page.open("check")
    page.sees("Dusk, line 1 paints 78 39 20 %, covering 100 %, over: 78 39 20 %.")
    page.sees("red 78.4 % is 200 of 255.")
    page.sees("To the node: Net 0 Sub-Net 0 Universe 0")
    chart = page.find('canvas[aria-label="Channels of universe 1"]')
    page.driver.execute_script("arguments[0].focus()", chart)
    chart.send_keys(Keys.ARROW_RIGHT)
    page.sees("green 39.2 % is 100 of 255.")
    app.engine().ask(move("blackout", True))
    wait_for(lambda: not any(receiver.picture()), 5, "the blackout did not reach the lamps")
    page.sees("Blackout: 0.")
    beam = page.find('[role="group"][aria-label="Why"] ol').text
    assert "green 39.2 % is 100 of 255.\n100" in beam
    assert "Blackout: 0.\n0" in beam
    page.type_into('input[aria-label="Lamp or cell"]', "1:1")
    page.sees("The blackout is on.")
    page.click("Let it go")
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 50], 5, "the repair did not light the lamp")
    page.sees("1:1 leaves with 200, 100, 50")
    page.type_into('input[aria-label="Lamp or cell"]', "1:9")
    page.sees("There is no cell '1:9'.")
    at_rest(app)


def test_what_is_held_is_listed_and_let_go_one_by_one(app: RunningApp, node: MakeNode, browse: Browse) -> None:
    receiver = node("127.0.77.72", wall_hang())
    light_wall(app, "127.0.77.72", WHITE)
    lamp = app.api().call("GET", "/api/show")["fixtures"][0]["id"]
    page = browse(app.address)
    page.open("check")
    app.engine().ask({"do": "manual", "values": {f"{lamp}/1": 7, f"{lamp}/2": 8}})
    app.engine().ask({"do": "raw", "values": {"1.3": 9}})
    wait_for(lambda: receiver.picture()[:3] == [7, 8, 9], 5, "the values were not held")
    page.sees("3 by hand")  # beneath the map, with its sign
    wait_for(lambda: "Held or parked\n3" in page.text(), 5, "three are not listed")
    page.sees("U1.2, 1 RGB lamp 1, channel 2")
    page.press('button[aria-label="Release U1.2, 1 RGB lamp 1, channel 2"]')
    wait_for(lambda: receiver.picture()[:3] == [7, 100, 9], 5, "one was not let go alone")
    page.click("Release all")
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 50], 5, "the rest was not let go")
    at_rest(app)


def test_what_is_of_another_moment_or_goes_nowhere_says_so(app: RunningApp, node: MakeNode, browse: Browse) -> None:
    receiver = node("127.0.77.78", wall_hang())
    light_wall(app, "127.0.77.78", WHITE)
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 50], 8, "the wall is not lit")
    page = browse(app.address)
    page.open("check")
    page.press('canvas[aria-label="Channels of universe 1"]')
    page.key(Keys.HOME)
    bar = '[aria-label="Channel"]'
    wait_for(lambda: "200" in page.find(bar).text, 8, "the value that is sent does not show")
    page.sees("look back, kept for")
    app.engine().ask(move("blackout", True))
    wait_for(lambda: "\n0\n" in page.find(bar).text, 8, "the blackout does not show")
    time.sleep(1.5)
    page.type_into('input[aria-label="How long ago, typed"]', "1.2")
    page.sees("not now:")
    app.engine().ask(move("blackout", False))
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 50], 5, "it does not light again")
    said = page.find(bar).text
    assert "then" in said
    assert "\n0\n" in said
    assert not page.driver.find_elements("css selector", f"{bar} input"), "a fader of now stands beside a value of then"
    page.click("Now")
    wait_for(lambda: "200" in page.find(bar).text, 8, "it does not come back to now")
    page.type_into('input[aria-label="Universe"]', "U9")
    app.engine().ask({"do": "raw", "values": {"9.1": 77}})
    wait_for(lambda: "not sent" in page.find(bar).text, 8, "a universe that goes nowhere does not say so")
    typed = 'input[aria-label="Raw 9.1, typed"]'
    wait_for(lambda: page.find(typed).get_attribute("value") == "77", 8, "what is held shows as black")
    output = app.api().call("GET", "/api/show")["outputs"][0]["id"]
    page.sees("read back from")
    app.api().call("PATCH", f"/api/outputs/{output}", {"on": False})
    page.sees("nothing of\nit is sent")
    at_rest(app)


def test_an_output_is_muted_slowed_and_synchronised(app: RunningApp, node: MakeNode, browse: Browse) -> None:
    receiver = node("127.0.77.73", wall_hang())
    light_wall(app, "127.0.77.73", WHITE)
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 50], 8, "the wall is not lit")
    page = browse(app.address)
    page.open("patch")
    page.click("Mute")
    wait_for(lambda: not any(receiver.picture()), 5, "a muted output lights")
    page.sees("To the node is muted: U1 is sent dark.")
    packets = receiver.universe("artnet 0")["packets"]
    wait_for(lambda: receiver.universe("artnet 0")["packets"] > packets + 20, 5, "a muted output is silent")
    page.click("Muted")
    wait_for(lambda: receiver.picture()[:3] == [200, 100, 50], 5, "it does not light again")
    page.press('[aria-label="Output 1"] button[aria-expanded]')
    page.type_into('input[aria-label="Frames a second"]', "10")
    wait_for(lambda: app.api().call("GET", "/api/show")["outputs"][0]["rate_hz"] == 10, 5)
    time.sleep(0.5)
    receiver.reset()
    begun = time.monotonic()
    wait_for(lambda: receiver.universe("artnet 0")["packets"] >= 20, 15, "it hardly sends")
    assert time.monotonic() - begun > 1.0  # 0.45 s at the full rate, 2 s at this one
    page.type_into('input[aria-label="Frames a second"]', "90")
    page.sees("The frames a second 90 is too large. It is 44 or less.")
    page.key(Keys.ESCAPE)
    page.click("no ArtSync")
    wait_for(lambda: receiver.universe("artnet 0")["synced"] > 3, 8, "no frame waited for an ArtSync")
    assert receiver.picture()[:3] == [200, 100, 50]
    at_rest(app)


def test_the_tower_is_woven_as_it_is_wired(app: RunningApp, show: str, browse: Browse) -> None:
    """18 strips of 50, up one and down the next; then turning back every 2."""
    api = app.api()
    ids = [str(uuid4()) for _ in range(18)]
    text = "18 x RGB pixel strip, mode 50 RGB, from 101, Tower {n}"
    api.call("POST", "/api/fixtures", {"text": text, "ids": ids})
    page = browse(app.address)
    page.open("matrices")
    page.type_into("#weave-columns", "18")
    page.type_into("#weave-rows", "50")
    page.press('button[aria-label="Start at the bottom left"]')
    page.there('input[type=radio][value="columns"]').click()
    page.there("input[type=checkbox]:not([role=switch])").click()
    page.sees("18 wide, 50 high, from the bottom left, up and down in turn, 900 cells")
    page.find('canvas[aria-label="The weave: 18 by 50 squares, 900 cells"]')
    page.click("Make the matrix")

    def columns() -> list[tuple[int, int, int]]:
        """(column, row of its first cell, row of its last) of each strip."""
        matrices = api.call("GET", "/api/show")["matrices"]
        if not matrices:
            return []
        at = {(one.key.fixture, one.key.cell): one.square for one in unpack(matrices[0]["placements"])}
        return [(at[(key, "1")][0], at[(key, "1")][1], at[(key, "50")][1]) for key in ids]

    wait_for(columns, 5, "nothing was woven")
    assert columns() == [(n, 0 if n % 2 else 49, 49 if n % 2 else 0) for n in range(18)]
    page.type_into('input[aria-label="Lines until it turns back"]', "2")
    page.sees("up and down, turning back every 2")
    page.click("Weave Matrix 1")
    wait_for(lambda: columns()[1] == (1, 49, 0), 5, "it still turns back every line")
    assert [first for _, first, _ in columns()[:4]] == [49, 49, 0, 0]  # up, up, down, down


def test_a_safe_laser_stays_safe_under_raw_fader_highlight_and_hand(
    app: RunningApp, show: str, node: MakeNode, browse: Browse
) -> None:
    """The node is the judge: every value it got while the laser was not armed."""
    receiver = node("127.0.77.74", wall_hang())
    api = app.api()
    at_rest(app)
    ids = [str(uuid4())]
    api.call("POST", "/api/fixtures", {"text": "1 x RGB laser head, from 801, at U1.1", "ids": ids})
    footprint = api.call("GET", "/api/show")["fixtures"][0]["footprint"]
    route = {"protocol": "artnet", "mode": "unicast", "destination": "127.0.77.74", "card": app.card}
    api.call("POST", "/api/outputs", {"id": str(uuid4()), "name": "Out", **route})
    wait_for(lambda: receiver.state()["universes"], 8, "the node hears nothing")
    seen: list[bytes] = []

    def watched(seconds: float) -> None:
        until = time.monotonic() + seconds
        while time.monotonic() < until:
            seen.append(bytes.fromhex(receiver.universe("artnet 0")["data"])[:footprint])

    page = browse(app.address)
    page.open("check")
    chart = page.find('canvas[aria-label="Channels of universe 1"]')
    page.driver.execute_script("arguments[0].focus()", chart)
    chart.send_keys(Keys.ARROW_RIGHT)
    page.type_into('input[aria-label="Raw 1.2, typed"]', "255")
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["raw"], 5, "the raw fader did not move")
    watched(0.5)
    page.open("rig")
    page.press('input[aria-label="Name of 801"]')
    page.type_into('input[aria-label="shutter, typed"]', "200")
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["manual"], 5, "nothing is held by hand")
    page.driver.execute_script("document.activeElement.blur()")
    hold = ActionChains(page.driver).key_down("h").pause(0.8)
    hold.perform()
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["highlight"], 5, "nothing is highlighted")
    watched(0.5)
    ActionChains(page.driver).key_up("h").perform()
    assert len(seen) > 20
    assert set(seen) == {bytes(footprint)}  # its safe values: everything at 0
    page.sees("safe")
    at_rest(app)


def test_what_other_devices_send_shows_with_who_counts(app: RunningApp, show: str, browse: Browse) -> None:
    desks = {name: socket.socket(socket.AF_INET, socket.SOCK_DGRAM) for name in ("Upper desk", "Lower desk")}
    page = browse(app.address)
    page.open("check")
    page.click("received")
    page.sees("Nothing is received", 15)
    until = time.monotonic() + 12
    sequence = 0
    while time.monotonic() < until and "Upper desk" not in page.text():
        sequence += 1
        for n, (name, desk) in enumerate(desks.items()):
            levels = bytes([7 + n] * 512)
            packet = sacn.encode_data(bytes([n + 1] * 16), name, 41, levels, sequence % 256, priority=120 - n)
            desk.sendto(packet, (app.card, sacn.PORT))
        time.sleep(0.05)
    said = page.find('[aria-label="Senders"]').text
    assert "Upper desk" in said
    assert said.index("counts") < said.index("Lower desk") < said.index("is not taken")
    page.find('canvas[aria-label="Received values of sACN 41"]')
    (heard,) = app.api().call("GET", "/api/received?protocol=sacn&number=41")
    assert heard["values"] == [7] * 512
    for desk in desks.values():
        desk.close()
