"""What makes and changes cue lists and their cues: numbers, order, many at once, a table."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from typing import Any

from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.playing.cues import CUES_MAX, NUMBER_MAX, cue_list_from_json
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

AS_IT_BEGINS: Record = {
    "name": "",
    "note": "",
    "mark": "",
    "looks": [],
    "fade_in": 0.0,
    "fade_out": None,
    "delay": 0.0,
    "unit": "s",
    "curve": "straight",
    "then": "hold",
    "wait": 0.0,
    "wait_unit": "s",
    "from_go": False,
    "at_s": 0.0,
    "ready": False,
    "actions": [],
}
"""What a cue has that nobody said anything of."""

Change = Callable[[list[Record]], list[Record]]


def add_list(work: Work, key: str, given: Mapping[str, Any]) -> None:
    """The first list of a show is its main one."""
    show = str(work.show.id)
    main = not rows.all_of("cue_list", show)
    values = {"cues": [], **given, "main": main, "place": rows.next_place("cue_list", show)}
    check_cues({**values, "id": key})
    work.insert("cue_list", [(key, values)])


def copy_list(work: Work, source: str, key: str) -> None:
    one = rows.record_of(work.get("cue_list", source))
    rest = {name: value for name, value in one.items() if name not in ("id", "rev")}
    place = rows.next_place("cue_list", str(work.show.id))
    work.insert("cue_list", [(key, {**rest, "name": f"{one['name']}, copy"[:120], "main": False, "place": place})])


def change_list(work: Work, key: str, given: Mapping[str, Any], seen: int | None = None) -> None:
    """One list is the main one: another that was is not any more."""
    one = rows.record_of(work.get("cue_list", key))
    check_cues({**one, **given})
    if given.get("main"):
        for other in rows.all_of("cue_list", str(work.show.id)):
            if other["main"] and other["id"] != key:
                work.update("cue_list", other["id"], {"main": False})
    work.update("cue_list", key, dict(given), seen)


def add_cue(work: Work, key: str, cue: str, given: Mapping[str, Any], after: str = "") -> None:
    """Behind another cue ("": at the end), by a number of its own or the next that is free there."""

    def change(cues: list[Record]) -> list[Record]:
        number = given.get("number")
        if number is None:
            number = number_behind(cues, after or (cues[-1]["id"] if cues else ""))
        return _sorted([*cues, {**AS_IT_BEGINS, **given, "id": cue, "number": number}])

    _change(work, key, change)


def change_cues(work: Work, key: str, chosen: Collection[str], given: Mapping[str, Any]) -> None:
    """The same of each; of a number only one."""
    if "number" in given and len(chosen) > 1:
        raise InputError("Several cues do not get one number.", where="number", repair="Renumber them instead.")

    def change(cues: list[Record]) -> list[Record]:
        _there(cues, chosen)
        return _sorted([{**one, **given} if one["id"] in chosen else one for one in cues])

    _change(work, key, change)


def delete_cues(work: Work, key: str, chosen: Collection[str]) -> None:
    def change(cues: list[Record]) -> list[Record]:
        _there(cues, chosen)
        return [one for one in cues if one["id"] not in chosen]

    _change(work, key, change)


def copy_cues(work: Work, key: str, chosen: Sequence[str], made: Sequence[str]) -> None:
    """Copies behind the last of them, numbered in between; `made`: their ids."""

    def change(cues: list[Record]) -> list[Record]:
        _there(cues, chosen)
        sources = [one for one in cues if one["id"] in chosen]
        for source, new in zip(sources, made, strict=True):
            behind = cues[max(n for n, one in enumerate(cues) if one["id"] in chosen or one["id"] in made)]["id"]
            cues = _sorted([*cues, {**source, "id": new, "number": number_behind(cues, behind)}])
        return cues

    _change(work, key, change)


def move_cues(work: Work, key: str, chosen: Collection[str], after: str) -> None:
    """Behind another one ("": first of all), by new numbers in between."""

    def change(cues: list[Record]) -> list[Record]:
        _there(cues, chosen)
        moved = [one for one in cues if one["id"] in chosen]
        left = [one for one in cues if one["id"] not in chosen]
        at = next((n + 1 for n, one in enumerate(left) if one["id"] == after), 0)
        low = left[at - 1]["number"] if at else 0.0
        high = left[at]["number"] if at < len(left) else low + len(moved) + 1
        step = (high - low) / (len(moved) + 1)
        placed = [{**one, "number": _plain(low + step * (n + 1))} for n, one in enumerate(moved)]
        return _sorted([*left[:at], *placed, *left[at:]])

    _change(work, key, change)


def renumber(work: Work, key: str, chosen: Collection[str], first: float, step: float) -> None:
    """The chosen ones, all where none is, from `first` on."""
    if step <= 0.0:
        raise InputError("Numbers go up.", where="step", repair="Type 1, or 0.5.")

    def change(cues: list[Record]) -> list[Record]:
        _there(cues, chosen)
        numbered = [one["id"] for one in cues if one["id"] in chosen or not chosen]
        new = {cue: _plain(first + step * n) for n, cue in enumerate(numbered)}
        return _sorted([{**one, "number": new.get(one["id"], one["number"])} for one in cues])

    _change(work, key, change)


def replace_cues(work: Work, key: str, cues: Sequence[Record]) -> None:
    """All cues of a list, as a table says them."""
    _change(work, key, lambda _before: _sorted([{**AS_IT_BEGINS, **one} for one in cues]))


def number_behind(cues: Sequence[Record], cue: str) -> float:
    """The number of a new cue behind another: the next whole one, or in the middle where that is taken."""
    at = next((n for n, one in enumerate(cues) if one["id"] == cue), -1)
    low = float(cues[at]["number"]) if at >= 0 else 0.0
    whole = float(int(low) + 1)
    if at + 1 >= len(cues) or whole < cues[at + 1]["number"]:
        return whole
    return _plain((low + cues[at + 1]["number"]) / 2)


def cues_of(work: Work, key: str) -> list[Record]:
    found: list[Record] = rows.record_of(work.get("cue_list", key))["cues"]
    return found


def _plain(number: float) -> float:
    """A number as it is said: three places at most."""
    return round(number, 3)


def _change(work: Work, key: str, change: Change) -> None:
    one = rows.record_of(work.get("cue_list", key))
    cues = change(list(one["cues"]))
    check_cues({**one, "cues": cues})
    work.update("cue_list", key, {"cues": cues})


def check_cues(one: Mapping[str, Any]) -> None:
    """Raises InputError for what is no list, and for two cues of one number."""
    if len(one["cues"]) > CUES_MAX:
        raise InputError(f"A list has at most {CUES_MAX:,} cues.", where="cues")
    numbers: set[float] = set()
    for cue in one["cues"]:
        number = float(cue["number"])
        if number in numbers:
            raise InputError(f"There is a cue {number:g} already.", where="number", repair="Type another number.")
        if not 0.0 < number <= NUMBER_MAX:
            raise InputError(f"A cue {number:g} is outside 0.001 to {NUMBER_MAX:g}.", where="number")
        numbers.add(number)
    cue_list_from_json(one)


def _sorted(cues: Sequence[Record]) -> list[Record]:
    return sorted(cues, key=lambda one: float(one["number"]))


def _there(cues: Sequence[Record], chosen: Collection[str]) -> None:
    if not set(chosen) <= {one["id"] for one in cues}:
        raise NotFoundError("One of these cues is not there any more.", where="cues")
