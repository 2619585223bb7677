"""Answers that are given before the application is asked, the headers of all answers, and how large a body may be."""

from __future__ import annotations

from collections.abc import Iterable

import orjson
from starlette.types import Message, Receive, Scope, Send

JSON_MAX = 8 * 1024**2
UPLOAD_MAX = 16 * 1024**3
"""A show file with its clips; what a clip or a picture may be is said where it is taken."""

POLICY = (
    "default-src 'self'; script-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; "
    "font-src 'self' data:; connect-src 'self' ws: wss:; object-src 'none'; base-uri 'none'; form-action 'self'; "
    "frame-ancestors 'none'"
)
"""Content Security Policy Level 3 (W3C). Styles are written into the page by the component library; scripts never."""

SECURITY_HEADERS: tuple[tuple[bytes, bytes], ...] = (
    (b"content-security-policy", POLICY.encode()),
    (b"x-content-type-options", b"nosniff"),
    (b"x-frame-options", b"DENY"),
    (b"referrer-policy", b"no-referrer"),
    (b"cross-origin-resource-policy", b"same-origin"),
    (b"cross-origin-opener-policy", b"same-origin"),
)

TOO_LARGE = (
    413,
    f"The request is larger than is taken here: {JSON_MAX // 1024**2} MB, or {UPLOAD_MAX // 1024**3} GB for files.",
    "Send it in parts.",
)


class BodyLimit:
    """Counts a body while it arrives, whatever its length header says. `receive` stands in for the server's own."""

    def __init__(self, scope: Scope, headers: dict[str, str], receive: Receive) -> None:
        self._receive = receive
        is_form = headers.get("content-type", "").startswith("multipart/")
        self._most = UPLOAD_MAX if is_form else JSON_MAX
        self._got = 0
        said = headers.get("content-length", "0")
        self.is_too_large = not said.isdigit() or int(said) > self._most

    async def receive(self) -> Message:
        message = await self._receive()
        if message["type"] == "http.request":
            self._got += len(message.get("body", b""))
            if self._got > self._most:
                self.is_too_large = True
                return {"type": "http.request", "body": b"", "more_body": False}
        return message


async def refuse(scope: Scope, receive: Receive, send: Send, status: int, what: str, repair: str) -> None:
    """The sentence as any fault of the API has it; a WebSocket is closed with it."""
    if scope["type"] == "websocket":
        await receive()
        await send({"type": "websocket.close", "code": 4401 if status == 401 else 4403, "reason": what[:120]})
        return
    body = orjson.dumps({"what": what, "where": "access" if status != 413 else "size", "repair": repair})
    headers: Iterable[tuple[bytes, bytes]] = [(b"content-type", b"application/json"), *SECURITY_HEADERS]
    await send({"type": "http.response.start", "status": status, "headers": list(headers)})
    await send({"type": "http.response.body", "body": body})
