"""The live connection of a browser: pictures and levels out, commands in.

Binary messages go out at most 30 times a second, newest first. JSON messages tell what changed and what plays. Every
browser has an outbox of its own, and commands a few threads of their own: whoever is slow delays nobody else.
"""

from __future__ import annotations

import asyncio
import contextlib
import itertools
from collections.abc import Awaitable, Callable, Coroutine
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field
from typing import Any
from uuid import UUID, uuid4

import orjson
import structlog
from pydantic import ValidationError
from starlette.websockets import WebSocket, WebSocketDisconnect

from heliograph.api.access import role_of
from heliograph.api.context import ENGINE_CONNECTIONS, STATUS, Context
from heliograph.api.faults import sentence_of
from heliograph.api.live_commands import NO_MESSAGE, TOO_MANY, Urgent, Waiting
from heliograph.api.live_outbox import Outbox, as_text
from heliograph.api.live_pages import LivePages
from heliograph.api.live_pictures import LEVELS_WATCHED, LOOKS_SHOWN, LivePictures, Watched
from heliograph.api.schemas.commands import COMMAND, Arm, Command, Highlight, LetGo, MoveHandles, as_request
from heliograph.core.errors import AccessError, HeliographError
from heliograph.core.handles import is_held
from heliograph.core.patch.dmx import UNIVERSE_MAX
from heliograph.core.roles import Role, may, refusal
from heliograph.ipc.messages import engine as to_engine
from heliograph.ipc.messages.engine import TOO_LATE, is_urgent

PICTURE_S = 1 / 30
HANDED_S = 2.0
"""What is stored is let go of after so long at the latest, even where the engine does not answer."""

STATUS_S = 0.25
PREVIEW_S = 1 / 10
PAGES_S = 1 / 10
AFTER_FAULT_S = 1.0
FULL_S = 0.02
BROWSERS_MAX = 200
COMMAND_THREADS = ENGINE_CONNECTIONS


log = structlog.get_logger("web")


@dataclass(slots=True, eq=False)
class Browser:
    """One connected browser and what it wants to see."""

    socket: WebSocket
    outbox: Outbox
    role: Role
    key: str = ""
    name: str = ""
    watched: Watched = field(default_factory=Watched)
    hand: str = field(default_factory=lambda: uuid4().hex)
    """Whose hand holds what this page moves."""
    moved: dict[str, int] = field(default_factory=dict)
    """Handles held by this page, and which of all moves was the last."""
    highlights: bool = False
    page: str = ""
    """The page it has open, by its id."""
    beside: bool = False
    """It shows it beside other things: no tablet."""
    fingers: set[str] = field(default_factory=set)
    waiting: Waiting = field(default_factory=Waiting)


class LiveHub:
    """All connected browsers."""

    def __init__(self, context: Context) -> None:
        self._context = context
        self.browsers: set[Browser] = set()
        self._loop: asyncio.AbstractEventLoop | None = None
        self._parts: dict[str, Any] = dict.fromkeys(STATUS)
        self._endings: set[asyncio.Task[None]] = set()
        self._moves = itertools.count()
        self._pictures = LivePictures(context)
        self._pages = LivePages(context, self._do, self._in_slow)
        self._commands = ThreadPoolExecutor(COMMAND_THREADS, "live-command")
        self._slow = ThreadPoolExecutor(2, "live-slow")
        self.urgent = Urgent(context.command)
        self._threads = {
            name: ThreadPoolExecutor(1, f"live-{name}") for name in (*STATUS, "pictures", "previews", "renew", "pages")
        }

    def tell(self, message: dict[str, Any], but: str = "") -> None:
        """Sends a JSON message to everybody but a person, by the key of theirs; safe from any thread."""
        if self._loop is not None:
            text = orjson.dumps(message).decode()
            self._loop.call_soon_threadsafe(self._tell, text, but)

    def _tell(self, text: str, but: str) -> None:
        for browser in self.browsers:
            if not but or browser.key != but:
                browser.outbox.tell(text)

    async def run(self) -> None:
        """Everything that goes to all browsers, until cancelled."""
        self._loop = asyncio.get_running_loop()
        async with asyncio.TaskGroup() as group:
            for name in STATUS:
                group.create_task(_going_on(self._ask_part, name))
            for task in (self._send_status, self._send_pictures, self._send_previews, self._send_pages):
                group.create_task(_going_on(task))

    async def _in(self, thread: str, run: Callable[..., Any], *arguments: Any) -> Any:
        return await asyncio.get_running_loop().run_in_executor(self._threads[thread], run, *arguments)

    async def _ask_part(self, name: str) -> None:
        """Keeps the newest status of one process, which may hang without holding up the others'."""
        while True:
            if self.browsers:
                self._parts[name] = await self._in(name, self._context.status_of, name)
            await asyncio.sleep(STATUS_S)

    async def _send_status(self) -> None:
        while True:
            if self.browsers:
                people = len({browser.key or id(browser) for browser in self.browsers})
                revision = self._context.publisher.current.show.get("revision")
                facts = {"type": "status", **self._parts, "revision": revision, "people": people}
                text = as_text(facts)
                for browser in self.browsers:
                    browser.outbox.show("status", text)
            await asyncio.sleep(STATUS_S)

    async def _send_pictures(self) -> None:
        clock = asyncio.get_running_loop()
        due = clock.time()
        while True:
            browsers = list(self.browsers)
            if browsers:
                made = await self._in("pictures", self._pictures.made, [one.watched for one in browsers])
                for browser, messages in zip(browsers, made or (), strict=False):
                    for kind, message in messages.items():
                        browser.outbox.show(kind, message)
            due = max(due + PICTURE_S, clock.time())  # on a grid: a sleep after the work would drift to 24 a second
            await asyncio.sleep(due - clock.time())

    async def _send_previews(self) -> None:
        """Pictures from the preview process, as fast as it makes them but at most ten a second; those who look at the
        same share them."""
        clock = asyncio.get_running_loop()
        while True:
            due = clock.time() + PREVIEW_S
            wanted: dict[tuple[str, tuple[str, ...]], list[Browser]] = {}
            for browser in self.browsers:
                if browser.watched.previews is not None:
                    wanted.setdefault(browser.watched.previews, []).append(browser)
            for (look, looks), watchers in wanted.items():
                made = await self._in("previews", self._pictures.preview, look, looks)
                for browser in watchers:
                    if made:
                        browser.outbox.show("previews", made)
            await asyncio.sleep(max(due - clock.time(), 0.01))

    async def _send_pages(self) -> None:
        """What items are, to those who have their page open."""
        while True:
            watchers = [one for one in self.browsers if one.page]
            everybody = [*self.browsers]
            told = await self._in("pages", self._pages.states, watchers, everybody) if watchers else ()
            for browser, message in told:
                browser.outbox.show("page", message)
            await asyncio.sleep(PAGES_S)

    async def _in_slow(self, run: Callable[..., Any], *arguments: Any) -> Any:
        return await asyncio.get_running_loop().run_in_executor(self._commands, run, *arguments)

    async def serve(self, socket: WebSocket) -> None:
        await socket.accept()
        if len(self.browsers) >= BROWSERS_MAX:
            await socket.close(TOO_MANY, f"{BROWSERS_MAX} pages are connected already.")
            return
        browser = Browser(socket, Outbox(socket), role_of(socket.scope))
        self.browsers.add(browser)
        working = (self._listen(browser), self._work(browser), browser.outbox.run())
        tasks = [asyncio.create_task(one) for one in working]
        try:
            await asyncio.wait(tasks, return_when=asyncio.FIRST_COMPLETED)
        finally:
            self.browsers.discard(browser)
            for task in tasks:
                task.cancel()
            await asyncio.gather(*tasks, return_exceptions=True)
            await self._let_go(browser)

    async def _let_go(self, browser: Browser) -> None:
        """Nobody else could end what this browser held."""
        if browser.moved:
            await self._do(browser, to_engine.LetGo(by=browser.hand))
        for finger in browser.fingers:
            await self._do(browser, to_engine.Lift(finger=finger))
        if browser.highlights:
            await self._do(browser, to_engine.Highlight(fixtures=[]))

    async def _listen(self, browser: Browser) -> None:
        try:
            while True:
                await self._take(browser, orjson.loads(await browser.socket.receive_text()))
        except (WebSocketDisconnect, RuntimeError):
            pass
        except (ValueError, KeyError, TypeError, AttributeError):
            with contextlib.suppress(RuntimeError):
                await browser.socket.close(NO_MESSAGE, "This message is none of Heliograph's.")

    async def _take(self, browser: Browser, message: dict[str, Any]) -> None:
        match message["type"]:
            case "hello":
                browser.key, browser.name = str(message["person"])[:64], str(message.get("name", ""))[:60]
            case "watch":
                browser.watched = _watched(message)
            case "page":
                await self._pages.take(browser, message)
            case "command":
                asked = dict(message["command"])
                try:
                    command: Command = COMMAND.validate_python(asked)
                    if not may(browser.role, command.needs):
                        raise AccessError(refusal(browser.role, command.needs), where="access")
                except (ValidationError, HeliographError) as error:
                    _refuse(browser, sentence_of(error))
                    return
                if is_urgent(request := as_request(command, browser.hand, browser.role)):
                    self.urgent.note(request)
                    self._apart(self._do(browser, request))
                    return
                while not browser.waiting.add(command, bool(message.get("latest")), self.urgent.made_safe):
                    await asyncio.sleep(FULL_S)  # it is read on when there is room
            case kind:
                raise ValueError(kind)

    def _apart(self, doing: Coroutine[Any, Any, None]) -> None:
        """Goes on beside everything else."""
        task = asyncio.create_task(doing)
        self._endings.add(task)
        task.add_done_callback(self._endings.discard)

    async def _work(self, browser: Browser) -> None:
        """A page's commands, one after another; what it sends is read all the while."""
        while True:
            command, made_safe = await browser.waiting.next()
            if isinstance(command, Arm) and made_safe != self.urgent.made_safe:
                _refuse(browser, {"what": TOO_LATE, "where": "fixtures", "repair": "Hold the sign again."})
            else:
                await self._command(browser, command)

    async def _command(self, browser: Browser, command: Command) -> None:
        request = as_request(command, browser.hand, browser.role)
        if isinstance(command, LetGo):
            self._apart(self._end_holding(browser, list(command.handles or browser.moved)))
            return
        if isinstance(command, MoveHandles):
            turn = next(self._moves)
            browser.moved.update((one.handle, turn) for one in command.moves if is_held(one.handle))
        if isinstance(command, Highlight):
            browser.highlights = bool(command.fixtures)
        await self._do(browser, request)

    async def _end_holding(self, browser: Browser, named: list[str]) -> None:
        """Lets go once the engine plays what was stored: before, the lamps would jump back."""
        before = {handle: browser.moved.get(handle) for handle in named}
        loop = asyncio.get_running_loop()
        await loop.run_in_executor(self._slow, self._context.publisher.wait_handed, HANDED_S)
        over = [handle for handle in named if browser.moved.get(handle) == before[handle]]  # not moved again meanwhile
        for handle in over:
            browser.moved.pop(handle, None)
        if over:
            await self._do(browser, to_engine.LetGo(by=browser.hand, handles=over))

    async def _do(self, browser: Browser, request: to_engine.Command) -> None:
        """Does it in a thread; the new state, or what was wrong, goes back to the browser that asked."""
        threads = self._threads["renew"] if isinstance(request, to_engine.Renew) else self._commands
        threads = self.urgent.threads if is_urgent(request) else threads
        try:
            loop = asyncio.get_running_loop()
            answer = await loop.run_in_executor(threads, self._context.command, request)
        except HeliographError as error:
            _refuse(browser, sentence_of(error))
            return
        browser.outbox.show("state", as_text({"type": "state", "state": answer.state}))


async def _going_on(task: Callable[..., Awaitable[None]], *arguments: Any) -> None:
    """Runs what shall run for ever; a fault of ours in one picture or status is written down and is not the end of all
    of them."""
    while True:
        try:
            await task(*arguments)
        except Exception as error:  # the next turn is another chance; every page hangs on these
            log.exception("a part of the live connection failed", exc_info=error)
            await asyncio.sleep(AFTER_FAULT_S)


def _refuse(browser: Browser, told: dict[str, str]) -> None:
    browser.outbox.tell(orjson.dumps({"type": "error", **told}).decode())


def _watched(message: dict[str, Any]) -> Watched:
    levels = (int(one) for one in message.get("levels", [])[:LEVELS_WATCHED])
    return Watched(
        pictures=bool(message.get("pictures", True)),
        full=frozenset(UUID(key).bytes for key in message.get("full", [])[:LOOKS_SHOWN]),
        cells=bool(message.get("cells", False)),
        levels=frozenset(one for one in levels if 1 <= one <= UNIVERSE_MAX),
        look=str(UUID(message["look"])) if message.get("look") else "",
        looks=tuple(str(UUID(key)) for key in message.get("looks", [])[:LOOKS_SHOWN]),
    )
