"""The public API beside editing: matrices at work, levels, effects, shows, cards."""

from __future__ import annotations

import urllib.request
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from heliograph.core.matrix.placements import unpack
from heliograph.effects import EFFECTS
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang


def ids(count: int) -> list[str]:
    return [str(uuid4()) for _ in range(count)]


@pytest.fixture
def wall(app: RunningApp, show: str) -> tuple[str, list[str]]:
    """18 lamps on a 5 x 4 matrix woven in rows; the matrix and the lamps."""
    api = app.api()
    lamps, matrix = ids(18), str(uuid4())
    api.call("POST", "/api/fixtures", {"text": "18 x RGB lamp, from 1", "ids": lamps})
    weave = {"selection": "1-18", "width": 5, "height": 4}
    api.call("POST", "/api/matrices", {"id": matrix, "name": "Wall", "width": 5, "height": 4, "weave": weave})
    return matrix, lamps


def squares(app: RunningApp) -> dict[tuple[int, int], str]:
    matrix = app.api().call("GET", "/api/show")["matrices"][0]
    return {one.square: one.key.fixture for one in unpack(matrix["placements"])}


def test_moving_to_an_empty_square_and_exchanging(app: RunningApp, wall: tuple[str, list[str]]) -> None:
    matrix, lamps = wall
    api = app.api()
    api.call("POST", f"/api/matrices/{matrix}/exchange", {"a": [0, 0], "b": [4, 3]})
    assert squares(app)[(4, 3)] == lamps[0]
    assert (0, 0) not in squares(app)
    api.call("POST", f"/api/matrices/{matrix}/exchange", {"a": [1, 0], "b": [2, 0]})
    assert (squares(app)[(1, 0)], squares(app)[(2, 0)]) == (lamps[2], lamps[1])
    with pytest.raises(HeliographError, match=r"Square 6, 1 is off the matrix of 5 x 4"):
        api.call("POST", f"/api/matrices/{matrix}/exchange", {"a": [5, 0], "b": [0, 0]})


def test_to_the_tray_and_back(app: RunningApp, wall: tuple[str, list[str]]) -> None:
    matrix, lamps = wall
    api = app.api()
    api.call("POST", f"/api/matrices/{matrix}/lift", {"squares": [[0, 0], [1, 0]]})
    assert len(squares(app)) == 16
    cell = {"fixture": lamps[0], "cell": "1"}
    with pytest.raises(HeliographError, match="Square 3, 1 is taken"):
        api.call("POST", f"/api/matrices/{matrix}/place", {"cell": cell, "to": [2, 0]})
    with pytest.raises(HeliographError, match="no such cell"):
        api.call("POST", f"/api/matrices/{matrix}/place", {"cell": {**cell, "cell": "9"}, "to": [0, 0]})
    api.call("POST", f"/api/matrices/{matrix}/place", {"cell": cell, "to": [1, 0]})
    assert squares(app)[(1, 0)] == lamps[0]


def test_a_matrix_never_loses_cells_by_getting_smaller(app: RunningApp, wall: tuple[str, list[str]]) -> None:
    matrix, _ = wall
    api = app.api()
    before = squares(app)
    api.call("PATCH", f"/api/matrices/{matrix}", {"width": 3})
    with pytest.raises(HeliographError, match=r"Square 5, 1 is off the matrix of 3 x 4"):
        api.call("POST", f"/api/matrices/{matrix}/exchange", {"a": [0, 0], "b": [4, 0]})
    api.call("PATCH", f"/api/matrices/{matrix}", {"width": 7, "name": "Long wall"})
    assert squares(app) == before  # what stood off the smaller one is back
    shown = api.call("GET", "/api/show")["matrices"][0]
    assert (shown["width"], shown["name"], len(squares(app))) == (7, "Long wall", 18)


def test_a_weave_says_what_it_will_do_and_what_it_cannot(app: RunningApp, wall: tuple[str, list[str]]) -> None:
    api = app.api()
    body = {"selection": "all", "width": 6, "height": 3, "corner": "bottom left", "along": "columns", "snake": True}
    said = api.call("POST", "/api/matrices/say", body)
    assert said["sentence"] == "6 wide, 3 high, from the bottom left, up and down in turn, 18 cells"
    short = api.call("POST", "/api/matrices/say", {**body, "height": 2})
    assert (short["sentence"], short["problem"]) == ("", "18 cells do not fit on 6 x 2 = 12 squares.")
    assert "it takes 3 rows" in short["repair"]
    unknown = api.call("POST", "/api/matrices/say", {**body, "selection": "77"})
    assert unknown["problem"] == "There is no fixture 77."


BOARDS = {"selection": "1-18", "width": 6, "height": 3, "board": {"width": 2, "height": 3, "along": "columns"}}


def test_a_matrix_knows_how_it_was_woven(app: RunningApp, show: str) -> None:
    """Made in boards, it is described in boards: weaving it as it says moves nothing."""
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "18 x RGB lamp, from 1", "ids": ids(18)})
    matrix = str(uuid4())
    made = {"id": matrix, "name": "Gatehouse", "width": 6, "height": 3, "weave": BOARDS}
    api.call("POST", "/api/matrices", made)
    woven = api.call("GET", f"/api/matrices/{matrix}/woven")
    assert woven["known"] is True
    assert (woven["weave"]["board"]["width"], woven["weave"]["board"]["along"]) == (2, "columns")

    def moved(**change: Any) -> int:
        return int(api.call("POST", "/api/matrices/say", {**woven["weave"], "matrix": matrix, **change})["moved"])

    assert moved() == 0
    # In plain rows the first column stays, and where board and row meet: worked out by hand below.
    boards = [(b * 2 + n // 3, n % 3) for b in range(3) for n in range(6)]
    rows = [(n % 6, n // 6) for n in range(18)]
    assert moved(board=None) == sum(a != b for a, b in zip(boards, rows, strict=True))
    api.call("POST", f"/api/matrices/{matrix}/exchange", {"a": [0, 0], "b": [5, 2]})
    assert moved() == 2, "what was exchanged by hand is told before it is taken back"
    assert moved(selection="1-17") == 2  # 1 goes back, 18 would go
    api.call("POST", "/api/undo")
    assert moved() == 0


def test_a_weave_is_read_back_from_where_cells_lie(app: RunningApp, show: str) -> None:
    api = app.api()
    api.call("POST", "/api/fixtures", {"text": "12 x RGB lamp, from 1", "ids": ids(12)})
    matrix = str(uuid4())
    api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 3, "height": 4})
    # Written down by hand: up the first column, down the second, up the third.
    lie = [(0, 3), (0, 2), (0, 1), (0, 0), (1, 0), (1, 1), (1, 2), (1, 3), (2, 3), (2, 2), (2, 1), (2, 0)]
    numbers = [[lie.index((x, y)) + 1 for x in range(3)] for y in range(4)]
    text = "\n".join(",".join(map(str, row)) for row in numbers)
    api.call("POST", f"/api/matrices/{matrix}/squares", {"text": text, "at": [0, 0]})
    found = api.call("GET", f"/api/matrices/{matrix}/woven")
    said = {name: found["weave"][name] for name in ("selection", "corner", "along", "snake")}
    assert (found["known"], said) == (
        True,
        {"selection": "1-12", "corner": "bottom left", "along": "columns", "snake": 1},
    )
    api.call("POST", f"/api/matrices/{matrix}/exchange", {"a": [0, 0], "b": [2, 2]})
    assert api.call("GET", f"/api/matrices/{matrix}/woven")["known"] is False
    with pytest.raises(HeliographError, match="That matrix is gone"):
        api.call("GET", f"/api/matrices/{uuid4()}/woven")


def test_levels_name_the_owner_of_every_channel(app: RunningApp, node: Any) -> None:
    receiver: Node = node("127.0.81.2", wall_hang())
    light_wall(app, "127.0.81.2", [[0, 12, 34, 56]])
    wait_for(lambda: receiver.picture() == [12, 34, 56] * 18)
    told = app.api().call("GET", "/api/levels/1")
    assert told["sent"] is True
    assert told["values"][:54] == [12, 34, 56] * 18
    assert told["numbers"] == ["To the node: Net 0 Sub-Net 0 Universe 0 (Port-Address 0, counted from 1: 1)"]
    assert len(told["owners"]) == 54
    last = told["owners"][-1]
    assert (last["channel"], last["written"], last["label"]) == (54, "18:1", "blue")
    nothing = app.api().call("GET", "/api/levels/99")
    assert (nothing["sent"], any(nothing["values"]), nothing["numbers"]) == (False, False, [])


def test_effects_tell_their_parameters(app: RunningApp) -> None:
    told = {effect["name"]: effect for effect in app.api().call("GET", "/api/effects")}
    assert set(told) == set(EFFECTS)
    relay = {p["name"]: p for p in told["Relay"]["parameters"]}
    assert relay["order"]["choices"] == ["address", "row", "column", "snake", "shuffle"]
    assert (relay["overlap"]["minimum"], relay["overlap"]["maximum"]) == (0, 100)


def test_a_profile_can_be_added_and_given_a_mode(app: RunningApp, show: str) -> None:
    api = app.api()
    cell = [{"attribute": f"ColorAdd_{c}"} for c in "GRB"]
    block = {"name": "Pixels", "cell_count": 75, "cell_channels": cell}
    key = str(uuid4())
    profile = {"id": key, "maker": "Tern & Daughter", "name": "Tern Rope", "kind": "strip"}
    api.call("POST", "/api/profiles", {**profile, "modes": [{"name": "75 GRB", "blocks": [block]}]})
    longer = {**block, "cell_count": 300, "runs_on": True}
    api.call("POST", f"/api/profiles/{key}/modes", {"mode": {"name": "300 GRB", "blocks": [longer]}})
    with pytest.raises(HeliographError, match="Two modes are called '75 GRB'"):
        api.call("POST", f"/api/profiles/{key}/modes", {"mode": {"name": "75 GRB", "blocks": [block]}})
    plan = api.call("POST", "/api/fixtures/plan", {"text": "2 x Tern Rope, mode 300 GRB, from 1"})
    assert [one["address"] for one in plan["fixtures"]] == ["U1.1", "U2.391"]
    assert (plan["cells"], plan["channels"]) == (600, 1800)


def test_one_show_runs_at_a_time(app: RunningApp, show: str) -> None:
    api = app.api()
    other = str(uuid4())
    api.call("POST", "/api/shows", {"id": other, "name": "Other"})
    open_now = [one["id"] for one in api.call("GET", "/api/shows") if one["is_open"]]
    assert open_now == [other]
    api.call("POST", f"/api/shows/{show}/open")
    assert api.call("GET", "/api/show")["show"]["id"] == show
    assert api.call("PATCH", "/api/show", {"name": "Renamed"})["name"] == "Renamed"
    with pytest.raises(HeliographError, match="not there any more"):
        api.call("POST", f"/api/shows/{uuid4()}/open")


def test_cards_and_events(app: RunningApp) -> None:
    assert [card["address"] for card in app.api().call("GET", "/api/cards")] == [app.card]
    texts = [event["text"] for event in app.api().call("GET", "/api/events")]
    assert "web server started" in texts
    assert any(text.startswith("engine started") for text in texts)


def test_a_matrix_is_mirrored_shifted_opened_copied_and_typed(app: RunningApp, wall: tuple[str, list[str]]) -> None:
    """18 lamps on 5 x 4 squares: 1 to 5 in the first row, 16 to 18 in the last."""
    matrix, _ = wall
    api = app.api()

    def sheet() -> list[list[str]]:
        request = urllib.request.Request(f"{app.address}/api/matrices/{matrix}/squares.csv", method="POST")
        with urllib.request.urlopen(request, timeout=20) as answer:
            return [line.split(",") for line in answer.read().decode().splitlines()]

    def arrange(**body: Any) -> list[list[str]]:
        api.call("POST", f"/api/matrices/{matrix}/arrange", body)
        return sheet()

    first = sheet()
    assert first[0] == ["1:1", "2:1", "3:1", "4:1", "5:1"]
    assert arrange(do="mirror")[0] == ["5:1", "4:1", "3:1", "2:1", "1:1"]
    assert arrange(do="mirror", axis="top to bottom")[3] == ["5:1", "4:1", "3:1", "2:1", "1:1"]
    assert arrange(do="shift", line="row", index=3, by=2)[3] == ["2:1", "1:1", "5:1", "4:1", "3:1"]
    assert arrange(do="open gap", line="column", index=1)[3] == ["2:1", "", "1:1", "5:1", "4:1", "3:1"]
    with pytest.raises(HeliographError, match=r"\d cells stand on column 3"):
        arrange(do="close gap", line="column", index=2)
    assert arrange(do="close gap", line="column", index=1)[3] == ["2:1", "1:1", "5:1", "4:1", "3:1"]
    for _ in range(5):
        api.call("POST", "/api/undo")
    assert sheet() == first
    copy = str(uuid4())
    api.call("POST", f"/api/matrices/{matrix}/copy", {"id": copy, "name": "Wall again"})
    shown = {one["name"]: one["placements"] for one in api.call("GET", "/api/show")["matrices"]}
    assert shown["Wall again"] == shown["Wall"]
    typed = {"text": "16;-;1\n;;2:1", "at": [3, 3]}
    api.call("POST", f"/api/matrices/{matrix}/squares", typed)
    grown = sheet()
    assert (len(grown[0]), len(grown)) == (6, 5)
    assert grown[3][3:] == ["16:1", "", "1:1"]
    assert grown[4][5] == "2:1"
    assert grown[0][:2] == ["", ""]
    wrong = {"text": "1,77\n1,x"}
    with pytest.raises(HeliographError) as told:
        api.call("POST", f"/api/matrices/{matrix}/squares", wrong)
    assert told.value.what == (
        "row 1, column 2: there is no cell '77'; row 2, column 1: 1 stands at row 1, column 1 already; "
        "row 2, column 2: there is no cell 'x'."
    )
    assert sheet() == grown
