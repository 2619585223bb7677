"""One thing done to many fixtures: planned, done as planned, undone as one. Blocks and groups through the API."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp
from tests.heads import add_head


def hang(app: RunningApp, text: str, count: int) -> list[str]:
    ids = [str(uuid4()) for _ in range(count)]
    app.api().call("POST", "/api/fixtures", {"text": f"{count} x {text}", "ids": ids})
    return ids


def fixtures(app: RunningApp) -> list[dict[str, Any]]:
    found: list[dict[str, Any]] = app.api().call("GET", "/api/show")["fixtures"]
    return found


def batch(app: RunningApp, ids: list[str], **change: Any) -> list[dict[str, Any]]:
    """Plans, does, and answers the plan."""
    body = {"ids": ids, "change": change}
    plan = app.api().call("POST", "/api/fixtures/batch/plan", body)
    assert plan["problem"] == "", plan["problem"]
    app.api().call("POST", "/api/fixtures/batch", body)
    planned: list[dict[str, Any]] = plan["fixtures"]
    return planned


def test_numbers_also_onto_each_other(app: RunningApp, show: str) -> None:
    ids = hang(app, "RGB lamp, from 1", 4)
    plan = batch(app, ids, do="number", first=3)
    assert [(one["number_before"], one["number"]) for one in plan] == [(1, 3), (2, 4), (3, 5), (4, 6)]
    assert [one["number"] for one in fixtures(app)] == [3, 4, 5, 6]
    batch(app, ids[::-1], do="number", first=10, step=5)
    assert {one["id"]: one["number"] for one in fixtures(app)} == dict(zip(ids, (25, 20, 15, 10), strict=True))
    app.api().call("POST", "/api/undo")
    assert [one["number"] for one in fixtures(app)] == [3, 4, 5, 6]


def test_a_number_that_is_taken_is_said_first(app: RunningApp, show: str) -> None:
    ids = hang(app, "RGB lamp, from 1", 4)
    body = {"ids": ids[:2], "change": {"do": "number", "first": 3}}
    plan = app.api().call("POST", "/api/fixtures/batch/plan", body)
    assert plan["problem"] == "Fixture number 3 is taken."
    assert plan["repair"] == "From 5 on all numbers are free."


def test_names_by_pattern(app: RunningApp, show: str) -> None:
    ids = hang(app, "RGB lamp, from 7, Lamp {n}", 3)
    batch(app, ids, do="name", pattern="Stairs {n} ({number})")
    assert [one["name"] for one in fixtures(app)] == ["Stairs 1 (7)", "Stairs 2 (8)", "Stairs 3 (9)"]
    batch(app, ids, do="name", pattern="{name} left")
    assert fixtures(app)[0]["name"] == "Stairs 1 (7) left"


def test_a_mode_changed_after_patching_takes_its_name_and_footprint_along(app: RunningApp, show: str) -> None:
    """The trade's mistake: a mode changed after patching leaves the old name, the old footprint or an overlap."""
    ids = hang(app, "RGB pixel strip, mode 50 RGB, from 1, Strip 50 RGB {n}", 2)
    profile = fixtures(app)[0]["profile"]
    plan = batch(app, ids, do="mode", profile=profile, mode="100 RGB")
    assert [(one["name"], one["footprint_before"], one["footprint"]) for one in plan] == [
        ("Strip 100 RGB 1", 150, 300),
        ("Strip 100 RGB 2", 150, 300),
    ]
    assert plan[1]["says"] == "It will share channels with 1."
    assert [one["mode"] for one in fixtures(app)] == ["100 RGB", "100 RGB"]


def test_copies_come_to_free_places(app: RunningApp, show: str) -> None:
    ids = hang(app, "RGB lamp, from 1, Lamp {n}", 2)
    new = [str(uuid4()) for _ in range(4)]
    batch(app, ids, do="copy", times=2, first=11, pattern="Copy {n}", new_ids=new)
    copies = fixtures(app)[2:]
    assert [(one["number"], one["name"], one["address"]) for one in copies] == [
        (11, "Copy 1", "U1.7"),
        (12, "Copy 2", "U1.10"),
        (13, "Copy 3", "U1.13"),
        (14, "Copy 4", "U1.16"),
    ]
    app.api().call("POST", "/api/undo")
    assert len(fixtures(app)) == 2


def blocks(app: RunningApp, number: int) -> list[tuple[str, str]]:
    one = next(one for one in fixtures(app) if one["number"] == number)
    return [(block["lies"], block["address"]) for block in one["blocks"]]


def test_three_blocks_in_two_universes(app: RunningApp, show: str) -> None:
    """Base 22, halo 9, a ring of 12 x 4 (common practice, no published source)."""
    hang(app, f"{add_head(app)}, from 701, at U9.1, block Ring at U10.1", 4)
    assert blocks(app, 701) == [("first", "U9.1"), ("after Base", "U9.23"), ("U10.1", "U10.1")]
    assert blocks(app, 704) == [("first", "U9.94"), ("after Base", "U9.116"), ("U10.145", "U10.145")]
    heads = fixtures(app)
    assert [one["end"] for one in heads] == ["U9.31", "U9.62", "U9.93", "U9.124"]
    assert heads[3]["spans"] == [[9, 94, 124], [10, 145, 192]]


def test_a_block_goes_nowhere_and_comes_back(app: RunningApp, show: str) -> None:
    ids = hang(app, f"{add_head(app)}, from 701, at U9.1", 2)
    assert blocks(app, 701) == [("first", "U9.1"), ("after Base", "U9.23"), ("after Halo", "U9.32")]
    api = app.api()
    api.call("POST", "/api/fixtures/blocks", {"ids": ids, "block": 1, "lies": ""})
    assert blocks(app, 701) == [("first", "U9.1"), ("", ""), ("after Base", "U9.23")]
    api.call("POST", "/api/fixtures/blocks", {"ids": ids, "block": 2, "lies": "U10.1"})
    assert [blocks(app, n)[2] for n in (701, 702)] == [("U10.1", "U10.1"), ("U10.49", "U10.49")]
    for block in (0, 2):
        body = {"ids": ids, "block": block, "lies": ""}
        if block == 0:
            api.call("POST", "/api/fixtures/blocks", body)
        else:
            with pytest.raises(HeliographError, match="Every block would be nowhere"):
                api.call("POST", "/api/fixtures/blocks", body)
    for _ in range(3):
        api.call("POST", "/api/undo")
    assert blocks(app, 702) == [("first", "U9.80"), ("after Base", "U9.102"), ("after Halo", "U9.111")]


@pytest.mark.parametrize(
    ("said", "says"),
    [
        ("block Lid at U3.1", "'Lid at U3.1' names no block of mode"),
        ("block Base at U3.1", "Base is the first block: it lies at the fixture's address, or nowhere."),
        ("block Ring at U3.500", "U3.500 + 48 channels ends at 547"),
    ],
)
def test_what_is_wrong_with_a_block_is_said_before_adding(app: RunningApp, show: str, said: str, says: str) -> None:
    plan = app.api().call("POST", "/api/fixtures/plan", {"text": f"1 x {add_head(app)}, from 701, {said}"})
    if "500" in said:  # it counts on to the next universe instead, and shows that
        assert plan["problem"] == ""
        assert "Ring at U4.1" in plan["fixtures"][0]["address"]
    else:
        assert plan["problem"].startswith(says)


def test_a_group_by_rule_takes_new_ones_in(app: RunningApp, show: str) -> None:
    api = app.api()
    hang(app, "RGB pixel strip, mode 16 RGB, from 1", 2)
    key = str(uuid4())
    api.call("POST", "/api/groups", {"id": key, "name": "Strips", "selection": "all strips", "by_rule": True})
    hang(app, "RGB pixel strip, mode 16 RGB, from 11", 1)
    hang(app, "RGB lamp, from 21", 1)
    numbers = {one["id"]: one["number"] for one in fixtures(app)}
    [group] = api.call("GET", "/api/show")["groups"]
    assert ([numbers[one] for one in group["fixtures"]], group["rule"]) == ([1, 2, 11], "all strips")
    read = api.call("POST", "/api/fixtures/select", {"text": "Strips - 2"})
    assert ([numbers[one] for one in read["fixtures"]], read["cells"]) == ([1, 11], 32)
    api.call("PATCH", f"/api/groups/{key}", {"by_rule": False})
    hang(app, "RGB pixel strip, mode 16 RGB, from 31", 1)
    assert len(api.call("GET", "/api/show")["groups"][0]["fixtures"]) == 3  # from now on by hand


def test_a_group_of_cells_or_of_one_emitter(app: RunningApp, show: str) -> None:
    api = app.api()
    [bar] = hang(app, "Cell bar, from 401", 1)
    api.call("POST", "/api/groups", {"id": str(uuid4()), "name": "Ends", "selection": "401:1, 401:4"})
    api.call("POST", "/api/groups", {"id": str(uuid4()), "name": "Reds", "selection": "401 : red"})
    api.call("POST", "/api/groups", {"id": str(uuid4()), "name": "Shared", "selection": "401:0"})
    ends, reds, shared = api.call("GET", "/api/show")["groups"]
    assert (ends["fixtures"], ends["cells"]) == ([bar], [f"{bar}:1", f"{bar}:4"])
    assert (reds["fixtures"], reds["emitter"]) == ([bar], "red")
    assert shared["cells"] == [f"{bar}:0"]
    with pytest.raises(HeliographError, match="There is a group 'Ends' already"):
        api.call("POST", "/api/groups", {"id": str(uuid4()), "name": "ends", "selection": "401"})


def test_a_mode_change_shows_the_blocks_as_it_will_store_them(app: RunningApp, show: str) -> None:
    """Of 12 and of 20 pixels the blocks have the same names: the ring keeps their own address; a lamp has none."""
    ids = hang(app, f"{add_head(app)}, from 701, at U9.1, block Ring at U10.101", 1)
    name = add_head(app, 20)
    profiles = {one["name"]: one for one in app.api().call("GET", "/api/show")["profiles"]}
    large = profiles[name]
    [planned] = batch(app, ids, do="mode", profile=large["id"], mode=large["modes"][0]["name"])
    assert (planned["end"], blocks(app, 701)[2]) == ("U9.31", ("U10.101", "U10.101"))
    lamp = profiles["RGB lamp"]
    [planned] = batch(app, ids, do="mode", profile=lamp["id"], mode="RGB")
    assert (planned["end"], blocks(app, 701)) == ("U9.3", [("first", "U9.1")])


def test_the_address_of_the_first_block_is_the_fixtures_and_words_say_what_is_wrong(app: RunningApp, show: str) -> None:
    ids = hang(app, f"{add_head(app)}, from 701, at U9.1, without Halo", 2)
    assert blocks(app, 702) == [("first", "U9.71"), ("", ""), ("after Base", "U9.93")]
    api = app.api()
    api.call("POST", "/api/fixtures/blocks", {"ids": ids, "block": 0, "lies": "U4.3"})
    assert [blocks(app, n)[0][1] for n in (701, 702)] == ["U4.3", "U4.73"]
    api.call("POST", "/api/fixtures/blocks", {"ids": ids, "block": 1, "lies": "after Base"})
    assert blocks(app, 701)[1:] == [("after Base", "U4.25"), ("after Halo", "U4.34")]
    for lies, says in (("after Ring", "cannot lie"), ("U4.900", "channels 1 to 512"), ("off", "'off'")):
        with pytest.raises(HeliographError, match=says):
            api.call("POST", "/api/fixtures/blocks", {"ids": ids, "block": 1, "lies": lies})
    mode = {"name": "x", "blocks": [{"name": "b", "shared": [{"attribute": "Pan"}], "lies": "U3.1"}]}
    with pytest.raises(HeliographError, match="addresses are the fixtures'"):
        api.call("POST", "/api/profiles", {"id": str(uuid4()), "maker": "Own", "name": "N", "modes": [mode]})
