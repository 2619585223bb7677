"""The clock and scores over kills and power cuts, looked at on the wire: right afterwards, nothing twice, nothing left
out; and what runs when the machine is switched on."""

from __future__ import annotations

import contextlib
import os
import shutil
import signal
import time
from collections.abc import Callable
from datetime import datetime
from typing import Any
from uuid import uuid4
from zoneinfo import ZoneInfo

import psutil
import pytest

from heliograph.core.errors import HeliographError
from heliograph.ipc.control import ControlClient
from heliograph.ipc.messages.inputs import AskClock, SetWall
from heliograph.ipc.messages.show import OfferManifest
from heliograph.ipc.places import fast_folder
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, running, wall_hang
from tests.moves import move, off

MakeNode = Callable[[str, dict[str, Any]], Node]
ZONE = "Europe/Berlin"
COLOURS = {"Harbour": (200, 40, 10), "Lamp": (10, 120, 240)}


class Quay:
    """A wall of lamps, a look of each colour, a list of both, a score, a clock."""

    def __init__(self, app: RunningApp, receiver: Node) -> None:
        self.app, self.receiver, self.api = app, receiver, app.api()
        ids = light_wall(app, "127.0.86.2", [[0, 0, 0, 0]])
        app.engine().ask(off(ids["look"]))
        self.list, self.score, self.show = str(uuid4()), str(uuid4()), ids["show"]
        self.api.call("POST", "/api/lists", {"id": self.list, "name": "Evening"})
        for name, colour in COLOURS.items():
            line = {"id": str(uuid4()), "paints": "effect", "effect": "Flat", "matrix": ids["matrix"]}
            look = {"id": str(uuid4()), "name": name, "lines": [{**line, "ramp": [[0, *colour]]}]}
            self.api.call("POST", "/api/looks", look)
            self.api.call("POST", f"/api/lists/{self.list}/cues", {"id": str(uuid4()), "looks": name})
        self.api.call("POST", "/api/groups", {"id": str(uuid4()), "name": "All", "selection": "all"})
        self.api.call("POST", "/api/scores", {"id": self.score, "name": "Midwinter evening", "bars": 64})
        [stave] = self.api.call("GET", "/api/show")["scores"][0]["staves"]
        entries = [f"{'Harbour' if n % 2 else 'Lamp'} at {n + 1}.1 for 1 bar" for n in range(64)]
        for text in entries[:12]:
            body = {"id": str(uuid4()), "stave": stave["id"], "text": text}
            self.api.call("POST", f"/api/scores/{self.score}/entries", body)
        self.api.call("PATCH", "/api/clock", {"zone": ZONE, "place": "52.50 N 13.40 E"})
        self.arrived()

    def arrived(self) -> None:
        revision = self.api.call("GET", "/api/show")["show"]["revision"]
        wait_for(lambda: running(self.app)["revision"] >= revision, 10, "the show does not arrive")
        wait_for(lambda: self.inputs().ask(OfferManifest({})).revision >= revision, 10, "the clock has other rules")

    def rule(self, when: str, does: str) -> None:
        self.api.call("POST", "/api/clock/rules", {"id": str(uuid4()), "when": when, "does": does})
        self.arrived()

    def inputs(self) -> ControlClient:
        return ControlClient(str(self.app.data / "run" / "inputs.sock"), "inputs")

    def sets(self, now: str) -> None:
        self.inputs().ask(SetWall(stamp(now)))

    def shows(self, name: str) -> bool:
        return self.receiver.picture()[:3] == list(COLOURS[name])

    def state(self) -> dict[str, Any]:
        """Nothing while no engine answers."""
        with contextlib.suppress(HeliographError):
            state: dict[str, Any] = running(self.app)["state"]
            return state
        return {"lists": [], "scores": []}

    def cut_power(self) -> None:
        """Everything ends at once, and what lay in memory is gone."""
        family = psutil.Process(self.app.process.pid)
        for one in (family, *family.children(recursive=True)):  # who would start them again goes first
            with contextlib.suppress(psutil.Error, ProcessLookupError):  # some go with those before them
                os.kill(one.pid, signal.SIGKILL)
        self.app.process.wait(20)
        engine = self.app.data / "run" / "engine.lock"
        wait_for(lambda: not psutil.pid_exists(int(engine.read_text() or 0)), 10, "the engine lives on")
        shutil.rmtree(fast_folder(self.app.data), ignore_errors=True)

    def comes_back(self, now: str, *options: str) -> None:
        self.app.environment = {"HELIOGRAPH_WALL_S": str(stamp(now) - time.time())}
        self.app.options = options
        self.app.log.write_text("")
        self.app.start()


def stamp(text: str) -> float:
    return datetime.fromisoformat(text).replace(tzinfo=ZoneInfo(ZONE)).timestamp()


@pytest.fixture
def quay(own_app: Callable[..., RunningApp], node: MakeNode) -> Quay:
    receiver = node("127.0.86.2", wall_hang())
    return Quay(own_app("127.0.86.1"), receiver)


def test_an_engine_that_is_killed_at_the_clocks_moment_does_it_once(quay: Quay) -> None:
    quay.rule("at 16:30", "Evening: go")
    quay.sets("2030-12-01 16:29:56")
    quay.app.kill("engine")
    wait_for(lambda: quay.shows("Harbour"), 15, "what was due is left out")
    quay.app.kill("inputs")
    quay.app.kill("engine")
    wait_for(lambda: bool(quay.state()["lists"]), 15, "the list did not come back")
    wait_for(lambda: quay.inputs().ask(AskClock()).done_s is not None, 15, "the clock does not come back")
    time.sleep(0.5)
    wait_for(lambda: bool(quay.state()["lists"]), 15, "the engine does not answer")
    [plays] = quay.state()["lists"]
    stored = quay.api.call("GET", "/api/show")["cue_lists"][0]["cues"]
    assert plays["cue"] == stored[0]["id"]  # a second go would stand in the second cue
    assert quay.shows("Harbour")


def test_with_web_and_database_away_the_clock_and_a_score_run_on(quay: Quay) -> None:
    quay.rule("at 16:30", "Midwinter evening: start")
    quay.sets("2030-12-01 16:29:50")
    web, database = (quay.app.pid(name) for name in ("web", "database"))
    for pid in (web, database):
        os.kill(pid, signal.SIGSTOP)
    try:
        wait_for(lambda: quay.shows("Lamp"), 25, "the score did not start")
        wait_for(lambda: quay.shows("Harbour"), 10, "it does not go on")
    finally:
        for pid in (web, database):
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, signal.SIGCONT)


def test_a_score_goes_on_in_the_same_place_after_a_kill(quay: Quay) -> None:
    quay.app.engine().ask(move(f"score/{quay.score}/start"))
    wait_for(lambda: quay.state()["scores"][0]["beat"] > 2.0, 10, "it does not run")
    before = quay.state()
    quay.app.kill("engine")
    wait_for(lambda: bool(quay.state()["scores"]) and quay.state()["scores"][0]["running"], 15, "it did not come back")
    after = quay.state()
    gone = (after["show_s"] - before["show_s"]) * after["bpm"] / 60.0
    assert after["scores"][0]["beat"] - before["scores"][0]["beat"] == pytest.approx(gone, abs=0.05)
    wait_for(lambda: quay.shows("Harbour"), 10, "the wire shows another bar")


def test_after_a_power_cut_over_a_change_the_right_thing_runs(quay: Quay) -> None:
    quay.rule("at 16:00", "Evening: go")
    quay.rule("at 22:00", "The grand master 50 %")
    quay.rule("at 23:00", "Evening: release")
    quay.sets("2030-12-01 15:59:58")
    wait_for(lambda: quay.shows("Harbour"), 10, "it does not begin")
    time.sleep(3.0)  # the copy of the state on disk is at most two seconds old
    quay.cut_power()
    quay.comes_back("2030-12-01 22:30:00")
    half = [round(part / 2) for part in COLOURS["Harbour"]]

    def as_at_half_past_ten() -> bool:
        return max(abs(a - b) for a, b in zip(quay.receiver.picture()[:3], half, strict=True)) <= 1

    wait_for(as_at_half_past_ten, 15, "not what should be running at 22:30")
    quay.cut_power()
    quay.comes_back("2030-12-02 09:00:00")
    wait_for(lambda: not any(quay.receiver.picture()), 15, "what ended at 23:00 runs on")


def test_when_the_machine_is_switched_on_what_was_chosen_runs_and_nothing_else(quay: Quay) -> None:
    other = str(uuid4())
    quay.app.engine().ask(move(f"list/{quay.list}/go"))
    wait_for(lambda: quay.shows("Harbour"), 10, "it does not begin")
    quay.api.call("PUT", "/api/start-of-day", {"show": quay.show, "runs": f"score/{quay.score}/start"})
    quay.api.call("POST", "/api/shows", {"id": other, "name": "Another"})
    quay.app.stop()
    quay.comes_back("2030-12-01 12:00:00", "--unattended")
    wait_for(lambda: quay.shows("Lamp"), 15, "the score did not start")
    assert not quay.state()["lists"]
    assert quay.api.call("GET", "/api/show")["show"]["id"] == quay.show
    quay.api.call("PUT", "/api/start-of-day", {"show": "", "runs": "nothing"})
    quay.app.stop()
    quay.comes_back("2030-12-01 12:00:00", "--unattended")
    wait_for(lambda: quay.inputs().ask(AskClock()).done_s is not None, 10, "the clock does not run")
    assert not quay.state()["lists"]
    assert not quay.state()["scores"][0]["running"]
    assert not any(quay.receiver.picture())
    quay.app.engine().ask(move(f"list/{quay.list}/go"))
    wait_for(lambda: quay.shows("Harbour"), 10, "it does not begin")
    quay.app.stop()
    quay.comes_back("2030-12-01 12:00:00")
    wait_for(lambda: quay.shows("Harbour"), 15, "by hand the last state goes on")
