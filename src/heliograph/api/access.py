"""Who may talk to the web process: Host, Origin and fetch metadata are checked on HTTP and WebSocket alike.

On loopback no pass code is asked. Anywhere else every request needs a session, which a pass code opens, and the
session's role says what it may do.
"""

from __future__ import annotations

import hmac
import ipaddress
import re
from http.cookies import CookieError, SimpleCookie
from typing import Any
from urllib.parse import urlsplit

from starlette.types import ASGIApp, Message, Receive, Scope, Send

from heliograph.api.refusing import SECURITY_HEADERS, TOO_LARGE, BodyLimit, refuse
from heliograph.api.sessions import Sessions
from heliograph.api.settings import Settings
from heliograph.core.roles import Role, may, refusal
from heliograph.network.entrance import COOKIE

LOOPBACK_NAMES = ("localhost", "127.0.0.1", "[::1]")
OPEN_PATHS = ("/api/pass",)
READING = ("GET", "HEAD", "OPTIONS")

RUN_PATHS = re.compile(r"/api/(engine|urgent|walk(/.*)?|marks(/.*)?|scores/[^/]+/locate)")
"""What the role run may write to; each command to the engine says itself what it needs."""

Problem = tuple[int, str, str]


def role_of(scope: Any) -> Role:
    """The role of whoever sent a request that was let in."""
    role: Role = scope["state"]["role"]
    return role


def needed_role(method: str, path: str) -> Role:
    """What a request needs by its method and path."""
    if method in READING:
        return "edit" if path.startswith("/api/access") and path != "/api/access" else "view"
    return "run" if RUN_PATHS.fullmatch(path) else "edit"


class AccessCheck:
    """ASGI middleware, the outermost. `sessions`: None where no pass code is asked."""

    def __init__(self, app: ASGIApp, settings: Settings, sessions: Sessions | None = None) -> None:
        self._app, self._sessions = app, sessions
        names = set(LOOPBACK_NAMES) | set(settings.allowed_hosts)
        if settings.host not in ("0.0.0.0", "::"):
            names.add(settings.host)
        self._any_address = settings.host in ("0.0.0.0", "::")
        self._names = names
        self._own_token = settings.own_token
        self._asks = settings.asks_pass

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] not in ("http", "websocket"):
            await self._app(scope, receive, send)
            return
        headers = {key.decode("latin1").lower(): value.decode("latin1") for key, value in scope["headers"]}
        method = str(scope.get("method", "GET"))
        role = self.role(headers)
        problem = self.problem(headers, scope["path"], method, role)
        if problem is not None:
            await refuse(scope, receive, send, *problem)
            return
        scope.setdefault("state", {})["role"] = role or "view"
        if scope["type"] == "websocket":
            await self._app(scope, receive, send)
            return
        body = BodyLimit(scope, headers, receive)
        if body.is_too_large:
            await refuse(scope, receive, send, *TOO_LARGE)
            return
        await self._app(scope, body.receive, _Answer(scope, receive, send, body).send)

    def role(self, headers: dict[str, str]) -> Role | None:
        """The role of a request's session; edit for everybody where no code is asked."""
        if not self._asks:
            return "edit"
        token = _token(headers.get("cookie", ""))
        if not token:
            return None
        if self._own_token and hmac.compare_digest(token, self._own_token):
            return "edit"
        return self._sessions.role_of(token) if self._sessions is not None else None

    def problem(self, headers: dict[str, str], path: str, method: str, role: Role | None) -> Problem | None:
        """Why a request is refused: (status, what, repair); None where it is let in."""
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
        if _is_foreign(headers, path, method):
            return 403, "Another site's page may not use this server.", "Open Heliograph in its own tab."
        if not path.startswith("/api") or path in OPEN_PATHS:
            return None
        if role is None:
            return 401, "This server asks for its pass code.", "Type the code that was given when it was started."
        needed = needed_role(method, path)
        if not may(role, needed):
            return 403, refusal(role, needed), "Ask somebody with that role."
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


class _Answer:
    """Adds the security headers to an answer; puts the sentence about the size in place of what came of half a body."""

    def __init__(self, scope: Scope, receive: Receive, send: Send, body: BodyLimit) -> None:
        self._scope, self._receive, self._send, self._body = scope, receive, send, body
        self._refused = False

    async def send(self, message: Message) -> None:
        if self._refused:
            return
        if message["type"] == "http.response.start":
            if self._body.is_too_large:
                self._refused = True
                await refuse(self._scope, self._receive, self._send, *TOO_LARGE)
                return
            message["headers"] = [*message.get("headers", []), *SECURITY_HEADERS]
        await self._send(message)


def _is_foreign(headers: dict[str, str], path: str, method: str) -> bool:
    """Whether a browser says that another site's page asked (W3C, Fetch Metadata Request Headers). A link to a page of
    ours may be followed from anywhere."""
    if headers.get("sec-fetch-site", "none") not in ("cross-site", "same-site"):
        return False
    followed = headers.get("sec-fetch-mode") == "navigate" and headers.get("sec-fetch-dest") == "document"
    return not (method in ("GET", "HEAD") and followed and not path.startswith("/api"))


def _token(cookie: str) -> str:
    try:
        morsel = SimpleCookie(cookie).get(COOKIE)
    except CookieError:
        return ""
    return morsel.value if morsel is not None else ""
