"""The clock at work: each moment handed to the engine once, whoever was away; what was missed; the start of the day; a
machine whose clock jumps or is behind."""

from __future__ import annotations

from datetime import datetime
from types import SimpleNamespace
from typing import Any
from zoneinfo import ZoneInfo

from heliograph.core.errors import UnavailableError
from heliograph.inputs.clock_work import ClockWork, StartOfDay, Wall, said_long
from heliograph.ipc.messages.engine import AskStatus, ClockDue

ZONE = "Europe/London"


def at(text: str) -> float:
    return datetime.fromisoformat(f"2026-12-{text}").replace(tzinfo=ZoneInfo(ZONE)).timestamp()


def rule(key: str, hour: float, handle: str, value: Any = None, **fields: Any) -> dict[str, Any]:
    actions = [{"handle": handle, "value": value, "words": handle}]
    return {"id": key, "when": "time", "at_s": hour * 3600, "actions": actions, "name": "", **fields}


OPENS = rule("a", 16, "list/e/go")
CLOSES = rule("b", 23, "list/e/release")


def section(*rules: dict[str, Any], saved: str = "01 09:00") -> dict[str, Any]:
    return {"latitude": 57.7, "longitude": -2.0, "zone": ZONE, "rules": list(rules), "saved_s": at(saved)}


class Stand:
    """An engine that counts what it was told, and a wall that stands until it is moved."""

    def __init__(self, now: str, start: StartOfDay | None = None, clock_s: float = 0.0) -> None:
        self.time, self.steady, self.clock_s, self.away = at(now), 100.0, clock_s, False
        self.did: list[str] = []
        self.said: list[str] = []
        self.warned: list[str] = []
        self.answers_lost = 0
        log: Any = SimpleNamespace(warning=lambda text, **_: self.warned.append(text))
        self.wall = Wall(lambda: self.time, lambda: self.steady)
        self.start, self.log = start, log
        self.shows = True
        self.work = self.anew()

    def anew(self) -> ClockWork:
        return ClockWork(self.ask, self.wall, self.log, self.start, lambda _show: self.shows)

    def ask(self, request: Any) -> Any:
        if self.away:
            raise UnavailableError("It is away.")
        if isinstance(request, ClockDue) and request.at_s > self.clock_s:
            self.clock_s = request.at_s
            self.did += [one.handle for one in request.moves]
            self.said += request.says
            if self.answers_lost:
                self.answers_lost -= 1
                raise UnavailableError("The answer got lost.")
        assert isinstance(request, (ClockDue, AskStatus))
        return SimpleNamespace(state=SimpleNamespace(clock_s=self.clock_s))

    def goes_to(self, now: str, jumps: bool = False) -> None:
        """By minutes, as time does; or at once."""
        wanted = at(now)
        while self.time < wanted:
            step = wanted - self.time if jumps else min(60.0, wanted - self.time)
            self.time += step
            self.steady += 0.1 if jumps else step
            self.work.step()


def test_what_is_due_is_done_once_at_its_moment() -> None:
    stand = Stand("01 12:00")
    stand.work.adopt(section(OPENS, CLOSES), changed=False)
    stand.goes_to("01 15:59")
    assert stand.did == []
    stand.goes_to("03 12:00")
    assert stand.did == ["list/e/go", "list/e/release"] * 2
    assert stand.said[0] == "clock, 16:00: list/e/go"


def test_an_engine_that_is_away_at_the_moment_gets_it_when_it_is_back_and_an_answer_that_is_lost_does_no_harm() -> None:
    stand = Stand("01 12:00")
    stand.work.adopt(section(OPENS), changed=False)
    stand.goes_to("01 15:59")
    stand.away = True
    stand.goes_to("01 16:03")
    stand.away, stand.answers_lost = False, 1
    stand.goes_to("01 17:00")
    assert stand.did == ["list/e/go"]
    assert stand.said == ["clock, 16:00, 4 min late: list/e/go"]


def test_after_a_power_cut_only_what_counts_still_is_done() -> None:
    stand = Stand("02 09:00", clock_s=at("01 15:00"))
    stand.work.adopt(section(OPENS, rule("c", 18, "master", 0.5), CLOSES), changed=False)
    stand.goes_to("02 09:02")
    assert stand.did == ["master", "list/e/release"]
    again = stand.work = stand.anew()
    again.adopt(section(OPENS, CLOSES), changed=False)
    stand.goes_to("02 15:00")
    assert stand.did == ["master", "list/e/release"]


def test_rules_that_are_made_do_not_catch_up_on_hours_before_they_were() -> None:
    stand = Stand("01 09:00")
    stand.work.adopt(section(CLOSES), changed=False)
    stand.goes_to("01 17:00")
    stand.work.adopt(section(OPENS, CLOSES, saved="01 17:00"), changed=True)
    stand.goes_to("01 18:00")
    assert stand.did == []
    stand.goes_to("02 17:00")
    assert stand.did == ["list/e/release", "list/e/go"]


def test_a_rule_that_was_saved_in_time_and_came_late_is_done() -> None:
    stand = Stand("01 15:50")
    stand.work.adopt(section(CLOSES), changed=False)
    stand.goes_to("01 16:01")
    stand.work.adopt(section(OPENS, CLOSES, saved="01 15:59"), changed=True)
    stand.goes_to("01 16:02")
    assert stand.did == ["list/e/go"]
    stand.work.adopt(section(OPENS, saved="01 15:59"), changed=True)
    stand.goes_to("01 16:04")
    assert stand.did == ["list/e/go"]


def test_at_the_start_of_a_day_the_chosen_list_begins_once_and_the_clock_says_what_should_run() -> None:
    stand = Stand("01 17:00", StartOfDay("list/x/go", True, "s"))
    stand.shows = False
    stand.work.adopt(section(OPENS), changed=False)
    stand.work.step()
    assert stand.did == []
    stand.shows = True
    stand.work.step()
    assert stand.did == ["list/x/go", "list/e/go"]
    stand.work = stand.anew()
    stand.work.adopt(section(OPENS), changed=False)
    stand.goes_to("01 18:00")
    assert len(stand.did) == 2


def test_a_show_that_never_comes_does_not_stop_the_clock(monkeypatch: Any) -> None:
    monkeypatch.setattr("heliograph.inputs.clock_work.WAIT_S", 0.0)
    stand = Stand("01 15:00", StartOfDay("", False, "gone"))
    stand.shows = False
    stand.work.adopt(section(OPENS), changed=False)
    stand.goes_to("01 16:01")
    assert stand.did == ["list/e/go"]


def test_a_clock_that_jumps_says_so_and_does_nothing_twice() -> None:
    stand = Stand("01 15:00")
    stand.work.adopt(section(OPENS), changed=False)
    stand.work.step()
    stand.goes_to("01 16:30", jumps=True)
    assert stand.did == ["list/e/go"]
    stand.time = at("01 15:30")
    stand.work.step()
    stand.goes_to("01 16:30")
    assert stand.did == ["list/e/go"]
    assert stand.warned == ["this machine's clock jumped by 1 h 30 min", "this machine's clock jumped by -1 h"]
    assert "jumped by -1 h" in stand.work.faults()[-1]


def test_a_clock_before_the_show_was_saved_says_so() -> None:
    stand = Stand("01 08:00")
    stand.work.adopt(section(OPENS, saved="01 08:00"), changed=False)
    assert stand.work.faults() == []
    stand.work.adopt(section(OPENS, saved="04 08:00"), changed=False)
    [said] = stand.work.faults()
    assert "before this show was saved" in said


def test_a_clock_without_rules_and_one_that_is_taken_away() -> None:
    stand = Stand("01 15:00")
    stand.work.adopt(None, changed=False)
    stand.goes_to("01 15:30")
    stand.work.adopt(section(OPENS), changed=True)
    stand.goes_to("01 15:40")
    stand.work.adopt(None, changed=True)
    stand.goes_to("01 17:00")
    assert stand.did == []
    assert [said_long(one) for one in (4, -90, 3_600, 5_400)] == ["4 s", "-1 min", "1 h", "1 h 30 min"]
