"""Effects and video on the pixels, in a real browser: what the node receives against values computed here."""

from __future__ import annotations

import base64
import math
import time
from collections.abc import Callable
from itertools import pairwise
from pathlib import Path
from typing import Any
from uuid import uuid4

import av
import numpy as np
from PIL import Image
from selenium.common.exceptions import StaleElementReferenceException
from selenium.webdriver.common.action_chains import ActionChains
from selenium.webdriver.common.by import By
from selenium.webdriver.common.keys import Keys

from tests.browser.clips import write_clip
from tests.browser.conftest import Page
from tests.browser.test_first_light import COLOURS
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import light_wall, wall_hang

Browse = Callable[[str], Page]
MakeNode = Callable[..., Node]


def line(page: Page, place: int) -> Any:
    return page.find(f'[role="group"][aria-label="Line {place}"]')


def chip(page: Page, place: int, text: str) -> Any:
    """A chip or button of a line by what stands on it."""

    def look() -> Any:
        try:
            found = [b for b in line(page, place).find_elements(By.TAG_NAME, "button") if text in b.text]
        except StaleElementReferenceException:  # React took it away while it was read
            return None
        return found[0] if found else None

    return wait_for(look, 8, f"line {place} has no '{text}'")


def mist(width: int, height: int, phase: float) -> list[float]:
    """Mist as docs/effects.md says it, one square at a time: scale 40 %, 2 octaves, contrast 50 %."""
    lattice = np.random.default_rng(0x9E3779B9).random((256, 256)).astype(np.float32)

    def smooth(t: float) -> float:
        return t * t * (3 - 2 * t)

    def noise(x: float, y: float, depth: float, octave: int) -> float:
        line = math.floor(depth)
        between = smooth(depth - line)

        def corner(column: int, row: int) -> float:
            values = []
            for one in (line, line + 1):
                shift = one * 31 + octave * 7
                values.append(float(lattice[(row + shift * 29) % 256, (column + shift * 17) % 256]))
            return values[0] + (values[1] - values[0]) * between

        column, row = math.floor(x), math.floor(y)
        u, v = smooth(x - column), smooth(y - row)
        top = corner(column, row) * (1 - u) + corner(column + 1, row) * u
        foot = corner(column, row + 1) * (1 - u) + corner(column + 1, row + 1) * u
        return top * (1 - v) + foot * v

    size = max(width, height) * 0.40
    found = []
    for y in range(height):
        for x in range(width):
            total = 0.0
            for octave, weight in ((0, 1.0), (1, 0.5)):
                times = 2**octave
                at = ((x + 0.5) / size * times, (y + 0.5) / size * times)
                total += weight * noise(*at, phase * times * 2.0, octave)
            found.append(min(max((total / 1.5 - 0.5) * 2.0 + 0.5, 0.0), 1.0))
    return found


def clip_squares(path: Path) -> list[list[float]]:
    """The clip's first frame as 6 x 3 squares: means of its planes, made colours by the equations of ITU-R BT.601
    (Kr 0.299, Kb 0.114, 8 bits from 16 to 235 and 240)."""
    with av.open(str(path)) as container:
        frame = next(container.decode(video=0))
    luma, *chroma = (
        np.frombuffer(bytes(plane), np.uint8).reshape(plane.height, plane.line_size)[:, : plane.width]
        for plane in frame.planes
    )

    def means(plane: Any) -> Any:
        rows, columns = plane.shape[0] // 3, plane.shape[1] // 6
        return plane.reshape(3, rows, 6, columns).mean(axis=(1, 3)).ravel()

    light = (means(luma) - 16) * 255 / 219
    blue, red = ((means(plane) - 128) * 255 / 224 for plane in chroma)
    rgb = np.stack([light + 1.402 * red, light - 0.344136 * blue - 0.714136 * red, light + 1.772 * blue], axis=1)
    return [[float(part) for part in square] for square in np.clip(rgb, 0, 255)]


def test_a_video_under_mist_multiplied_is_what_the_node_receives(
    app: RunningApp, node: MakeNode, browse: Browse, tmp_path: Path
) -> None:
    receiver = node("127.0.78.2", wall_hang())
    light_wall(app, "127.0.78.2", [[0, 1, 2, 3]])
    at_rest(app)
    page = browse(app.address)
    page.open("looks")
    clip = tmp_path / "harbour.mp4"
    write_clip(clip, [COLOURS] * 25)
    page.click("New")
    page.sees("This look has no lines yet")
    page.there('input[type="file"]').send_keys(str(clip))
    page.sees("clip harbour.mp4", 20)
    page.click("clip harbour.mp4")
    chip(page, 1, "harbour.mp4")
    page.click("effect")
    page.click("Mist")
    chip(page, 2, "2 colours")
    line(page, 2).find_element(By.CSS_SELECTOR, '[aria-label="Blend over"]').click()
    chip(page, 2, "multiply: darkens").click()
    wait_for(lambda: line(page, 2).find_elements(By.CSS_SELECTOR, '[aria-label="Blend multiply"]'), 5)

    page.open("run")
    page.click("Hold time")
    page.sees("held: everything moving stands still")
    page.type_into('input[aria-label="Show time, seconds"]', "10")
    wait_for(lambda: app.engine().ask({"do": "status"})["state"]["show_s"] == 10.0, 5)
    page.press('[aria-label="Start Look 2"]')
    page.type_into('input[aria-label="Show time, seconds"]', "13.2")

    # Mist from (22, 12, 58) to (226, 214, 255) at phase 3.2 s / 4 s, times the clip's colours.
    wanted = []
    for place, colour in zip(mist(6, 3, 0.8), clip_squares(clip), strict=True):
        ramp = [a + (b - a) * place for a, b in ((22, 226), (12, 214), (58, 255))]
        wanted += [part * shade / 255 for part, shade in zip(colour, ramp, strict=True)]

    def near() -> bool:
        return max(abs(a - b) for a, b in zip(receiver.picture(), wanted, strict=True)) <= 1.5

    wait_for(near, 15, "the node's bytes are not the clip times the mist")
    assert max(wanted) > 150 > 20 > min(wanted)  # it was no trivial picture
    page.open("looks")
    page.press('button[data-look="Look 2"]')
    page.sees("asked = sent")
    page.sees("largest difference 0 of 255")


def test_a_ramp_stop_that_is_dragged_is_on_the_lamps_before_it_is_let_go(
    app: RunningApp, node: MakeNode, browse: Browse
) -> None:
    receiver = node("127.0.77.2", wall_hang())
    ids = light_wall(app, "127.0.77.2", [[0, 0, 0, 0], [0.5, 250, 250, 250], [1, 250, 250, 250]], effect="Grade")
    app.engine().ask({"do": "hold_time"})
    page = browse(app.address)
    page.open("looks")
    chip(page, 1, "3 colours").click()
    before = wait_for(receiver.picture, 5)
    revision = app.api().call("GET", "/api/show")["show"]["revision"]
    handle = page.find('button[aria-label="Colour 2"]')
    handle.click()
    moves = ActionChains(page.driver, duration=30)
    moves.click_and_hold(handle).move_by_offset(60, 0).move_by_offset(60, 0).perform()

    def at_rest_elsewhere() -> list[int] | None:
        first = receiver.picture()
        time.sleep(0.2)
        return first if first != before and first == receiver.picture() else None

    dragged = wait_for(at_rest_elsewhere, 5, "the drag did not show")
    assert sum(dragged) < sum(before)  # the bright end has moved away
    assert app.api().call("GET", "/api/show")["show"]["revision"] == revision  # nothing is stored yet
    page.sees("3 colours")
    moves = ActionChains(page.driver)
    moves.release().perform()

    def stored() -> list[list[float]] | None:
        looks = app.api().call("GET", "/api/show")["looks"]
        ramp: list[list[float]] = next(look for look in looks if look["id"] == ids["look"])["lines"][0]["ramp"]
        return ramp if ramp[1][0] > 0.55 else None

    seen = []
    until = time.monotonic() + 1
    while time.monotonic() < until or not stored():
        seen.append(receiver.picture())
        assert time.monotonic() < until + 5, "the release was not stored"
    # What was seen while dragging is what was stored, and the lamps never jumped back between the two.
    assert all(picture == dragged for picture in seen)


def test_colours_of_a_ramp_are_moved_and_taken_away_by_keyboard(app: RunningApp, browse: Browse) -> None:
    light_wall(app, "127.0.77.3", [[0, 0, 0, 0], [0.5, 9, 9, 9], [1, 250, 250, 250]], effect="Grade")
    page = browse(app.address)
    page.open("looks")
    chip(page, 1, "3 colours").click()

    def ramp() -> list[list[float]]:
        stops: list[list[float]] = app.api().call("GET", "/api/show")["looks"][0]["lines"][0]["ramp"]
        return stops

    page.driver.execute_script("arguments[0].focus()", page.find('button[aria-label="Colour 2"]'))
    page.key(Keys.ARROW_RIGHT)
    wait_for(lambda: ramp()[1] == [0.51, 9, 9, 9], 5, f"the arrow did not move it: {ramp()}")
    ActionChains(page.driver).key_down(Keys.SHIFT).send_keys(Keys.ARROW_LEFT).key_up(Keys.SHIFT).perform()
    wait_for(lambda: ramp()[1][0] == 0.41, 5, f"Shift and arrow did not move it further: {ramp()}")
    page.key(Keys.DELETE)
    wait_for(lambda: [stop[0] for stop in ramp()] == [0.0, 1.0], 5, "Delete did not take it away")
    assert len(app.api().call("GET", "/api/show")["looks"][0]["lines"]) == 1  # the colour, not the line


def test_a_saved_ramp_colours_all_lines_that_use_it(app: RunningApp, node: MakeNode, browse: Browse) -> None:
    receiver = node("127.0.76.2", wall_hang())
    light_wall(app, "127.0.76.2", [[0, 10, 20, 30]])
    page = browse(app.address)
    page.open("looks")
    chip(page, 1, "one colour").click()
    page.click("Save as a ramp")
    chip(page, 1, "Ramp 1")
    page.type_into('input[aria-label="Name of the ramp"]', "slate")
    chip(page, 1, "slate")
    page.key(Keys.ESCAPE)
    page.driver.execute_script("document.activeElement.blur()")
    page.key("d")
    chip(page, 2, "slate")
    page.sees("muted")  # a copy changes nothing on the lamps
    page.type_into('input[aria-label="Colour, typed"]', "200 100 40")
    wait_for(lambda: receiver.picture() == [200, 100, 40] * 18, 5, "the ramp's new colour is not on the lamps")
    [ramp] = app.api().call("GET", "/api/show")["ramps"]
    assert (ramp["name"], ramp["used_by"], ramp["stops"]) == ("slate", 2, [[0.0, 200, 100, 40]])


def test_a_negative_speed_runs_backward_and_says_so(app: RunningApp, node: MakeNode, browse: Browse) -> None:
    receiver = node("127.0.75.3", wall_hang())
    slow, hard = {"value": 3600, "unit": "s"}, {"order": "address", "overlap": 0}
    ids = light_wall(app, "127.0.75.3", [[0, 200, 100, 40]], effect="Relay", speed=slow, params=hard)
    page = browse(app.address)
    page.open("looks")
    chip(page, 1, "3600 s").click()
    page.type_into('input[aria-label="Speed"]', "-18 s")
    chip(page, 1, "-18 s")
    assert "backward" in line(page, 1).text

    def speed() -> Any:
        return app.api().call("GET", "/api/show")["looks"][0]["lines"][0]["speed"]

    wait_for(lambda: speed() == {"value": -18, "unit": "s"}, 5, f"{speed()}")
    lit = [receiver.picture().index(200) // 3]

    def gone_on() -> bool:
        picture = receiver.picture()
        if 200 in picture and picture.index(200) // 3 != lit[-1]:
            lit.append(picture.index(200) // 3)
        return len(lit) > 4

    wait_for(gone_on, 15, f"the lamp does not run: {lit}")  # one lamp a second: each is the one before the last
    assert all((b - a) % 18 == 17 for a, b in pairwise(lit[1:])), lit
    page.button("backward").click()
    wait_for(lambda: speed() == {"value": 18, "unit": "s"}, 5, f"{speed()}")
    assert ids["line"] == app.api().call("GET", "/api/show")["looks"][0]["lines"][0]["id"]


def test_lines_are_muted_soloed_moved_and_deleted_by_keyboard(app: RunningApp, browse: Browse) -> None:
    light_wall(app, "127.0.75.2", [[0, 10, 20, 30]])
    page = browse(app.address)
    page.open("looks")
    for effect in ("Grade", "Relay"):
        page.click("effect")
        page.button(f"{effect}\n").click()  # its card in the picker, not the line that has it
        wait_for(lambda: not page.driver.find_elements(By.CSS_SELECTOR, '[aria-label="Find an effect"]'), 5)
    chip(page, 3, "Relay")
    page.driver.find_element(By.TAG_NAME, "main").click()

    def effects() -> list[str]:
        return [one["effect"] for one in app.api().call("GET", "/api/show")["looks"][0]["lines"]]

    def fields(name: str) -> list[bool]:
        return [one[name] for one in app.api().call("GET", "/api/show")["looks"][0]["lines"]]

    page.key(Keys.ARROW_UP, Keys.ARROW_UP, Keys.ARROW_UP, Keys.ARROW_DOWN)
    wait_for(lambda: line(page, 2).get_attribute("aria-current") == "true", 3, "the arrows chose no line")
    page.key("m")
    wait_for(lambda: fields("mute") == [False, True, False], 5, "M did not mute")
    page.key("s")
    wait_for(lambda: fields("solo") == [False, True, False], 5, "S did not solo")
    ActionChains(page.driver).key_down(Keys.ALT).send_keys(Keys.ARROW_UP).key_up(Keys.ALT).perform()
    wait_for(lambda: effects() == ["Flat", "Relay", "Grade"], 5, "Alt and arrow did not move it up")
    page.key(Keys.DELETE)
    wait_for(lambda: effects() == ["Flat", "Relay"], 5, "Delete did not delete")
    page.key("z")
    wait_for(lambda: effects() == ["Flat", "Relay", "Grade"], 5, "Z did not bring it back")


def test_two_browsers_edit_one_look_at_once(app: RunningApp, browse: Browse) -> None:
    light_wall(app, "127.0.74.2", [[0, 10, 20, 30]])
    one, two = browse(app.address), browse(app.address)
    one.open("looks")
    two.open("looks")
    one.click("effect")
    one.click("Relay")
    chip(two, 2, "Relay")  # the second browser follows
    chip(one, 1, "100 %").click()
    chip(two, 2, "100 %").click()
    two.type_into('input[aria-label="Opacity, typed"]', "60")
    chip(one, 2, "60 %")
    one.type_into('input[aria-label="Opacity, typed"]', "40")
    chip(two, 1, "40 %")
    lines = app.api().call("GET", "/api/show")["looks"][0]["lines"]
    assert [line["opacity"] for line in lines] == [0.4, 0.6]

    # Now both at the same value: what the other has changed meanwhile is told, not overwritten.
    thumb = one.find('input[aria-label="Opacity"]')
    moves = ActionChains(one.driver, duration=30)
    moves.click_and_hold(thumb).move_by_offset(50, 0).perform()
    app.api("skua", "Skua").call("PATCH", line_path(app), {"opacity": 0.2})
    chip(two, 1, "20 %")
    ActionChains(one.driver).release().perform()
    one.sees("Skua changed opacity of this look meanwhile")
    chip(one, 1, "20 %")
    assert app.api().call("GET", "/api/show")["looks"][0]["lines"][0]["opacity"] == 0.2


def line_path(app: RunningApp) -> str:
    [look] = app.api().call("GET", "/api/show")["looks"]
    return f"/api/looks/{look['id']}/lines/{look['lines'][0]['id']}"


DROP = """
const [css, name, text] = arguments;
const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0));
const data = new DataTransfer();
data.items.add(new File([bytes], name));
const target = document.querySelector(css);
for (const type of ['dragover', 'drop'])
  target.dispatchEvent(new DragEvent(type, {dataTransfer: data, bubbles: true, cancelable: true}));
"""


def test_a_picture_dropped_on_the_looks_begins_a_look(app: RunningApp, browse: Browse, tmp_path: Path) -> None:
    light_wall(app, "127.0.73.2", [[0, 10, 20, 30]])
    picture = tmp_path / "Harbour at night.png"
    Image.new("RGB", (40, 40), (20, 60, 90)).save(picture)
    page = browse(app.address)
    page.open("looks")
    page.sees("Dusk")
    text = base64.b64encode(picture.read_bytes()).decode()
    page.driver.execute_script(DROP, "h2", picture.name, text)
    wait_for(lambda: len(app.api().call("GET", "/api/show")["looks"]) == 2, 15, "no look was begun")
    chip(page, 1, "Harbour at night.png")
    looks = app.api().call("GET", "/api/show")["looks"]
    assert [look["name"] for look in looks] == ["Dusk", "Harbour at night"]
    assert looks[1]["lines"][0]["paints"] == "clip"
    row = '[role="group"][aria-label="Line 1"]'
    page.driver.execute_script(DROP, row, "notes.mp4", base64.b64encode(b"no video").decode())
    page.sees("'notes.mp4' cannot be read as a video or a picture")
    page.driver.execute_script(DROP, row, picture.name, text)
    chip(page, 2, "Harbour at night.png")
    page.sees("used by Harbour at night")
    assert len(app.api().call("GET", "/api/show")["clips"]) == 1  # the same content is not kept twice


def test_how_fixtures_make_colour_and_the_masters_of_groups(
    app: RunningApp, show: str, node: MakeNode, browse: Browse
) -> None:
    hang = {"name": "Quay", "listens": ["artnet 0"], "width": 4, "height": 1, "lamps": []}
    hang["lamps"] = [{"universe": "artnet 0", "channel": 1, "count": 4, "order": "RGBW", "x": 0, "y": 0}]
    receiver = node("127.0.72.2", hang)
    api = app.api()
    matrix, look = str(uuid4()), str(uuid4())
    api.call("POST", "/api/fixtures", {"text": "4 x RGBW lamp, from 1", "ids": [str(uuid4()) for _ in range(4)]})
    weave = {"selection": "all", "width": 4, "height": 1}
    api.call("POST", "/api/matrices", {"id": matrix, "name": "Row", "width": 4, "height": 1, "weave": weave})
    flat = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": matrix, "ramp": [[0, 200, 100, 40]]}
    api.call("POST", "/api/looks", {"id": look, "name": "Dusk", "lines": [flat]})
    output = {"id": str(uuid4()), "name": "Out", "protocol": "artnet", "mode": "unicast", "destination": "127.0.72.2"}
    api.call("POST", "/api/outputs", {**output, "card": app.card})
    from tests.live.scenes import start

    start(app, look)

    def sent() -> list[int]:
        values: list[int] = api.call("GET", "/api/levels/1")["values"][:8]
        return values

    wait_for(lambda: sent() == [160, 60, 0, 40] * 2, 5, "white did not take the common part")
    wait_for(lambda: receiver.picture() == [200, 100, 40] * 4, 5)  # the light is the colour that was asked for
    page = browse(app.address)
    page.open("rig")
    page.press('input[aria-label="Name of 2"]')
    page.click("leave")
    wait_for(lambda: sent() == [160, 60, 0, 40, 200, 100, 40, 0], 5, "white was not left dark")
    page.click("Group this one")
    page.sees("Group 1")
    page.open("run")
    page.type_into('input[aria-label="level of Group 1, typed"]', "50")
    wait_for(lambda: sent() == [160, 60, 0, 40, 100, 50, 20, 0], 5, "the group's master did not act")
    page.open("looks")
    page.sees("asked = sent")


def test_a_look_is_faded_over_another_by_hand(app: RunningApp, node: MakeNode, browse: Browse) -> None:
    """Half of blue on red is half of each: 255 x 0.5 rounds to 128. Back at full, nothing of the red is left."""
    receiver = node("127.0.75.4", wall_hang())
    ids = light_wall(app, "127.0.75.4", [[0, 255, 0, 0]])
    second = str(uuid4())
    blue = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": ids["matrix"], "ramp": [[0, 0, 0, 255]]}
    app.api().call("POST", "/api/looks", {"id": second, "name": "Swell", "lines": [blue]})
    page = browse(app.address)
    page.open("run")
    page.press('[aria-label="Start Swell"]')
    wait_for(lambda: receiver.picture() == [0, 0, 255] * 18, 8, f"{receiver.picture()[:3]}")
    field = 'input[aria-label="level of Swell, typed"]'
    page.type_into(field, "50")
    wait_for(lambda: receiver.picture() == [128, 0, 128] * 18, 5, f"{receiver.picture()[:3]}")
    page.type_into('input[aria-label="level of Dusk, typed"]', "0 %")
    wait_for(lambda: receiver.picture() == [0, 0, 128] * 18, 5, f"{receiver.picture()[:3]}")
    page.type_into(field, "100")
    wait_for(lambda: receiver.picture() == [0, 0, 255] * 18, 5, f"{receiver.picture()[:3]}")
    page.type_into(field, "101")
    page.sees("level goes from 0 to 100")
    page.find(field).send_keys(Keys.ESCAPE)
    page.find('[role="group"][aria-label="Swell, on"]').find_element(By.XPATH, ".//button[.='Stop']").click()
    wait_for(lambda: receiver.picture() == [0, 0, 0] * 18, 5, f"{receiver.picture()[:3]}")
