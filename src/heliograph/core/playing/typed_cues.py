"""Cues as they are typed and written: times, what comes then, the looks of a cue.

`8 s`, `2 beats`, `4 bars`; `hold`, `follow 12 s`, `on the beat`, `on the bar`, `at 16:30`, `clip ends`; `Harbour swell
40 %, Midwinter over Windows`.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from heliograph.core.errors import InputError
from heliograph.core.playing.cues import BEATS_OF_BAR, DAY_S
from heliograph.core.playing.tempo import PhaseUnit

_TIME = re.compile(r"^(\d+(?:[.,]\d+)?)\s*(s|sec|seconds?|min|minutes?|b|beats?|bars?)?$")
_DAY = re.compile(r"^(\d{1,2})[:.](\d{2})(?:[:.](\d{2}))?$")
_LEVEL = re.compile(r"^(.*?)\s+(\d+(?:[.,]\d+)?)\s*%$")
_PARTS = re.compile(r'(?:"[^"]*"|[^,])+')
_FOLLOW = re.compile(r"^follow(?:s)?\s*(.*?)\s*(from go)?$")

THEN_REPAIR = "Type hold, follow 12 s, on the beat, on the bar, at 16:30 or clip ends."
ANEW = "from the start"


class Time(NamedTuple):
    value: float
    unit: PhaseUnit = "s"


def read_time(text: str, where: str = "time") -> Time:
    """`8 s`, `8`, `1 min`, `2 beats`, `4 bars`."""
    found = _TIME.match(text.strip().lower())
    if found is None:
        raise InputError(
            f"'{text.strip()[:40]}' is no time.", where=where, repair="Type seconds like 8 s, or beats like 2 beats."
        )
    value, unit = float(found[1].replace(",", ".")), found[2] or "s"
    if unit.startswith("bar"):
        return Time(value * BEATS_OF_BAR, "beat")
    if unit.startswith("b"):
        return Time(value, "beat")
    return Time(value * 60.0 if unit.startswith("min") else value)


def write_time(value: float, unit: PhaseUnit) -> str:
    if unit == "s":
        return f"{value:g} s"
    return f"{value:g} beat" if value == 1.0 else f"{value:g} beats"


def read_then(text: str) -> dict[str, Any]:
    """What comes after a cue, as fields of a stored one."""
    said = " ".join(text.strip().lower().split())
    if said in ("", "hold"):
        return {"then": "hold"}
    if said in ("on the beat", "beat", "next beat"):
        return {"then": "beat"}
    if said in ("on the bar", "bar", "next bar"):
        return {"then": "bar"}
    if said in ("clip ends", "clip", "clip end", "when the clip ends"):
        return {"then": "clip"}
    followed = _FOLLOW.match(said)
    if followed:
        wait = read_time(followed[1] or "0 s", "then")
        return {"then": "follow", "wait": wait.value, "wait_unit": wait.unit, "from_go": bool(followed[2])}
    if said.startswith("at "):
        return {"then": "time", "at_s": read_time_of_day(said.removeprefix("at "))}
    raise InputError(f"'{text.strip()[:40]}' is nothing that can come then.", where="then", repair=THEN_REPAIR)


def read_time_of_day(text: str, where: str = "then") -> float:
    """Seconds since midnight of `16:30` or `16:30:15`."""
    found = _DAY.match(text.strip())
    hours, minutes, seconds = (int(one or 0) for one in found.groups()) if found else (99, 0, 0)
    if hours > 23 or minutes > 59 or seconds > 59:
        raise InputError(f"'{text.strip()[:20]}' is no time of day.", where=where, repair="Type 16:30.")
    return float(hours * 3600 + minutes * 60 + seconds)


def write_then(cue: Mapping[str, Any]) -> str:
    then = cue.get("then", "hold")
    if then == "follow":
        wait = write_time(float(cue.get("wait", 0.0)), cue.get("wait_unit", "s"))
        return f"follow {wait}{' from go' if cue.get('from_go') else ''}"
    if then == "time":
        at = int(cue.get("at_s", 0.0)) % DAY_S
        seconds = f":{at % 60:02}" if at % 60 else ""
        return f"at {at // 3600:02}:{at // 60 % 60:02}{seconds}"
    return {"beat": "on the beat", "bar": "on the bar", "clip": "clip ends"}.get(then, "hold")


def read_looks(text: str, looks: Sequence[Mapping[str, Any]], groups: Sequence[Mapping[str, Any]]) -> list[Any]:
    """The looks of a cue, by their names; `looks` and `groups` of the show. Levels in percent, "over" a group."""
    parts = (one.strip() for one in _PARTS.findall(text))
    return [_read_look(part, looks, groups) for part in parts if part]


def _read_look(part: str, looks: Sequence[Mapping[str, Any]], groups: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    said, group, anew = part, "", False
    if said.lower().endswith(ANEW):
        said, anew = said[: -len(ANEW)].strip(), True
    said, level = _leveled(said)
    quoted, _, after = said[1:].partition('"') if said.startswith('"') else ("", "", said)
    name, over, wanted = after.partition(" over ")
    if over and not quoted:
        name, own = _leveled(name)
        level = min(level, own)
    name = quoted or name
    if over:
        group = _named(wanted, groups, "group")["id"]
    look = _named(name, looks, "look")
    return {"look": look["id"], "level": level, "group": group, "restart": anew}


def _leveled(said: str) -> tuple[str, float]:
    """What stands before a percentage, and that as 0..1; 1 where there is none."""
    found = _LEVEL.match(said)
    if found is None:
        return said, 1.0
    level = float(found[2].replace(",", ".")) / 100.0
    if level > 1.0:
        raise InputError(f"{level * 100:g} % is more than 100 %.", where="looks", repair="Type 40 %.")
    return found[1], level


def _named(name: str, among: Sequence[Mapping[str, Any]], what: str) -> Mapping[str, Any]:
    """The one of that name, or the only one that begins so."""
    said = name.strip().casefold()
    exact = [one for one in among if str(one["name"]).casefold() == said]
    starts = [one for one in among if said and str(one["name"]).casefold().startswith(said)]
    if exact or len(starts) == 1:
        return (exact or starts)[0]
    nearest = ", ".join(str(one["name"]) for one in (starts or among)[:4]) or "none yet"
    raise InputError(f"There is no {what} '{name.strip()[:60]}'.", where="looks", repair=f"There are {nearest}.")


def write_looks(cue: Mapping[str, Any], looks: Mapping[str, str], groups: Mapping[str, str]) -> str:
    """The same as text; a look that is gone by the name it had. `looks`, `groups`: names by id."""
    said = []
    for one in cue.get("looks", ()):
        text = looks.get(one["look"]) or f"{one.get('gone') or 'a look'} (gone)"
        if "," in text or " over " in text or _LEVEL.match(text):  # a name that reads like more than one
            text = f'"{text}"'
        if one.get("group"):
            text += f" over {groups.get(one['group'], 'a group')}"
        if float(one.get("level", 1.0)) != 1.0:
            text += f" {float(one['level']) * 100:g} %"
        if one.get("restart"):
            text += f" {ANEW}"
        said.append(text)
    return ", ".join(said)
