"""The live connection of a browser: pictures and levels out, gestures and commands in.

Binary messages go out at most 30 times a second, newest first: a slow browser misses frames, it is
never behind. JSON messages tell what changed and what plays.
"""

from __future__ import annotations

import asyncio
import base64
import contextlib
import itertools
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID

import orjson
from starlette.concurrency import run_in_threadpool
from starlette.websockets import WebSocket, WebSocketDisconnect

from heliograph.api.context import Context
from heliograph.api.preview import cells_message, levels_message, pictures_message
from heliograph.core.dmx import UNIVERSE_MAX
from heliograph.core.errors import HeliographError

PICTURE_S = 1 / 30
HANDED_S = 2.0
"""A gesture that is stored is let go of after so long at the latest, even where the engine does not answer."""

STATUS_S = 0.25
PREVIEW_S = 1 / 10
NO_MESSAGE = 1003
"""Close code for data that cannot be accepted (RFC 6455, 7.4.1)."""

LEVELS_WATCHED = 32
"""Universes whose values go out at once: 32 at 30 a second are half a megabyte a second."""

LOOKS_SHOWN = 24
"""Looks of the list that move at once; the others show when they are scrolled to."""


@dataclass(slots=True, eq=False)
class Browser:
    """One connected browser and what it wants to see."""

    socket: WebSocket
    key: str = ""
    name: str = ""
    full: set[bytes] = field(default_factory=set)
    levels: set[int] = field(default_factory=set)
    pictures: bool = True
    cells: bool = False
    look: str = ""
    looks: list[str] = field(default_factory=list)
    seen_frame: int = -1
    gestures: dict[str, int] = field(default_factory=dict)
    """Looks being moved by this browser, and which of all moves was the last."""
    highlights: bool = False


class LiveHub:
    """All connected browsers."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self.browsers: set[Browser] = set()
        self._loop: asyncio.AbstractEventLoop | None = None
        self._status: dict[str, Any] = {}
        self._endings: set[asyncio.Task[None]] = set()
        self._moves = itertools.count()

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
        senders = [asyncio.create_task(task(browser)) for task in (self._send_pictures, self._send_previews)]
        try:
            while True:
                await self._take(browser, orjson.loads(await socket.receive_text()))
        except (WebSocketDisconnect, RuntimeError):
            pass
        except (ValueError, KeyError, TypeError, AttributeError):
            with contextlib.suppress(RuntimeError):
                await socket.close(NO_MESSAGE, "This message is none of Heliograph's.")
        finally:
            for sender in senders:
                sender.cancel()
            self.browsers.discard(browser)
            for look in list(browser.gestures):
                await self._gesture(browser, {"do": "end_gesture", "look": look})
            if browser.highlights:  # it was held by this browser, and nobody can let it go any more
                await self._ask(browser, {"do": "highlight", "fixtures": []})

    async def _send_pictures(self, browser: Browser) -> None:
        clock = asyncio.get_running_loop()
        due = clock.time()
        with contextlib.suppress(WebSocketDisconnect, RuntimeError):
            while True:
                frame = self._context.frames.read()
                if frame is not None and frame.number != browser.seen_frame:
                    browser.seen_frame = frame.number
                    pictures = self._context.pictures
                    if browser.pictures and pictures is not None:
                        await browser.socket.send_bytes(pictures_message(pictures, frame, browser.full))
                        if browser.cells:
                            await browser.socket.send_bytes(cells_message(pictures, frame))
                    for universe in list(browser.levels):
                        await browser.socket.send_bytes(levels_message(frame, universe))
                due = max(due + PICTURE_S, clock.time())  # on a grid: a sleep after the work would drift to 24 a second
                await asyncio.sleep(due - clock.time())

    async def _send_previews(self, browser: Browser) -> None:
        """Pictures from the preview process, as fast as it makes them but at most ten a second."""
        clock = asyncio.get_running_loop()
        with contextlib.suppress(WebSocketDisconnect, RuntimeError):
            while True:
                due = clock.time() + PREVIEW_S
                if browser.look or browser.looks:
                    message = {"do": "pictures", "look": browser.look, "looks": browser.looks}
                    with contextlib.suppress(HeliographError):
                        made = (await run_in_threadpool(self._context.preview.ask, message))["pictures"]
                        if made:
                            await browser.socket.send_bytes(base64.b64decode(made))
                await asyncio.sleep(max(due - clock.time(), 0.01))

    async def _take(self, browser: Browser, message: dict[str, Any]) -> None:
        match message["type"]:
            case "hello":
                browser.key, browser.name = str(message["person"])[:64], str(message.get("name", ""))[:60]
            case "watch":
                browser.full = {UUID(key).bytes for key in message.get("full", [])}
                browser.levels = {
                    int(u) for u in message.get("levels", [])[:LEVELS_WATCHED] if 1 <= int(u) <= UNIVERSE_MAX
                }
                browser.pictures = bool(message.get("pictures", True))
                browser.cells = bool(message.get("cells", False))
                browser.look = str(UUID(message["look"])) if message.get("look") else ""
                browser.looks = [str(UUID(key)) for key in message.get("looks", [])[:LOOKS_SHOWN]]
            case "gesture":
                look = str(message["look"])
                browser.gestures[look] = next(self._moves)
                await self._gesture(
                    browser,
                    {"do": "gesture", "look": look, "layer": message["layer"], "changes": message["changes"]},
                )
            case "end_gesture":
                ending = asyncio.create_task(self._end_gesture(browser, str(message["look"])))
                self._endings.add(ending)
                ending.add_done_callback(self._endings.discard)
            case "command":
                command = message["command"]
                if command.get("do") == "highlight":
                    browser.highlights = bool(command.get("fixtures"))
                await self._ask(browser, command)

    async def _ask(self, browser: Browser, command: dict[str, Any]) -> None:
        await self._do(browser, self._context.engine.ask, command)

    async def _end_gesture(self, browser: Browser, look: str) -> None:
        """Lets go of what was moved once the engine plays what was stored: before, the lamps would jump back."""
        moved = browser.gestures.get(look)
        await run_in_threadpool(self._context.publisher.wait_handed, HANDED_S)
        if moved is not None and browser.gestures.get(look) == moved:  # not moved again meanwhile
            del browser.gestures[look]
            await self._gesture(browser, {"do": "end_gesture", "look": look})

    async def _gesture(self, browser: Browser, message: dict[str, Any]) -> None:
        await self._do(browser, self._context.gesture, message)

    async def _do(self, browser: Browser, what: Callable[[dict[str, Any]], Any], message: dict[str, Any]) -> None:
        """Does it in a thread; what was wrong goes back to the browser that asked."""
        try:
            await run_in_threadpool(what, message)
        except HeliographError as error:
            told = {"type": "error", "what": error.what, "where": error.where, "repair": error.repair}
            with contextlib.suppress(Exception):
                await browser.socket.send_text(orjson.dumps(told).decode())
