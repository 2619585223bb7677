"""Pass codes, sessions and roles: in a folder of their own, and every route of the API by what it needs."""

from __future__ import annotations

import os
import stat
from pathlib import Path

import pytest
from fastapi.routing import APIRoute

from heliograph.api import sessions as module
from heliograph.api.access import AccessCheck, needed_role
from heliograph.api.app import ROUTES
from heliograph.api.schemas import commands
from heliograph.api.sessions import ALPHABET, Sessions, new_code, plain
from heliograph.api.settings import Settings
from heliograph.core.errors import AccessError, NotFoundError
from heliograph.core.roles import ROLES, may


@pytest.fixture
def kept(tmp_path: Path) -> Sessions:
    return Sessions(tmp_path / "access" / "sessions.json")


def test_codes_are_long_random_and_forgiving_to_type() -> None:
    made = {new_code() for _ in range(200)}
    assert len(made) == 200
    assert all(len(plain(code)) == 12 and set(plain(code)) <= set(ALPHABET) for code in made)
    assert len(ALPHABET) ** 12 >= 2**50
    assert plain("abcd-efgh 1o1l") == "ABCDEFGH1011"


def test_a_code_opens_a_session_of_its_role_and_only_its_hash_is_kept(kept: Sessions, tmp_path: Path) -> None:
    for role in ROLES:
        token, given = kept.enter(kept.codes[role].lower().replace("-", " "), "192.0.2.5", "Tablet")
        assert given == role == kept.role_of(token)
        raw = (tmp_path / "access" / "sessions.json").read_text()
        assert token not in raw
    facts = os.stat(tmp_path / "access" / "sessions.json")
    assert stat.S_IMODE(facts.st_mode) == 0o600
    again = Sessions(tmp_path / "access" / "sessions.json")
    assert again.codes == kept.codes
    assert again.role_of(token) == "edit"
    assert again.role_of("something else") is None


def test_a_session_is_ended_singly(kept: Sessions) -> None:
    first, _ = kept.enter(kept.codes["run"], "192.0.2.5", "Tablet")
    second, _ = kept.enter(kept.codes["run"], "192.0.2.6", "Phone")
    phone = next(one for one in kept.listed() if one["device"] == "Phone")
    kept.end(phone["id"])
    assert kept.role_of(first) == "run"
    assert kept.role_of(second) is None
    with pytest.raises(NotFoundError):
        kept.end(phone["id"])


def test_a_new_code_replaces_the_old_one(kept: Sessions) -> None:
    old = kept.codes["view"]
    token, _ = kept.enter(old, "192.0.2.5", "Tablet")
    fresh = kept.renew_code("view")
    assert fresh != old
    with pytest.raises(AccessError):
        kept.enter(old, "192.0.2.5", "Tablet")
    assert kept.role_of(token) == "view"


def test_wrong_tries_wait_longer_and_longer_and_only_where_they_come_from(
    kept: Sessions, monkeypatch: pytest.MonkeyPatch
) -> None:
    now = [1_000_000.0]
    monkeypatch.setattr("heliograph.api.sessions.time.time", lambda: now[0])
    for _ in range(5):
        with pytest.raises(AccessError, match="not a pass code"):
            kept.enter("WRONG", "192.0.2.5", "")
    with pytest.raises(AccessError, match="wait 30 s"):
        kept.enter(kept.codes["edit"], "192.0.2.5", "")
    assert kept.enter(kept.codes["edit"], "192.0.2.6", "")[1] == "edit"
    now[0] += 31
    with pytest.raises(AccessError, match="not a pass code"):
        kept.enter("WRONG", "192.0.2.5", "")
    with pytest.raises(AccessError, match="wait 60 s"):
        kept.enter(kept.codes["edit"], "192.0.2.5", "")
    now[0] += 61
    assert kept.enter(kept.codes["edit"], "192.0.2.5", "")[1] == "edit"


def test_the_table_of_tries_is_bounded(kept: Sessions) -> None:
    for n in range(module.ADDRESSES_MAX + 50):
        with pytest.raises(AccessError):
            kept.enter("WRONG", f"198.51.{n // 256}.{n % 256}", "")
    assert len(kept._tries) == module.ADDRESSES_MAX


def test_a_damaged_file_asks_everybody_anew(tmp_path: Path) -> None:
    path = tmp_path / "sessions.json"
    path.write_bytes(b'{"codes": 7')
    kept = Sessions(path)
    assert set(kept.codes) == set(ROLES)


RUN = {
    ("POST", "/api/engine"),
    ("POST", "/api/walk"),
    ("POST", "/api/walk/go"),
    ("PATCH", "/api/walk"),
    ("DELETE", "/api/walk"),
    ("POST", "/api/scores/{score_id}/locate"),
}


def routes() -> list[tuple[str, str]]:
    return [
        (method, route.path)
        for one in ROUTES
        for route in one.router.routes
        if isinstance(route, APIRoute)
        for method in sorted(route.methods or ())
    ]


def test_every_route_needs_the_role_that_is_meant() -> None:
    found = dict.fromkeys(routes())
    assert set(found) >= RUN
    for method, path in found:
        if path == "/api/pass":
            continue
        needed = needed_role(method, path)
        if method == "GET":
            assert needed == ("edit" if path == "/api/access/qr/{role}" else "view"), path
        else:
            runs = (method, path) in RUN or path.startswith(("/api/marks", "/api/walk/"))
            assert needed == ("run" if runs else "edit"), (method, path)


def test_nothing_that_writes_or_exports_is_a_get() -> None:
    names = ("export", "save", "load", "undo", "redo", "open", "keep")
    for method, path in routes():
        if method == "GET":
            assert not path.endswith((".csv", ".svg", "/sheet", "/show/file")), path
            assert not any(f"/{name}" in path for name in names), path


def test_commands_say_who_may_give_them() -> None:
    union = commands.EngineCommand.__origin__.__args__  # type: ignore[attr-defined]
    needs = {one.model_fields["do"].annotation.__args__[0]: one.needs for one in union}
    edit = {name for name, role in needs.items() if role == "edit"}
    assert edit == {"manual", "colours", "turn", "type_values", "type_colours", "raw", "arm", "renew", "gone"}
    assert {"move", "let_go", "hold_time"} <= {name for name, role in needs.items() if role == "run"}
    assert "view" not in needs.values()


@pytest.mark.parametrize("role", ROLES)
def test_a_role_may_what_its_name_says_and_all_before_it(role: str, kept: Sessions) -> None:
    check = AccessCheck(lambda *_: None, Settings(data=Path("."), host="0.0.0.0", asks_pass=True), kept)  # type: ignore[arg-type]
    token, _ = kept.enter(kept.codes[role], "192.0.2.5", "")  # type: ignore[index]
    headers = {"host": "192.0.2.1:7650", "cookie": f"heliograph_session={token}"}
    found = check.role(headers)
    assert found == role
    for method, path in routes():
        problem = check.problem(headers, path, method, found)
        allowed = path == "/api/pass" or may(found, needed_role(method, path))
        assert (problem is None) == allowed, (method, path)
        if problem is not None:
            assert problem[0] == 403
            assert f"needs the role {needed_role(method, path)}" in problem[1]


FOREIGN = [
    (
        {"sec-fetch-site": "cross-site", "sec-fetch-mode": "no-cors", "sec-fetch-dest": "image"},
        "GET",
        "/api/show",
        False,
    ),
    ({"sec-fetch-site": "cross-site", "sec-fetch-mode": "navigate", "sec-fetch-dest": "document"}, "GET", "/rig", True),
    ({"sec-fetch-site": "cross-site", "sec-fetch-mode": "navigate", "sec-fetch-dest": "iframe"}, "GET", "/rig", False),
    (
        {"sec-fetch-site": "cross-site", "sec-fetch-mode": "navigate", "sec-fetch-dest": "document"},
        "GET",
        "/api/show",
        False,
    ),
    ({"sec-fetch-site": "same-site", "sec-fetch-mode": "cors", "sec-fetch-dest": "empty"}, "POST", "/api/undo", False),
    (
        {"sec-fetch-site": "cross-site", "sec-fetch-mode": "navigate", "sec-fetch-dest": "document"},
        "POST",
        "/rig",
        False,
    ),
    ({"sec-fetch-site": "same-origin", "sec-fetch-mode": "cors", "sec-fetch-dest": "empty"}, "POST", "/api/undo", True),
    ({"sec-fetch-site": "none", "sec-fetch-mode": "navigate", "sec-fetch-dest": "document"}, "GET", "/", True),
    ({}, "POST", "/api/undo", True),
]
"""(headers, method, path, let in): W3C, Fetch Metadata Request Headers; programs that are no browser send none."""


@pytest.mark.parametrize(("headers", "method", "path", "let_in"), FOREIGN)
def test_what_a_browser_says_of_who_asked(headers: dict[str, str], method: str, path: str, let_in: bool) -> None:
    check = AccessCheck(lambda *_: None, Settings(data=Path(".")))  # type: ignore[arg-type]
    problem = check.problem({"host": "127.0.0.1:7650", **headers}, path, method, "edit")
    assert (problem is None) == let_in
