"""Compact diffs of one object: what an edit did to it, and what would reverse it.

A change is {"table", "id", "before", "after"} with only the columns that changed; None where the
object was made or removed. Placements are a set, so their diff lists only squares removed and added.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from heliograph.core.matrix.placements import Placement, pack, unpack
from heliograph.store.keyed import apply_list, list_clashes, list_diff, touched

Columns = dict[str, Any]
Change = dict[str, Any]

SET_COLUMNS = {"placements"}
LIST_COLUMNS = {"lines", "items", "frames"}


def change_between(table: str, key: str, before: Columns | None, after: Columns | None) -> Change | None:
    """The change from one state of an object to another; None where nothing differs."""
    if before is None or after is None:
        return {"table": table, "id": key, "before": before, "after": after}
    names = [name for name in after if before.get(name) != after[name]]
    if not names:
        return None
    old: Columns = {}
    new: Columns = {}
    for name in names:
        if name in SET_COLUMNS:
            was, now = set(unpack(before[name])), set(unpack(after[name]))
            old[name], new[name] = pack(was - now), pack(now - was)
        elif _is_list(name, after[name]):
            old[name], new[name] = list_diff(before[name], after[name])
        else:
            old[name], new[name] = before[name], after[name]
    return {"table": table, "id": key, "before": old, "after": new}


def reversed_change(change: Change) -> Change:
    return {**change, "before": change["after"], "after": change["before"]}


def apply_to(current: Columns, change: Change) -> Columns:
    """New values of the changed columns. Check with `clashes` first."""
    result: Columns = {}
    for name, after in change["after"].items():
        if name in SET_COLUMNS:
            kept = set(unpack(current[name])) - set(unpack(change["before"][name]))
            result[name] = pack(kept | set(unpack(after)))
        elif _is_list(name, after):
            result[name] = apply_list(current[name], change["before"][name], after)
        else:
            result[name] = after
    return result


def clashes(current: Columns | None, change: Change) -> list[str]:
    """Columns in which the object is no longer as the change expects it; ["it"] if it is gone or there already."""
    before, after = change["before"], change["after"]
    if before is None:
        return ["it"] if current is not None else []
    if current is None:
        return ["it"]
    if after is None:
        return [name for name, value in before.items() if current.get(name) != value]
    found = []
    for name, value in before.items():
        if name in SET_COLUMNS:
            if _set_clashes(current[name], value, after[name]):
                found.append(name)
        elif _is_list(name, value):
            found.extend(list_clashes(current[name], value))
        elif current.get(name) != value:
            found.append(name)
    return found


def paths_of(change: Change) -> set[str]:
    """What a change of an existing object writes: columns, and inside lists their items' fields."""
    before, after = change["before"], change["after"]
    if before is None or after is None:
        return {"*"}
    paths: set[str] = set()
    for name in after:
        paths |= touched(after[name], before[name]) if _is_list(name, after[name]) else {name}
    return paths


def _is_list(name: str, value: Any) -> bool:
    """Whether a column is a list whose items have ids; clips only count their frames."""
    return name in LIST_COLUMNS and not isinstance(value, int)


def _set_clashes(current: Mapping[str, Any], before: Mapping[str, Any], after: Mapping[str, Any]) -> bool:
    now, gone, new = set(unpack(current)), set(unpack(before)), set(unpack(after))
    if not gone <= now:
        return True
    rest = now - gone
    return bool(_squares(rest) & _squares(new)) or bool({p.key for p in rest} & {p.key for p in new})


def _squares(placements: set[Placement]) -> set[tuple[int, int]]:
    return {one.square for one in placements}
