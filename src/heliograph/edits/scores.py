"""What makes and changes scores: staves, entries, accents, positions; many at once."""

from __future__ import annotations

from collections.abc import Callable, Collection, Mapping, Sequence
from typing import Any

from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.playing.cues import BEATS_OF_BAR
from heliograph.core.playing.fill import Filled
from heliograph.core.playing.score import ACCENT_BEATS, ENTRIES_MAX, SAME, STAVES_MAX, score_from_json
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

AS_IT_BEGINS: Record = {
    "look": "",
    "preset": "",
    "white": False,
    "level": 1.0,
    "fade_in": 0.0,
    "fade_out": 0.0,
    "accent": False,
    "filled": False,
}
"""What an entry has that nobody said anything of."""

Change = Callable[[list[Record]], list[Record]]


def add_score(work: Work, key: str, given: Mapping[str, Any]) -> None:
    """With a stave for each group there is, unless it is said for which."""
    show = str(work.show.id)
    groups = [one["id"] for one in rows.all_of("group", show)][:STAVES_MAX]
    staves = given.get("staves") or [{"id": f"{key[:8]}-{n}", "group": group} for n, group in enumerate(groups)]
    values = {"bars": 32, "entries": [], "positions": [], "notes": [], **given, "staves": staves}
    check_score({**values, "id": key})
    work.insert("score", [(key, {**values, "place": rows.next_place("score", show)})])


def change_score(work: Work, key: str, given: Mapping[str, Any], seen: int | None = None) -> None:
    one = _score(work, key)
    new = {**one, **given}
    if "staves" in given:  # what was written on one that goes, goes with it
        left = {stave["id"] for stave in given["staves"]}
        for column in ("entries", "positions"):
            new[column] = [each for each in one[column] if each["stave"] in left]
            given = {**given, column: new[column]}
    check_score(new)
    work.update("score", key, dict(given), seen)


def copy_score(work: Work, source: str, key: str) -> None:
    one = {name: value for name, value in _score(work, source).items() if name not in ("id", "rev")}
    place = rows.next_place("score", str(work.show.id))
    work.insert("score", [(key, {**one, "name": f"{one['name']}, copy"[:120], "place": place})])


def add_entries(work: Work, key: str, given: Sequence[Mapping[str, Any]]) -> None:
    """Each with its id and all that it plays."""
    _change(work, key, lambda entries: [*entries, *({**AS_IT_BEGINS, **one} for one in given)])


def change_entries(work: Work, key: str, chosen: Collection[str], given: Mapping[str, Any]) -> None:
    """The same of each; whoever changes one by hand keeps it from being filled anew."""

    def change(entries: list[Record]) -> list[Record]:
        _there(entries, chosen)
        return [_changed(one, given) if one["id"] in chosen else one for one in entries]

    _change(work, key, change)


def delete_entries(work: Work, key: str, chosen: Collection[str]) -> None:
    """Positions too."""
    one = _score(work, key)
    _there([*one["entries"], *one["positions"]], chosen)
    left = {name: [each for each in one[name] if each["id"] not in chosen] for name in ("entries", "positions")}
    work.update("score", key, left)


def move_entries(work: Work, key: str, chosen: Collection[str], beats: float, stave: str = "") -> None:
    """So many beats later, negative earlier; and onto another stave, where one is named."""
    one = _score(work, key)

    def moved(each: Record) -> Record:
        new = {**each, "at": max(each["at"] + beats, 0.0), "filled": False}
        return {**new, "stave": stave} if stave else new

    _there([*one["entries"], *one["positions"]], chosen)
    new = {
        name: [moved(each) if each["id"] in chosen else each for each in one[name]] for name in ("entries", "positions")
    }
    check_score({**one, **new})
    work.update("score", key, new)


def copy_entries(work: Work, key: str, chosen: Collection[str], made: Callable[[], str], beats: float | None) -> None:
    """Copies so many beats later; right behind the last of them where that is not said."""

    def change(entries: list[Record]) -> list[Record]:
        _there(entries, chosen)
        sources = [one for one in entries if one["id"] in chosen]
        first = min(one["at"] for one in sources)
        later = beats if beats is not None else max(one["at"] + one["length"] for one in sources) - first
        new = [{**one, "id": made(), "at": one["at"] + later, "filled": False} for one in sources]
        return [*entries, *new]

    _change(work, key, change)


def repeat_entries(work: Work, key: str, chosen: Collection[str], made: Callable[[], str], every: float) -> int:
    """Copies every so many beats until the score ends, but only whole ones; answers how many."""
    one = _score(work, key)
    sources = [each for each in one["entries"] if each["id"] in chosen]
    _there(one["entries"], chosen)
    if every < BEATS_OF_BAR / 16:
        raise InputError(f"Every {every:g} beats is too often.", where="every", repair="Type 4, or 1 bar.")
    last, end = max(each["at"] + each["length"] for each in sources), one["bars"] * BEATS_OF_BAR
    times = max(int((end - last) / every + SAME), 0)
    if times * len(sources) + len(one["entries"]) > ENTRIES_MAX:
        raise InputError(f"{times * len(sources):,} more entries are too many.", where="every")
    new = [
        {**each, "id": made(), "at": each["at"] + every * n, "filled": False}
        for n in range(1, times + 1)
        for each in sources
    ]
    add_entries(work, key, new)
    return len(new)


def accent(work: Work, key: str, entry: str, stave: str, at: float, look: str = "") -> bool:
    """An accent on a beat, or the one that is there taken away; whether there is one now. White, unless a look is
    said."""
    there = [
        one["id"]
        for one in _score(work, key)["entries"]
        if one["accent"] and one["stave"] == stave and abs(one["at"] - at) < SAME
    ]
    if there:
        delete_entries(work, key, there)
        return False
    plays = {"look": look} if look else {"white": True}
    place = {"id": entry, "stave": stave, "at": at, "length": ACCENT_BEATS, "fade_out": ACCENT_BEATS}
    add_entries(work, key, [{**plays, **place, "accent": True}])
    return True


def set_position(work: Work, key: str, given: Mapping[str, Any]) -> None:
    """From a beat on; one that begins just there is replaced."""
    one = _score(work, key)
    others = [
        each
        for each in one["positions"]
        if each["stave"] != given["stave"] or abs(each["at"] - float(given["at"])) > SAME
    ]
    positions = [*others, {"filled": False, **given}]
    check_score({**one, "positions": positions})
    work.update("score", key, {"positions": positions})


def keep_filled(work: Work, key: str, staves: Collection[str], span: tuple[float, float], filled: Filled) -> None:
    """What was filled takes the place of what was filled there before; what hands have written stays."""
    one = _score(work, key)
    first, last = span

    def replaced(each: Record) -> bool:
        return bool(each["filled"]) and each["stave"] in staves and first - SAME <= each["at"] < last - SAME

    entries = [{**AS_IT_BEGINS, **each} for each in filled.entries]
    new = {
        name: [*(each for each in one[name] if not replaced(each)), *more]
        for name, more in (("entries", entries), ("positions", filled.positions))
    }
    check_score({**one, **new})
    work.update("score", key, new)


def check_score(one: Mapping[str, Any]) -> None:
    """Raises InputError for what is no score, whatever its entries play."""
    staves = {stave["id"] for stave in one["staves"]}
    if len(staves) < len(one["staves"]):
        raise InputError("Two staves have one id.", where="staves")
    if any(each["stave"] not in staves for column in ("entries", "positions") for each in one[column]):
        raise InputError("An entry is on a stave that is not there.", where="stave")
    ids = [each["id"] for column in ("entries", "positions") for each in one[column]]
    if len(set(ids)) < len(ids):
        raise InputError("Two entries have one id.", where="id")
    end = float(one["bars"] * BEATS_OF_BAR)
    if any(not 0.0 <= each["at"] < end for each in one["positions"]):
        raise InputError(f"A position is not within {one['bars']} bars.", where="at")
    score_from_json({**one, "positions": ()})


def _changed(one: Record, given: Mapping[str, Any]) -> Record:
    """Fades that no longer fit into a shorter entry become shorter with it, unless they are what was said."""
    new = {**one, **given, "filled": False}
    if "length" in given and not {"fade_in", "fade_out"} & given.keys():
        whole = new["fade_in"] + new["fade_out"]
        if whole > new["length"]:
            share = new["length"] / whole
            new |= {"fade_in": new["fade_in"] * share, "fade_out": new["fade_out"] * share}
    return new


def _score(work: Work, key: str) -> Record:
    return rows.record_of(work.get("score", key))


def _change(work: Work, key: str, change: Change) -> None:
    one = _score(work, key)
    entries = change(list(one["entries"]))
    check_score({**one, "entries": entries})
    work.update("score", key, {"entries": entries})


def _there(entries: Sequence[Record], chosen: Collection[str]) -> None:
    if not chosen or not set(chosen) <= {one["id"] for one in entries}:
        raise NotFoundError("One of these entries is not there any more.", where="entries")
