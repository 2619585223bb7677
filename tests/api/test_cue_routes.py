"""Cue lists by the API: typed, numbered, moved, as CSV, from what runs; and how they end, on the wire."""

from __future__ import annotations

import urllib.request
from collections.abc import Callable
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from heliograph.demo.client import ApiClient
from tests.conftest import Node, RunningApp, at_rest, saved_show, wait_for
from tests.live.scenes import light_wall, start, wall_hang
from tests.moves import level_of, move, off

MakeNode = Callable[..., Node]
COLOURS = {"Harbour": (200, 40, 10), "Lamp": (10, 120, 240), "Fog": (90, 90, 90)}


@pytest.fixture
def scene(app: RunningApp) -> Any:
    made = Scene(app)
    yield made
    at_rest(app)


class Scene:
    """Three looks of one colour each on a wall, and a list without cues."""

    def __init__(self, app: RunningApp) -> None:
        self.app, self.api = app, app.api()
        at_rest(app)
        ids = light_wall(app, "127.0.77.71", [[0, 0, 0, 0]])
        self.matrix = ids["matrix"]
        app.engine().ask(off(ids["look"]))
        self.looks: dict[str, str] = {}
        for name, colour in COLOURS.items():
            key = self.looks[name] = str(uuid4())
            line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": self.matrix}
            self.api.call("POST", "/api/looks", {"id": key, "name": name, "lines": [{**line, "ramp": [[0, *colour]]}]})
        self.list = str(uuid4())
        self.api.call("POST", "/api/lists", {"id": self.list, "name": "Winter evening"})

    def cue(self, **fields: Any) -> str:
        key = str(uuid4())
        self.api.call("POST", f"/api/lists/{self.list}/cues", {"id": key, **fields})
        return key

    def call(self, method: str, what: str, body: Any = None) -> Any:
        return self.api.call(method, f"/api/lists/{self.list}/{what}", body)

    @property
    def stored(self) -> dict[str, Any]:
        found: dict[str, Any] = next(one for one in self.api.call("GET", "/api/show")["cue_lists"])
        return found

    def numbers(self) -> list[float]:
        return [one["number"] for one in self.stored["cues"]]

    def press(self, name: str, value: Any = None) -> None:
        """As soon as the engine has what is stored."""
        revision = self.api.call("GET", "/api/show")["show"]["revision"]
        wait_for(lambda: self.app.engine().ask({"do": "status"})["revision"] >= revision, 8, "the show does not arrive")
        self.app.engine().ask(move(f"list/{self.list}/{name}", value))

    def plays(self) -> dict[str, Any]:
        found = [one for one in self.app.engine().ask({"do": "status"})["state"]["lists"] if one["of"] == self.list]
        return dict(found[0]) if found else {}


def refused(api: ApiClient, *asked: Any) -> HeliographError:
    with pytest.raises(HeliographError) as error:
        api.call(*asked)
    return error.value


def test_cues_are_typed_and_read_back_as_they_are_typed(scene: Scene) -> None:
    scene.cue(name="Lamp is lit", looks="Lamp 40 %, fog", fade_in="4 s", then="follow 12 s")
    scene.cue(looks="Harbour from the start", fade_in="2 beats", fade_out="1 bar", then="at 16:30", note="on the bell")
    first, second = scene.stored["cues"]
    assert (first["number"], first["name"], first["looks"]) == (1.0, "Lamp is lit", "Lamp 40 %, Fog")
    assert (first["fade_in"], first["fade_out"], first["then"]) == ("4 s", "", "follow 12 s")
    assert (second["number"], second["looks"], second["then"]) == (2.0, "Harbour from the start", "at 16:30")
    assert (second["fade_in"], second["fade_out"], second["note"]) == ("2 beats", "4 beats", "on the bell")
    both = [first["id"], second["id"]]
    scene.call("PATCH", "cues", {"cues": both, "fade_in": "3 s", "fade_out": "", "then": "on the bar"})
    assert [(one["fade_in"], one["fade_out"], one["then"]) for one in scene.stored["cues"]] == [
        ("3 s", "", "on the bar")
    ] * 2


def test_what_is_typed_wrong_is_said_with_what_would_be_right(scene: Scene) -> None:
    one = scene.cue(looks="Lamp", fade_in="4 s", delay="1 s")
    before = scene.stored
    for change, what, repair in (
        ({"looks": "Lampe"}, "There is no look 'Lampe'.", "There are"),
        ({"looks": "Lamp 140 %"}, "140 % is more than 100 %.", "Type 40 %."),
        ({"looks": "Lamp over Nowhere"}, "There is no group 'Nowhere'.", ""),
        ({"fade_in": "soon"}, "'soon' is no time.", "Type seconds like 8 s"),
        ({"fade_in": "4 s", "fade_out": "2 beats"}, "A fade is in seconds or in beats.", ""),
        ({"fade_in": "2 beats"}, "Cue 1: its delay is in seconds.", "Give all of its times in one."),
        ({"then": "whenever"}, "'whenever' is nothing that can come then.", "Type hold, follow 12 s"),
        ({"then": "at 25:00"}, "'25:00' is no time of day.", "Type 16:30."),
        ({"cues": ["nobody"], "name": "x"}, "One of these cues is not there any more.", ""),
    ):
        error = refused(scene.api, "PATCH", f"/api/lists/{scene.list}/cues", {"cues": [one], **change})
        assert error.what == what
        assert repair in error.repair
    same = refused(scene.api, "POST", f"/api/lists/{scene.list}/cues", {"id": str(uuid4()), "number": 1})
    assert same.what == "There is a cue 1 already."
    assert scene.stored == before


def test_cues_are_put_between_moved_copied_renumbered_and_deleted(scene: Scene) -> None:
    ids = [scene.cue(name=name) for name in "abcd"]
    between = scene.cue(name="e", after=ids[1])
    assert (scene.numbers(), [one["name"] for one in scene.stored["cues"]]) == ([1, 2, 2.5, 3, 4], list("abecd"))
    scene.call("POST", "cues/move", {"cues": [ids[3]], "after": ""})
    assert [one["name"] for one in scene.stored["cues"]] == list("dabec")
    scene.call("POST", "cues/copy", {"cues": [ids[0], between], "ids": [str(uuid4()), str(uuid4())]})
    assert [one["name"] for one in scene.stored["cues"]] == list("dabeaec")
    scene.call("POST", "cues/renumber", {"first": 10, "step": 5})
    assert scene.numbers() == [10, 15, 20, 25, 30, 35, 40]
    scene.call("POST", "cues/delete", {"cues": [ids[3], ids[0]]})
    assert [one["name"] for one in scene.stored["cues"]] == list("beaec")
    scene.api.call("POST", "/api/undo")
    assert scene.numbers() == [10, 15, 20, 25, 30, 35, 40]


def test_as_csv_out_and_in_again_and_a_wrong_row_is_named(scene: Scene) -> None:
    scene.cue(
        name="=Lamp", looks="Lamp 40 %", fade_in="4 s", fade_out="1 s", then="follow 2 beats from go", note="a, b"
    )
    scene.cue(name="Harbour", looks="Harbour, Fog", then="clip ends", number=4.5)
    address = f"/api/lists/{scene.list}/cues.csv"
    with urllib.request.urlopen(urllib.request.Request(scene.app.address + address, method="POST")) as answer:
        table = answer.read().decode()
    assert table.splitlines()[0] == "number,name,looks,fade in,fade out,delay,curve,then,note"
    before = scene.stored["cues"]
    scene.api.call("PUT", address, {"table": table})
    assert scene.stored["cues"] == before
    wrong = table.replace("clip ends", "tomorrow")
    assert refused(scene.api, "PUT", address, {"table": wrong}).what.startswith("Row 3: 'tomorrow' is nothing")
    assert refused(scene.api, "PUT", address, {"table": "cue;look"}).what == "The table has no column 'number'."
    assert scene.stored["cues"] == before


def test_a_cue_of_what_runs_now_and_one_whose_look_is_gone(scene: Scene, app: RunningApp) -> None:
    assert (
        "Nothing runs"
        in refused(scene.api, "POST", f"/api/lists/{scene.list}/cues", {"id": str(uuid4()), "take": True}).what
    )
    start(app, scene.looks["Fog"])
    app.engine().ask(level_of(scene.looks["Fog"], 0.6))
    scene.cue(take=True, name="As it is")
    [one] = scene.stored["cues"]
    assert one["looks"] == "Fog 60 %"
    scene.api.call("DELETE", f"/api/looks/{scene.looks['Fog']}")
    [one] = scene.stored["cues"]
    assert (one["looks"], one["gone"]) == ("Fog (gone) 60 %", ["Fog"])
    scene.api.call("POST", "/api/undo")
    assert scene.stored["cues"][0]["gone"] == []


@pytest.mark.slow
def test_go_fade_hold_release_on_the_wire_and_every_channel_says_why(scene: Scene, node: MakeNode) -> None:
    receiver = node("127.0.77.71", wall_hang())
    scene.cue(looks="Harbour")
    scene.cue(name="Lamp turns", looks="Lamp", fade_in="600 s")
    scene.press("go")
    wait_for(lambda: receiver.picture()[:3] == [200, 40, 10], 8, "Go lights nothing")
    scene.app.engine().ask({"do": "hold_time"})
    at = scene.app.engine().ask({"do": "status"})["state"]["show_s"]
    scene.press("go")
    for share in (0.25, 0.5, 0.75):
        scene.app.engine().ask({"do": "set_time", "seconds": at + 600 * share})
        expected = [
            round(a * (1 - share) + b * share) for a, b in zip(COLOURS["Harbour"], COLOURS["Lamp"], strict=True)
        ]

        def close(expected: list[int] = expected) -> bool:
            return max(abs(a - b) for a, b in zip(receiver.picture()[:3], expected, strict=True)) <= 1

        wait_for(close, 8, f"no mix at {share}: {receiver.picture()[:3]} for {expected}")
    why = scene.api.call("GET", "/api/why/1/1")
    assert why["value"] == why["made"] == receiver.picture()[0]
    says = " ".join(step["says"] for step in why["steps"])
    assert "cue 2 Lamp turns adds 75 % of that" in says
    assert "Winter evening at 100 %" in says
    plays = scene.plays()
    assert [round(one["weight"], 3) for one in plays["mix"]] == [0.25, 0.75]
    assert plays["fade_left_s"] == pytest.approx(150, abs=0.1)
    scene.press("hold", True)
    scene.app.engine().ask({"do": "set_time", "seconds": at + 900})
    wait_for(close, 8, "held, it goes on")
    scene.press("release")
    scene.app.engine().ask({"do": "run_time"})
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 0], 12, "let go of, it stays lit")
    assert scene.plays() == {}


@pytest.mark.slow
def test_a_list_that_is_deleted_while_it_plays_goes_dark_and_comes_back_by_undo(scene: Scene, node: MakeNode) -> None:
    receiver = node("127.0.77.71", wall_hang())
    scene.cue(looks="Harbour")
    scene.press("go")
    wait_for(lambda: receiver.picture()[:3] == [200, 40, 10], 8, "Go lights nothing")
    scene.api.call("DELETE", f"/api/lists/{scene.list}")
    wait_for(lambda: receiver.picture()[:3] == [0, 0, 0], 12, "deleted, it stays lit")
    scene.api.call("POST", "/api/undo")
    scene.press("go")
    wait_for(lambda: receiver.picture()[:3] == [200, 40, 10], 8, "it does not come back")


def test_lists_travel_with_show_files_and_copies_with_all_they_point_at(scene: Scene, tmp_path: Path) -> None:
    act = {"handle": f"look/{scene.looks['Fog']}/level", "value": 0.5, "over_s": 2.0, "words": "Fog: level"}
    scene.cue(looks="Harbour 40 %", fade_in="4 s", actions=[act])
    before = scene.stored
    scene.api.call("POST", f"/api/lists/{scene.list}/copy", {"id": str(uuid4())})
    lists = scene.api.call("GET", "/api/show")["cue_lists"]
    assert [(one["name"], one["main"]) for one in lists] == [("Winter evening", True), ("Winter evening, copy", False)]
    change = {"main": True, "rounds": 0, "order": "turns", "release": "5 s"}
    scene.api.call("PATCH", f"/api/lists/{lists[1]['id']}", change)
    lists = scene.api.call("GET", "/api/show")["cue_lists"]
    assert [one["main"] for one in lists] == [False, True]
    assert (lists[1]["release"], lists[1]["order"]) == ("5 s", "turns")
    assert lists[0]["cues"] == before["cues"]

    file, key = tmp_path / "evening.show", str(uuid4())
    with saved_show(scene.app) as answer:
        file.write_bytes(answer.read())
    scene.api.upload("/api/shows/file", key, "again.show", file)
    scene.api.call("POST", f"/api/shows/{key}/open")
    show = scene.api.call("GET", "/api/show")
    again = show["cue_lists"]
    fog = next(one["id"] for one in show["looks"] if one["name"] == "Fog")
    assert fog != scene.looks["Fog"]
    assert again[0]["cues"][0]["looks"] == "Harbour 40 %"
    assert again[0]["cues"][0]["actions"][0]["handle"] == f"look/{fog}/level"
    assert [(one["name"], one["main"], one["order"]) for one in again] == [
        ("Winter evening", False, "along"),
        ("Winter evening, copy", True, "turns"),
    ]


def test_what_a_cue_does_beside_is_typed_by_the_words_of_handles(scene: Scene, app: RunningApp) -> None:
    one = scene.cue(looks="Harbour")
    scene.press("back")  # the engine knows the looks by now
    for typed, stored in (
        ("the grand master 50 %", "The grand master 50 %"),
        ("Fog: level 40 % in 2 s", "Fog: level 40 % in 2 s"),
        ("blackout off; Winter evening: hold on", "Blackout off; Winter evening: hold on"),
        ("tempo 96", "The tempo 96"),
        ("All lasers safe", "All lasers safe"),
        ("", ""),
    ):
        scene.call("PATCH", "cues", {"cues": [one], "does": typed})
        assert scene.stored["cues"][0]["does"] == stored
    for typed, what in (
        ("The weather 40 %", "Nothing here is called 'The weather'."),
        ("The grand master", "The grand master needs a value."),
        ("Blackout 40 %", "Blackout is on or off."),
        ("The grand master 50 % in 2 s", "The grand master moves at once."),
        ("arm 1", "Nothing here is called 'arm'."),
    ):
        assert refused(scene.api, "PATCH", f"/api/lists/{scene.list}/cues", {"cues": [one], "does": typed}).what == what
    scene.call("PATCH", "cues", {"cues": [one], "does": "The grand master 50 %; Lamp on"})
    scene.press("go")
    state = app.engine().ask({"do": "status"})["state"]
    assert state["master"] == 0.5
    assert {run["look"] for run in state["running"]} == {scene.looks["Harbour"], scene.looks["Lamp"]}
