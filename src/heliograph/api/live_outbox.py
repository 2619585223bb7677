"""What waits to be sent to one browser: it never waits for another's.

Of pictures, levels and the status only the newest waits: a slow browser misses some and is never behind. Messages that
tell what changed wait in order; who lets too many of them wait, or reads nothing for too long, is hung up on.
"""

from __future__ import annotations

import asyncio
import contextlib
import os
import socket
from collections import deque
from typing import Any

import msgspec
from starlette.websockets import WebSocket

WAITING_MAX = 200
SEND_S = 10.0
"""A browser that takes nothing for so long has been left; its page connects again when it is looked at."""

GOING_AWAY = 1001
"""Close code of an end that goes away (RFC 6455, 7.4.1)."""


def as_text(told: dict[str, Any]) -> str:
    """JSON of what processes answered and more."""
    return msgspec.json.encode(told).decode()


def cut(client: tuple[str, int]) -> None:
    """Ends the connection with a client at once. Closing it politely waits behind all it does not read: such a page
    stayed connected for minutes."""
    for name in os.listdir("/proc/self/fd"):
        with contextlib.suppress(OSError), socket.socket(fileno=os.dup(int(name))) as one:
            if one.getpeername()[:2] == client:
                one.shutdown(socket.SHUT_RDWR)


class Outbox:
    def __init__(self, socket: WebSocket) -> None:
        self._socket = socket
        self._ordered: deque[str] = deque()
        self._newest: dict[str, str | bytes] = {}
        self._there = asyncio.Event()
        self._full = False

    def tell(self, text: str) -> None:
        """A message that must arrive, in order."""
        if len(self._ordered) >= WAITING_MAX:
            self._full = True
        else:
            self._ordered.append(text)
        self._there.set()

    def show(self, kind: str, message: str | bytes) -> None:
        """The newest of a kind; one before it that is not sent yet is dropped."""
        self._newest[kind] = message
        self._there.set()

    def forget(self, kind: str) -> None:
        self._newest.pop(kind, None)

    async def run(self) -> None:
        """Sends until the connection ends; hangs up on a browser that does not read."""
        try:
            while True:
                await self._there.wait()
                self._there.clear()
                while not self._full and (self._ordered or self._newest):
                    if self._ordered:
                        message: str | bytes = self._ordered.popleft()
                    else:
                        message = self._newest.pop(next(iter(self._newest)))
                    async with asyncio.timeout(SEND_S):
                        await self._send(message)
                if self._full:
                    raise TimeoutError
        except TimeoutError:
            with contextlib.suppress(Exception):
                async with asyncio.timeout(1.0):
                    await self._socket.close(GOING_AWAY, "This page reads nothing.")
            if self._socket.client is not None:
                cut((self._socket.client.host, self._socket.client.port))

    async def _send(self, message: str | bytes) -> None:
        if isinstance(message, str):
            await self._socket.send_text(message)
        else:
            await self._socket.send_bytes(message)
