"""Requests between our processes over Unix sockets: length-prefixed JSON, one answer each.

A message may carry file descriptors (sockets of network cards, handed on by the supervisor).
"""

from __future__ import annotations

import contextlib
import os
import socket
import struct
import threading
from collections.abc import Callable
from typing import Any

import orjson

from heliograph.core.errors import HeliographError, UnavailableError

Message = dict[str, Any]
Handler = Callable[[Message, list[int]], Message]

MESSAGE_MAX = 256 * 1024 * 1024
"""Bytes of one message: a show of 2,048 universes is about 40 MB."""

_LENGTH = struct.Struct("<I")
_FDS_MAX = 16


class ControlServer:
    """Answers messages on a Unix socket, each connection in a thread of its own."""

    def __init__(self, path: str, handler: Handler) -> None:
        self._path = path
        self._handler = handler
        with contextlib.suppress(FileNotFoundError):
            os.unlink(path)
        self._listener = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
        self._listener.bind(path)
        os.chmod(path, 0o600)
        self._listener.listen(16)
        self._closing = False

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
                _send(connection, orjson.dumps(self._answer(raw, fds)))

    def _answer(self, raw: bytes, fds: list[int]) -> Message:
        try:
            return {"ok": True, **self._handler(orjson.loads(raw), fds)}
        except HeliographError as error:
            return {
                "ok": False,
                "kind": type(error).__name__,
                "what": error.what,
                "where": error.where,
                "repair": error.repair,
            }
        except (KeyError, TypeError, ValueError) as error:
            return {"ok": False, "kind": "InputError", "what": f"The command cannot be read: {error!r}."}


class ControlClient:
    """Asks a process; connects on the first question and again after a loss. Safe from many threads."""

    def __init__(self, path: str, name: str, timeout_s: float = 5.0) -> None:
        self._path, self._name, self._timeout_s = path, name, timeout_s
        self._lock = threading.Lock()
        self._connection: socket.socket | None = None

    def ask(self, message: Message, fds: list[int] | None = None) -> Message:
        """The answer; raises the error the process answered, or UnavailableError where none came."""
        payload = orjson.dumps(message)
        with self._lock:
            try:
                answer = self._exchange_again(payload, fds or [])
            except (OSError, EOFError) as error:
                self._drop()
                raise UnavailableError(
                    f"The {self._name} does not answer at the moment.",
                    repair="It is restarted by itself; try again in two seconds.",
                ) from error
        if not answer.pop("ok"):
            raise _error_of(answer)
        return answer

    def _exchange_again(self, payload: bytes, fds: list[int]) -> Message:
        """A connection from before a restart of the process is dead: then once more on a new one."""
        known = self._connection is not None
        try:
            return self._exchange(payload, fds)
        except (ConnectionError, EOFError):
            if not known:
                raise
            self._drop()
            return self._exchange(payload, fds)

    def _exchange(self, payload: bytes, fds: list[int]) -> Message:
        if self._connection is None:
            connection = socket.socket(socket.AF_UNIX, socket.SOCK_STREAM)
            connection.settimeout(self._timeout_s)
            try:
                connection.connect(self._path)
            except OSError:
                connection.close()
                raise
            self._connection = connection
        _send(self._connection, payload, fds)
        raw, _ = _receive(self._connection)
        answer: Message = orjson.loads(raw)
        return answer

    def _drop(self) -> None:
        if self._connection is not None:
            self._connection.close()
            self._connection = None

    def close(self) -> None:
        with self._lock:
            self._drop()


def _error_of(answer: Message) -> HeliographError:
    kinds = {cls.__name__: cls for cls in HeliographError.__subclasses__()}
    kind = kinds.get(answer.get("kind", ""), HeliographError)
    return kind(answer.get("what", ""), where=answer.get("where", ""), repair=answer.get("repair", ""))


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
