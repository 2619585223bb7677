"""What changes a plan: fixtures placed and items arranged, by the rules of `core/plan`."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from typing import Any

from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.plan.arranging import below
from heliograph.core.plan.items import Item, face_size, item_from_json, item_to_json
from heliograph.core.profiles.profile import mode_from_json
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

Arrange = Callable[[Sequence[Item]], list[Item]]


def place_below(work: Work, plan_id: str, fixtures: Sequence[str]) -> None:
    """Puts fixtures that are not on the plan under everything that is."""
    plan = rows.record_of(work.get("plan", plan_id))
    _put(work, plan, _fresh(work, plan, fixtures))


def arrange(work: Work, plan_id: str, chosen: Sequence[str], how: Arrange) -> int:
    """Arranges items in the order in which they are chosen; fixtures that are not on the plan come onto it. Returns how
    many there were."""
    plan = rows.record_of(work.get("plan", plan_id))
    known = {one["id"]: item_from_json(one) for one in plan["items"]}
    fresh = {one.id: one for one in _fresh(work, plan, [key for key in chosen if key not in known])}
    items = [known.get(key) or fresh[key] for key in chosen]
    if not items:
        raise InputError("Nothing is chosen.", where="items", repair="Choose what to arrange.")
    _put(work, plan, how(items))
    return len(items)


def _fresh(work: Work, plan: Record, fixtures: Sequence[str]) -> list[Item]:
    show = str(work.show.id)
    there = {one["id"]: one for one in rows.all_of("fixture", show)}
    profiles = {one["id"]: one for one in rows.all_of("profile", show)}
    chosen: dict[str, Record] = {}
    for key in fixtures:
        fixture = there.get(key)
        if fixture is None:
            raise NotFoundError("One of these is not there any more.", where="items")
        chosen[key] = fixture
    return hang_below(plan, chosen, profiles)


def hang_below(plan: Record, fixtures: Mapping[str, Record], profiles: Mapping[str, Record]) -> list[Item]:
    """Where fixtures would come to hang under everything that is on a plan. `fixtures`: by the id of their item, with
    their profile's and mode's name; `profiles`: by id."""
    sizes: dict[str, tuple[float, float]] = {}
    for key, fixture in fixtures.items():
        modes = profiles[fixture["profile"]]["modes"]
        data = next((mode for mode in modes if mode["name"] == fixture["mode"]), None)
        sizes[key] = face_size(mode_from_json(data) if data else None)
    return below([item_from_json(one) for one in plan["items"]], sizes)


def _put(work: Work, plan: Record, items: Sequence[Item]) -> None:
    stored: dict[str, dict[str, Any]] = {one["id"]: one for one in plan["items"]}
    stored |= {item.id: item_to_json(item) for item in items}
    work.update("plan", plan["id"], {"items": list(stored.values())})
