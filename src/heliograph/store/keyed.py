"""Diffs of a list whose items have ids (a look's lines, what stands on a plan): by item and field, so
that two people can edit two lines of one look, and each can undo their own.

A side of a diff is {"order": [ids] or None, "items": {id: {field: value} or None}}.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

Item = dict[str, Any]
Side = dict[str, Any]


def list_diff(before: Sequence[Item], after: Sequence[Item]) -> tuple[Side, Side]:
    """Both sides of the difference between two lists."""
    was, now = {i["id"]: i for i in before}, {i["id"]: i for i in after}
    old: dict[str, Any] = {}
    new: dict[str, Any] = {}
    for key in [*was, *(k for k in now if k not in was)]:
        a, b = was.get(key), now.get(key)
        if a is None or b is None:
            old[key], new[key] = a, b
            continue
        fields = [f for f in {**a, **b} if a.get(f) != b.get(f)]
        if fields:
            old[key], new[key] = {f: a.get(f) for f in fields}, {f: b.get(f) for f in fields}
    moved = list(was) != list(now)
    return (
        {"order": list(was) if moved else None, "items": old},
        {"order": list(now) if moved else None, "items": new},
    )


def apply_list(current: Sequence[Item], before: Side, after: Side) -> list[Item]:
    """The list after the change; items it does not name stay as they are."""
    items = {i["id"]: dict(i) for i in current}
    for key, new in after["items"].items():
        if new is None:
            items.pop(key, None)
        elif before["items"][key] is None:
            items[key] = dict(new)
        elif key in items:
            items[key].update(new)
    order = after["order"] or list(items)
    ranks = {key: rank for rank, key in enumerate(order)}
    return sorted(items.values(), key=lambda i: ranks.get(i["id"], len(ranks)))


def list_clashes(current: Sequence[Item], before: Side) -> list[str]:
    """Fields ("opacity", or "item" for a whole one) that are no longer as the change expects."""
    items = {i["id"]: i for i in current}
    found = []
    for key, old in before["items"].items():
        item = items.get(key)
        if old is None:
            if item is not None:
                found.append("item")
        elif item is None:
            found.append("item")
        else:
            found.extend(name for name, value in old.items() if item.get(name) != value)
    return found


def touched(side: Mapping[str, Any], other: Mapping[str, Any]) -> set[str]:
    """Paths a change writes: "<item>.<field>", "<item>.*" for one made or removed, "order"."""
    paths = set()
    for key, value in side["items"].items():
        if value is None or other["items"].get(key) is None:
            paths.add(f"{key}.*")
        else:
            paths.update(f"{key}.{name}" for name in value)
    return paths
