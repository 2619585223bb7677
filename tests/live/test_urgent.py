"""Blackout has a way of its own: beside pages that drag without a pause, asked again, and over HTTP."""

from __future__ import annotations

import asyncio
import json
from typing import Any

import pytest
import websockets

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import light_wall, running
from tests.moves import line_moved, move

MANY = 800
PAGES = 3


async def urgent(app: RunningApp, *messages: dict[str, Any]) -> list[dict[str, Any]]:
    async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/urgent") as own:
        for message in messages:
            await own.send(json.dumps(message))
        return [json.loads(await asyncio.wait_for(own.recv(), 60)) for _ in messages]


def test_it_waits_behind_no_page_that_drags(app: RunningApp) -> None:
    """Each page has many moves on their way, of which each waits for a frame; when Blackout is confirmed most of them
    are still on theirs."""
    ids = light_wall(app, "127.0.65.12", [[0, 200, 100, 40]])
    drag = {"type": "command", "command": line_moved(ids["look"], ids["line"], opacity=0.5)}

    async def crowd() -> int:
        address = f"ws://127.0.0.1:{app.port}/api/live"
        pages = [await websockets.connect(address, max_size=None, close_timeout=0.5) for _ in range(PAGES)]
        for page in pages:
            for _ in range(MANY):
                await page.send(json.dumps(drag))  # not told as a drag, whose moves are merged: each is done by itself
        (told,) = await urgent(app, {"id": "in a crowd", "command": move("blackout", True)})
        assert told["state"]["blackout"] is True
        await asyncio.gather(*(page.close() for page in pages))
        return int(told["state"]["changes"])

    before = running(app)["state"]["changes"]
    assert asyncio.run(crowd()) - before < PAGES * MANY / 2, "it came after most of what others asked"
    assert running(app)["state"]["blackout"] is True


def test_what_is_asked_again_is_done_once(app: RunningApp) -> None:
    light_wall(app, "127.0.65.13", [[0, 200, 100, 40]])
    over = {"do": "move", "moves": [{"handle": "blackout", "value": None}]}
    first, again = asyncio.run(
        urgent(app, {"id": "turn it over", "command": over}, {"id": "turn it over", "command": over})
    )
    assert (first["state"]["blackout"], again["state"]["blackout"]) == (True, True)
    by_http = app.api().call("POST", "/api/urgent", {"id": "turn it over", "command": over})
    assert by_http["state"]["blackout"] is True
    assert running(app)["state"]["blackout"] is True


def test_nothing_else_goes_that_way(app: RunningApp) -> None:
    ids = light_wall(app, "127.0.65.14", [[0, 200, 100, 40]])
    told = app.api().call(
        "POST", "/api/urgent", {"id": "x", "command": line_moved(ids["look"], ids["line"], opacity=0.5)}
    )
    assert told["what"] == "Only what makes dark, safe or still goes this way."
    with pytest.raises(HeliographError):
        app.api().call("POST", "/api/urgent", {"id": "", "command": move("blackout", True)})
    assert running(app)["state"]["blackout"] is False


def test_of_a_drag_the_latest_stands_for_all_and_its_end_comes_after_it(app: RunningApp) -> None:
    ids = light_wall(app, "127.0.65.15", [[0, 200, 100, 40]])
    before = running(app)["state"]["changes"]

    async def drag() -> None:
        async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", max_size=None) as live:
            for n in range(400):
                told = line_moved(ids["look"], ids["line"], opacity=n / 400)
                await live.send(json.dumps({"type": "command", "command": told, "latest": True}))
            await live.send(json.dumps({"type": "command", "command": move("master", 0.25)}))
            await asyncio.to_thread(wait_for, lambda: running(app)["state"]["master"] == 0.25, 10)
            handle = f"look/{ids['look']}/{ids['line']}/opacity"
            found = next(
                one
                for one in app.api().call("GET", "/api/handles?words=opacity")["handles"]
                if one["address"] == handle
            )
            assert found["value"] == pytest.approx(399 / 400), "the master overtook the drag"

    asyncio.run(drag())
    assert running(app)["state"]["changes"] - before < 400, "each was done by itself"
