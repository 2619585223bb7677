"""On the wire: incoming universes as a picture, a clip in a loop as one, clips chosen by number, and their end."""

from __future__ import annotations

import socket
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from functools import partial
from pathlib import Path
from threading import Event, Thread
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from heliograph.wire import artnet
from tests.browser.clips import write_clip
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, running, wall_hang
from tests.moves import move

BLACK: list[list[float]] = [[0, 0, 0, 0]]


@contextmanager
def desk(app: RunningApp, number: int, levels: Callable[[], bytes]) -> Iterator[None]:
    """Somebody else who sends a universe 40 times a second."""
    ends = Event()

    def run() -> None:
        with socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as out:
            out.bind(("127.0.84.78", 0))
            for sequence in range(1, 4000):
                out.sendto(artnet.encode_dmx(number, levels(), sequence % 255 + 1), (app.card, artnet.PORT))
                if ends.wait(0.025):
                    return

    thread = Thread(target=run, daemon=True)
    thread.start()
    try:
        yield
    finally:
        ends.set()
        thread.join()


def feed(app: RunningApp, ids: dict[str, str], address: str, **more: Any) -> dict[str, Any]:
    line = {"id": str(uuid4()), "paints": "feed", "matrix": ids["matrix"], "address": address, "lost": "black", **more}
    app.api().call("POST", f"/api/looks/{ids['look']}/lines", line)
    return line


def said(app: RunningApp, address: str) -> dict[str, Any]:
    feeds = app.api().call("GET", "/api/status")["media"]["feeds"]
    return next((one for one in feeds if one["address"] == address), {})


def test_what_a_desk_sends_is_a_picture_of_the_matrix(app: RunningApp, node: Callable[..., Node]) -> None:
    receiver = node("127.0.77.30", wall_hang())
    ids = light_wall(app, "127.0.77.30", BLACK)
    levels = bytearray(n % 251 for n in range(54))
    line = feed(app, ids, "artnet:700")
    api, at = app.api(), f"/api/looks/{ids['look']}/lines/{line['id']}"
    with desk(app, 700, lambda: bytes(levels)):
        wait_for(lambda: receiver.picture() == list(levels), 10, "it is not on the lamps")
        levels[0], levels[53] = 250, 1
        wait_for(lambda: receiver.picture() == list(levels), 2)
        api.call("PATCH", at, {"opacity": 0.5})  # mixed as any other line
        wait_for(lambda: receiver.picture()[0] == 125, 5)
        api.call("PATCH", at, {"opacity": 1.0})
        wait_for(lambda: said(app, "artnet:700").get("size") == "1 of 1 universes", 5, str(said(app, "artnet:700")))
        api.call("PATCH", at, {"address": "artnet:701"})  # where nothing comes
        wait_for(lambda: max(receiver.picture()) == 0, 5)
        wait_for(lambda: said(app, "artnet:701").get("fault") == "Nothing arrives for 701.", 5)
        api.call("PATCH", at, {"address": "artnet:700"})
        wait_for(lambda: receiver.picture() == list(levels), 5)
    wait_for(lambda: max(receiver.picture()) == 0, 8, "what is lost is not black")
    for address, says in (("artnet:40000", "outside 0 to 32767"), ("sacn:0", "outside 1 to 63999")):
        with pytest.raises(HeliographError, match=says):
            api.call("PATCH", at, {"address": address})


def clip(app: RunningApp, folder: Path, name: str, colours: list[tuple[int, int, int]], rate: int) -> dict[str, Any]:
    path = folder / f"{name}.mp4"
    write_clip(path, [[[colour] * 6] * 3 for colour in colours], rate)
    told = app.api().upload("/api/clips", str(uuid4()), path.name, path)
    return next(one for one in app.api().call("GET", "/api/show")["clips"] if one["id"] == told["id"])


def _is_red(receiver: Node, red: bool) -> bool:
    return (receiver.picture()[0] > 120) == red


def test_a_clip_in_a_loop_is_a_live_picture(app: RunningApp, node: Callable[..., Node], tmp_path: Path) -> None:
    receiver = node("127.0.77.31", wall_hang())
    ids = light_wall(app, "127.0.77.31", BLACK)
    made = clip(app, tmp_path, "Buoy", [(220, 20, 20)] * 5 + [(20, 20, 220)] * 5, 10)
    feed(app, ids, f"clip:{made['number']}")
    wait_for(lambda: receiver.picture()[0] > 180, 10, "it is not shown")
    begun, changes = time.monotonic(), 0
    for changes in range(1, 9):  # half a second each, round after round
        red = changes % 2 == 0
        wait_for(partial(_is_red, receiver, red), 3, f"no change after {changes - 1}")
    assert time.monotonic() - begun > (changes - 1) * 0.5 - 0.2, "it hurries"  # whether it lags `bench feed` measures
    other = feed(app, ids, "clip:9")
    wait_for(lambda: "There is no clip 9." in said(app, "clip:9").get("fault", ""), 5)
    app.api().call("DELETE", f"/api/looks/{ids['look']}/lines/{other['id']}")


def test_a_clip_is_chosen_by_its_number_and_begins_at_its_start(
    app: RunningApp, node: Callable[..., Node], tmp_path: Path
) -> None:
    receiver = node("127.0.77.32", wall_hang())
    ids = light_wall(app, "127.0.77.32", BLACK)
    api = app.api()
    sea = clip(app, tmp_path, "Sea", [(20, 60, 220)] * 10, 10)
    fire = clip(app, tmp_path, "Fire", [(240, 40, 20)] * 20 + [(20, 240, 20)] * 20, 10)
    assert (sea["number"], fire["number"]) == (1, 2)
    line = {"id": str(uuid4()), "paints": "clip", "matrix": ids["matrix"], "clip": sea["id"]}
    api.call("POST", f"/api/looks/{ids['look']}/lines", line)
    wait_for(lambda: receiver.picture()[2] > 180, 10, "the sea is not shown")
    handle = f"look/{ids['look']}/{line['id']}/clip"
    api.call("POST", "/api/engine", move(handle, 2))
    wait_for(lambda: receiver.picture()[0] > 200, 6, "the fire is not shown")
    began = time.monotonic()
    wait_for(lambda: receiver.picture()[1] > 200, 4)
    assert time.monotonic() - began > 0.5  # its first two seconds are red
    with pytest.raises(HeliographError, match=r"is not '7'"):
        api.call("POST", "/api/engine", move(handle, 7))
    number = {"number": 1}
    with pytest.raises(HeliographError, match="1 is the number of Sea"):
        api.call("PATCH", f"/api/clips/{fire['id']}", number)
    api.call("POST", "/api/engine", {"do": "let_go"})
    wait_for(lambda: receiver.picture()[2] > 180, 6, "the sea did not come back")
    api.call("POST", "/api/engine", move(handle, 2))
    wait_for(lambda: receiver.picture()[2] < 60, 6, "the fire is not shown again")
    api.call("DELETE", f"/api/clips/{fire['id']}")
    wait_for(lambda: receiver.picture()[2] > 180, 6, "a clip that is deleted is still on the lamps")


def test_a_clip_of_one_round_ends_and_says_when(app: RunningApp, node: Callable[..., Node], tmp_path: Path) -> None:
    receiver = node("127.0.77.33", wall_hang())
    ids = light_wall(app, "127.0.77.33", BLACK)
    api, at = app.api(), f"/api/looks/{ids['look']}/lines"
    made = clip(app, tmp_path, "Once", [(220, 20, 20)] * 10 + [(20, 220, 20)] * 10, 10)
    line = {"id": str(uuid4()), "paints": "clip", "matrix": ids["matrix"], "clip": made["id"], "rounds": 1}
    api.call("POST", at, {**line, "ends": "hold"})
    wait_for(lambda: receiver.picture()[0] > 180, 10, "it is not shown")
    left = running(app)["state"]["running"][0]["clip_left_s"]
    assert 0.0 < left <= 2.0
    wait_for(lambda: receiver.picture()[1] > 180, 4)
    time.sleep(2.0)
    assert receiver.picture()[1] > 180  # its last picture stays
    assert running(app)["state"]["running"][0]["clip_left_s"] == 0.0
    api.call("PATCH", f"{at}/{line['id']}", {"ends": "clear"})
    wait_for(lambda: max(receiver.picture()) == 0, 4, "its end is not clear")
    api.call("PATCH", f"{at}/{line['id']}", {"rounds": 0})
    wait_for(lambda: max(receiver.picture()) > 180, 4, "without end it does not go on")
