"""Shows are put away, kept for 30 days, brought back as they were, and gone for good after that."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import orjson
import pytest

from heliograph.core.errors import HeliographError
from heliograph.store import rows
from heliograph.store.database import connected, db, open_database
from tests.conftest import RunningApp


@pytest.fixture
def other(app: RunningApp, show: str) -> str:
    """A show of two lamps that is not open; the one of `show` is open again."""
    api, key = app.api(), str(uuid4())
    api.call("POST", "/api/shows", {"id": key, "name": "Old quay"})
    api.call("POST", "/api/fixtures", {"text": "2 x RGB lamp, from 1", "ids": [str(uuid4()) for _ in range(2)]})
    api.call("POST", f"/api/shows/{show}/open")
    return key


def listed(app: RunningApp, key: str) -> dict[str, Any] | None:
    return next((one for one in app.api().call("GET", "/api/shows") if one["id"] == key), None)


def test_shows_are_told_apart_by_size_and_by_their_last_edit(app: RunningApp, other: str) -> None:
    found = listed(app, other)
    assert found is not None
    assert (found["fixtures"], found["deleted_s"]) == (2, None)
    before = found["changed_s"]
    app.api().call("POST", f"/api/shows/{other}/open")
    app.api().call("POST", "/api/fixtures", {"text": "RGB lamp, from 9", "ids": [str(uuid4())]})
    after = listed(app, other)
    assert after is not None
    assert (after["fixtures"], after["changed_s"] > before) == (3, True)


def test_a_deleted_show_is_not_opened_nor_copied_and_comes_back_as_it_was(app: RunningApp, other: str) -> None:
    api = app.api()
    before = listed(app, other)
    api.call("DELETE", f"/api/shows/{other}")
    gone = listed(app, other)
    assert gone is not None
    assert gone["deleted_s"] is not None
    for method, path, body in (
        ("POST", f"/api/shows/{other}/open", None),
        ("DELETE", f"/api/shows/{other}", None),
        ("POST", "/api/shows", {"id": str(uuid4()), "name": "Copy", "like": other}),
    ):
        with pytest.raises(HeliographError, match="not there any more"):
            api.call(method, path, body)
    api.call("POST", f"/api/shows/{other}/restore")
    assert listed(app, other) == before
    with pytest.raises(HeliographError, match="not kept any more"):
        api.call("POST", f"/api/shows/{other}/restore")


def test_the_show_that_is_open_cannot_be_deleted(app: RunningApp, show: str) -> None:
    with pytest.raises(HeliographError, match="The show that is open cannot be deleted"):
        app.api().call("DELETE", f"/api/shows/{show}")
    assert app.api().call("GET", "/api/show")["show"]["id"] == show


def test_after_thirty_days_a_deleted_show_is_gone(app: RunningApp) -> None:
    open_database(**orjson.loads((app.data / "run" / "database.json").read_bytes()))
    with connected():
        old, new, there = (rows.add_show(None, name) for name in ("Old", "New", "There"))
        for key in (old, new):
            rows.delete_show(key)
        db.execute_sql("UPDATE show SET deleted_at = now() - interval '31 days' WHERE id = %s", (old,))
        assert rows.forget_deleted() == ["Old"]
        assert rows.forget_deleted() == []
        kept = {one["id"] for one in rows.shows()}
    assert {new, there} <= kept
    assert old not in kept
