"""Scores by the API: typed, moved, repeated, filled; in show files; and on the wire, from their beat to their end."""

from __future__ import annotations

import time
from collections.abc import Callable
from typing import Any
from uuid import uuid4

import pytest

from heliograph.core.errors import HeliographError
from tests.conftest import Node, RunningApp, at_rest, wait_for
from tests.live.scenes import light_wall, wall_hang
from tests.moves import move, off

MakeNode = Callable[..., Node]
COLOURS = {"Harbour": (200, 40, 10), "Lamp": (10, 120, 240)}


@pytest.fixture
def scene(app: RunningApp) -> Any:
    made = Scene(app)
    yield made
    at_rest(app)


class Scene:
    """Two looks of one colour each on a wall of 18 lamps, the groups Upper and Lower, and a score without entries."""

    def __init__(self, app: RunningApp) -> None:
        self.app, self.api = app, app.api()
        ids = light_wall(app, "127.0.77.81", [[0, 0, 0, 0]])
        app.engine().ask(off(ids["look"]))
        for name, colour in COLOURS.items():
            line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": ids["matrix"]}
            body = {"id": str(uuid4()), "name": name, "lines": [{**line, "ramp": [[0, *colour]]}]}
            self.api.call("POST", "/api/looks", body)
        for name, rule in (("Upper", "1-6"), ("Lower", "7-18")):
            self.api.call("POST", "/api/groups", {"id": str(uuid4()), "name": name, "selection": rule})
        self.score = str(uuid4())
        self.api.call("POST", "/api/scores", {"id": self.score, "name": "Midwinter evening"})
        self.staves = {one["name"]: one["id"] for one in self.stored["staves"]}

    @property
    def stored(self) -> dict[str, Any]:
        found: dict[str, Any] = next(one for one in self.api.call("GET", "/api/show")["scores"])
        return found

    def write(self, text: str, stave: str = "Upper") -> str:
        key = str(uuid4())
        self.call("POST", "entries", {"id": key, "stave": self.staves[stave], "text": text})
        return key

    def call(self, method: str, what: str, body: Any = None) -> Any:
        return self.api.call(method, f"/api/scores/{self.score}/{what}".rstrip("/"), body)

    def places(self) -> list[str]:
        return [f"{one['name']} {one['place']}" for one in self.stored["entries"]]

    def press(self, name: str, value: Any = None) -> None:
        revision = self.api.call("GET", "/api/show")["show"]["revision"]
        wait_for(lambda: self.app.engine().ask({"do": "status"})["revision"] >= revision, 8, "the show does not arrive")
        self.app.engine().ask(move(f"score/{self.score}/{name}", value))

    def plays(self) -> dict[str, Any]:
        [found] = [one for one in self.app.engine().ask({"do": "status"})["state"]["scores"] if one["of"] == self.score]
        return dict(found)


def refused(scene: Scene, *asked: Any) -> HeliographError:
    with pytest.raises(HeliographError) as error:
        scene.call(*asked)
    return error.value


def test_a_new_score_has_a_stave_for_each_group_and_entries_are_typed(scene: Scene) -> None:
    assert set(scene.staves) == {"Upper", "Lower"}
    scene.write("Harbour 80 % at 5.1 for 2 bars")
    one = scene.write("white 40 % at 7.1 for 6 beats", "Lower")
    assert scene.places() == ["Harbour 5.1 for 2 bars", "white 7.1 for 6 beats"]
    scene.call("PATCH", "entries", {"entries": [one], "place": "8.3", "plays": "lamp", "fade_in": "2 beats"})
    assert scene.places() == ["Harbour 5.1 for 2 bars", "Lamp 8.3 for 6 beats"]
    assert scene.stored["entries"][1]["said"] == {"level": "40 %", "fade_in": "2 beats", "fade_out": "0 beats"}
    scene.api.call("POST", "/api/undo")
    assert scene.places()[1] == "white 7.1 for 6 beats"


def test_what_is_typed_wrong_is_said_with_what_would_be_right_and_nothing_changes(scene: Scene) -> None:
    one = scene.write("Harbour at 1.1 for 2 bars")
    before = scene.stored
    for change, what, repair in (
        ({"place": "33.1"}, "not within 32 bars", "Make the score longer"),
        ({"place": "2.5"}, "A bar has 4 beats, not 5.", "5.1 to 5.4"),
        ({"plays": "Kelp"}, "There is no look or preset 'Kelp'.", "or type white"),
        ({"level": "140"}, "no level", "0 to 100 %"),
        ({"fade_in": "3 bars"}, "do not fit into 8", "at most as long as the entry"),
        ({"stave": "nowhere"}, "a stave that is not there", ""),
        ({"entries": ["nobody"], "level": "1"}, "not there any more", ""),
    ):
        error = refused(scene, "PATCH", "entries", {"entries": [one], **change})
        assert what in error.what
        assert repair in error.repair
    assert "has 32 bars" in refused(scene, "POST", "fill", fill(scene, last=40)).what
    assert scene.stored == before


def test_entries_are_copied_moved_repeated_and_deleted(scene: Scene) -> None:
    one = scene.write("Harbour at 1.1 for 1 bar")
    scene.call("POST", "entries/copy", {"entries": [one]})
    assert scene.places() == ["Harbour 1.1 for 1 bar", "Harbour 2.1 for 1 bar"]
    scene.call("POST", "entries/move", {"entries": [one], "beats": 10, "stave": scene.staves["Lower"]})
    assert scene.places()[0] == "Harbour 3.3 for 1 bar"
    done = scene.call("POST", "entries/repeat", {"entries": [one], "every": "8 bars"})
    assert done["count"] == 3
    assert scene.places()[2:] == ["Harbour 11.3 for 1 bar", "Harbour 19.3 for 1 bar", "Harbour 27.3 for 1 bar"]
    scene.call("POST", "entries/delete", {"entries": [each["id"] for each in scene.stored["entries"]]})
    assert scene.places() == []


def test_accents_are_set_on_beats_and_taken_away_again_while_it_runs_too(scene: Scene) -> None:
    asked = {"id": str(uuid4()), "stave": scene.staves["Upper"], "place": "3.2"}
    assert scene.call("POST", "accents", asked)["there"]
    assert scene.stored["entries"][0]["accent"]
    assert not scene.call("POST", "accents", {**asked, "id": str(uuid4())})["there"]
    assert "does not run" in refused(scene, "POST", "accents", {"id": str(uuid4()), "stave": asked["stave"]}).what
    scene.press("start")
    scene.press("hold", True)
    scene.press("bar", 2.7)  # the 0.7th part of bar 2 is beat 6.8
    done = scene.call("POST", "accents", {"id": str(uuid4()), "stave": asked["stave"]})
    assert (done["there"], done["begins"]) == (True, "2.4")


def fill(scene: Scene, **fields: Any) -> dict[str, Any]:
    staves = list(scene.staves.values())
    return {"staves": staves, "first": 1, "last": 16, "mood": "rising", "seed": 4108, **fields}


def filled(scene: Scene, **fields: Any) -> dict[str, Any]:
    """Once it is known of every look whether it flashes."""

    def known() -> dict[str, Any] | None:
        found: dict[str, Any] = scene.call("POST", "fill", fill(scene, **fields))
        return None if found["waiting"] else found

    found: dict[str, Any] = wait_for(known, 30, "it is still looked at whether looks flash")
    return found


@pytest.mark.slow
def test_fill_is_shown_before_it_is_written_kept_and_never_over_what_hands_wrote(scene: Scene) -> None:
    mine = scene.write("Harbour 50 % at 6.1 for 2 bars")
    shown = filled(scene)
    assert scene.places() == ["Harbour 6.1 for 2 bars"]
    assert shown["by_hand"] == 1
    assert filled(scene)["entries"] == shown["entries"]
    assert filled(scene, keep=True)["kept"]
    stored = scene.stored["entries"]
    assert next(one for one in stored if one["id"] == mine)["place"] == "6.1 for 2 bars"
    assert len(stored) == len(shown["entries"]) + 1
    touched = next(one["id"] for one in stored if one["filled"])
    scene.call("PATCH", "entries", {"entries": [touched], "level": "33 %"})
    filled(scene, keep=True, seed=9)
    left = {one["id"]: one for one in scene.stored["entries"]}
    assert left[touched]["said"]["level"] == "33 %"
    assert not left[touched]["filled"]
    scene.api.call("POST", "/api/undo")
    assert touched in {one["id"] for one in scene.stored["entries"]}


def test_on_the_wire_an_entry_comes_and_goes_and_white_and_groups_are_kept_apart(scene: Scene, node: MakeNode) -> None:
    receiver = node("127.0.77.81", wall_hang())
    scene.write("Lamp 50 % at 1.1 for 8 bars")
    scene.write("white 20 % at 2.1 for 2 bars", "Lower")
    scene.press("start")
    scene.press("hold", True)
    wait_for(lambda: receiver.picture()[:3] == [5, 60, 120], 5, "the entry is not on the wire")
    assert receiver.picture()[18:] == [0] * 36
    scene.press("bar", 2.5)
    wait_for(lambda: set(receiver.picture()[18:]) == {51}, 5, "white is not on the wire")
    assert scene.plays()["at"] == "2.3"
    scene.press("bar", 9.5)
    wait_for(lambda: not any(receiver.picture()), 5, "it does not end")
    scene.press("bar", 1)
    wait_for(lambda: any(receiver.picture()), 5, "it does not come back")
    scene.call("DELETE", "")
    wait_for(lambda: not any(receiver.picture()), 6, "a score that is deleted goes on")
    assert not scene.app.engine().ask({"do": "status"})["state"]["scores"]


def test_a_look_that_is_deleted_leaves_its_name_and_a_copy_of_the_show_is_as_whole(scene: Scene) -> None:
    scene.write("Lamp at 1.1 for 8 bars")
    look = next(one["id"] for one in scene.api.call("GET", "/api/show")["looks"] if one["name"] == "Lamp")
    scene.api.call("DELETE", f"/api/looks/{look}")
    [entry] = scene.stored["entries"]
    assert (entry["name"], entry["gone"]) == ("Lamp (gone)", True)
    scene.press("start")
    time.sleep(0.1)
    assert scene.plays()["running"]
    scene.call("POST", "copy", {"id": str(uuid4())})
    assert [one["name"] for one in scene.api.call("GET", "/api/show")["scores"]][1] == "Midwinter evening, copy"
