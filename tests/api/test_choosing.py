"""Selections and groups where they are used: weaving, addressing, by hand."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.matrix.placements import unpack
from tests.conftest import RunningApp
from tests.heads import add_head


def hang(app: RunningApp, text: str, count: int) -> list[str]:
    ids = [str(uuid4()) for _ in range(count)]
    app.api().call("POST", "/api/fixtures", {"text": f"{count} x {text}", "ids": ids})
    return ids


def group(app: RunningApp, name: str, selection: str, **more: Any) -> str:
    key = str(uuid4())
    app.api().call("POST", "/api/groups", {"id": key, "name": name, "selection": selection, **more})
    return key


def addresses(app: RunningApp) -> dict[int, list[str]]:
    shown = app.api().call("GET", "/api/show")["fixtures"]
    return {one["number"]: [block["address"] for block in one["blocks"]] for one in shown}


def test_a_matrix_is_woven_from_a_group_in_its_order(app: RunningApp, show: str) -> None:
    ids = hang(app, "RGB lamp, from 1", 4)
    group(app, "Back to front", "4-1")
    weave = {"selection": "Back to front", "width": 4, "height": 1}
    body = {"id": str(uuid4()), "name": "Row", "width": 4, "height": 1, "weave": weave}
    app.api().call("POST", "/api/matrices", body)
    [matrix] = app.api().call("GET", "/api/show")["matrices"]
    placed = sorted((one.x, one.key.fixture) for one in unpack(matrix["placements"]))
    assert [key for _, key in placed] == ids[::-1]


def test_a_weave_takes_every_second_cell_of_a_selection(app: RunningApp, show: str) -> None:
    hang(app, "Cell bar without dimmer, mode 8 RGB, from 401", 1)
    said = app.api().call("POST", "/api/matrices/say", {"selection": "401:1-8 every 2nd", "width": 4, "height": 1})
    assert (said["cells"], said["problem"]) == (4, "")
    wrong = app.api().call("POST", "/api/matrices/say", {"selection": "Nobody", "width": 4, "height": 1})
    assert wrong["problem"] == "'Nobody' is not a selection."


def test_automatic_addressing_leaves_blocks_with_their_own_address(app: RunningApp, show: str) -> None:
    hang(app, f"{add_head(app)}, from 701, at U9.1, block Ring at U10.1", 2)
    group(app, "Heads", "701-702")
    body = {"selection": "Heads", "scheme": "dense", "order": "number", "start": "U3.101"}
    plan = app.api().call("POST", "/api/patch/plan", body)
    assert [(one["before"], one["address"], one["end"]) for one in plan["moves"]] == [
        ("U9.1", "U3.101", "U3.131"),
        ("U9.32", "U3.132", "U3.162"),
    ]
    app.api().call("POST", "/api/patch/apply", body)
    assert addresses(app) == {701: ["U3.101", "U3.123", "U10.1"], 702: ["U3.132", "U3.154", "U10.49"]}


def test_addressing_steps_over_a_block_that_lies_in_the_way(app: RunningApp, show: str) -> None:
    hang(app, f"{add_head(app)}, from 701, at U9.1, block Ring at U3.1", 1)  # its ring takes U3.1 to U3.48
    hang(app, "RGB pixel strip, mode 50 RGB, from 1, at U20.1", 1)
    body = {"selection": "1", "scheme": "dense", "order": "number", "start": "U3.1"}
    app.api().call("POST", "/api/patch/apply", body)
    assert addresses(app)[1] == ["U3.49"]


def test_two_blocks_that_meet_are_a_conflict_wherever_they_lie(app: RunningApp, show: str) -> None:
    heads = hang(app, f"{add_head(app)}, from 701, at U9.1, block Ring at U10.1", 2)
    lamp = hang(app, "RGB lamp, from 1, at U12.1", 1)
    app.api().call("PATCH", f"/api/fixtures/{lamp[0]}", {"address": "U10.50"})
    shown = {one["id"]: one for one in app.api().call("GET", "/api/show")["fixtures"]}
    assert (shown[heads[0]]["conflict"], shown[heads[1]]["conflict"]) == ([], [1])
    [found] = [one for one in app.api().call("GET", "/api/patch/doctor") if one["kind"] == "overlap"]
    assert found["universe"] == 10


def test_an_exchange_takes_only_what_lies_at_the_fixtures_own_address(app: RunningApp, show: str) -> None:
    heads = hang(app, f"{add_head(app)}, from 701, at U9.1, block Ring at U10.1", 2)
    app.api().call("POST", "/api/patch/exchange", {"a": heads[0], "b": heads[1]})
    assert addresses(app) == {701: ["U9.32", "U9.54", "U10.1"], 702: ["U9.1", "U9.23", "U10.49"]}


@pytest.mark.parametrize(
    ("selection", "fixtures", "cells", "emitter"),
    [
        ("all heads", [701], 12, ""),
        ("all heads : white", [701], 12, "white"),
        ("701:0", [701], 0, ""),
        ("all - Heads", [1], 1, ""),
        ("Heads & even", [], 0, ""),
    ],
)
def test_what_a_selection_means_is_read_before_it_is_used(
    app: RunningApp, show: str, selection: str, fixtures: list[int], cells: int, emitter: str
) -> None:
    hang(app, f"{add_head(app)}, from 701", 1)
    hang(app, "RGB lamp, from 1", 1)
    group(app, "Heads", "all heads", by_rule=True)
    numbers = {one["id"]: one["number"] for one in app.api().call("GET", "/api/show")["fixtures"]}
    read = app.api().call("POST", "/api/fixtures/select", {"text": selection})
    assert ([numbers[one] for one in read["fixtures"]], read["cells"], read["emitter"]) == (fixtures, cells, emitter)
