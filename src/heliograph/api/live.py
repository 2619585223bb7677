"""The live connection of a browser: pictures and levels out, gestures and commands in.

Binary messages go out at most 30 times a second, newest first: a slow browser misses frames, it is
never behind. JSON messages tell what changed and what plays.
"""

from __future__ import annotations

import asyncio
import contextlib
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

import orjson
from starlette.concurrency import run_in_threadpool
from starlette.websockets import WebSocket, WebSocketDisconnect

from heliograph.api.context import Context
from heliograph.api.preview import levels_message, pictures_message
from heliograph.core.dmx import UNIVERSE_MAX
from heliograph.core.errors import HeliographError

PICTURE_S = 1 / 30
STATUS_S = 0.25


@dataclass(slots=True, eq=False)
class Browser:
    """One connected browser and what it wants to see."""

    socket: WebSocket
    key: str = ""
    name: str = ""
    full: set[bytes] = field(default_factory=set)
    levels: set[int] = field(default_factory=set)
    pictures: bool = True
    seen_frame: int = -1
    gestures: set[str] = field(default_factory=set)


class LiveHub:
    """All connected browsers."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self.browsers: set[Browser] = set()
        self._loop: asyncio.AbstractEventLoop | None = None
        self._status: dict[str, Any] = {}

    def tell(self, message: dict[str, Any]) -> None:
        """Sends a JSON message to everybody; safe from any thread."""
        if self._loop is not None:
            self._loop.call_soon_threadsafe(lambda: asyncio.ensure_future(self._tell(message)))

    async def _tell(self, message: dict[str, Any]) -> None:
        text = orjson.dumps(message).decode()
        for browser in list(self.browsers):
            with contextlib.suppress(Exception):
                await browser.socket.send_text(text)

    async def run(self) -> None:
        """Status of all processes, four times a second, for all browsers at once."""
        self._loop = asyncio.get_running_loop()
        while True:
            if self.browsers:
                self._status = await run_in_threadpool(self._context.live_status)
                self._status["people"] = len({browser.key or id(browser) for browser in self.browsers})
                await self._tell({"type": "status", **self._status})
            await asyncio.sleep(STATUS_S)

    async def serve(self, socket: WebSocket) -> None:
        await socket.accept()
        browser = Browser(socket)
        self.browsers.add(browser)
        sender = asyncio.create_task(self._send_pictures(browser))
        try:
            while True:
                await self._take(browser, orjson.loads(await socket.receive_text()))
        except (WebSocketDisconnect, ValueError, KeyError, RuntimeError):
            pass
        finally:
            sender.cancel()
            self.browsers.discard(browser)
            for look in browser.gestures:
                await self._ask(browser, {"do": "end_gesture", "look": look})

    async def _send_pictures(self, browser: Browser) -> None:
        clock = asyncio.get_running_loop()
        due = clock.time()
        with contextlib.suppress(WebSocketDisconnect, RuntimeError):
            while True:
                frame = self._context.frames.read()
                if frame is not None and frame.number != browser.seen_frame:
                    browser.seen_frame = frame.number
                    if browser.pictures:
                        await browser.socket.send_bytes(pictures_message(self._context.plans, frame, browser.full))
                    for universe in list(browser.levels):
                        await browser.socket.send_bytes(levels_message(frame, universe))
                due = max(due + PICTURE_S, clock.time())  # on a grid: a sleep after the work would drift to 24 a second
                await asyncio.sleep(due - clock.time())

    async def _take(self, browser: Browser, message: dict[str, Any]) -> None:
        match message["type"]:
            case "hello":
                browser.key, browser.name = str(message["person"])[:64], str(message.get("name", ""))[:60]
            case "watch":
                browser.full = {UUID(key).bytes for key in message.get("full", [])}
                browser.levels = {int(u) for u in message.get("levels", [])[:8] if 1 <= int(u) <= UNIVERSE_MAX}
                browser.pictures = bool(message.get("pictures", True))
            case "gesture":
                look = str(message["look"])
                browser.gestures.add(look)
                await self._ask(
                    browser,
                    {"do": "gesture", "look": look, "layer": message["layer"], "changes": message["changes"]},
                )
            case "end_gesture":
                browser.gestures.discard(str(message["look"]))
                await self._ask(browser, {"do": "end_gesture", "look": str(message["look"])})
            case "command":
                await self._ask(browser, message["command"])

    async def _ask(self, browser: Browser, command: dict[str, Any]) -> None:
        try:
            await run_in_threadpool(self._context.engine.ask, command)
        except HeliographError as error:
            with contextlib.suppress(Exception):
                await browser.socket.send_text(
                    orjson.dumps(
                        {"type": "error", "what": error.what, "where": error.where, "repair": error.repair}
                    ).decode()
                )
