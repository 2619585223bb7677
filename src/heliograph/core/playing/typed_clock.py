"""When a rule of a clock is due, as it is typed and written.

`at 16:30`, `dusk`, `10 min before dusk`, `every 20 min from 17:00 to 23:00`; then `on Mon-Fri`, `from 1 Dec to 6 Jan`,
`except 24 Dec, 25 Dec`.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from datetime import date
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.playing.clock import DAYS
from heliograph.core.playing.cues import DAY_S
from heliograph.core.playing.typed_cues import read_time_of_day

MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")
REPAIR = "Type at 16:30, 10 min before dusk, or every 20 min from 17:00 to 23:00; then on Mon-Fri, from 1 Dec to 6 Jan."

_TIME = r"\d{1,2}[:.]\d{2}(?:[:.]\d{2})?"
_DATE = r"\d{1,2}\.?\s+[a-z]{3,9}(?:\s+\d{4})?|\d{4}-\d{2}-\d{2}"
_LONG = r"(\d+(?:[.,]\d+)?)\s*(h|hours?|min|minutes?|s|seconds?)"
_AT = re.compile(rf"^(?:at\s+)?({_TIME})\b")
_SUN = re.compile(rf"^(?:{_LONG}\s+(before|after)\s+)?(dusk|dawn)\b(?:\s*([+-])\s*{_LONG})?")
_EVERY = re.compile(rf"^every\s+{_LONG}(?:\s+from\s+({_TIME}))?(?:\s+(?:to|until)\s+({_TIME}))?")
_DAYS = re.compile(r"^on\s+((?:[a-z]{3,9})(?:\s*(?:,|-|to|and)\s*[a-z]{3,9})*)(?=\s|,|$)")
_FROM = re.compile(rf"^from\s+({_DATE})(?:\s+(?:to|until)\s+({_DATE}))?")
_UNTIL = re.compile(rf"^until\s+({_DATE})")
_EXCEPT = re.compile(rf"^except\s+((?:{_DATE})(?:\s*,\s*(?:{_DATE}))*)")
_WORDS = {"weekdays": range(5), "weekend": (5, 6), "weekends": (5, 6), "daily": range(7), "days": range(7)}
_UNITS = {"h": 3600.0, "m": 60.0, "s": 1.0}


def read_when(text: str) -> dict[str, Any]:
    """Fields of a stored rule; InputError says what would be right."""
    rest = " ".join(text.strip().lower().split())
    found, rest = _base(rest, text)
    while rest := rest.lstrip(" ,;"):
        for pattern, take in _MORE:
            more = pattern.match(rest)
            if more:
                found |= take(more)
                rest = rest[more.end() :]
                break
        else:
            raise InputError(f"'{rest[:40]}' is not understood.", where="when", repair=REPAIR)
    return found


def _base(rest: str, text: str) -> tuple[dict[str, Any], str]:
    fields: dict[str, Any] = {"until_s": float(DAY_S), "every_s": 0.0, "days": [], "first": "", "last": ""}
    fields["exceptions"] = []
    every = _EVERY.match(rest)
    if every:
        at = read_time_of_day(every[3].replace(".", ":"), "when") if every[3] else 0.0
        until = read_time_of_day(every[4].replace(".", ":"), "when") if every[4] else float(DAY_S)
        so_often = {"when": "every", "every_s": _seconds(every[1], every[2]), "at_s": at, "until_s": until}
        return fields | so_often, rest[every.end() :]
    sun = _SUN.match(rest)
    if sun:
        beside = 0.0
        if sun[1]:
            beside = _seconds(sun[1], sun[2]) * (-1.0 if sun[3] == "before" else 1.0)
        elif sun[5]:
            beside = _seconds(sun[6], sun[7]) * (-1.0 if sun[5] == "-" else 1.0)
        return fields | {"when": sun[4], "at_s": beside}, rest[sun.end() :]
    at_time = _AT.match(rest)
    if at_time:
        return fields | {"when": "time", "at_s": read_time_of_day(at_time[1], "when")}, rest[at_time.end() :]
    raise InputError(f"'{text.strip()[:40]}' is no time for a clock.", where="when", repair=REPAIR)


def _seconds(number: str, unit: str) -> float:
    return float(number.replace(",", ".")) * _UNITS[unit[0]]


def _days(found: re.Match[str]) -> dict[str, Any]:
    days: list[int] = []
    for part in re.split(r"\s*(?:,|\band\b)\s*", found[1]):
        if part in _WORDS:
            days += _WORDS[part]
            continue
        first, _, last = part.replace(" to ", "-").partition("-")
        begin, end = _day(first.strip()), _day(last.strip() or first.strip())
        days += [(begin + n) % 7 for n in range((end - begin) % 7 + 1)]
    every = sorted(set(days))
    return {"days": [] if len(every) == 7 else every}


def _day(word: str) -> int:
    for number, name in enumerate(DAYS):
        if len(word) >= 3 and word.startswith(name.lower()):
            return number
    raise InputError(f"'{word[:20]}' is no day of the week.", where="when", repair=f"Use {', '.join(DAYS)}.")


def _date(text: str) -> str:
    """MM-DD, or YYYY-MM-DD where a year was said."""
    said = text.strip()
    try:
        if "-" in said:
            return date.fromisoformat(said).isoformat()
        day, month, *year = said.replace(".", "").split()
        number = next(n for n, name in enumerate(MONTHS, start=1) if month.startswith(name.lower()))
        made = date(int(year[0]) if year else 2024, number, int(day))
    except (ValueError, StopIteration) as error:
        raise InputError(f"'{said[:20]}' is no date.", where="when", repair="Type 24 Dec, or 24 Dec 2026.") from error
    return made.isoformat() if year else made.isoformat()[5:]


_MORE = (
    (_DAYS, _days),
    (_FROM, lambda found: {"first": _date(found[1]), "last": _date(found[2]) if found[2] else ""}),
    (_UNTIL, lambda found: {"last": _date(found[1])}),
    (_EXCEPT, lambda found: {"exceptions": sorted({_date(one) for one in found[1].split(",")})}),
)


def write_when(rule: Mapping[str, Any]) -> str:
    """The same as text."""
    said = _written_base(rule)
    if rule.get("days"):
        said += f" on {_written_days(sorted(rule['days']))}"
    if rule.get("first"):
        said += f" from {_written_date(rule['first'])}"
        said += f" to {_written_date(rule['last'])}" if rule.get("last") else ""
    elif rule.get("last"):
        said += f" until {_written_date(rule['last'])}"
    if rule.get("exceptions"):
        said += f" except {', '.join(_written_date(one) for one in rule['exceptions'])}"
    return said


def _written_base(rule: Mapping[str, Any]) -> str:
    when, at = rule["when"], float(rule.get("at_s", 0.0))
    if when == "time":
        return f"at {written_time(at)}"
    if when == "every":
        said = f"every {_written_long(float(rule['every_s']))}"
        until = float(rule.get("until_s", DAY_S))
        said += f" from {written_time(at)}" if at or until < DAY_S else ""
        return said + (f" to {written_time(until)}" if until < DAY_S else "")
    if not at:
        return str(when)
    return f"{_written_long(abs(at))} {'before' if at < 0 else 'after'} {when}"


def _written_long(seconds: float) -> str:
    if seconds % 3600 == 0:
        return f"{seconds / 3600:g} h"
    return f"{seconds / 60:g} min" if seconds % 60 == 0 else f"{seconds:g} s"


def written_time(at_s: float) -> str:
    whole = int(at_s)
    seconds = f":{whole % 60:02}" if whole % 60 else ""
    return f"{whole // 3600:02}:{whole // 60 % 60:02}{seconds}"


def _written_days(days: list[int]) -> str:
    runs: list[list[int]] = []
    for day in days:
        if runs and runs[-1][-1] == day - 1:
            runs[-1].append(day)
        else:
            runs.append([day])
    said = [f"{DAYS[run[0]]}-{DAYS[run[-1]]}" if len(run) > 2 else ", ".join(DAYS[one] for one in run) for run in runs]
    return ", ".join(said)


def _written_date(text: str) -> str:
    year, month, day = text.split("-") if len(text) == 10 else ("", *text.split("-"))
    return f"{int(day)} {MONTHS[int(month) - 1]}{f' {year}' if year else ''}"
