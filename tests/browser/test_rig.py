"""The Rig by hand: a head of three blocks built and patched, modes changed in use, colours and fans, the plan."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any
from uuid import uuid4

import pytest
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys
from selenium.webdriver.remote.webelement import WebElement

from heliograph.core.errors import HeliographError
from tests.browser.conftest import Page
from tests.conftest import Node, RunningApp, wait_for
from tests.heads import add_head
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]

HEAD_NODE = "127.0.67.2"


def shown(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")
    return found


def profile(app: RunningApp, name: str) -> dict[str, Any]:
    key = next(one["id"] for one in shown(app)["profiles"] if one["name"] == name)
    found: dict[str, Any] = app.api().call("GET", f"/api/profiles/{key}")
    return found


def blocks_of(app: RunningApp, name: str) -> list[tuple[str, int, int, int]]:
    """(name, shared channels, cells, channels a cell) of the first mode's blocks."""
    if name not in [one["name"] for one in shown(app)["profiles"]]:
        return []
    blocks = profile(app, name)["modes"][0]["blocks"]
    return [(b["name"], len(b["shared"]), b["cell_count"], len(b["cell_channels"])) for b in blocks]


def pressed(button: WebElement) -> bool:
    return button.get_attribute("aria-pressed") == "true"


def add_channels(page: Page, label: str, count: int) -> None:
    for _ in range(count):
        page.press(f'button[aria-label="Add to {label}"]')


def attribute(page: Page, row: str, number: int, typed: str) -> None:
    """Gives the `number`-th channel of a ruler an attribute by typing it."""
    options = page.find(f'[role="listbox"][aria-label="{row}"]').find_elements(By.CSS_SELECTOR, '[role="option"]')
    options[number].click()
    field = page.find('input[aria-label="Attribute by typing"]')
    field.send_keys(typed, Keys.ENTER)


def head_hang() -> dict[str, Any]:
    """Rings of two heads on sACN 10, dimmed by their bases on Art-Net 8."""
    lamps = [
        {"universe": "sacn 10", "channel": 1 + 48 * n, "count": 12, "order": "RGBW", "x": 12 * n, "y": 0}
        | {"dimmer": 1 + 31 * n, "dimmer_universe": "artnet 8"}
        for n in range(2)
    ]
    return {"name": "Gallery", "listens": ["artnet 8", "sacn 10"], "width": 24, "height": 1, "lamps": lamps}


def test_signal_heads_are_built_and_patched_by_hand(
    app: RunningApp, show: str, node: Callable[..., Node], browse: Browse
) -> None:
    """Three blocks, two universes, two protocols, from an empty editor to light on the node's lamps."""
    gallery = node(HEAD_NODE, head_hang())
    page = browse(app.address)
    page.open("rig/profiles")
    page.click("New")
    page.type_into('input[aria-label="Name of the profile"]', "Kittiwake Ring 12")
    page.type_into('input[aria-label="Name of block 1"]', "Base")
    page.type_into('input[aria-label="Cells of Base"]', "0")
    add_channels(page, "shared channels of base", 22)
    for number, word in enumerate(("dimmer", "pan", "tilt")):
        attribute(page, "Shared channels of Base", number, word)
    page.click("Add a block")
    page.type_into('input[aria-label="Name of block 2"]', "Halo")
    add_channels(page, "shared channels of halo", 8)  # a new block begins with one
    page.click("Add a block")
    page.type_into('input[aria-label="Name of block 3"]', "Ring")
    options = page.find('[role="listbox"][aria-label="Shared channels of Ring"]')
    options.find_element(By.CSS_SELECTOR, '[role="option"]').click()
    page.type_into('input[aria-label="Cells of Ring"]', "12")
    options = page.find('[role="listbox"][aria-label="Shared channels of Ring"]')
    options.find_element(By.CSS_SELECTOR, '[role="option"]').send_keys(Keys.DELETE)
    add_channels(page, "channels of a cell of ring", 1)
    attribute(page, "Channels of a cell of Ring", 3, "white")
    page.type_into('input[aria-label="Where Ring lies"]', Keys.DELETE)  # nowhere, until a head says where
    built = [("Base", 22, 0, 0), ("Halo", 9, 0, 0), ("Ring", 0, 12, 4)]
    wait_for(lambda: blocks_of(app, "Kittiwake Ring 12") == built, 8, f"built: {blocks_of(app, 'Kittiwake Ring 12')}")

    def emitters() -> list[str]:
        cell = profile(app, "Kittiwake Ring 12")["modes"][0]["blocks"][2]["cell_channels"]
        return [str(one["attribute"]) for one in cell]

    wait_for(lambda: emitters() == ["ColorAdd_R", "ColorAdd_G", "ColorAdd_B", "ColorAdd_W"], 5, f"{emitters()}")

    page.open("rig")
    line = page.find("#add-line")
    line.send_keys("4 x Kittiwake Ring 12, from 701, Signal {n}, at U9.1, block Ring at U10.1")
    page.sees("U9.94, Ring at U10.145")
    line.send_keys(Keys.ENTER)
    page.sees("4 fixtures added")
    places = [[block["address"] for block in one["blocks"]] for one in shown(app)["fixtures"]]
    assert places == [[f"U9.{1 + 31 * n}", f"U9.{23 + 31 * n}", f"U10.{1 + 48 * n}"] for n in range(4)]

    for name, first, protocol, number in (("Heads", 9, "artnet", 8), ("Rings", 10, "sacn", 10)):
        route = {"mode": "unicast", "destination": HEAD_NODE} if protocol == "artnet" else {"mode": "multicast"}
        body = {"id": str(uuid4()), "name": name, "protocol": protocol, "first_universe": first, **route}
        app.api().call("POST", "/api/outputs", {**body, "count": 1, "first_number": number, "card": app.card})
    page.type_into('input[aria-label="Select by typing"]', "701:1-12")
    page.sees("12 cells")
    page.type_into('input[aria-label="Colour, typed"]', "#ff0000 > #0000ff")
    # Twelve cells from red to blue in eleven equal steps: the sixth has 255 x 6/11 red and 255 x 5/11 blue (arithmetic
    # of the trade, no published source). The dimmer of the base is driven with its cells.
    wait_for(lambda: gallery.picture()[:3] == [255, 0, 0], 5, f"the ring stays dark: {gallery.picture()[:36]}")
    ring = gallery.picture()[:36]
    assert ring[33:] == [0, 0, 255]
    assert all(abs(ring[15 + part] - right) <= 1 for part, right in ((0, 139), (1, 0), (2, 116)))
    assert gallery.picture()[36:39] == [0, 0, 0]
    page.click("Release")
    wait_for(lambda: not any(gallery.picture()), 5, "it was not given back")


def test_where_a_block_lies_is_typed_in_its_field_and_in_the_table(app: RunningApp, show: str, browse: Browse) -> None:
    text = f"2 x {add_head(app)}, from 701, at U9.1"
    app.api().call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(2)]})

    def places(number: int) -> list[str]:
        return [
            block["address"] for one in shown(app)["fixtures"] if one["number"] == number for block in one["blocks"]
        ]

    page = browse(app.address)
    page.open("rig")
    page.type_into('input[aria-label="Select by typing"]', "701-702")
    page.sees("of all 2 chosen")
    page.type_into('input[aria-label="Where Ring lies"]', "U10.1")
    wait_for(lambda: [places(n)[2] for n in (701, 702)] == ["U10.1", "U10.49"], 5, f"{places(701)}, {places(702)}")
    page.type_into('input[aria-label="Where Halo lies"]', Keys.DELETE)
    wait_for(lambda: places(702)[:2] == ["U9.80", ""], 5, f"{places(702)}")
    page.type_into('input[aria-label="Where Halo lies"]', "after Ring")
    page.sees("Halo cannot lie 'after Ring'. Write 'after Base'.")
    page.find('input[aria-label="Where Halo lies"]').send_keys(Keys.ESCAPE)
    page.type_into('input[aria-label="Where Halo lies"]', "after Base")
    wait_for(lambda: places(702)[1] == "U9.102", 5, f"{places(702)}")
    table = 'input[aria-label="Blocks of 701"]'
    wait_for(lambda: page.find(table).get_attribute("value") == "Ring at U10.1", 5, "the table says another place")
    page.type_into(table, "without Halo; Ring after Base")
    wait_for(lambda: places(701) == ["U9.1", "", "U9.23"], 5, f"{places(701)}")
    page.type_into(table, "without Base; without Halo; without Ring")
    page.sees("Every block would be nowhere (Base, Halo, Ring). At least one lies somewhere.")


def test_a_channel_is_edited_by_what_is_asked_of_it(app: RunningApp, show: str, browse: Browse) -> None:
    page = browse(app.address)
    page.open(f"rig/profiles/{profile(app, 'RGB lamp')['id']}")
    page.press('[role="listbox"][aria-label="Channels of a cell of Lamp"] [role="option"]')

    def channel() -> dict[str, Any]:
        found: dict[str, Any] = profile(app, "RGB lamp")["modes"][0]["blocks"][0]["cell_channels"][0]
        return found

    page.type_into('[role="group"][aria-label="Rests"] input[aria-label="Home"]', "20 %")
    for group, word in (("Moves", "inverted"), ("Moves", "at its end"), ("Wins", "highest (HTP)")):
        chosen = page.find(f'[role="group"][aria-label="{group}"]').find_element(By.XPATH, f".//button[.='{word}']")
        chosen.click()
        wait_for(partial(pressed, chosen), 5, f"{word} was not chosen")
    wanted = {"home": 51, "invert": True, "in_fade": "end", "merge": "HTP", "alone": False}
    wait_for(lambda: {name: channel()[name] for name in wanted} == wanted, 8, f"{channel()}")
    page.find('[role="group"][aria-label="Wins"]').find_element(By.XPATH, ".//button[.='left alone']").click()
    wait_for(lambda: channel()["alone"], 8, f"{channel()}")
    page.find('[role="group"][aria-label="Means"] input[aria-label="Attribute by typing"]').send_keys(
        "amber", Keys.ENTER
    )
    wait_for(lambda: channel()["attribute"] == "ColorAdd_RY", 8, f"{channel()}")


def test_a_mode_in_use_is_changed_only_after_its_fixtures_were_seen(app: RunningApp, show: str, browse: Browse) -> None:
    body = {"text": "3 x RGB pixel strip, mode 16 RGB, from 1", "ids": [str(uuid4()) for _ in range(3)]}
    app.api().call("POST", "/api/fixtures", body)
    key = profile(app, "RGB pixel strip")["id"]
    page = browse(app.address)
    page.open(f"rig/profiles/{key}")
    page.type_into('input[aria-label="Notes"]', "measured on site")  # touches no fixture: stored at once
    wait_for(lambda: profile(app, "RGB pixel strip")["notes"] == "measured on site", 5)
    page.type_into('input[aria-label="Cells of Pixels"]', "30")
    page.sees("3 fixtures change with it")
    page.sees("48 > 90 ch")
    page.sees("It will share channels with 1.")
    assert profile(app, "RGB pixel strip")["modes"][0]["blocks"][0]["cell_count"] == 16
    page.click("Take it back")
    assert page.find('input[aria-label="Cells of Pixels"]').get_attribute("value") == "16"
    page.type_into('input[aria-label="Cells of Pixels"]', "20")
    page.click("Change all 3")
    wait_for(lambda: [f["footprint"] for f in shown(app)["fixtures"]] == [60, 60, 60], 5, "it was not stored")


def test_opening_every_part_of_the_rig_changes_nothing(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.67.3", wall_hang())
    light_wall(app, "127.0.67.3", [[0, 20, 30, 40]])
    wait_for(lambda: receiver.picture() == [20, 30, 40] * 18)
    before = shown(app)
    key = before["fixtures"][0]["profile"]
    page = browse(app.address)
    page.open("rig")
    page.type_into('input[aria-label="Select by typing"]', "all")
    page.sees("18 fixtures, 18 cells")
    page.find('[role="group"][aria-label="Colour by hand"]')
    for css in ("Colour, typed", "Temperature, typed", "Hue, typed", "red, typed"):
        field = page.find(f'input[aria-label="{css}"]')
        field.click()
        field.send_keys(Keys.ENTER)
    page.click("channels")
    page.click("attributes")
    for text in ("Renumber", "Rename", "Change mode", "Copy"):
        page.click(text)
        page.find("#batch-line").send_keys(Keys.ESCAPE)
    for place in ("rig/plan", "rig/profiles", f"rig/profiles/{key}"):
        page.open(place)
    page.press('[role="option"][aria-label="Channel 1, red"]')
    page.find('input[aria-label="Attribute by typing"]').send_keys("pan", Keys.ESCAPE)
    assert shown(app) == before
    state = app.engine().ask({"do": "status"})["state"]
    assert (state["manual"], state["raw"], state["highlight"]) == ({}, {}, [])
    assert receiver.picture() == [20, 30, 40] * 18


def test_a_fan_and_a_typed_selection_move_what_they_say(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.67.4", wall_hang())
    light_wall(app, "127.0.67.4", [[0, 0, 0, 0]])
    page = browse(app.address)
    page.open("rig")
    page.type_into('input[aria-label="Select by typing"]', "1-4, 9-16 every 2nd - 11")
    page.sees("7 fixtures, 7 cells")
    page.type_into('input[aria-label="green, typed"]', "0 > 60 > 0")
    wait_for(lambda: receiver.picture()[1:12:3] == [0, 20, 40, 60], 5, f"{receiver.picture()}")
    assert receiver.picture()[25:48:6] == [40, 0, 20, 0]  # 9, 11 is taken out, 13, 15
    page.type_into('input[aria-label="Select by typing"]', "1 : blue")
    page.sees("1 fixture, 1 cell")
    page.type_into('input[aria-label="blue, typed"]', "50 %")
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 128], 5, f"{receiver.picture()[:3]}")
    page.type_into('input[aria-label="blue, typed"]', "full")
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 255], 5, f"{receiver.picture()[:3]}")
    page.type_into('input[aria-label="blue, typed"]', "azure")
    page.sees("'azure' is no value of blue. Type 0 to 255, a percentage, full, half or off")
    assert receiver.picture()[:3] == [0, 0, 255]


def test_colours_are_typed_by_name_and_by_temperature(
    app: RunningApp, node: Callable[..., Node], browse: Browse
) -> None:
    receiver = node("127.0.67.5", wall_hang())
    light_wall(app, "127.0.67.5", [[0, 0, 0, 0]])
    page = browse(app.address)
    page.open("rig")
    page.type_into('input[aria-label="Select by typing"]', "1-3")
    page.sees("3 fixtures, 3 cells")
    page.type_into('input[aria-label="Colour, typed"]', "red > blue")
    wait_for(lambda: receiver.picture()[:9] == [255, 0, 0, 128, 0, 128, 0, 0, 255], 5, f"{receiver.picture()[:9]}")
    page.type_into('input[aria-label="Temperature, typed"]', "2700")
    warm = (255, 173, 89)  # standards 7.3 [V], within 2 there
    wait_for(lambda: all(abs(a - b) <= 2 for a, b in zip(receiver.picture()[:9], warm * 3, strict=True)), 5)
    page.type_into('input[aria-label="Temperature, typed"]', "300")
    page.sees("300 K is outside 1667 to 25000 K.")
    page.type_into('input[aria-label="Colour, typed"]', "blurple")
    page.sees("'blurple' is no colour.")
    assert all(abs(a - b) <= 2 for a, b in zip(receiver.picture()[:9], warm * 3, strict=True))


@pytest.fixture
def bars(app: RunningApp, show: str) -> list[str]:
    ids = [str(uuid4()) for _ in range(6)]
    text = "6 x Cell bar without dimmer, mode 10 RGB, from 301, Quay {n}"
    app.api().call("POST", "/api/fixtures", {"text": text, "ids": ids})
    return ids


def test_fixtures_are_placed_on_the_plan_by_dragging(app: RunningApp, bars: list[str], browse: Browse) -> None:
    def places() -> dict[str, tuple[float, float]]:
        return {one["id"]: (one["x"], one["y"]) for plan in shown(app)["plans"] for one in plan["items"]}

    page = browse(app.address)
    page.open("rig/plan")
    page.click("Make a plan")
    page.sees("Not on this plan: 6 fixtures")
    page.type_into('input[aria-label="Select by typing"]', "301-306")
    page.click("grid")
    canvas = page.find('canvas[aria-label="Plan Front elevation"]')
    drag = ActionChains(page.driver, duration=20)
    drag.move_to_element_with_offset(canvas, -160, -80).click_and_hold().move_by_offset(180, 90)
    drag.move_by_offset(180, 70).release().perform()
    wait_for(lambda: set(places()) == set(bars), 5, "they were not placed")
    placed = places()
    columns, rows = ({place[axis] for place in placed.values()} for axis in (0, 1))
    assert len(set(placed.values())) == 6
    assert 2 <= len(columns) <= 4
    assert len(rows) == -(-6 // len(columns))
    page.find('canvas[aria-label="Plan Front elevation"]').send_keys(Keys.ARROW_RIGHT)  # half a metre, by key
    moved = {key: (round(x + 0.5, 4), y) for key, (x, y) in placed.items()}
    wait_for(lambda: places() == moved, 5, f"{places()}")
    page.click("centre")
    wait_for(lambda: len({x for x, _ in places().values()}) == 1, 5, "they were not aligned")
    page.driver.execute_script("document.activeElement.blur()")
    page.key("z")
    wait_for(lambda: places() == moved, 5, "it was not taken back")
    line = page.find("#add-line")
    line.send_keys("1 x Cell bar without dimmer, mode 10 RGB, from 401", Keys.ENTER)
    wait_for(lambda: len(places()) == 7, 5, "a new fixture is not on the plan")
    new = next(place for key, place in places().items() if key not in bars)
    assert new[1] < min(y for key, (_, y) in places().items() if key in bars)  # below the others, so in view


def test_a_dimmer_of_16_bit_keeps_out_of_its_strobe(app: RunningApp, node: Callable[..., Node], browse: Browse) -> None:
    """Half is 71, 71 of a dimmer that dims from 8 to 134: (8 + 0.5 x 126) x 257 (arithmetic of the trade, no published
    source). 128, as half of the whole channel would be, would flash."""
    receiver = node("127.0.67.5", wall_hang())
    light_wall(app, "127.0.67.5", [[0, 20, 30, 40]])
    api, key, head = app.api(), str(uuid4()), str(uuid4())
    ranges = [(0, 7, "closed"), (8, 134, "dim"), (135, 239, "strobe"), (240, 255, "open")]
    dimmer = {"attribute": "Dimmer", "ranges": [{"first": a, "last": b, "kind": kind} for a, b, kind in ranges]}
    block = {"name": "Head", "shared": [dimmer, {"attribute": "Dimmer", "fine": True}]}
    body = {"id": key, "maker": "Own", "name": "Wide dimmer", "modes": [{"name": "2", "blocks": [block]}]}
    api.call("POST", "/api/profiles", body)
    api.call("POST", "/api/fixtures", {"text": "1 x Wide dimmer, from 101, at U1.101", "ids": [head]})

    def sent() -> list[int]:
        return list(api.call("GET", "/api/levels/1")["values"][100:102])

    page = browse(app.address)
    page.open("rig")
    page.type_into('input[aria-label="Select by typing"]', "101")
    for typed, wanted in (("50 %", [71, 71]), ("100 %", [255, 255]), ("0", [0, 0])):
        page.type_into('input[aria-label="dimmer, typed"]', typed)
        wait_for(lambda wanted=wanted: sent() == wanted, 5, f"{typed} sends {sent()}")  # type: ignore[misc]
    api.call("POST", "/api/engine", {"do": "manual", "levels": {f"{head}/1": 0.5}})
    wait_for(lambda: sent() == [71, 71], 5, f"{sent()}")
    field = 'input[aria-label="dimmer, typed"]'
    wait_for(lambda: page.find(field).get_attribute("value") == "128", 5, "the level that is sent is read otherwise")
    with pytest.raises(HeliographError, match=r"150 % is outside"):
        api.call("POST", "/api/engine", {"do": "manual", "levels": {f"{head}/1": 1.5}})
    assert receiver.picture()[:3] == [20, 30, 40]


def test_bars_are_added_as_they_are_said_and_their_profile_is_made_of_the_words(
    app: RunningApp, show: str, browse: Browse
) -> None:
    page = browse(app.address)
    page.open("rig")
    line = page.find("#add-line")
    line.send_keys("7 bars of nine RGBA cells from 401 at U6.21")
    page.sees("no profile fits:")
    page.click("make it: bar of 9 RGBA cells, 36 ch")
    wait_for(lambda: page.find("#add-line").get_attribute("value") == "7 x RGBA bar 9, from 401, at U6.21", 5)
    page.sees("U6.21")
    page.find("#add-line").send_keys(Keys.ENTER)
    page.sees("7 fixtures added, 63 cells")
    added = shown(app)["fixtures"]
    assert [(one["number"], one["footprint"]) for one in added] == [(401 + n, 36) for n in range(7)]
    assert [one["address"] for one in added] == [f"U6.{21 + 36 * n}" for n in range(7)]
    cell = profile(app, "RGBA bar 9")["modes"][0]["blocks"][0]["cell_channels"]
    assert [one["attribute"] for one in cell] == ["ColorAdd_R", "ColorAdd_G", "ColorAdd_B", "ColorAdd_RY"]
    line = page.find("#add-line")
    line.send_keys("3 RGB lamps from 501 at U7.1", Keys.ENTER)
    page.sees("3 fixtures added, 3 cells")
    assert [one["address"] for one in shown(app)["fixtures"][7:]] == ["U7.1", "U7.4", "U7.7"]
