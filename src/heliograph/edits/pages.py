"""What makes and changes pages: their address, their items, where these lie."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any
from uuid import uuid4

from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.handles.handle import slug
from heliograph.core.pages import check_items, check_slug, free_place
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

AS_IT_BEGINS: Record = {
    "words": "",
    "mark": "",
    "hue": "bone",
    "handles": [],
    "touch": {"do": "turn"},
    "lift": {"do": "nothing"},
}
"""What an item has that nobody said anything of."""

SIZES: dict[str, tuple[int, int]] = {
    "pad": (3, 2),
    "fader": (2, 5),
    "crossfader": (6, 2),
    "list": (12, 1),
    "tap": (3, 2),
    "words": (3, 1),
}


def add_page(work: Work, key: str, name: str) -> None:
    show = str(work.show.id)
    values = {"name": name, "slug": _free_slug(show, name), "items": [], "place": rows.next_place("page", show)}
    work.insert("page", [(key, values)])


def change_page(work: Work, key: str, given: Mapping[str, Any], seen: int | None = None) -> None:
    if "slug" in given:
        check_slug(given["slug"])
        if any(one["slug"] == given["slug"] and one["id"] != key for one in rows.all_of("page", str(work.show.id))):
            raise InputError(f"Another page is at /page/{given['slug']}.", where="slug", repair="Use another word.")
    work.update("page", key, dict(given), seen)


def copy_page(work: Work, source: str, key: str) -> None:
    one = rows.record_of(work.get("page", source))
    show = str(work.show.id)
    name = f"{one['name']}, copy"[:120]
    place = rows.next_place("page", show)
    items = [{**each, "id": str(uuid4())} for each in one["items"]]  # a touch is told by the item's id alone
    work.insert("page", [(key, {"name": name, "slug": _free_slug(show, name), "items": items, "place": place})])


def add_item(work: Work, key: str, item: Mapping[str, Any]) -> None:
    """In the first place with room, unless it says where."""
    items = items_of(work, key)
    w, h = SIZES.get(str(item["kind"]), (3, 2))
    new: Record = {"w": w, "h": h, **AS_IT_BEGINS, **item}
    if "x" not in item:
        new["x"], new["y"] = free_place(items, new["w"], new["h"])
    _store(work, key, [*items, new])


def change_item(work: Work, key: str, item: str, given: Mapping[str, Any]) -> None:
    items = items_of(work, key)
    if item not in {one["id"] for one in items}:
        raise NotFoundError("That item is not there any more.", where="item")
    _store(work, key, [{**one, **given} if one["id"] == item else one for one in items])


def delete_items(work: Work, key: str, chosen: Sequence[str]) -> None:
    items = items_of(work, key)
    if not set(chosen) <= {one["id"] for one in items}:
        raise NotFoundError("That item is not there any more.", where="item")
    _store(work, key, [one for one in items if one["id"] not in chosen])


def items_of(work: Work, key: str) -> list[Record]:
    found: list[Record] = rows.record_of(work.get("page", key))["items"]
    return found


def check_page(one: Mapping[str, Any]) -> None:
    """Raises InputError for what is no page."""
    check_slug(one["slug"])
    check_items(one["items"])


def _store(work: Work, key: str, items: list[Record]) -> None:
    check_items(items)
    work.update("page", key, {"items": items})


def _free_slug(show: str, name: str) -> str:
    """An address of the name that no other page has."""
    plain = slug(name).strip("_").replace("_", "-")[:32] or "page"
    taken = {one["slug"] for one in rows.all_of("page", show)}
    found, number = plain, 2
    while found in taken:
        found, number = f"{plain}-{number}", number + 1
    return found
