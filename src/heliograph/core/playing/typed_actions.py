"""What a cue does beside playing looks, as it is typed.

`The grand master 80 %; Fog signal: level 40 % in 2 s; Storm list: go`
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping, Sequence
from typing import Any, Protocol

from heliograph.core.errors import InputError
from heliograph.core.playing.typed_cues import read_time

_IN = re.compile(r"^(.*?)\s+in\s+(\S+(?:\s*\S+)?)$")
_VALUE = re.compile(r"^(.*?)\s+(-?\d+(?:[.,]\d+)?\s*(?:%|°|BPM)?|on|off)$", re.IGNORECASE)
REPAIR = "Type The grand master 80 %, Fog signal: level 40 % in 2 s, or Blackout on."


class Known(Protocol):
    """A handle as it is found."""

    @property
    def address(self) -> str: ...

    @property
    def kind(self) -> str: ...

    @property
    def words(self) -> str: ...

    @property
    def fades(self) -> bool: ...


Find = Callable[[str], Sequence[Known]]
"""Handles whose words hold all of these."""


def read_actions(text: str, find: Find) -> list[dict[str, Any]]:
    """As they are stored; InputError names the first that is none."""
    return [_read(part, find) for part in (one.strip() for one in text.split(";")) if part]


def _read(text: str, find: Find) -> dict[str, Any]:
    said, over_s = text, 0.0
    timed = _IN.match(said)
    if timed:
        time = read_time(timed[2], "does")
        if time.unit != "s":
            raise InputError("An action takes seconds.", where="does", repair="Type in 2 s.")
        said, over_s = timed[1], time.value
    valued = _VALUE.match(said)
    words, value = (valued[1], valued[2]) if valued else (said, "")
    handle = _named(words, find) or (_named(said, find) if valued else None)
    if handle is None:
        raise InputError(f"Nothing here is called '{words[:60]}'.", where="does", repair=REPAIR)
    if over_s and not handle.fades:
        raise InputError(f"{handle.words} moves at once.", where="does", repair="Leave the time out.")
    return {
        "handle": handle.address,
        "words": handle.words,
        "kind": handle.kind,
        "value": _value(handle, value),
        "over_s": over_s,
    }


def _named(words: str, find: Find) -> Known | None:
    """The handle of just these words, or the only one that has them."""
    found = find(words.replace(":", " "))
    exact = [one for one in found if one.words.casefold() == words.strip().casefold()]
    if exact or len(found) == 1:
        return (exact or list(found))[0]
    return None


def _value(handle: Known, text: str) -> Any:
    said = text.strip().lower()
    if handle.kind == "trigger":
        if said:
            raise InputError(f"{handle.words} takes no value.", where="does", repair=f"Type {handle.words}.")
        return None
    if handle.kind == "switch":
        if said not in ("on", "off"):
            raise InputError(f"{handle.words} is on or off.", where="does", repair=f"Type {handle.words} on.")
        return said == "on"
    number = re.match(r"-?\d+(?:[.,]\d+)?", said)
    if number is None:
        raise InputError(f"{handle.words} needs a value.", where="does", repair=f"Type {handle.words} 40 %.")
    value = float(number[0].replace(",", "."))
    return value / 100.0 if handle.kind == "level" or "%" in said else value


def write_actions(actions: Sequence[Mapping[str, Any]]) -> str:
    said = []
    for one in actions:
        value = one.get("value")
        text = str(one.get("words") or one["handle"])
        if isinstance(value, bool):
            text += " on" if value else " off"
        elif isinstance(value, (int, float)):
            text += f" {value * 100:g} %" if one.get("kind") == "level" else f" {value:g}"
        if one.get("over_s"):
            text += f" in {one['over_s']:g} s"
        said.append(text)
    return "; ".join(said)
