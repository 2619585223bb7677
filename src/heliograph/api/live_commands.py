"""Commands on their way from pages to the engine: what is urgent has a way of its own, everything else waits its turn
in the order of its page, where the latest of a drag stands for all of it."""

from __future__ import annotations

import asyncio
import contextlib
from collections import OrderedDict, deque
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor

import orjson
from pydantic import ValidationError
from starlette.websockets import WebSocket, WebSocketDisconnect

from heliograph.api.access import role_of
from heliograph.api.faults import sentence_of
from heliograph.api.live_outbox import as_text
from heliograph.api.schemas.commands import (
    MOVES_AT_ONCE,
    Command,
    HoldColours,
    MoveHandles,
    SetManual,
    SetRaw,
    TurnHeads,
    UrgentCommand,
    as_request,
)
from heliograph.core.errors import AccessError, HeliographError, InputError, UnavailableError
from heliograph.core.roles import Role, may, refusal
from heliograph.ipc.messages import engine as to_engine
from heliograph.ipc.messages.engine import is_urgent, makes_safe

WAITING_MAX = 1_000
"""Commands of one page that may wait: more are no hand's."""

URGENT_THREADS = 4
URGENT_KEPT = 256
"""Urgent commands whose answer is remembered, for whoever asks again."""

URGENT_MESSAGE_MAX = 4_096
URGENT_SOCKETS_MAX = 400

TOO_MANY = 1013
"""Close code "try again later" (registered with IANA for RFC 6455)."""

NO_MESSAGE = 1003
"""Close code for data that cannot be accepted (RFC 6455, 7.4.1)."""


class Waiting:
    """Commands of one page in their order. A drag's move that has not been told yet takes in the next one."""

    def __init__(self) -> None:
        self._commands: deque[tuple[Command, bool, int]] = deque()
        self._there = asyncio.Event()

    def add(self, command: Command, latest: bool, made_safe: int = 0) -> bool:
        """`latest`: of a drag, of which only the newest value counts. `made_safe`: as of `Urgent`. False where too many
        wait."""
        if latest and self._commands and self._commands[-1][1]:
            both = _merged(self._commands[-1][0], command)
            if both is not None:
                self._commands[-1] = (both, True, made_safe)
                return True
        if len(self._commands) >= WAITING_MAX:
            return False
        self._commands.append((command, latest, made_safe))
        self._there.set()
        return True

    async def next(self) -> tuple[Command, int]:
        """The next command, and what `made_safe` was when it came."""
        while not self._commands:
            self._there.clear()
            await self._there.wait()
        command, _, made_safe = self._commands.popleft()
        return command, made_safe


def _merged(before: Command, after: Command) -> Command | None:
    """One command that does what both would; None where they are of different kinds."""
    match before, after:
        case MoveHandles(), MoveHandles():
            moves = {one.handle: one for one in (*before.moves, *after.moves)}
            if len(moves) > MOVES_AT_ONCE:
                return None
            return after.model_copy(update={"moves": list(moves.values())})
        case SetManual(), SetManual():
            values = {key: one for key, one in before.values.items() if key not in after.levels} | after.values
            levels = {key: one for key, one in before.levels.items() if key not in after.values} | after.levels
            return after.model_copy(update={"values": values, "levels": levels})
        case SetRaw(), SetRaw():
            return after.model_copy(update={"values": before.values | after.values})
        case HoldColours(), HoldColours() if (before.drag, before.what) == (after.drag, after.what):
            return after
        case TurnHeads(), TurnHeads() if before.drag == after.drag:
            return after
    return None


class Urgent:
    """What makes dark, safe or still, from a page to the engine: threads, connections and a socket of its own, and an
    answer for each, so that it can be asked again until it is there."""

    def __init__(self, command: Callable[[to_engine.Command], to_engine.StateAnswer]) -> None:
        self._command = command
        self.threads = ThreadPoolExecutor(URGENT_THREADS, "urgent")
        self._known: OrderedDict[str, asyncio.Future[str]] = OrderedDict()
        self._sockets = 0
        self.made_safe = 0
        """How often somebody made all lasers safe: what waited to arm them then is too late."""

    async def serve(self, socket: WebSocket) -> None:
        """Messages {id, command}; answers {id, type: "state" | "error", ...}. An id that is known is not done twice."""
        await socket.accept()
        if self._sockets >= URGENT_SOCKETS_MAX:
            await socket.close(TOO_MANY, f"{URGENT_SOCKETS_MAX} pages are connected already.")
            return
        self._sockets += 1
        try:
            while len(text := await socket.receive_text()) <= URGENT_MESSAGE_MAX:
                await self._answer(socket, text)  # one after another: a press must not overtake the one before it
        except (WebSocketDisconnect, RuntimeError):
            pass
        finally:
            self._sockets -= 1

    async def _answer(self, socket: WebSocket, text: str) -> None:
        try:
            body = UrgentCommand.model_validate_json(text)
        except ValidationError as error:
            with contextlib.suppress(RuntimeError):
                await socket.close(NO_MESSAGE, sentence_of(error)["what"][:100])
            return
        with contextlib.suppress(RuntimeError, WebSocketDisconnect):
            await socket.send_text(await self.asked(body, role_of(socket.scope)))

    def note(self, request: to_engine.Command) -> None:
        """To be called as soon as a command is there, before it waits for anything."""
        self.made_safe += makes_safe(request)

    async def asked(self, body: UrgentCommand, role: Role) -> str:
        """What it came to, as JSON."""
        known = self._known.get(body.id)
        if known is None:
            known = self._known[body.id] = asyncio.ensure_future(self._done(body.id, body.command, role))
            while len(self._known) > URGENT_KEPT:
                self._known.popitem(last=False)
        return await asyncio.shield(known)

    async def _done(self, key: str, command: Command, role: Role) -> str:
        try:
            request = as_request(command, role=role)
            self.note(request)
            if not is_urgent(request):
                raise InputError("Only what makes dark, safe or still goes this way.", where="do")
            if not may(role, command.needs):
                raise AccessError(refusal(role, command.needs), where="access")
            state = (await asyncio.get_running_loop().run_in_executor(self.threads, self._command, request)).state
        except HeliographError as error:
            self._known.pop(key, None)  # it may be asked again, and then be possible
            again = isinstance(error, UnavailableError)
            return orjson.dumps({"id": key, "type": "error", "again": again, **sentence_of(error)}).decode()
        return as_text({"id": key, "type": "state", "state": state})
