"""A live picture added at Looks: on the wire within a quarter of a second of its clock; told when nothing comes."""

from __future__ import annotations

from collections.abc import Callable

from tests.browser.conftest import Page
from tests.browser.test_pictures import chip
from tests.conftest import Node, RunningApp, wait_for
from tests.live.camera_scene import Camera, check_in_time, late
from tests.live.scenes import light_wall, wall_hang

ADDRESS = "udp://127.0.0.1:17021"


def test_a_feed_is_added_and_is_on_the_wire_in_time(
    app: RunningApp, node: Callable[..., Node], browse: Callable[[str], Page]
) -> None:
    receiver = node("127.0.77.41", wall_hang())
    light_wall(app, "127.0.77.41", [[0, 0, 0, 0]])
    page = browse(app.address)
    page.open("looks")
    page.click("feed")
    chip(page, 2, "://").click()
    page.type_into('input[aria-label="Address of the live picture"]', "udp://example.org:7000")
    page.sees("not let in")
    page.type_into('input[aria-label="Address of the live picture"]', ADDRESS)
    page.sees("No picture has come yet.")
    chip(page, 2, "fill").click()
    page.click("stretch")
    camera = Camera(ADDRESS)
    try:
        wait_for(lambda: late(receiver) < 40, 15, "no live picture on the lamps")
        page.sees("pictures a second")
        check_in_time(receiver)
    finally:
        camera.stop()
    page.sees("No picture for")
