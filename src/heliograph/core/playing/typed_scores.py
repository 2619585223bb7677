"""Entries of scores as they are typed and written: `5.1 for 2 bars`, `Herring run 80 % at 5.1 for 2 bars`.

A place is `bar.beat`, both from 1: 5.3 is the third beat of bar 5, 5.3.5 half a beat later. A length is in bars or
beats; `5.1 to 7.1` says both.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any, NamedTuple

from heliograph.core.errors import InputError
from heliograph.core.playing.cues import BEATS_OF_BAR
from heliograph.core.playing.score import SAME, written

_PLACE = re.compile(r"^(\d{1,4})(?:\.(\d)(\.\d{1,3})?)?$")
_LENGTH = re.compile(r"^(\d+(?:[.,]\d+)?)\s*(bars?|beats?|b)?$")
_LEVEL = re.compile(r"^(.*?)\s+(\d+(?:[.,]\d+)?)\s*%$")

REPAIR = "Type a place like 5.1 for 2 bars, or 5.1 to 7.1."


class Lies(NamedTuple):
    """Beats from the start; `length` None where none was typed."""

    at: float
    length: float | None = None


def read_place(text: str, where: str = "place") -> float:
    """Beats from the start of `5`, `5.3`, `5.3.5`."""
    found = _PLACE.match(text.strip())
    if found is None or found[1] == "0" or found[2] == "0":
        raise InputError(f"'{text.strip()[:40]}' is no place in a score.", where=where, repair=REPAIR)
    beat = int(found[2] or 1)
    if beat > BEATS_OF_BAR:
        raise InputError(f"A bar has {BEATS_OF_BAR} beats, not {beat}.", where=where, repair="Type 5.1 to 5.4.")
    return (int(found[1]) - 1) * BEATS_OF_BAR + beat - 1 + float(found[3] or 0.0)


def read_beats(text: str, where: str = "length") -> float:
    """Beats of `2 bars`, `6 beats`, `6`."""
    found = _LENGTH.match(text.strip().lower())
    if found is None:
        raise InputError(
            f"'{text.strip()[:40]}' is no length.", where=where, repair="Type beats like 6, or bars like 2 bars."
        )
    value = float(found[1].replace(",", "."))
    return value * BEATS_OF_BAR if (found[2] or "").startswith("bar") else value


def read_lies(text: str, where: str = "place") -> Lies:
    """`5.1`, `5.1 for 2 bars`, `5.1 to 7.1`."""
    said = " ".join(text.strip().lower().removeprefix("from ").removeprefix("at ").split())
    place, long, rest = said.partition(" for ")
    if long:
        return Lies(read_place(place, where), read_beats(rest, where))
    first, to, last = said.partition(" to ")
    if not to:
        return Lies(read_place(said, where))
    at, end = read_place(first, where), read_place(last, where)
    if end <= at:
        raise InputError(f"{last} is not behind {first}.", where=where, repair=REPAIR)
    return Lies(at, end - at)


def read_level(text: str, where: str = "level") -> float:
    """0..1 of `80 %`, `80`."""
    try:
        level = float(text.strip().rstrip("%").strip().replace(",", ".")) / 100.0
    except ValueError:
        level = -1.0
    if not 0.0 <= level <= 1.0:
        raise InputError(f"'{text.strip()[:20]}' is no level.", where=where, repair="Type 0 to 100 %.")
    return level


def read_entry(text: str, looks: Sequence[Mapping[str, Any]], presets: Sequence[Mapping[str, Any]]) -> dict[str, Any]:
    """Fields of a stored entry: what it plays by name, `white` for white; its level; where it lies."""
    name, at, place = text.strip().rpartition(" at ")
    if not at:
        raise InputError(
            "Where it begins is missing.", where="entry", repair="Type Herring run 80 % at 5.1 for 2 bars."
        )
    lies = read_lies(place, "entry")
    leveled = _LEVEL.match(name.strip())
    level = read_level(leveled[2], "entry") if leveled else 1.0
    played = read_played(leveled[1] if leveled else name, looks, presets)
    return {**played, "level": level, "at": lies.at, "length": lies.length or float(BEATS_OF_BAR)}


def read_played(
    name: str, looks: Sequence[Mapping[str, Any]], presets: Sequence[Mapping[str, Any]]
) -> dict[str, str | bool]:
    """What an entry plays: `look`, `preset` or `white`."""
    said = name.strip().casefold()
    if said == "white":
        return {"look": "", "preset": "", "white": True}
    for field, among in (("look", looks), ("preset", presets)):
        found = [one for one in among if str(one["name"]).casefold() == said]
        found = found or [one for one in among if said and str(one["name"]).casefold().startswith(said)]
        if found:
            return {"look": "", "preset": "", "white": False, field: found[0]["id"]}
    nearest = ", ".join(str(one["name"]) for one in list(looks)[:4]) or "none yet"
    raise InputError(
        f"There is no look or preset '{name.strip()[:60]}'.",
        where="entry",
        repair=f"Looks are {nearest}; or type white.",
    )


def write_beats(beats: float) -> str:
    """`2 bars`, `3 beats`."""
    bars = beats / BEATS_OF_BAR
    if abs(bars - round(bars)) < SAME and bars >= 1.0:
        return f"{round(bars)} bar{'' if round(bars) == 1 else 's'}"
    return f"{beats:g} beat{'' if beats == 1.0 else 's'}"


def write_lies(at: float, length: float) -> str:
    """`5.1 for 2 bars`."""
    return f"{written(at)} for {write_beats(length)}"
