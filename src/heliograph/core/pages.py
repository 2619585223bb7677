"""Pages of pads and faders: what may stand on one, and what a touch of an item moves.

A page is a grid of twelve columns; every item has its place and size in squares.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from typing import Any, Literal, NamedTuple, get_args

from heliograph.core.errors import InputError
from heliograph.core.playing.tempo import BPM_MAX, BPM_MIN

COLUMNS, ROWS = 12, 8
ITEMS_MAX = 96
HANDLES_MAX = 16

ItemKind = Literal["pad", "fader", "crossfader", "list", "tap", "words"]
Does = Literal["on", "off", "turn", "value", "beats", "nothing"]
Hue = Literal["rope", "kelp", "slate", "heather", "bone", "ice"]
KINDS: tuple[ItemKind, ...] = get_args(ItemKind)
DOES: tuple[Does, ...] = get_args(Does)
HUES: tuple[Hue, ...] = get_args(Hue)
MARKS = ("", "sent", "drop", "fog", "beam", "snow", "waves", "sun", "star", "house")

SLUG = re.compile(r"^[a-z0-9]+(-[a-z0-9]+)*$")
SLUG_MAX = 40

WANTED = {"fader": (1, HANDLES_MAX), "crossfader": (2, 2), "list": (1, 1), "tap": (0, 0), "words": (0, 0)}
"""How many handles an item has, at least and at most; a pad has one or more."""


NOTHING_KNOWN: Mapping[str, Any] = {}


class Moved(NamedTuple):
    """A handle to a value, or turned over where that is None."""

    handle: str
    value: Any = None


class Touched(NamedTuple):
    """What a touch does at once, and what once it is lifted; after `beats` by itself where there are any."""

    now: list[Moved]
    lift: list[Moved]
    beats: float = 0.0


def check_slug(text: str) -> str:
    if not SLUG.match(text) or len(text) > SLUG_MAX:
        raise InputError(
            f"'{text[:60]}' cannot be part of an address.", where="slug", repair="Use small letters, digits and -."
        )
    return text


def check_items(items: Sequence[Mapping[str, Any]]) -> None:
    """Raises InputError for items that are none, or lie over one another or off the page."""
    if len(items) > ITEMS_MAX:
        raise InputError(f"A page has at most {ITEMS_MAX} items.", where="items")
    if len({one["id"] for one in items}) < len(items):
        raise InputError("Two items have one id.", where="items")
    taken: dict[tuple[int, int], Mapping[str, Any]] = {}
    for one in items:
        _check_item(one)
        for x in range(one["x"], one["x"] + one["w"]):
            for y in range(one["y"], one["y"] + one["h"]):
                other = taken.setdefault((x, y), one)
                if other is not one:
                    raise InputError(
                        f"{called(one)} would lie over {called(other)}.",
                        where="place",
                        repair="Move one of them, or make it smaller.",
                    )


def _check_item(one: Mapping[str, Any]) -> None:
    for name, among in (("kind", KINDS), ("hue", HUES), ("mark", MARKS)):
        if one[name] not in among:
            raise InputError(f"An item has no {name} '{one[name]}'.", where=name, repair=f"Use {', '.join(among)}.")
    for name in ("touch", "lift"):
        if one[name]["do"] not in DOES:
            raise InputError(f"A pad does not '{one[name]['do']}'.", where=name, repair=f"Use {', '.join(DOES)}.")
        if one[name]["do"] == "beats" and (name == "lift" or not 0.25 <= float(one[name].get("beats", 0.0)) <= 512.0):
            raise InputError("For so many beats is on touch, a quarter to 512 of them.", where=name, repair="Type 8.")
    if one["w"] < 1 or one["h"] < 1 or one["x"] < 0 or one["x"] + one["w"] > COLUMNS:
        raise InputError(f"{called(one)} is not within {COLUMNS} columns.", where="place")
    if one["y"] < 0 or one["y"] + one["h"] > ROWS:
        raise InputError(f"{called(one)} is not within {ROWS} rows.", where="place")
    _, most = WANTED.get(one["kind"], (0, HANDLES_MAX))
    if len(one["handles"]) > most:
        raise InputError(f"{called(one)} has at most {most} handles.", where="handles")
    if one["kind"] == "crossfader" and any(_look_of(each["handle"]) == "" for each in one["handles"]):
        raise InputError("A crossfader goes between two looks.", where="handles", repair="Choose the looks' switches.")
    if one["kind"] == "list" and any(not each["handle"].startswith("list/") for each in one["handles"]):
        raise InputError("That is no cue list.", where="handles", repair="Choose the go of a list.")


def called(one: Mapping[str, Any]) -> str:
    return str(one.get("words") or one["kind"])


def free_place(items: Sequence[Mapping[str, Any]], w: int, h: int) -> tuple[int, int]:
    """The first place, row by row, with so much room; InputError where there is none."""
    taken = {(one["x"] + dx, one["y"] + dy) for one in items for dx in range(one["w"]) for dy in range(one["h"])}
    for y in range(ROWS - h + 1):
        for x in range(COLUMNS - w + 1):
            if all((x + dx, y + dy) not in taken for dx in range(w) for dy in range(h)):
                return x, y
    raise InputError("There is no room left on this page.", where="place", repair="Make an item smaller first.")


def touched(item: Mapping[str, Any], part: str = "", values: Mapping[str, Any] = NOTHING_KNOWN) -> Touched:
    """What a finger on a pad or list item moves. `part` of a list: "go", "back" or "release"; of a pad that turns over:
    "on" or "off", "" for the other than it is. `values` of its handles now: what is no switch turns over by them."""
    if item["kind"] == "tap":
        return Touched([Moved("tap")], [])
    if item["kind"] == "list":
        whole = item["handles"][0]["handle"].rpartition("/")[0] if item["handles"] else ""
        return Touched([Moved(f"{whole}/{part or 'go'}")] if whole else [], [])
    if item["kind"] != "pad":
        return Touched([], [])
    touch, lift = item["touch"], item["lift"]
    if touch["do"] == "beats":
        now = [move for one in item["handles"] for move in _done(one, {"do": "on"})]
        after = [move for one in item["handles"] for move in _done(one, {"do": "off"})]
        return Touched(now, after, float(touch["beats"]))
    if touch["do"] == "turn" and part:
        touch = {"do": part}
    if touch["do"] == "turn" and any(one["kind"] != "switch" for one in item["handles"]):
        lit = any(share_of(one, values.get(one["handle"], 0.0)) > 0.0 for one in item["handles"])
        touch = {"do": "off" if lit else "on"}  # all of it together
    now = [move for one in item["handles"] for move in _done(one, touch)]
    return Touched(now, [move for one in item["handles"] for move in _done(one, lift)])


def _done(handle: Mapping[str, Any], does: Mapping[str, Any]) -> list[Moved]:
    """One handle, as a half of a pad moves it."""
    address, kind = handle["handle"], handle["kind"]
    low, high = float(handle.get("minimum", 0.0)), float(handle.get("maximum", 1.0))
    match does["do"]:
        case "nothing":
            return []
        case _ if kind == "trigger":
            return [Moved(address)] if does["do"] in ("on", "turn", "value") else []
        case "on":
            return [Moved(address, True if kind == "switch" else high)]
        case "off":
            return [Moved(address, False if kind == "switch" else max(low, 0.0))]
        case "turn":
            return [Moved(address)]
    value = does.get("value")
    if kind == "switch":
        return [Moved(address, bool(value))]
    return [] if value is None else [Moved(address, value)]


def faded(item: Mapping[str, Any], share: float, on: Mapping[str, bool]) -> list[Moved]:
    """What a fader or crossfader at a share 0..1 moves. `on`: which looks run by hand: one begins when its side leaves
    0 and ends at 0."""
    if not 0.0 <= share <= 1.0:
        raise InputError(f"{share * 100:g} % is outside 0 to 100 %.", where="share")
    if item["kind"] == "fader":
        return [Moved(one["handle"], _within(one, share)) for one in item["handles"]]
    if item["kind"] != "crossfader" or len(item["handles"]) != 2:
        return []
    moves: list[Moved] = []
    for one, side in zip(item["handles"], (1.0 - share, share), strict=True):
        look = _look_of(one["handle"])
        runs = on.get(look, False)
        if side > 0.0:
            moves += [] if runs else [Moved(f"look/{look}/on", True)]
            moves.append(Moved(f"look/{look}/level", round(side, 4)))
        elif runs:
            moves.append(Moved(f"look/{look}/on", False))
    return moves


def share_of(handle: Mapping[str, Any], value: Any) -> float:
    """Where a fader stands at a value, 0..1."""
    if isinstance(value, bool) or not isinstance(value, (int, float)):
        return float(bool(value))
    low, high = _range(handle)
    return min(max((float(value) - low) / (high - low), 0.0), 1.0) if high > low else 0.0


def _within(handle: Mapping[str, Any], share: float) -> Any:
    if handle["kind"] == "switch":
        return share > 0.0
    low, high = _range(handle)
    return low + share * (high - low)


def _range(handle: Mapping[str, Any]) -> tuple[float, float]:
    if handle["handle"] == "tempo":
        return BPM_MIN, BPM_MAX
    return float(handle.get("minimum", 0.0)), float(handle.get("maximum", 1.0))


def _look_of(handle: str) -> str:
    parts = handle.split("/")
    return parts[1] if parts[0] == "look" and len(parts) == 3 else ""
