"""When a clock's rules are due: random rules against an evaluator that only reads a wall clock minute by minute, both
days of daylight saving, dusk beside the NOAA formulas, typed words; what counts after a power cut.

Sun: NOAA solar calculator equations, written down here from memory [memory], independent of astral; both agree within
two minutes. Daylight saving in Germany 2026: 29 March 02:00 to 03:00, 25 October 03:00 to 02:00 (IANA tz database).
"""

from __future__ import annotations

import math
import random
from datetime import UTC, date, datetime, timedelta
from zoneinfo import ZoneInfo

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.playing.clock import (
    OCCURRENCES_MAX,
    Clock,
    Place,
    Rule,
    When,
    moment_of,
    next_due,
    occurrences,
    said_of,
    sun_of,
    thing_of,
    what_should_run,
)
from heliograph.core.playing.cues import Action
from heliograph.core.playing.typed_clock import read_when, write_when

SKERRY = Place(57.70, -2.00, "Europe/London")
BERLIN = Place(52.5, 13.4, "Europe/Berlin")


def stamp(text: str, zone: str = "UTC") -> float:
    return datetime.fromisoformat(text).replace(tzinfo=ZoneInfo(zone)).timestamp()


def due(rule: Rule, first: str, last: str, place: Place = BERLIN) -> list[str]:
    found = occurrences(Clock(place, (rule,)), stamp(first, place.zone), stamp(last, place.zone))
    return [f"{datetime.fromtimestamp(one.at, ZoneInfo(place.zone)):%m-%d %H:%M:%S %Z}" for one in found]


def noaa(latitude: float, longitude: float, day: date, rising: bool, depression: float = 6.0) -> float | None:
    """Seconds since 1970 at which the sun stands so deep."""
    noon = datetime(day.year, day.month, day.day, 12, tzinfo=UTC).timestamp()
    at = noon
    for _ in range(3):
        century = (at / 86_400.0 + 2_440_587.5 - 2_451_545.0) / 36_525.0
        mean = math.radians((280.46646 + century * (36_000.76983 + century * 0.0003032)) % 360)
        anomaly = math.radians(357.52911 + century * (35_999.05029 - 0.0001537 * century))
        eccentric = 0.016708634 - century * (0.000042037 + 0.0000001267 * century)
        centre = math.sin(anomaly) * (1.914602 - century * (0.004817 + 0.000014 * century))
        centre += math.sin(2 * anomaly) * (0.019993 - 0.000101 * century) + math.sin(3 * anomaly) * 0.000289
        omega = math.radians(125.04 - 1934.136 * century)
        apparent = mean + math.radians(centre - 0.00569 - 0.00478 * math.sin(omega))
        tilt = math.radians(23.439291 - century * 0.0130042 + 0.00256 * math.cos(omega))
        declination = math.asin(math.sin(tilt) * math.sin(apparent))
        y = math.tan(tilt / 2) ** 2
        equation = y * math.sin(2 * mean) - 2 * eccentric * math.sin(anomaly)
        equation += 4 * eccentric * y * math.sin(anomaly) * math.cos(2 * mean)
        equation -= y * y * math.sin(4 * mean) / 2 + 1.25 * eccentric**2 * math.sin(2 * anomaly)
        phi = math.radians(latitude)
        cosine = math.cos(math.radians(90 + depression)) / (math.cos(phi) * math.cos(declination))
        cosine -= math.tan(phi) * math.tan(declination)
        if not -1.0 <= cosine <= 1.0:
            return None
        angle = math.degrees(math.acos(cosine))
        minutes = 720 - 4 * (longitude + (angle if rising else -angle)) - 4 * math.degrees(equation)
        at = noon - 43_200 + minutes * 60
    return at


@pytest.mark.parametrize("day", ["2026-01-15", "2026-03-29", "2026-06-21", "2026-09-23", "2026-12-21"])
def test_dusk_and_dawn_at_skerry_point_agree_with_the_noaa_formulas_within_two_minutes(day: str) -> None:
    there = date.fromisoformat(day)
    both: tuple[tuple[When, bool], ...] = (("dusk", False), ("dawn", True))
    for when, rising in both:
        found, wanted = sun_of(when, SKERRY, there), noaa(57.70, -2.00, there, rising)
        assert found is not None
        assert wanted is not None
        assert abs(found - wanted) <= 120, (when, day)


def test_dusk_and_dawn_of_astrals_own_example() -> None:
    """London, 22 April 2009 (astral's documentation [memory]): dawn 05:12:56, dusk 20:45:52, BST."""
    london, day = Place(51.4733, -0.0008333, "Europe/London"), date(2009, 4, 22)
    assert abs((sun_of("dawn", london, day) or 0) - stamp("2009-04-22 05:12:56", london.zone)) <= 60
    assert abs((sun_of("dusk", london, day) or 0) - stamp("2009-04-22 20:45:52", london.zone)) <= 60


def test_where_the_sun_does_not_go_so_deep_the_rule_says_so_and_names_the_next_day() -> None:
    north = Place(66.0, 25.0, "Europe/Helsinki")
    rule = Rule("a", "dusk")
    assert due(rule, "2026-06-10", "2026-06-20", north) == []
    [said] = said_of([rule], north, date(2026, 6, 15))
    assert said.startswith("There is no dusk here on 15 Jun; the next is on")


@pytest.mark.parametrize(
    ("at", "first", "last", "found"),
    [
        ("02:30", "2026-03-28", "2026-03-31", ["03-28 02:30:00 CET", "03-29 03:00:00 CEST", "03-30 02:30:00 CEST"]),
        ("02:30", "2026-10-24", "2026-10-27", ["10-24 02:30:00 CEST", "10-25 02:30:00 CEST", "10-26 02:30:00 CET"]),
        ("03:00", "2026-03-29", "2026-03-30", ["03-29 03:00:00 CEST"]),
        ("02:00", "2026-03-29", "2026-03-30", ["03-29 03:00:00 CEST"]),
        ("16:30", "2026-10-25", "2026-10-26", ["10-25 16:30:00 CET"]),
    ],
)
def test_both_days_of_daylight_saving(at: str, first: str, last: str, found: list[str]) -> None:
    hours, minutes = map(int, at.split(":"))
    assert due(Rule("a", "time", hours * 3600 + minutes * 60), first, last) == found


def test_every_so_often_goes_on_in_real_time_through_both_days() -> None:
    rule = Rule("a", "every", 3600.0, 1800.0, 4 * 3600.0)
    assert len(due(rule, "2026-03-29", "2026-03-30")) == 5  # 1:00 to 4:00 lasts two hours
    assert len(due(rule, "2026-10-25", "2026-10-26")) == 9  # and four
    assert len(due(rule, "2026-06-01", "2026-06-02")) == 7


class Wall:
    """Every minute of some days as a wall clock shows them, read one by one: no rule is worked out here."""

    def __init__(self, first: str, days: int, zone: str) -> None:
        begin = int(stamp(first, zone))
        self.at = np.arange(begin - 2 * 86_400, begin + (days + 2) * 86_400, 60)
        shown = [datetime.fromtimestamp(int(one), ZoneInfo(zone)) for one in self.at]
        self.minute = np.array([one.hour * 60 + one.minute for one in shown])
        self.date = np.array([one.date().toordinal() for one in shown])
        self.span = (begin, begin + days * 86_400)
        self.ordinals = np.unique(self.date)[1:-1]

    def when_shown(self, ordinal: int, minute: int) -> int:
        """The first minute of a day in which the clock shows a time or has passed it."""
        if minute == 1440:
            ordinal, minute = ordinal + 1, 0
        there = np.flatnonzero((self.date == ordinal) & (self.minute >= minute))
        return int(self.at[there[0]])


def by_reading(rule: Rule, wall: Wall, place: Place) -> list[float]:
    found: list[float] = []
    for ordinal in wall.ordinals:
        day = date.fromordinal(int(ordinal))
        named, text = f"{day:%m-%d}", day.isoformat()
        if rule.days and day.weekday() not in rule.days:
            continue
        if named in rule.exceptions or text in rule.exceptions:
            continue
        if rule.first and rule.last and rule.first > rule.last:
            if rule.last < named < rule.first:
                continue
        elif (rule.first and named < rule.first) or (rule.last and named > rule.last):
            continue
        if rule.when == "time":
            found.append(wall.when_shown(int(ordinal), int(rule.at_s // 60)))
        elif rule.when == "every":
            first = wall.when_shown(int(ordinal), int(rule.at_s // 60))
            end = wall.when_shown(int(ordinal), int(rule.until_s // 60))
            step = int(rule.every_s)
            found += [one for one in range(first, end + 1, step) if one < end or rule.until_s < 86_400]
        else:
            at = noaa(place.latitude, place.longitude, day, rule.when == "dawn")
            if at is not None:
                found.append(round(at + rule.at_s))
    return sorted(one for one in found if wall.span[0] < one <= wall.span[1])


def test_2000_random_rules_are_due_as_a_wall_clock_that_is_read_says() -> None:
    dice = random.Random(20261129)
    places = (BERLIN, SKERRY, Place(-33.9, 151.2, "Australia/Sydney"), Place(40.7, -74.0, "America/New_York"))
    starts = ("2026-03-26", "2026-10-22", "2026-12-29", "2026-04-02", "2026-11-01", "2026-06-18", "2026-03-07")
    walls = {(place.zone, first): Wall(first, 6, place.zone) for place in places for first in starts}
    for number in range(2_000):
        place = dice.choice(places)
        wall = walls[place.zone, dice.choice(starts)]
        when = dice.choice(("time", "time", "every", "dusk", "dawn"))
        at = dice.randrange(1440) * 60.0
        sun = when in ("dusk", "dawn")
        dates = [f"{dice.randrange(1, 13):02}-{dice.randrange(1, 29):02}" for _ in range(3)]
        rule = Rule(
            str(number),
            when,  # type: ignore[arg-type]
            dice.randrange(-180, 180) * 60.0 if sun else min(at, 86_340.0),
            dice.choice((60.0, 300.0, 1200.0, 3600.0)) if when == "every" else 0.0,
            dice.choice((86_400.0, min(at + 7200.0, 86_400.0))),
            frozenset(dice.sample(range(7), dice.randrange(0, 6))),
            dates[0] if dice.random() < 0.3 else "",
            dates[1] if dice.random() < 0.3 else "",
            frozenset(dates[2:]) if dice.random() < 0.3 else frozenset(),
        )
        begin, end = wall.span
        found = [one.at for one in occurrences(Clock(place, (rule,)), begin, end)]
        wanted = by_reading(rule, wall, place)
        if sun:  # what both put on different sides of the edge is no difference
            found, wanted = ([one for one in each if begin + 150 < one < end - 150] for each in (found, wanted))
        assert len(found) == len(wanted), (rule, place)
        assert all(abs(a - b) <= (120 if sun else 0) for a, b in zip(found, wanted, strict=True)), (rule, place)


def test_what_comes_next_and_what_counts_after_a_power_cut() -> None:
    go, off = Action("list/e/go"), Action("list/e/release")
    dim, full = Action("master", 0.5), Action("master", 1.0)
    rules = (
        Rule("a", "time", 16 * 3600, actions=(go, full)),
        Rule("b", "time", 22 * 3600, actions=(dim,)),
        Rule("c", "time", 23 * 3600, actions=(off,)),
    )
    clock = Clock(SKERRY, rules)
    assert (one := next_due(clock, stamp("2026-12-01 17:00"))) is not None
    assert one.rule.id == "b"
    left = what_should_run(clock, stamp("2026-12-01 12:00"), stamp("2026-12-01 22:30"))
    assert [action for _, action in left] == [go, dim]
    left = what_should_run(clock, stamp("2026-12-01 12:00"), stamp("2026-12-03 12:00"))
    assert [action for _, action in left] == [dim, off]
    assert what_should_run(clock, stamp("2026-12-01 22:30"), stamp("2026-12-01 22:40")) == []
    assert (thing_of("list/e/go_to"), thing_of("master")) == ("list/e", "master")


def test_many_rules_of_every_minute_are_bounded_in_work_and_the_last_still_counts() -> None:
    go = [Action(f"list/{n}/go") for n in range(2_000)]
    rules = tuple(Rule(str(n), "every", 0.0, 60.0, actions=(go[n],)) for n in range(2_000))
    clock, begun = Clock(BERLIN, rules), stamp("2026-12-01 00:00")
    listed = occurrences(clock, begun, begun + 7 * 86_400.0)
    assert len(listed) == OCCURRENCES_MAX
    assert listed[-1].at - begun == OCCURRENCES_MAX / 2_000 * 60
    left = what_should_run(clock, begun, begun + 7 * 86_400.0 + 30)
    assert {one.at for one, _ in left} == {begun + 7 * 86_400.0}
    assert len(left) == 2_000


@pytest.mark.parametrize("seed", range(30))
def test_what_counts_is_the_last_of_all_that_was_due(seed: int) -> None:
    dice = random.Random(seed)
    rules = []
    for number in range(12):
        at, every = dice.randrange(1_430) * 60.0, dice.choice((300.0, 1_260.0, 3_600.0))
        action = Action(dice.choice(("list/a/go", "list/a/release", "master", "blackout")), number)
        when = dice.choice(("time", "every"))
        rules.append(Rule(str(number), when, at, every, dice.choice((86_400.0, at + 600.0)), actions=(action,)))  # type: ignore[arg-type]
    clock, begun = Clock(BERLIN, tuple(rules)), stamp("2026-10-23 12:00")
    end = begun + dice.randrange(4 * 86_400)
    wanted: dict[str, tuple[float, Action]] = {}
    for one in occurrences(clock, begun, end):
        for action in one.rule.actions:
            wanted[thing_of(action.handle)] = (one.at, action)
    found = {thing_of(action.handle): (one.at, action) for one, action in what_should_run(clock, begun, end)}
    assert found == wanted


@pytest.mark.parametrize(
    ("text", "written"),
    [
        ("16:30", "at 16:30"),
        ("at 7.05", "at 07:05"),
        ("dusk", "dusk"),
        ("dusk - 10 min", "10 min before dusk"),
        ("1 h after dawn", "1 h after dawn"),
        ("every 20 min from 17:00 to 23:00", "every 20 min from 17:00 to 23:00"),
        ("every 1 h", "every 1 h"),
        ("dusk on Mon-Fri", "dusk on Mon-Fri"),
        ("dusk on sat, sun from 1 Dec to 6 January", "dusk on Sat, Sun from 1 Dec to 6 Jan"),
        ("at 18:00 on weekdays until 6 Jan except 24 Dec, 25. December", None),
        ("at 18:00 from 24 Dec 2026 to 2027-01-06", "at 18:00 from 24 Dec 2026 to 6 Jan 2027"),
        ("at 18:00 on fri-mon", "at 18:00 on Mon, Fri-Sun"),
    ],
)
def test_rules_are_typed_and_written(text: str, written: str | None) -> None:
    fields = read_when(text)
    Rule("a", **{**fields, "days": frozenset(fields["days"]), "exceptions": frozenset(fields["exceptions"])})
    assert write_when(fields) == (written or "at 18:00 on Mon-Fri until 6 Jan except 24 Dec, 25 Dec")
    assert read_when(write_when(fields)) == fields


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("soon", "no time for a clock"),
        ("at 25:00", "no time of day"),
        ("dusk on Smonday", "no day of the week"),
        ("dusk from 31 Feb", "no date"),
        ("dusk whenever", "'whenever' is not understood"),
        ("every 20 min " * 500, "not understood"),
        ("", "no time for a clock"),
    ],
)
def test_what_is_no_rule_says_what_would_be_right(text: str, said: str) -> None:
    with pytest.raises(InputError, match=said) as error:
        read_when(text)
    assert error.value.repair


def test_places_and_rules_that_are_none() -> None:
    for made in (
        lambda: Place(91.0),
        lambda: Place(zone="Europe/Skerry"),
        lambda: Place(zone="../../etc/passwd"),
        lambda: Rule("a", "every", 0.0, 1.0),
        lambda: Rule("a", "dusk", 7 * 3600.0),
        lambda: Rule("a", "time", 0.0, exceptions=frozenset({"13-40"})),
    ):
        with pytest.raises(InputError):
            made()


def test_a_time_of_day_is_a_moment_that_shows_it() -> None:
    for number in range(0, 366, 7):
        day = date(2026, 1, 1) + timedelta(days=number)
        shown = datetime.fromtimestamp(moment_of(day, 20 * 3600.0, "Europe/Berlin"), ZoneInfo("Europe/Berlin"))
        assert (shown.date(), shown.hour, shown.minute) == (day, 20, 0)
