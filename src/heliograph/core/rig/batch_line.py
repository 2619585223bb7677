"""The line that says what is done to many fixtures at once: read, and begun with what they have."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, Literal

from heliograph.core.errors import InputError

Kind = Literal["number", "name", "mode", "copy"]
Record = Mapping[str, Any]

COPIES_MAX = 2_000
MODES_NAMED = 8


@dataclass(frozen=True, slots=True)
class ToNumber:
    """New numbers from `first` on, every `step`-th."""

    first: int
    step: int = 1


@dataclass(frozen=True, slots=True)
class ToName:
    pattern: str


@dataclass(frozen=True, slots=True)
class ToMode:
    """`profile` by its id."""

    profile: str
    mode: str


@dataclass(frozen=True, slots=True)
class Copies:
    """`first`: the number of the first copy, None for the next free one."""

    times: int = 1
    first: int | None = None
    pattern: str = ""


Change = ToNumber | ToName | ToMode | Copies

_NUMBER = re.compile(r"\s*(\d{1,6})(?:\s+every\s+(\d{1,4})(?:st|nd|rd|th)?)?\s*", re.IGNORECASE | re.ASCII)
_TAIL = re.compile(r"\s*\d+$")
_TIMES = re.compile(r"(\d{1,6})\s*x?", re.IGNORECASE | re.ASCII)
_FROM = re.compile(r"from\s+(\d{1,6})", re.IGNORECASE | re.ASCII)


def begin_line(kind: Kind, chosen: Sequence[Record], profiles: Sequence[Record], fixtures: Sequence[Record]) -> str:
    """What stands in the line before anything is typed: what they have now."""
    first = chosen[0]
    match kind:
        case "number":
            return str(first["number"])
        case "name":
            return _TAIL.sub("", first["name"]) + " {n}"
        case "copy":
            highest = max(one["number"] for one in fixtures)
            return f"1 x, from {highest + 1}, {{name}}"
        case "mode":
            profile = next(one for one in profiles if one["id"] == first["profile"])
            return f"{profile['name']}, {first['mode']}"


def read_line(kind: Kind, text: str, count: int, profiles: Sequence[Record]) -> Change:
    """What a typed line asks for; InputError that says what is wrong with it. `count`: how many fixtures are chosen."""
    match kind:
        case "number":
            found = _NUMBER.fullmatch(text)
            if not found or not int(found[1]) or (found[2] and not int(found[2])):
                raise InputError("Type the first number, such as 401, or 401 every 2nd.", where="text")
            return ToNumber(int(found[1]), int(found[2] or 1))
        case "name":
            if not text.strip():
                raise InputError("Type a name.", where="text")
            return ToName(text.strip())
        case "copy":
            return _copies(text, count)
        case "mode":
            return _mode(text, profiles)


def _copies(text: str, count: int) -> Copies:
    times, *rest = (part.strip() for part in text.split(","))
    many = _TIMES.fullmatch(times)
    if not many or not int(many[1]):
        raise InputError("Begin with how many times, such as 2 x.", where="text")
    said = next((part for part in rest if part.lower().startswith("from ")), None)
    first = _FROM.fullmatch(said) if said is not None else None
    if said is not None and (not first or not int(first[1])):
        raise InputError("'from' needs a number, such as from 401.", where="text")
    if int(many[1]) * count > COPIES_MAX:
        raise InputError(f"{COPIES_MAX} copies at once are the most.", where="text")
    pattern = next((part for part in rest if part is not said and part), "")
    return Copies(int(many[1]), int(first[1]) if first else None, pattern)


def _mode(text: str, profiles: Sequence[Record]) -> ToMode:
    """Profile, mode; the longest name of a profile that the line begins with, since both may hold commas."""
    line = text.strip()
    fitting = [one for one in profiles if _begins(line, str(one["name"]))]
    if not fitting:
        raise InputError(f"There is no profile '{line.partition(',')[0].strip()[:60]}'.", where="text")
    profile = max(fitting, key=lambda one: len(str(one["name"])))
    wanted = line[len(str(profile["name"])) :].lstrip(" ,").strip()
    modes = [str(mode["name"]) for mode in profile["modes"]]
    found = next((mode for mode in modes if mode.lower() == wanted.lower()), modes[0] if not wanted and modes else None)
    if found is None:
        few = "; ".join(modes[:MODES_NAMED])
        raise InputError(f"{profile['name']} has no mode '{wanted[:60]}'. It has: {few}.", where="text")
    return ToMode(str(profile["id"]), found)


def _begins(line: str, name: str) -> bool:
    rest = line[len(name) :].lstrip()
    return line.lower().startswith(name.lower()) and (not rest or rest.startswith(","))
