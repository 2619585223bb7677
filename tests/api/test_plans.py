"""Plans through the API: items placed in one edit, undone as one, taken along when their fixture goes."""

from __future__ import annotations

import io
import urllib.request
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest
from PIL import Image

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp


def lamps(app: RunningApp, count: int) -> list[str]:
    ids = [str(uuid4()) for _ in range(count)]
    app.api().call("POST", "/api/fixtures", {"text": f"{count} x RGB lamp, from 1", "ids": ids})
    return ids


def item(key: str, x: float, y: float, kind: str = "fixture", **more: Any) -> dict[str, Any]:
    return {"id": key, "kind": kind, "x": x, "y": y, "w": 0.3, "h": 0.3, **more}


def made(app: RunningApp) -> str:
    plan = str(uuid4())
    app.api().call("POST", "/api/plans", {"id": plan, "name": "Front"})
    return plan


def places(app: RunningApp) -> dict[str, tuple[float, float]]:
    [plan] = app.api().call("GET", "/api/show")["plans"]
    return {one["id"]: (one["x"], one["y"]) for one in plan["items"]}


def put(app: RunningApp, plan: str, items: list[dict[str, Any]], remove: list[str] | None = None) -> None:
    app.api().call("POST", f"/api/plans/{plan}/items", {"put": items, "remove": remove or []})


def test_many_are_placed_in_one_edit_and_one_undo(app: RunningApp, show: str) -> None:
    ids, plan = lamps(app, 3), made(app)
    put(app, plan, [item(key, n, 2 * n) for n, key in enumerate(ids)])
    put(app, plan, [item(ids[0], 9, 9)], [ids[2]])
    assert places(app) == {ids[0]: (9, 9), ids[1]: (1, 2)}
    app.api().call("POST", "/api/undo")
    assert places(app) == {ids[0]: (0, 0), ids[1]: (1, 2), ids[2]: (2, 4)}
    app.api().call("POST", "/api/redo")
    assert places(app) == {ids[0]: (9, 9), ids[1]: (1, 2)}


def test_what_is_added_hangs_where_it_was_said_before_and_one_undo_takes_both_away(app: RunningApp, show: str) -> None:
    plan = made(app)
    put(app, plan, [item(str(uuid4()), 2, 3, "label", text="Quay")])
    said = app.api().call("POST", "/api/fixtures/plan", {"text": "3 x RGB lamp, from 1", "plan": plan})
    assert said["says"] == ["No number and no channel is taken twice.", "They hang below everything on Front."]
    assert [(one["universe"], one["free"], len(one["coming"])) for one in said["rulers"]] == [(1, 503, 3)]
    ids = [str(uuid4()) for _ in range(3)]
    app.api().call("POST", "/api/fixtures", {"text": "3 x RGB lamp, from 1", "ids": ids, "plan": plan})
    hang = places(app)
    assert [hang[key] for key in ids] == [(one["x"], one["y"]) for one in said["hang"]]
    app.api().call("POST", "/api/undo")
    found = app.api().call("GET", "/api/show")
    assert found["fixtures"] == []
    assert [one["kind"] for one in found["plans"][0]["items"]] == ["label"]


def test_a_plan_that_is_gone_refuses_all_of_it(app: RunningApp, show: str) -> None:
    body = {"text": "1 x RGB lamp, from 1", "ids": [str(uuid4())], "plan": str(uuid4())}
    with pytest.raises(HeliographError):
        app.api().call("POST", "/api/fixtures", body)
    assert app.api().call("GET", "/api/show")["fixtures"] == []


def test_two_people_move_different_things_and_each_can_take_their_own_back(app: RunningApp, show: str) -> None:
    from heliograph.demo.client import ApiClient

    ids, plan = lamps(app, 2), made(app)
    put(app, plan, [item(key, 0, 0) for key in ids])
    one, other = (ApiClient(app.address, "", name, name) for name in ("ann", "bea"))
    one.call("POST", f"/api/plans/{plan}/items", {"put": [item(ids[0], 5, 5)]})
    other.call("POST", f"/api/plans/{plan}/items", {"put": [item(ids[1], 7, 7)]})
    one.call("POST", "/api/undo")
    assert places(app) == {ids[0]: (0, 0), ids[1]: (7, 7)}


def test_a_fixture_that_is_deleted_leaves_its_plans_and_comes_back_with_undo(app: RunningApp, show: str) -> None:
    ids, plan = lamps(app, 2), made(app)
    put(app, plan, [item(key, 1, 1) for key in ids])
    app.api().call("POST", "/api/fixtures/delete", {"ids": ids[:1]})
    assert set(places(app)) == {ids[1]}
    app.api().call("POST", "/api/undo")
    assert set(places(app)) == set(ids)


def test_labels_and_nodes_stand_on_it_too(app: RunningApp, show: str) -> None:
    plan = made(app)
    put(app, plan, [item(str(uuid4()), 1, 2, "label", text="Stairs"), item(str(uuid4()), 3, 4, "node", text="Quay")])
    [shown] = app.api().call("GET", "/api/show")["plans"]
    assert [(one["kind"], one["text"]) for one in shown["items"]] == [("label", "Stairs"), ("node", "Quay")]


@pytest.mark.parametrize(
    ("body", "says"),
    [
        ({"put": [item(str(uuid4()), 1, 1)]}, "is not there any more"),
        ({"put": [item(str(uuid4()), 1e9, 1)]}, "x of number 1"),
        ({"put": [{**item(str(uuid4()), 1, 1, "label"), "w": 0}]}, "w of number 1"),
        ({"put": [item(str(uuid4()), 1, 1, "tree")]}, "kind of number 1"),
    ],
)
def test_what_cannot_be_placed_is_said_and_nothing_is_placed(
    app: RunningApp, show: str, body: dict[str, Any], says: str
) -> None:
    plan = made(app)
    with pytest.raises(HeliographError, match=says):
        app.api().call("POST", f"/api/plans/{plan}/items", body)
    assert places(app) == {}


def test_a_picture_keeps_its_proportion_and_is_served(app: RunningApp, show: str, tmp_path: Path) -> None:
    plan, path = made(app), tmp_path / "front.jpg"
    Image.new("RGB", (5000, 2500), (9, 90, 200)).save(path)
    app.api().upload(f"/api/plans/{plan}/picture", "", "front.jpg", path)
    [shown] = app.api().call("GET", "/api/show")["plans"]
    assert (shown["picture_width_m"], shown["picture_height_m"]) == (20, 10)
    with urllib.request.urlopen(f"{app.address}/api/plans/pictures/{shown['picture']}", timeout=20) as answer:
        kept = Image.open(io.BytesIO(answer.read()))
    assert (kept.format, kept.size) == ("PNG", (4096, 2048))
    app.api().call("DELETE", f"/api/plans/{plan}/picture")
    assert app.api().call("GET", "/api/show")["plans"][0]["picture"] == ""


def test_what_is_no_picture_is_refused(app: RunningApp, show: str, tmp_path: Path) -> None:
    plan, path = made(app), tmp_path / "front.png"
    path.write_bytes(b"\x89PNG\r\n\x1a\n and then nothing")
    with pytest.raises(HeliographError, match=r"'front\.png' cannot be read as a picture"):
        app.api().upload(f"/api/plans/{plan}/picture", "", "front.png", path)


def arranged(app: RunningApp, plan: str, items: list[str], **how: Any) -> dict[str, tuple[float, float]]:
    app.api().call("POST", f"/api/plans/{plan}/arrange", {"items": items, "arrange": how})
    return places(app)


def test_fixtures_are_drawn_out_and_arranged_by_the_server(app: RunningApp, show: str) -> None:
    """Four lamps that are not on the plan yet: each way is one edit, in the order in which they are chosen."""
    ids, plan = lamps(app, 4), made(app)
    below = arranged(app, plan, ids, how="below")
    assert len(set(below.values())) == 4
    row = arranged(app, plan, ids[::-1], how="row", start=[0, 1], end=[3, 1])
    assert [row[key] for key in ids] == [(3, 1), (2, 1), (1, 1), (0, 1)]
    ring = arranged(app, plan, ids, how="ring", start=[0, 0], end=[2, 0])
    assert [ring[key] for key in ids] == [(0, 2), (2, 0), (0, -2), (-2, 0)]
    assert {y for _, y in arranged(app, plan, ids, how="align", edge="middle").values()} == {0}
    grid = arranged(app, plan, ids, how="grid", start=[0, 0], end=[4, 4])
    assert [grid[key] for key in ids] == [(1, 3), (3, 3), (1, 1), (3, 1)]
    assert arranged(app, plan, ids[:2], how="turn", degrees=180)[ids[0]] == (3, 3)
    assert arranged(app, plan, ids, how="mirror")[ids[0]] == (1, 3)
    spread = arranged(app, plan, ids[:3], how="spread", axis="x")
    assert sorted(spread[key][0] for key in ids[:3]) == [1, 2, 3]
    for _ in range(7):
        app.api().call("POST", "/api/undo")
    assert places(app) == below


@pytest.mark.parametrize(
    ("items", "how", "says"),
    [
        ([str(uuid4())], {"how": "below"}, "not there any more"),
        ([str(uuid4())], {"how": "mirror"}, "not there any more"),
        ([], {"how": "mirror"}, "items"),
        ([str(uuid4())], {"how": "align", "edge": "corner"}, "edge"),
        ([str(uuid4())], {"how": "row", "start": [0, 0], "end": [1e9, 0]}, "end"),
    ],
)
def test_what_cannot_be_arranged_is_said_and_nothing_moves(
    app: RunningApp, show: str, items: list[str], how: dict[str, Any], says: str
) -> None:
    ids, plan = lamps(app, 2), made(app)
    before = arranged(app, plan, ids, how="below")
    with pytest.raises(HeliographError, match=says):
        arranged(app, plan, [ids[0], *items] if items else [], **how)
    assert places(app) == before
