"""What makes and changes the clock of a show: where it is, and its rules."""

from __future__ import annotations

from collections.abc import Mapping
from pathlib import Path
from typing import Any
from uuid import uuid4

from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.playing.clock import Clock, Place, rule_from_json, zone_of
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

LOCALTIME = Path("/etc/localtime")
BY_SUN = ("dusk", "dawn")


def machine_zone() -> str:
    """The time zone of this machine by its name; UTC where it does not say."""
    try:
        name = str(LOCALTIME.resolve()).partition("zoneinfo/")[2]
        zone_of(name)
    except (InputError, OSError):
        return "UTC"
    return name


def clock_of(show: str) -> Record:
    """The stored clock of a show, or what one begins with."""
    found = rows.all_of("clock", show)
    if found:
        return found[0]
    return {"id": "", "rev": 0, "place": 0, "latitude": None, "longitude": None, "zone": machine_zone(), "rules": []}


def set_place(work: Work, given: Mapping[str, Any]) -> None:
    """`latitude`, `longitude`, `zone`."""
    _update(work, given)


def add_rule(work: Work, rule: Record) -> None:
    _update(work, {"rules": [*clock_of(str(work.show.id))["rules"], {"name": "", "on": True, **rule}]})


def change_rule(work: Work, key: str, given: Mapping[str, Any]) -> None:
    rules = clock_of(str(work.show.id))["rules"]
    _there(rules, key)
    _update(work, {"rules": [{**one, **given} if one["id"] == key else one for one in rules]})


def delete_rule(work: Work, key: str) -> None:
    rules = clock_of(str(work.show.id))["rules"]
    _there(rules, key)
    _update(work, {"rules": [one for one in rules if one["id"] != key]})


def check_clock(one: Mapping[str, Any]) -> None:
    """Raises InputError for what is no clock."""
    latitude, longitude = one["latitude"], one["longitude"]
    known = latitude is not None and longitude is not None
    place = Place(latitude, longitude, one["zone"]) if known else Place(zone=one["zone"])
    rules = tuple(rule_from_json(rule) for rule in one["rules"])
    if not known and any(rule.when in BY_SUN for rule in rules):
        raise InputError(
            "When it is dusk depends on where this is.", where="when", repair="Say where: 57.70 N 2.00 W, for one."
        )
    if len({rule.id for rule in rules}) < len(rules):
        raise InputError("Two rules have one id.", where="rules")
    Clock(place, rules)


def _update(work: Work, given: Mapping[str, Any]) -> None:
    one = clock_of(str(work.show.id))
    new = {**one, **given}
    check_clock(new)
    if one["id"]:
        work.update("clock", one["id"], dict(given))
    else:
        values = {name: new[name] for name in ("latitude", "longitude", "zone", "rules")}
        work.insert("clock", [(str(uuid4()), {**values, "place": 1})])


def _there(rules: list[Record], key: str) -> None:
    if key not in {one["id"] for one in rules}:
        raise NotFoundError("That rule is not there any more.", where="rule")
