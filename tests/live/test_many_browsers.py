"""A hundred pages at once, some of which were left and read nothing: nobody else waits for them.

How long the others wait is measured in bench/; here, that none of them goes blind and every button answers.
"""

from __future__ import annotations

import asyncio
import base64
import json
import os
import socket
import time
from typing import Any

import psutil
import websockets

from tests.conftest import PATIENCE, RunningApp, wait_for
from tests.live.scenes import light_wall, running
from tests.moves import move, on

PATIENT_S = 10.0 * PATIENCE
PAGES, LEFT = 100, 10
TOLD = 8
"""So many statuses come to each page while the buttons are pressed. Before, they stopped for good."""


def left_page(app: RunningApp) -> socket.socket:
    """A page that asked for everything and then reads nothing, as a browser keeps one to go back to."""
    one = socket.create_connection(("127.0.0.1", app.port), timeout=20)
    one.setsockopt(socket.SOL_SOCKET, socket.SO_RCVBUF, 4096)
    key = base64.b64encode(os.urandom(16)).decode()
    one.sendall(
        f"GET /api/live HTTP/1.1\r\nHost: 127.0.0.1:{app.port}\r\nUpgrade: websocket\r\nConnection: Upgrade\r\n"
        f"Sec-WebSocket-Key: {key}\r\nSec-WebSocket-Version: 13\r\n\r\n".encode()
    )
    body = json.dumps({"type": "watch", "levels": list(range(1, 33)), "cells": True}).encode()
    mask = os.urandom(4)
    masked = bytes(byte ^ mask[n % 4] for n, byte in enumerate(body))
    one.sendall(bytes([0x81, 0xFE, *len(body).to_bytes(2, "big")]) + mask + masked)  # RFC 6455, 5.2
    return one


async def page(app: RunningApp, ready: asyncio.Event) -> None:
    async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", max_size=None, close_timeout=0.5) as live:
        await live.send(json.dumps({"type": "hello", "person": "x", "name": "Page"}))
        await ready.wait()
        told = 0
        while told < TOLD:
            message = await asyncio.wait_for(live.recv(), PATIENT_S)
            told += isinstance(message, str) and json.loads(message)["type"] == "status"


async def crowd(app: RunningApp) -> None:
    """Blackout from a page among them is answered with the new state, and each goes on being told."""
    ready = asyncio.Event()
    pages = [asyncio.create_task(page(app, ready)) for _ in range(PAGES - LEFT - 1)]
    async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", max_size=None, close_timeout=0.5) as live:
        await asyncio.sleep(3.0)
        ready.set()
        await asyncio.sleep(1.5)
        await live.send(json.dumps({"type": "command", "command": move("blackout", True)}))
        told: dict[str, Any] = {}
        while told.get("type") != "state":
            message = await asyncio.wait_for(live.recv(), PATIENT_S)
            told = json.loads(message) if isinstance(message, str) else {}
        assert told["state"]["blackout"] is True
    await asyncio.gather(*pages)


def test_pages_that_read_nothing_hold_nobody_up(app: RunningApp) -> None:
    light_wall(app, "127.0.96.2", [[0, 200, 100, 40]])
    left = [left_page(app) for _ in range(LEFT)]
    try:
        time.sleep(2.0)  # their buffers fill
        asyncio.run(crowd(app))  # how fast it is answered is what `bench crowd` measures
        assert running(app)["state"]["blackout"] is True
    finally:
        for one in left:
            one.close()
        app.engine().ask(move("blackout", False))
    wait_for(lambda: app.api().call("GET", "/api/status")["engine"], 10)


def served(app: RunningApp, one: socket.socket) -> bool:
    """Whether the web process still holds the other end."""
    others = psutil.Process(app.pid("web")).net_connections("tcp")
    return any(other.raddr and other.raddr.port == one.getsockname()[1] for other in others)


def test_a_page_that_reads_nothing_is_hung_up_on(app: RunningApp) -> None:
    light_wall(app, "127.0.96.3", [[0, 200, 100, 40]])
    one = left_page(app)
    try:  # ten seconds after what the kernel keeps for it is full: 40 s here on a quiet machine, more on a busy one
        wait_for(lambda: served(app, one), 10, "it is not served")
        wait_for(lambda: not served(app, one), 300, "it is still connected")
    finally:
        one.close()


def test_a_hidden_page_is_sent_no_pictures(app: RunningApp) -> None:
    light_wall(app, "127.0.96.4", [[0, 200, 100, 40]])

    async def kinds(pictures: bool) -> set[str]:
        async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", max_size=None, close_timeout=0.5) as live:
            await live.send(json.dumps({"type": "watch", "pictures": pictures, "levels": [1], "cells": True}))
            kinds: list[str] = []
            while kinds.count("status") < 8:  # four a second, where the machine gives them time
                message = await asyncio.wait_for(live.recv(), PATIENT_S)
                kinds.append("pictures" if isinstance(message, bytes) else json.loads(message)["type"])
            third = [n for n, kind in enumerate(kinds) if kind == "status"][2]
            return set(kinds[third:])  # what came before was on its way before the wish was read

    assert "pictures" in asyncio.run(kinds(True))
    assert asyncio.run(kinds(False)) == {"status"}


def test_the_engines_own_messages_are_no_commands(app: RunningApp) -> None:
    """A page may not replace the rig, nor send what only our processes send."""
    light_wall(app, "127.0.96.5", [[0, 200, 100, 40]])
    before = running(app)

    async def refused(command: dict[str, Any]) -> dict[str, Any]:
        async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", max_size=None, close_timeout=0.5) as live:
            await live.send(json.dumps({"type": "command", "command": command}))
            while True:
                message = await asyncio.wait_for(live.recv(), PATIENT_S)
                if isinstance(message, str) and (told := json.loads(message))["type"] == "error":
                    return dict(told)

    for command in (
        {"do": "adopt", "manifest": {}, "revision": 1},
        {"do": "sections", "sections": []},
        {"do": "card", "address": "127.0.0.1"},
        {"do": "walk", "walk": {"channels": ["1.1"]}},
        on("x"),
        {"do": "manual", "values": {"a/1": 999}},
        {"do": "arm", "fixtures": [], "lease": "0" * 16},
        {"do": "step_time", "frames": 10**12},
    ):
        assert asyncio.run(refused(command))["what"]
    after = running(app)
    assert after["cells"] == before["cells"]
    assert after["revision"] >= before["revision"] > 1  # an edit may have come meanwhile; what was asked for is 1
    assert after["state"]["running"]
