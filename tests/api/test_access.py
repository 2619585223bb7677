"""Who may talk to the web process."""

from __future__ import annotations

import http.client
import json
from collections.abc import Callable

import pytest

from heliograph.api.access import AccessCheck
from heliograph.api.settings import Settings
from tests.conftest import RunningApp


def ask(app: RunningApp, **headers: str) -> tuple[int, dict[str, str]]:
    connection = http.client.HTTPConnection("127.0.0.1", app.port, timeout=40)
    connection.putrequest("GET", "/api/status", skip_host="host" in headers)
    for name, value in headers.items():
        connection.putheader(name, value)
    connection.endheaders()
    answer = connection.getresponse()
    return answer.status, json.loads(answer.read())


@pytest.mark.slow
def test_foreign_hosts_and_pages_are_refused(app: RunningApp) -> None:
    own = f"127.0.0.1:{app.port}"
    assert ask(app, host=own)[0] == 200
    assert ask(app, host=own, origin=f"http://{own}")[0] == 200
    status, told = ask(app, host="evil.example")
    assert (status, told["where"]) == (403, "access")
    assert ask(app, host=own, origin="http://evil.example")[0] == 403


@pytest.mark.parametrize("origin", ["http://evil.example", "null"])
def test_the_live_connection_checks_them_too(app: RunningApp, origin: str) -> None:
    connection = http.client.HTTPConnection("127.0.0.1", app.port, timeout=40)
    headers = {"upgrade": "websocket", "connection": "upgrade", "sec-websocket-version": "13"}
    headers |= {"sec-websocket-key": "x3JJHMbDL1EzLkh9GBhXDw==", "origin": origin}
    connection.request("GET", "/api/live", headers=headers)
    assert connection.getresponse().status == 403


@pytest.mark.slow
def test_any_other_host_asks_for_a_pass_code(own_app: Callable[..., RunningApp]) -> None:
    running = own_app("127.0.85.1", "--host", "0.0.0.0")
    own = f"127.0.0.1:{running.port}"
    assert ask(running, host=own)[0] == 401
    assert ask(running, host=own, cookie="heliograph_session=puffin")[0] == 401
    assert ask(running, host="rebound.example")[0] == 403
    assert "Pass codes" in running.log.read_text()


def test_loopback_asks_for_nothing() -> None:
    check = AccessCheck(lambda *_: None, Settings(data=None))  # type: ignore[arg-type]
    assert check.problem({"host": "localhost:7650"}, "/api/show", "GET", "edit") is None
    assert check.problem({"host": "[::1]:7650"}, "/api/show", "GET", "edit") is None
