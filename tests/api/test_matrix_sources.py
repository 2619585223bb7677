"""Matrices from the plan and from drawings, shared arrangements, cells placed freely: through the public API."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import httpx
import pytest

from heliograph.core.errors import HeliographError
from heliograph.core.matrix.placements import unpack
from tests.conftest import RunningApp


@pytest.fixture
def strips(app: RunningApp, show: str) -> list[str]:
    """Four strips of 16 pixels, 1 to 4."""
    keys = [str(uuid4()) for _ in range(4)]
    app.api().call("POST", "/api/fixtures", {"text": "4 x RGB pixel strip, mode 16 RGB, from 1", "ids": keys})
    return keys


def shown(app: RunningApp) -> dict[str, Any]:
    found: dict[str, Any] = app.api().call("GET", "/api/show")
    return found


def places(app: RunningApp, matrix: str) -> dict[tuple[int, str], tuple[float, float, float, float]]:
    show = shown(app)
    numbers = {one["id"]: one["number"] for one in show["fixtures"]}
    found = next(one for one in show["matrices"] if one["id"] == matrix)
    return {(numbers[p.key.fixture], p.key.cell): (p.x, p.y, p.w, p.h) for p in unpack(found["placements"])}


def woven(app: RunningApp, name: str = "Wall") -> str:
    key = str(uuid4())
    weave = {"selection": "all", "width": 16, "height": 4}
    app.api().call("POST", "/api/matrices", {"id": key, "name": name, "width": 16, "height": 4, "weave": weave})
    return key


def test_positions_on_the_plan_become_squares(app: RunningApp, strips: list[str]) -> None:
    api = app.api()
    plan = str(uuid4())
    api.call("POST", "/api/plans", {"id": plan, "name": "Front"})
    # Strips of 1.6 m lie one above the other, 0.1 m apart as their pixels are; the last stands upright beside them.
    put = [
        {"id": key, "kind": "fixture", "x": 5.0, "y": 3.0 - 0.1 * n, "w": 1.6, "h": 0.05}
        for n, key in enumerate(strips[:3])
    ]
    put.append({"id": strips[3], "kind": "fixture", "x": 5.95, "y": 2.25, "w": 1.6, "h": 0.05, "turn": 90})
    api.call("POST", f"/api/plans/{plan}/items", {"put": put})
    key = str(uuid4())
    made = api.call("POST", "/api/matrices/from-plan", {"id": key, "name": "Whole front", "plan": plan})
    assert (made["width"], made["height"], made["cells"], made["free"], made["left_out"]) == (18, 16, 64, 0, 0)
    at = places(app, key)
    assert at[1, "1"] == (0, 0, 1, 1)
    assert at[3, "16"] == (15, 2, 1, 1)
    assert at[4, "1"] == (17, 15, 1, 1)  # turned to the left by a quarter, its first pixel is at the foot
    assert at[4, "16"] == (17, 0, 1, 1)
    empty = str(uuid4())
    api.call("POST", "/api/plans", {"id": empty, "name": "Empty"})
    with pytest.raises(HeliographError, match="None of these cells is on the plan"):
        api.call("POST", "/api/matrices/from-plan", {"id": str(uuid4()), "name": "X", "plan": empty})


def test_out_as_a_drawing_and_in_again(app: RunningApp, strips: list[str]) -> None:
    key = woven(app)
    cell = {"fixture": strips[1], "cell": "4"}
    app.api().call("POST", f"/api/matrices/{key}/free", {"cell": cell, "x": 2.5, "y": 0.5, "w": 3, "h": 1})
    drawing = httpx.post(f"{app.address}/api/matrices/{key}/squares.svg").text
    again = str(uuid4())
    answer = httpx.post(
        f"{app.address}/api/matrices/svg",
        data={"id": again, "name": "Again"},
        files={"file": ("squares.svg", drawing.encode(), "image/svg+xml")},
    )
    assert answer.status_code == 201, answer.text
    assert places(app, again) == places(app, key)
    assert places(app, again)[2, "4"] == (2.5, 0.5, 3, 1)


@pytest.mark.parametrize(
    ("shapes", "says"),
    [
        ('<rect width="1" height="1" data-cell="9:1"/>', "Shape 1 of the drawing is called '9:1'"),
        ('<rect width="1" height="1" data-cell="1:1"/>' * 2, "Shape 2 of the drawing is cell 1:1"),
        ('<circle r="1"/>' * 70, "has 70 shapes, the selection 64 cells"),
    ],
)
def test_a_drawing_that_does_not_fit_changes_nothing(
    app: RunningApp, strips: list[str], shapes: str, says: str
) -> None:
    text = f'<svg xmlns="http://www.w3.org/2000/svg">{shapes}</svg>'
    answer = httpx.post(
        f"{app.address}/api/matrices/svg",
        data={"id": str(uuid4()), "name": "Wrong"},
        files={"file": ("x.svg", text.encode(), "image/svg+xml")},
    )
    assert answer.status_code == 422
    assert says in answer.json()["what"]
    assert shown(app)["matrices"] == []


def test_one_correction_reaches_all_that_share_it(app: RunningApp, strips: list[str]) -> None:
    api = app.api()
    wall, masks, third = woven(app), woven(app, "Masks"), woven(app, "Third")
    api.call("POST", f"/api/matrices/{masks}/arrange", {"do": "mirror"})
    api.call("POST", f"/api/matrices/{masks}/share", {"like": wall})
    api.call("POST", f"/api/matrices/{third}/share", {"like": masks})  # by way of Masks with Wall
    api.call("POST", f"/api/matrices/{masks}/exchange", {"a": [0, 0], "b": [5, 2]})
    assert places(app, wall)[1, "1"] == places(app, masks)[1, "1"] == places(app, third)[1, "1"] == (5, 2, 1, 1)
    api.call("PATCH", f"/api/matrices/{third}", {"width": 20, "name": "Third wall"})
    assert [(one["name"], one["width"]) for one in shown(app)["matrices"]] == [
        ("Wall", 20),
        ("Masks", 20),
        ("Third wall", 20),
    ]
    with pytest.raises(HeliographError, match="use its arrangement"):
        api.call("DELETE", f"/api/matrices/{wall}")
    with pytest.raises(HeliographError, match="its own arrangement through another"):
        api.call("POST", f"/api/matrices/{wall}/share", {"like": masks})
    api.call("POST", f"/api/matrices/{masks}/share", {"like": None})
    api.call("POST", f"/api/matrices/{masks}/exchange", {"a": [5, 2], "b": [0, 0]})
    assert places(app, masks)[1, "1"] == (0, 0, 1, 1)
    assert places(app, third)[1, "1"] == (5, 2, 1, 1)


def test_a_free_place_off_the_matrix_is_refused(app: RunningApp, strips: list[str]) -> None:
    key = woven(app)
    cell = {"fixture": strips[0], "cell": "1"}
    with pytest.raises(HeliographError, match=r"From 15.5, 1 on 3 x 1 squares go off the matrix of 16 x 4"):
        app.api().call("POST", f"/api/matrices/{key}/free", {"cell": cell, "x": 14.5, "y": 0, "w": 3})
    with pytest.raises(HeliographError, match="That square is taken"):
        app.api().call("POST", f"/api/matrices/{key}/free", {"cell": cell, "x": 3, "y": 1})
    app.api().call("POST", f"/api/matrices/{key}/free", {"cell": cell, "x": 3.5, "y": 1})
    assert places(app, key)[1, "1"] == (3.5, 1, 1, 1)
    app.api().call("POST", "/api/undo")
    assert places(app, key)[1, "1"] == (0, 0, 1, 1)


def test_a_selection_is_a_line_at_once(app: RunningApp, strips: list[str]) -> None:
    key = str(uuid4())
    made = app.api().call("POST", "/api/matrices/line", {"id": key, "selection": "3, 1:5-6"})
    assert (made["width"], made["height"], made["cells"]) == (18, 1, 18)
    at = places(app, key)
    assert [at[3, "1"], at[3, "16"], at[1, "5"], at[1, "6"]] == [(n, 0, 1, 1) for n in (0, 15, 16, 17)]
    assert shown(app)["matrices"][0]["name"] == "3, 1:5-6 line"
    with pytest.raises(HeliographError, match="nobody"):
        app.api().call("POST", "/api/matrices/line", {"id": str(uuid4()), "selection": "nobody"})
