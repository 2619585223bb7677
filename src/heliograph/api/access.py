"""Who may talk to the web process: Host and Origin are checked on HTTP and WebSocket alike.

On loopback no pass code is asked. Anywhere else every request needs the code, given once and kept in
a cookie of its keyed hash.
"""

from __future__ import annotations

import hashlib
import hmac
import ipaddress
from collections.abc import Iterable
from http.cookies import SimpleCookie
from urllib.parse import urlsplit

import orjson
from starlette.types import ASGIApp, Receive, Scope, Send

from heliograph.api.settings import Settings

COOKIE = "heliograph_pass"
LOOPBACK_NAMES = ("localhost", "127.0.0.1", "[::1]")
OPEN_PATHS = ("/api/pass",)


def pass_token(code: str) -> str:
    """The cookie's value for a pass code: the code itself never leaves the form it was typed into."""
    return hmac.new(code.encode(), b"heliograph pass", hashlib.sha256).hexdigest()


def is_loopback(host: str) -> bool:
    try:
        return ipaddress.ip_address(host).is_loopback
    except ValueError:
        return host == "localhost"


class AccessCheck:
    """ASGI middleware."""

    def __init__(self, app: ASGIApp, settings: Settings) -> None:
        self._app = app
        names = set(LOOPBACK_NAMES) | set(settings.allowed_hosts)
        if settings.host not in ("0.0.0.0", "::"):
            names.add(settings.host)
        self._any_address = settings.host in ("0.0.0.0", "::")
        self._names = names
        self._token = pass_token(settings.pass_code) if settings.pass_code else ""

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        headers = {key.decode("latin1").lower(): value.decode("latin1") for key, value in scope["headers"]}
        problem = self._problem(headers, scope["path"])
        if problem is None:
            await self._app(scope, receive, send)
            return
        status, what, repair = problem
        await _refuse(scope, receive, send, status, what, repair)

    def _problem(self, headers: dict[str, str], path: str) -> tuple[int, str, str] | None:
        host = headers.get("host", "")
        if not self._known_host(host):
            return (
                403,
                f"This server is not called '{host[:80]}'.",
                "Open it by the address it printed when it started.",
            )
        origin = headers.get("origin")
        if origin is not None and urlsplit(origin).netloc != host:
            return 403, f"A page from '{origin[:80]}' may not use this server.", "Open Heliograph in its own tab."
        needs_pass = self._token and path.startswith("/api") and path not in OPEN_PATHS
        if needs_pass and not self._has_pass(headers.get("cookie", "")):
            return 401, "This server asks for its pass code.", "Type the code that was given when it was started."
        return None

    def _known_host(self, host: str) -> bool:
        name = host.rsplit(":", 1)[0] if not host.endswith("]") else host
        if name in self._names:
            return True
        if not self._any_address:
            return False
        try:  # listening everywhere: any of the machine's addresses, but no foreign name (DNS rebinding)
            ipaddress.ip_address(name.strip("[]"))
        except ValueError:
            return False
        return True

    def _has_pass(self, cookie: str) -> bool:
        try:
            morsel = SimpleCookie(cookie).get(COOKIE)
        except Exception:
            return False
        return morsel is not None and hmac.compare_digest(morsel.value, self._token)


async def _refuse(scope: Scope, receive: Receive, send: Send, status: int, what: str, repair: str) -> None:
    if scope["type"] == "websocket":
        await receive()
        await send({"type": "websocket.close", "code": 4401 if status == 401 else 4403, "reason": what[:120]})
        return
    body = orjson.dumps({"what": what, "where": "access", "repair": repair})
    headers: Iterable[tuple[bytes, bytes]] = [(b"content-type", b"application/json")]
    await send({"type": "http.response.start", "status": status, "headers": list(headers)})
    await send({"type": "http.response.body", "body": body})
