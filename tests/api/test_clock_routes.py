"""The clock by the API: rules as they are typed, the next seven days, what is wrong; on the wire at its moment; the
start of the day."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime
from typing import Any
from uuid import uuid4
from zoneinfo import ZoneInfo

import pytest

from heliograph.core.errors import HeliographError
from heliograph.ipc.control import ControlClient
from heliograph.ipc.messages.inputs import AskClock, SetWall
from tests.conftest import Node, RunningApp, at_rest, saved_show, wait_for
from tests.live.scenes import light_wall, wall_hang
from tests.moves import off

MakeNode = Callable[..., Node]
ZONE = "Europe/Berlin"


class Scene:
    """A wall, a list of two cues, and a clock in Berlin."""

    def __init__(self, app: RunningApp) -> None:
        self.app, self.api = app, app.api()
        ids = light_wall(app, "127.0.77.91", [[0, 10, 120, 240]])
        app.engine().ask(off(ids["look"]))
        self.look = ids["look"]
        self.list = str(uuid4())
        self.api.call("POST", "/api/lists", {"id": self.list, "name": "Evening"})
        self.api.call("POST", f"/api/lists/{self.list}/cues", {"id": str(uuid4()), "looks": "Dusk"})
        self.api.call("PATCH", "/api/clock", {"zone": ZONE, "place": "52.50 N 13.40 E"})
        self.inputs = ControlClient(str(app.data / "run" / "inputs.sock"), "inputs")

    def rule(self, when: str, does: str = "Evening: go") -> str:
        key = str(uuid4())
        self.arrived()
        self.api.call("POST", "/api/clock/rules", {"id": key, "when": when, "does": does})
        return key

    def arrived(self) -> None:
        """The engine knows what is stored, and so its handles; and so do the inputs."""
        revision = self.api.call("GET", "/api/show")["show"]["revision"]
        wait_for(lambda: self.app.engine().ask({"do": "status"})["revision"] >= revision, 8, "the show does not arrive")

    @property
    def stored(self) -> dict[str, Any]:
        found: dict[str, Any] = self.api.call("GET", "/api/show")["clocks"][0]
        return found

    def sets(self, now: str) -> None:
        self.inputs.ask(SetWall(datetime.fromisoformat(now).replace(tzinfo=ZoneInfo(ZONE)).timestamp()))

    def week(self) -> dict[str, Any]:
        found: dict[str, Any] = self.api.call("GET", "/api/clock/week")
        return found


@pytest.fixture
def scene(app: RunningApp) -> Any:
    made = Scene(app)
    yield made
    made.inputs.ask(SetWall())
    at_rest(app)


def refused(scene: Scene, *asked: Any) -> HeliographError:
    with pytest.raises(HeliographError) as error:
        scene.api.call(*asked)
    return error.value


def test_rules_are_typed_changed_and_undone(scene: Scene) -> None:
    one = scene.rule("dusk - 10 min on mon-fri")
    scene.rule("every 30 min from 17:00 to 22:00", "The grand master 80 %")
    assert [(each["when"], each["does"]) for each in scene.stored["rules"]] == [
        ("10 min before dusk on Mon-Fri", "Evening: go"),
        ("every 30 min from 17:00 to 22:00", "The grand master 80 %"),
    ]
    scene.api.call("PATCH", f"/api/clock/rules/{one}", {"when": "at 16:30", "name": "opens", "on": False})
    changed = scene.stored["rules"][0]
    assert (changed["when"], changed["name"], changed["on"]) == ("at 16:30", "opens", False)
    scene.api.call("DELETE", f"/api/clock/rules/{one}")
    assert len(scene.stored["rules"]) == 1
    scene.api.call("POST", "/api/undo")
    assert scene.stored["rules"][0] == changed


def test_a_rule_and_a_cue_that_move_what_is_gone_say_so_where_they_stand(scene: Scene) -> None:
    scene.rule("at 16:30")
    scene.rule("at 17:00", "Blackout off")
    other = str(uuid4())
    scene.api.call("POST", "/api/lists", {"id": other, "name": "Other"})
    body = {"id": str(uuid4()), "does": "Evening: go; Blackout off"}
    wait_for(lambda: scene.api.call("POST", f"/api/lists/{other}/cues", body), 10)
    assert [one["gone"] for one in scene.stored["rules"]] == [[], []]
    scene.api.call("DELETE", f"/api/lists/{scene.list}")
    assert [one["gone"] for one in scene.stored["rules"]] == [["Evening: go"], []]
    show = scene.api.call("GET", "/api/show")
    [left] = [one for one in show["cue_lists"] if one["id"] == other]
    assert left["cues"][0]["gone"] == ["Evening: go"]
    scene.api.call("POST", "/api/undo")
    assert [one["gone"] for one in scene.stored["rules"]] == [[], []]


def test_what_is_wrong_says_what_would_be_right(scene: Scene) -> None:
    scene.arrived()
    for when, does, said in (
        ("whenever", "Evening: go", "no time for a clock"),
        ("at 16:30", "Evning: go", "Nothing here is called"),
        ("at 16:30", "", "A rule does something"),
        ("every 1 s", "Evening: go", "not happen every so often"),
    ):
        body = {"id": str(uuid4()), "when": when, "does": does}
        assert said in refused(scene, "POST", "/api/clock/rules", body).what
    assert "no time zone" in refused(scene, "PATCH", "/api/clock", {"zone": "Europe/Skerry"}).what
    assert "no place" in refused(scene, "PATCH", "/api/clock", {"place": "here"}).what
    assert scene.stored["rules"] == []
    scene.api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Nowhere"})
    body = {"id": str(uuid4()), "when": "dusk", "does": "Blackout on"}
    assert "depends on where this is" in refused(scene, "POST", "/api/clock/rules", body).what


def test_the_next_seven_days_are_listed_by_the_time_the_clock_has(scene: Scene) -> None:
    scene.rule("at 02:30")
    scene.rule("dusk on sat")
    scene.sets("2026-03-26 12:00")
    week = scene.week()
    assert week["known"]
    assert week["now"].startswith("Thu 26 Mar 12:00")
    listed = [(one["day"], one["time"]) for one in week["due"]]
    assert ("Sun 29 Mar", "03:00") in listed
    assert len(listed) == 8
    assert [day for day, shown in listed if shown not in ("02:30", "03:00")] == ["Sat 28 Mar"]


@pytest.mark.slow
def test_on_the_wire_at_its_moment_and_a_rule_can_be_tried(scene: Scene, node: MakeNode) -> None:
    receiver = node("127.0.77.91", wall_hang())
    key = scene.rule("at 16:30")
    scene.sets("2030-12-01 16:29:58")
    stays = scene.inputs.ask(AskClock()).done_s
    wait_for(lambda: scene.inputs.ask(AskClock()).done_s != stays or any(receiver.picture()), 8, "nothing is due")
    wait_for(lambda: receiver.picture()[:3] == [10, 120, 240], 8, "the list did not begin")
    lists = scene.app.engine().ask({"do": "status"})["state"]["lists"]
    assert [one["of"] for one in lists] == [scene.list]
    scene.app.engine().ask({"do": "move", "moves": [{"handle": f"list/{scene.list}/release", "value": None}]})
    wait_for(lambda: not any(receiver.picture()), 8, "the list does not let go")
    scene.api.call("POST", f"/api/clock/rules/{key}/try")
    wait_for(lambda: any(receiver.picture()), 8, "trying does nothing")


def test_the_clock_goes_with_the_show_file_and_acts_on_the_new_list(scene: Scene) -> None:
    scene.rule("dusk on Mon-Fri except 24 Dec")
    with saved_show(scene.app) as answer:
        path = scene.app.data / "clock.zip"
        path.write_bytes(answer.read())
    key = str(uuid4())
    scene.api.upload("/api/shows/file", key, "clock.zip", path)
    scene.api.call("POST", f"/api/shows/{key}/open")
    [rule] = scene.stored["rules"]
    assert (rule["when"], rule["does"]) == ("dusk on Mon-Fri except 24 Dec", "Evening: go")
    new = scene.api.call("GET", "/api/show")["cue_lists"][0]["id"]
    known = {"do": "handles", "words": "Evening go", "most": 9}
    wait_for(lambda: new in str(scene.app.engine().ask(known)), 8, "the other show does not arrive")
    scene.api.call("POST", f"/api/clock/rules/{rule['id']}/try")
    [of] = [one["of"] for one in scene.app.engine().ask({"do": "status"})["state"]["lists"]]
    assert of == new != scene.list


def test_the_start_of_the_day_is_chosen_and_read_back(scene: Scene) -> None:
    before = scene.api.call("GET", "/api/start-of-day")
    assert before == {"show": "", "runs": "last"}
    chosen = {"show": scene.api.call("GET", "/api/show")["show"]["id"], "runs": f"list/{scene.list}/go"}
    assert scene.api.call("PUT", "/api/start-of-day", chosen) == chosen
    assert scene.api.call("GET", "/api/start-of-day") == chosen
    assert "cannot be what runs" in refused(scene, "PUT", "/api/start-of-day", {"runs": "arm"}).what
    assert "not there" in refused(scene, "PUT", "/api/start-of-day", {"show": str(uuid4())}).what
    scene.api.call("PUT", "/api/start-of-day", before)
