"""A clock starts things by itself: at a time of day, at dusk or dawn, every so many minutes; on days of the week,
within dates, with exceptions. When that is, worked out from rules, a place and a time zone alone.

Times are seconds since 1970 (UTC); days are those of the zone. A time of day that there is twice on a day is its first;
one that is left out, when the clock goes forward, is the moment in which it does.
"""

from __future__ import annotations

import heapq
import itertools
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache
from typing import Any, Literal, NamedTuple, get_args
from zoneinfo import ZoneInfo

from astral import Observer
from astral.sun import dawn, dusk

from heliograph.core.errors import InputError
from heliograph.core.playing.cues import ACTIONS_MAX, DAY_S, Action, action_from_json

When = Literal["time", "dusk", "dawn", "every"]
WHENS: tuple[When, ...] = get_args(When)
DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
RULES_MAX = 2_000
OFFSET_MAX_S = 6 * 3600.0
EVERY_MIN_S = 60.0
EXCEPT_MAX = 400
OCCURRENCES_MAX = 20_000
"""Looked at in one question: a week of every minute is 10,080."""

DEPRESSION = 6.0
"""Degrees below the horizon: civil dusk and dawn."""


@dataclass(frozen=True, slots=True)
class Place:
    """Degrees north and east, and the name of a time zone (IANA)."""

    latitude: float = 57.70
    longitude: float = -2.00
    zone: str = "Europe/London"

    def __post_init__(self) -> None:
        if not -90.0 <= self.latitude <= 90.0:
            raise InputError(f"{self.latitude:g} degrees north are outside -90 to 90.", where="latitude")
        if not -180.0 <= self.longitude <= 180.0:
            raise InputError(f"{self.longitude:g} degrees east are outside -180 to 180.", where="longitude")
        zone_of(self.zone)


@dataclass(frozen=True, slots=True)
class Rule:
    """`when` something is done: at `at_s` of the day, `at_s` after dusk or dawn (before where negative), or every
    `every_s` from `at_s` of the day to `until_s`. On `days` of the week (0 is Monday; none: all), from `first` to
    `last` (MM-DD of every year, or YYYY-MM-DD; "" open), but not on `exceptions`."""

    id: str
    when: When
    at_s: float = 0.0
    every_s: float = 0.0
    until_s: float = float(DAY_S)
    days: frozenset[int] = frozenset()
    first: str = ""
    last: str = ""
    exceptions: frozenset[str] = frozenset()
    name: str = ""
    on: bool = True
    actions: tuple[Action, ...] = ()

    def __post_init__(self) -> None:
        if self.when not in WHENS:
            raise InputError(f"A rule is not about '{self.when}'.", where="when", repair=f"Use {', '.join(WHENS)}.")
        if self.when in ("dusk", "dawn"):
            if not abs(self.at_s) <= OFFSET_MAX_S:
                raise InputError(f"{self.at_s / 60:g} min beside {self.when} is outside 6 hours.", where="when")
        elif not 0.0 <= self.at_s < DAY_S:
            raise InputError("A time of day is from 00:00 to 23:59.", where="when")
        if self.when == "every" and not (EVERY_MIN_S <= self.every_s <= DAY_S and self.at_s < self.until_s <= DAY_S):
            raise InputError(
                "That does not happen every so often.", where="when", repair="Type every 20 min from 17:00 to 23:00."
            )
        if not self.days <= frozenset(range(7)):
            raise InputError("A week has seven days.", where="when")
        if len(self.exceptions) > EXCEPT_MAX:
            raise InputError(f"{len(self.exceptions)} exceptions are more than {EXCEPT_MAX}.", where="when")
        for one in (*self.exceptions, *filter(None, (self.first, self.last))):
            check_date(one)
        if len(self.actions) > ACTIONS_MAX:
            raise InputError(f"{len(self.actions)} actions of one rule are more than {ACTIONS_MAX}.", where="does")

    def is_on(self, day: date) -> bool:
        """Whether it is about a day at all."""
        if not self.on or (self.days and day.weekday() not in self.days):
            return False
        if any(_is(one, day) for one in self.exceptions):
            return False
        return _within(day, self.first, self.last)


class Occurrence(NamedTuple):
    """A rule at a moment. `day`: whose it is."""

    at: float
    rule: Rule
    day: date


@dataclass(frozen=True, slots=True)
class Clock:
    """Rules at a place."""

    place: Place = field(default_factory=Place)
    rules: tuple[Rule, ...] = ()

    def __post_init__(self) -> None:
        if len(self.rules) > RULES_MAX:
            raise InputError(f"{len(self.rules):,} rules are more than {RULES_MAX:,}.", where="rules")


def occurrences(clock: Clock, after: float, until: float, most: int = OCCURRENCES_MAX) -> list[Occurrence]:
    """Everything that is due later than `after`, and not later than `until`, earliest first; at one moment in the order
    of the rules. No more than `most`: those that come first, and no more than these are worked out."""
    zone = zone_of(clock.place.zone)
    first = datetime.fromtimestamp(after, zone).date() - timedelta(days=1)
    days = (datetime.fromtimestamp(until, zone).date() - first).days + 2

    def of(place: int, rule: Rule) -> Iterator[tuple[float, int, date]]:
        for number in range(days):
            day = first + timedelta(days=number)
            if rule.is_on(day):
                yield from ((at, place, day) for at in _moments(rule, clock.place, day, after, until))

    merged = heapq.merge(*(of(place, rule) for place, rule in enumerate(clock.rules)))
    return [Occurrence(at, clock.rules[place], day) for at, place, day in itertools.islice(merged, most)]


def next_due(clock: Clock, after: float, days: int = 8) -> Occurrence | None:
    """What is due next, within so many days; None where nothing is."""
    zone = zone_of(clock.place.zone)
    start = datetime.fromtimestamp(after, zone).date() - timedelta(days=1)
    best: Occurrence | None = None
    for number in range(days + 1):
        day = start + timedelta(days=number)
        for rule in clock.rules:
            if rule.is_on(day):
                for at in _moments(rule, clock.place, day, after, after + days * DAY_S):
                    if best is None or at < best.at:
                        best = Occurrence(at, rule, day)
                    break
        if best is not None and number >= 2:
            return best
    return best


def what_should_run(clock: Clock, after: float, until: float) -> list[tuple[Occurrence, Action]]:
    """Of everything that was due in a time in which nobody did it, what counts still: of each thing that is acted on,
    the last. In the order in which it was due."""
    zone = zone_of(clock.place.zone)
    last_day = datetime.fromtimestamp(until, zone).date() + timedelta(days=1)
    days = (last_day - datetime.fromtimestamp(after, zone).date()).days + 2
    due = []
    for place, rule in enumerate(clock.rules):  # of one rule only its last counts
        for number in range(days):
            day = last_day - timedelta(days=number)
            at = _last_moment(rule, clock.place, day, after, until) if rule.is_on(day) else None
            if at is not None:
                due.append((at, place, day))
                break
    found: dict[str, tuple[Occurrence, Action]] = {}
    for at, place, day in sorted(due):
        for action in clock.rules[place].actions:
            about = thing_of(action.handle)
            found.pop(about, None)
            found[about] = (Occurrence(at, clock.rules[place], day), action)
    return list(found.values())


def thing_of(handle: str) -> str:
    """What a handle is about: all of a list or a score count as one thing, every other handle as its own."""
    kind, _, rest = handle.partition("/")
    return f"{kind}/{rest.partition('/')[0]}" if kind in ("list", "score") else handle


def zone_of(name: str) -> ZoneInfo:
    """InputError for a name that is none."""
    try:
        return ZoneInfo(name)
    except (KeyError, ValueError, OSError) as error:
        raise InputError(
            f"There is no time zone '{name[:60]}'.", where="zone", repair="Type one like Europe/London."
        ) from error


def check_date(text: str) -> None:
    """InputError for what is neither MM-DD nor YYYY-MM-DD."""
    try:
        date.fromisoformat(text if len(text) == 10 else f"2024-{text}")
    except ValueError as error:
        raise InputError(f"'{text[:20]}' is no date.", where="when", repair="Type 24 Dec, or 24 Dec 2026.") from error


def clock_from_json(data: Mapping[str, Any]) -> Clock:
    """Of a section."""
    place = Place(float(data["latitude"]), float(data["longitude"]), data["zone"])
    return Clock(place, tuple(rule_from_json(one) for one in data.get("rules", ())))


def rule_from_json(data: Mapping[str, Any]) -> Rule:
    """Of a stored rule."""
    return Rule(
        data["id"],
        data["when"],
        float(data.get("at_s", 0.0)),
        float(data.get("every_s", 0.0)),
        float(data.get("until_s", DAY_S)),
        frozenset(data.get("days", ())),
        data.get("first", ""),
        data.get("last", ""),
        frozenset(data.get("exceptions", ())),
        data.get("name", ""),
        bool(data.get("on", True)),
        tuple(action_from_json(one) for one in data.get("actions", ())),
    )


def _moments(rule: Rule, place: Place, day: date, after: float, until: float) -> Iterator[float]:
    """Of one day, those that are later than `after` and not later than `until`."""
    if rule.when == "every":
        first, end = moment_of(day, rule.at_s, place.zone), moment_of(day, rule.until_s, place.zone)
        number = max(int((after - first) // rule.every_s) + 1, 0) if after >= first else 0
        at = first + number * rule.every_s
        while at <= until and (at < end or (at == end and rule.until_s < DAY_S)):
            yield at
            at += rule.every_s
        return
    found = moment_of(day, rule.at_s, place.zone) if rule.when == "time" else sun_of(rule.when, place, day)
    if found is None:
        return
    at = found if rule.when == "time" else found + rule.at_s
    if after < at <= until:
        yield at


def _last_moment(rule: Rule, place: Place, day: date, after: float, until: float) -> float | None:
    """The last of `_moments`, without those before it; None where there is none."""
    if rule.when != "every":
        return next(_moments(rule, place, day, after, until), None)
    first, end = moment_of(day, rule.at_s, place.zone), moment_of(day, rule.until_s, place.zone)
    most = min(until, end if rule.until_s < DAY_S else end - 1e-3)
    if most < first:
        return None
    at = first + (most - first) // rule.every_s * rule.every_s
    return at if at > after else None


def moment_of(day: date, at_s: float, zone_name: str) -> float:
    """Seconds since 1970 of a time of day, which may be 24:00."""
    zone = zone_of(zone_name)
    if at_s >= DAY_S:
        day, at_s = day + timedelta(days=1), at_s - DAY_S
    whole = int(at_s)
    named = datetime.combine(day, time(whole // 3600, whole // 60 % 60, whole % 60), zone)
    stamp = named.timestamp()
    if datetime.fromtimestamp(stamp, zone).replace(tzinfo=None) == named.replace(tzinfo=None):
        return stamp
    return _jump(named.replace(fold=1).timestamp(), stamp, zone)


def _jump(low: float, high: float, zone: ZoneInfo) -> float:
    """The moment between two at which the clock goes forward."""
    before = datetime.fromtimestamp(low, zone).utcoffset()
    while high - low > 1.0:
        middle = (low + high) // 2
        if datetime.fromtimestamp(middle, zone).utcoffset() == before:
            low = middle
        else:
            high = middle
    return float(high)


@lru_cache(maxsize=4096)
def sun_of(when: When, place: Place, day: date) -> float | None:
    """Civil dusk or dawn of a day there; None where the sun does not go so deep, or does not come so high."""
    observer = Observer(place.latitude, place.longitude)
    work = dusk if when == "dusk" else dawn
    try:
        found = work(observer, day, DEPRESSION, tzinfo=zone_of(place.zone))
    except ValueError:
        return None
    return float(round(found.astimezone(UTC).timestamp()))


def _is(text: str, day: date) -> bool:
    return text == (day.isoformat() if len(text) == 10 else day.isoformat()[5:])


def _within(day: date, first: str, last: str) -> bool:
    """Dates without a year may go over its end: 1 Dec to 6 Jan."""
    if not first and not last:
        return True
    if len(first or last) == 10 or len(last or first) == 10:
        text = day.isoformat()
        return (not first or first <= text) and (not last or text <= last)
    text = day.isoformat()[5:]
    if not first or not last:
        return (not first or first <= text) and (not last or text <= last)
    return first <= text <= last if first <= last else text >= first or text <= last


def said_of(rules: Sequence[Rule], place: Place, day: date) -> list[str]:
    """Which rules cannot happen on a day because the sun does not go so deep, with the next day on which they can."""
    found = []
    for rule in rules:
        if rule.when in ("dusk", "dawn") and rule.is_on(day) and sun_of(rule.when, place, day) is None:
            ahead = (day + timedelta(days=n) for n in range(1, 200))
            able = next((one for one in ahead if sun_of(rule.when, place, one) is not None), None)
            until = f"; the next is on {able.day} {able:%b}" if able else ""
            found.append(f"There is no {rule.when} here on {day.day} {day:%b}{until}.")
    return found
