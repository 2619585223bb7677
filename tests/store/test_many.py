"""Many rows at once: read as one text, changed in one statement, undone together; nothing is half done."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from heliograph.demo.client import ApiClient
from tests.conftest import RunningApp


def hang(app: RunningApp, count: int) -> list[str]:
    ids = [str(uuid4()) for _ in range(count)]
    app.api().call("POST", "/api/fixtures", {"text": f"{count} x RGB lamp, from 1, Lamp {{n}}", "ids": ids})
    return ids


def numbers(app: RunningApp) -> dict[str, int]:
    return {one["id"]: one["number"] for one in app.api().call("GET", "/api/show")["fixtures"]}


def rename(api: ApiClient, ids: list[str], pattern: str) -> None:
    api.call("POST", "/api/fixtures/batch", {"ids": ids, "change": {"do": "name", "pattern": pattern}})


def names(app: RunningApp) -> list[str]:
    return [one["name"] for one in app.api().call("GET", "/api/show")["fixtures"]]


def test_a_thousand_are_changed_deleted_and_brought_back(app: RunningApp, show: str) -> None:
    ids = hang(app, 1000)
    api = app.api()
    rename(api, ids, "Pier {n}")
    assert names(app)[::333] == ["Pier 1", "Pier 334", "Pier 667", "Pier 1000"]
    api.call("POST", "/api/fixtures/delete", {"ids": ids[:500]})
    assert len(names(app)) == 500
    for expected in (1000, 1000):
        api.call("POST", "/api/undo")
        assert len(names(app)) == expected
    assert names(app)[999] == "Lamp 1000"
    api.call("POST", "/api/redo")
    assert names(app)[999] == "Pier 1000"


def test_undo_refuses_as_a_whole_where_somebody_changed_one_of_them(app: RunningApp, show: str) -> None:
    ids = hang(app, 5)
    ann, bea = (ApiClient(app.address, "", name, name.title()) for name in ("ann", "bea"))
    rename(ann, ids, "Pier {n}")
    bea.call("PATCH", f"/api/fixtures/{ids[3]}", {"name": "Bea's own"})
    with pytest.raises(HeliographError, match="Bea has changed it since"):
        ann.call("POST", "/api/undo")
    assert names(app) == ["Pier 1", "Pier 2", "Pier 3", "Bea's own", "Pier 5"]


def test_numbers_are_exchanged_in_one_statement(app: RunningApp, show: str) -> None:
    """Each number is another's for a moment: the constraint holds at the end of the edit only."""
    ids = hang(app, 4)
    body: dict[str, Any] = {"ids": ids[::-1], "change": {"do": "number", "first": 1}}
    app.api().call("POST", "/api/fixtures/batch", body)
    assert numbers(app) == dict(zip(ids, (4, 3, 2, 1), strict=True))


def test_one_that_is_gone_stops_all(app: RunningApp, show: str) -> None:
    ids = hang(app, 3)
    app.api().call("POST", "/api/fixtures/delete", {"ids": ids[1:2]})
    with pytest.raises(HeliographError, match="is not there any more"):
        app.api().call("POST", "/api/fixtures/colour", {"ids": ids, "extra": "add"})
    extras = {one["extra"] for one in app.api().call("GET", "/api/show")["fixtures"]}
    assert extras == {"replace"}


def test_what_did_not_change_keeps_its_revision(app: RunningApp, show: str) -> None:
    ids = hang(app, 3)
    rename(app.api(), ids, "Pier {n}")
    before = {one["id"]: one["rev"] for one in app.api().call("GET", "/api/show")["fixtures"]}
    app.api().call("PATCH", f"/api/fixtures/{ids[1]}", {"name": "Other"})
    after = {one["id"]: one["rev"] for one in app.api().call("GET", "/api/show")["fixtures"]}
    assert [key for key in ids if after[key] != before[key]] == [ids[1]]


def test_an_object_changed_twice_in_one_edit_is_brought_back_as_it_was(app: RunningApp, show: str) -> None:
    """The second change begins from what the first made, forward and back."""
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "2 x RGB lamp, from 1", "ids": [str(uuid4()), str(uuid4())]})
    matrix, look, line = (str(uuid4()) for _ in range(3))
    weave = {"selection": "all", "width": 2, "height": 1}
    api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 2, "height": 1, "weave": weave})
    given = {"id": line, "paints": "effect", "effect": "Relay", "matrix": matrix}
    api.call("POST", "/api/looks", {"id": look, "name": "L", "lines": [given]})

    def stored() -> list[tuple[str, bool]]:
        return [(one["paints"], one["mute"]) for one in api.call("GET", "/api/show")["looks"][0]["lines"]]

    api.call("POST", "/api/chases/unroll", {"id": str(uuid4()), "look": look, "line": line})
    for _ in range(2):
        assert stored() == [("effect", True), ("chase", False)]
        api.call("POST", "/api/undo")
        assert stored() == [("effect", False)]
        api.call("POST", "/api/redo")
