"""Requests between our processes over Unix sockets: length-prefixed JSON of one schema (`ipc/messages`), one answer
each.

Every request has an id. Where its answer got lost it is asked for `again`: then only what was answered comes back, and
nothing is done twice. A request may carry file descriptors (sockets of network cards, handed on by the supervisor).
"""

from __future__ import annotations

import contextlib
import os
import queue
import socket
import struct
import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any
from uuid import uuid4

import msgspec
import structlog

from heliograph.core.errors import HeliographError, InputError, UnavailableError
from heliograph.ipc.messages.base import A_co, Answer, Answered, Asked, Done, Request, refused
from heliograph.ipc.patience import ANSWER_S, FACTOR

Handler = Callable[[Any, list[int]], Answer | None]
"""From a request, one of those a server was told of, and descriptors to its answer; None where it just was done."""

MESSAGE_MAX = 256 * 1024 * 1024
"""Bytes of one message: a show of 2,048 universes is about 40 MB."""

_LENGTH = struct.Struct("<I")
_FDS_MAX = 16


ANSWERS_KEPT = 512
ANSWER_BYTES_KEPT = 64 * 1024
_encoder = msgspec.json.Encoder()
_asked = msgspec.json.Decoder(Asked)
_answered = msgspec.json.Decoder(Answered)
UNKNOWN = _encoder.encode(
    refused(
        UnavailableError(
            "Whether that was done is not known: the answer got lost.", repair="Look at what the screen says now."
        )
    )
)


@dataclass(slots=True)
class _Answer:
    """What a request got; `raw` is empty until it is there."""

    raw: bytes = b""
    there: threading.Event = field(default_factory=threading.Event)


class ControlServer:
    """Answers requests on a Unix socket, each connection in a thread of its own. `requests`: the union of those it
    knows."""

    def __init__(self, path: str, requests: Any, handler: Handler) -> None:
        self._path = path
        self._requests = msgspec.json.Decoder(requests)
        self._handler = handler
        with contextlib.suppress(FileNotFoundError):
            os.unlink(path)
        self._listener = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        self._listener.bind(path)
        os.chmod(path, 0o600)
        self._listener.listen(16)
        self._closing = False
        self._lock = threading.Lock()
        self._answers: OrderedDict[str, _Answer] = OrderedDict()

    def start(self) -> None:
        threading.Thread(target=self._accept, name="control", daemon=True).start()

    def close(self) -> None:
        self._closing = True
        self._listener.close()
        with contextlib.suppress(FileNotFoundError):
            os.unlink(self._path)

    def _accept(self) -> None:
        while not self._closing:
            try:
                connection, _ = self._listener.accept()
            except OSError:
                return
            threading.Thread(target=self._serve, args=(connection,), daemon=True).start()

    def _serve(self, connection: socket.socket) -> None:
        with connection, contextlib.suppress(OSError, EOFError, struct.error):
            while True:
                raw, fds = _receive(connection)
                _send(connection, self._answer_once(raw, fds))

    def _answer(self, raw: msgspec.Raw, fds: list[int]) -> Answered:
        try:
            answer = self._handler(self._read(raw), fds)
            return Answered(True, msgspec.Raw(_encoder.encode(Done() if answer is None else answer)))
        except HeliographError as error:
            return refused(error)
        except Exception as error:  # ours: whoever asked did nothing wrong, and the process goes on
            structlog.get_logger("control").exception("a command failed", exc_info=error)
            return Answered(
                False,
                kind="InternalError",
                what="Something went wrong in Heliograph itself; it is in the log.",
            )

    def _read(self, raw: msgspec.Raw) -> Request[Answer]:
        try:
            request: Request[Answer] = self._requests.decode(raw)
        except msgspec.ValidationError as error:
            raise InputError(f"That request is not known here: {error}.", where="do") from error
        return request

    def _answer_once(self, raw: bytes, fds: list[int]) -> bytes:
        """The answer to a request; to one that asks again, what it was answered (waited for if need be)."""
        try:
            asked = _asked.decode(raw)
        except msgspec.DecodeError:
            return _encoder.encode(Answered(False, kind="InternalError", what="The request is no message."))
        key, again = asked.id, asked.again
        with self._lock:
            known = self._answers.get(key)
            if not again and known is None:
                known = self._answers[key] = _Answer()
                while len(self._answers) > ANSWERS_KEPT:
                    self._answers.popitem(last=False)
                mine = True
            else:
                mine = False
        if not mine:
            if known is not None:
                known.there.wait(ANSWER_S)
            return known.raw if known is not None and known.raw else UNKNOWN
        assert known is not None
        answer = _encoder.encode(self._answer(asked.ask, fds))
        known.raw = answer if len(answer) <= ANSWER_BYTES_KEPT else UNKNOWN
        known.there.set()
        return answer


class ControlClient:
    """Asks a process; connects on the first question and again after a loss. Safe from many threads."""

    def __init__(self, path: str, name: str, timeout_s: float = 5.0) -> None:
        """`timeout_s`: for one answer, on a quiet machine."""
        self._path, self._name, self._timeout_s = path, name, timeout_s * FACTOR
        self._lock = threading.Lock()
        self._connection: socket.socket | None = None

    def ask(self, request: Request[A_co], fds: list[int] | None = None) -> A_co:
        """The answer; raises the error the process answered, or UnavailableError where none came."""
        asked = Asked(uuid4().hex, msgspec.Raw(_encoder.encode(request)))
        with self._lock:
            try:
                answered = self._exchange_again(asked, fds or [])
            except (OSError, EOFError, msgspec.DecodeError) as error:
                self._drop()
                raise UnavailableError(
                    f"The {self._name} does not answer at the moment.",
                    repair="It is restarted by itself; try again in two seconds.",
                ) from error
        if not answered.ok:
            raise answered.error
        answer: A_co = msgspec.json.decode(answered.answer, type=request.answers)
        return answer

    def _exchange_again(self, asked: Asked, fds: list[int]) -> Answered:
        """A connection that is dead already, from before a restart of the process, is made anew: nothing was asked
        yet. Where only the answer is missing it is asked for, and nothing is done twice."""
        try:
            self._send(asked, fds)
        except (ConnectionError, EOFError):
            self._drop()
            self._send(asked, fds)
        assert self._connection is not None
        try:
            raw, _ = _receive(self._connection)
        except (ConnectionError, EOFError):
            self._drop()
            self._send(Asked(asked.id, again=True), [])
            raw, _ = _receive(self._connection)
        return _answered.decode(raw)

    def _send(self, asked: Asked, fds: list[int]) -> None:
        _send(self._connected(), _encoder.encode(asked), fds)

    def _connected(self) -> socket.socket:
        if self._connection is None:
            connection = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
            connection.settimeout(self._timeout_s)
            try:
                connection.connect(self._path)
            except OSError:
                connection.close()
                raise
            self._connection = connection
        return self._connection

    def _drop(self) -> None:
        if self._connection is not None:
            self._connection.close()
            self._connection = None

    def close(self) -> None:
        with self._lock:
            self._drop()


class ControlClients:
    """Several connections to one process: so many may ask at once, and none waits for another's answer."""

    def __init__(self, path: str, name: str, count: int, timeout_s: float = 5.0) -> None:
        self._free: queue.LifoQueue[ControlClient] = queue.LifoQueue()
        for _ in range(count):
            self._free.put(ControlClient(path, name, timeout_s))

    def ask(self, request: Request[A_co]) -> A_co:
        """As `ControlClient.ask`; waits where all connections are in use."""
        client = self._free.get()
        try:
            return client.ask(request)
        finally:
            self._free.put(client)


def _send(connection: socket.socket, payload: bytes, fds: list[int] | None = None) -> None:
    data = _LENGTH.pack(len(payload)) + payload
    if fds:
        sent = socket.send_fds(connection, [data], fds)
        data = data[sent:]
    connection.sendall(data)


def _receive(connection: socket.socket) -> tuple[bytes, list[int]]:
    buffer = bytearray()
    fds: list[int] = []
    need = _LENGTH.size
    while len(buffer) < need:
        chunk, more, _, _ = socket.recv_fds(connection, min(1 << 20, max(need - len(buffer), 4096)), _FDS_MAX)
        fds.extend(more)
        if not chunk:
            raise EOFError
        buffer += chunk
        if need == _LENGTH.size and len(buffer) >= need:
            length = _LENGTH.unpack_from(buffer)[0]
            if length > MESSAGE_MAX:
                raise EOFError
            need += length
    return bytes(buffer[_LENGTH.size :]), fds
