"""Coming in from another machine: codes, roles, sessions that are ended, HTTPS; with a real server on all addresses."""

from __future__ import annotations

import contextlib
import hashlib
import http.client
import json
import re
import ssl
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import pytest

from heliograph.api.refusing import JSON_MAX
from tests.conftest import RunningApp, wait_for
from tests.moves import move

OwnApp = Callable[..., RunningApp]


@dataclass
class Answer:
    status: int
    headers: dict[str, str]
    body: bytes

    @property
    def told(self) -> Any:
        return json.loads(self.body)


class Visitor:
    """A browser as far as requests go: it keeps its cookie."""

    def __init__(self, app: RunningApp, context: ssl.SSLContext | None = None) -> None:
        self._app, self._context, self.cookie = app, context, ""

    def ask(self, method: str, path: str, body: Any = None, raw: bytes | None = None, more: Any = None) -> Answer:
        kind = http.client.HTTPSConnection if self._context else http.client.HTTPConnection
        options: dict[str, Any] = {"context": self._context} if self._context else {}
        connection = kind("127.0.0.1", self._app.port, timeout=80, **options)
        given = {"cookie": self.cookie, "user-agent": "Test (Tablet; Quay)", **(more or {})}
        data = raw if raw is not None else json.dumps(body).encode() if body is not None else None
        if data is not None:
            given.setdefault("content-type", "application/json")
        connection.request(method, path, data, given)
        answer = connection.getresponse()
        found = {name.lower(): value for name, value in answer.getheaders()}
        if "set-cookie" in found:
            self.cookie = found["set-cookie"].partition(";")[0]
        return Answer(answer.status, found, answer.read())


def codes(app: RunningApp) -> dict[str, str]:
    """As they were printed."""
    pattern = re.compile(r"^  (view|run|edit) +([0-9A-Z-]{14})$", re.MULTILINE)
    found: list[tuple[str, str]] = wait_for(
        lambda: read if len(read := pattern.findall(app.log.read_text())) == 3 else None, 10, "no codes were printed"
    )
    return dict(found)


@pytest.fixture
def open_app(own_app: OwnApp) -> RunningApp:
    return own_app("127.0.85.1", "--host", "0.0.0.0")


def test_each_code_lets_in_with_its_role(open_app: RunningApp) -> None:
    known = codes(open_app)
    assert set(known) == {"view", "run", "edit"}
    nobody = Visitor(open_app)
    assert nobody.ask("GET", "/api/show").status == 401
    assert nobody.ask("GET", "/rig").status == 200, "the page itself asks for the code"
    assert nobody.ask("GET", "/api/openapi.json").status == 401
    wrong = nobody.ask("POST", "/api/pass", {"code": "0000-0000-0000"})
    assert (wrong.status, wrong.told["where"]) == (403, "code")
    visitors = {}
    for role, code in known.items():
        one = visitors[role] = Visitor(open_app)
        answer = one.ask("POST", "/api/pass", {"code": code.lower()})
        assert answer.told == {"role": role}
        assert "HttpOnly" in answer.headers["set-cookie"]
        assert "SameSite=strict" in answer.headers["set-cookie"]
        assert one.ask("GET", "/api/show").status == 200
    blackout, name = move("blackout", True), {"name": "Renamed"}
    assert [visitors[role].ask("POST", "/api/engine", blackout).status for role in known] == [403, 200, 200]
    assert [visitors[role].ask("POST", "/api/engine", move("safe")).status for role in known] == [403, 200, 200]
    assert [visitors[role].ask("PATCH", "/api/show", name).status for role in known] == [403, 403, 200]
    arm = {"do": "arm", "fixtures": ["00000000-0000-0000-0000-000000000000"], "lease": "0" * 16}
    assert [visitors[role].ask("POST", "/api/engine", arm).status for role in known] == [403, 403, 422]
    assert visitors["run"].ask("GET", "/api/access").told["codes"] == []
    assert visitors["run"].ask("GET", "/api/access/qr/run").status == 403
    seen = visitors["edit"].ask("GET", "/api/access").told
    assert {one["role"]: one["code"] for one in seen["codes"]} == known
    assert {one["role"] for one in seen["sessions"]} == set(known)
    assert seen["sessions"][0]["device"] == "Tablet; Quay"
    ended = next(one for one in seen["sessions"] if one["role"] == "run")
    assert visitors["edit"].ask("DELETE", f"/api/access/sessions/{ended['id']}").status == 204
    assert visitors["run"].ask("GET", "/api/show").status == 401
    picture = visitors["edit"].ask("GET", "/api/access/qr/run")
    assert picture.headers["content-type"] == "image/svg+xml"
    assert picture.body.startswith(b"<?xml")
    fresh = visitors["edit"].ask("POST", "/api/access/codes/view").told["code"]
    late = Visitor(open_app)
    assert late.ask("POST", "/api/pass", {"code": known["view"]}).status == 403
    assert late.ask("POST", "/api/pass", {"code": fresh}).status == 200


def test_sessions_outlive_a_restart_and_guessing_waits(open_app: RunningApp) -> None:
    one = Visitor(open_app)
    code = codes(open_app)["edit"]
    one.ask("POST", "/api/pass", {"code": code})
    guesser = Visitor(open_app)
    told = [guesser.ask("POST", "/api/pass", {"code": f"AAAA-AAAA-000{n}"}).told["what"] for n in range(6)]
    assert "wait" in told[-1]
    assert "wait" not in told[3]
    assert guesser.ask("POST", "/api/pass", {"code": code}).status == 403, "a right code waits too"
    open_app.stop()
    open_app.log.write_text("")
    open_app.start()
    assert one.ask("GET", "/api/show").status == 200
    assert codes(open_app)["edit"] == code


def test_https_with_a_certificate_of_its_own(own_app: OwnApp) -> None:
    app = own_app("127.0.85.1", "--host", "0.0.0.0", "--tls")
    pem = app.data / "access" / "certificate.pem"
    context = ssl.create_default_context(cafile=str(pem))
    one = Visitor(app, context)  # 127.0.0.1 is among its names
    answer = one.ask("POST", "/api/pass", {"code": codes(app)["view"]})
    assert answer.status == 200
    assert "Secure" in answer.headers["set-cookie"]
    der = ssl.PEM_cert_to_DER_cert(pem.read_text())
    digest = hashlib.sha256(der).hexdigest().upper()
    assert ":".join(digest[n : n + 2] for n in range(0, 64, 2)) in app.log.read_text()
    assert (app.data / "access" / "key.pem").stat().st_mode & 0o077 == 0
    with pytest.raises((OSError, http.client.HTTPException)):
        Visitor(app).ask("GET", "/api/show")


def test_every_answer_carries_its_headers(app: RunningApp) -> None:
    one = Visitor(app)
    for method, path in (("GET", "/"), ("GET", "/api/show"), ("GET", "/api/nothing"), ("POST", "/api/undo")):
        headers = one.ask(method, path).headers
        policy = headers["content-security-policy"]
        assert "frame-ancestors 'none'" in policy
        assert "script-src 'self';" in policy
        assert headers["x-content-type-options"] == "nosniff"
        assert headers["referrer-policy"] == "no-referrer"
        assert "server" not in headers
    refused = one.ask("POST", "/api/undo", more={"sec-fetch-site": "cross-site"})
    assert refused.status == 403
    assert "frame-ancestors" in refused.headers["content-security-policy"]


def test_bodies_are_counted_whatever_they_say(app: RunningApp) -> None:
    one = Visitor(app)
    large = b'{"name": "' + b"x" * JSON_MAX + b'"}'
    answer = one.ask("PATCH", "/api/show", raw=large)
    assert (answer.status, answer.told["where"]) == (413, "size")
    connection = http.client.HTTPConnection("127.0.0.1", app.port, timeout=80)
    parts = (b"x" * 65_536 for _ in range(JSON_MAX // 65_536 + 2))
    connection.request("PATCH", "/api/show", parts, {"content-type": "application/json"}, encode_chunked=True)
    with contextlib.suppress(BrokenPipeError, ConnectionResetError):  # it may be hung up on before everything is sent
        assert connection.getresponse().status == 413
    assert one.ask("GET", "/api/status").status == 200
