"""What a change of a profile or of a mode does to fixtures, known before it happens."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from heliograph.api import schemas
from heliograph.api.sections import mode_of_json
from heliograph.api.views import Modes, end_of, placed_fixture
from heliograph.core.errors import InputError
from heliograph.core.patch.blocks import places_after, stored_places
from heliograph.core.patch.dmx import Address
from heliograph.core.patch.places import all_positions, place_mode
from heliograph.core.profiles.profile import Mode
from heliograph.store.rows import Record


@dataclass(frozen=True, slots=True)
class NewMode:
    """A fixture's mode after the change: the profile's id, the mode's name, and the mode."""

    profile: str
    name: str
    mode: Mode


def changed_fixtures(
    profiles: list[Record], fixtures: list[Record], wanted: Mapping[str, NewMode]
) -> list[schemas.ChangedFixture]:
    """Those of `wanted` (fixture id -> its mode to be) that change in footprint, mode, address or name, and what
    will be wrong with them: past the end of a universe, or on channels of another fixture."""
    modes = Modes(profiles)
    after: dict[str, np.ndarray[Any, Any]] = {}
    trouble: dict[str, str] = {}
    for fixture in fixtures:
        if fixture["id"] not in wanted:
            mode = modes.of(fixture)
            after[fixture["id"]] = all_positions(placed_fixture(mode, fixture)) if mode else np.empty(0, np.int64)
            continue
        new = wanted[fixture["id"]].mode
        address = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else None
        try:
            places = places_after(modes.of(fixture), new, fixture["blocks"])
            after[fixture["id"]] = all_positions(place_mode(new, address, places))
        except InputError as error:
            after[fixture["id"]] = np.empty(0, dtype=np.int64)
            trouble[fixture["id"]] = f"{error.what} {error.repair}".strip()
    _meetings(fixtures, wanted, after, trouble)
    views = []
    for fixture in fixtures:
        key = fixture["id"]
        if key not in wanted:
            continue
        wish, old = wanted[key], modes.of(fixture)
        changed = {**fixture, **columns_after(fixture, old, wish)}
        view = changed_view(fixture, old, changed, wish.mode, trouble.get(key, ""))
        if fixture["profile"] != wish.profile or view.says or _differs(view):
            views.append(view)
    return views


def columns_after(fixture: Record, old: Mode | None, new: NewMode) -> Record:
    """What of a fixture is stored anew when its mode becomes another."""
    return {
        "profile": new.profile,
        "mode": new.name,
        "blocks": stored_places(new.mode, places_after(old, new.mode, fixture["blocks"])),
        "name": renamed(fixture["name"], fixture["mode"], new.name),
    }


def changed_view(
    fixture: Record, old: Mode | None, changed: Record, new: Mode | None, says: str = ""
) -> schemas.ChangedFixture:
    """A fixture before and after. `old`, `new`: its modes, None where one is gone."""
    at = Address(changed["universe"], changed["channel"]) if changed["universe"] else None
    return schemas.ChangedFixture(
        id=changed["id"],
        number_before=fixture["number"],
        number=changed["number"],
        name_before=fixture["name"],
        name=changed["name"],
        mode_before=fixture["mode"],
        mode=changed["mode"],
        footprint_before=old.footprint if old else 0,
        footprint=new.footprint if new else 0,
        address=str(at or ""),
        end_before=end_of(old, placed_fixture(old, fixture), fixture) if old else "",
        end=end_of(new, placed_fixture(new, changed), changed) if new else "",
        says=says,
    )


def _differs(view: schemas.ChangedFixture) -> bool:
    return (view.mode, view.footprint, view.end) != (view.mode_before, view.footprint_before, view.end_before)


def _meetings(
    fixtures: list[Record],
    wanted: Mapping[str, NewMode],
    after: Mapping[str, np.ndarray[Any, Any]],
    trouble: dict[str, str],
) -> None:
    owners: dict[int, int] = {}
    numbers = {fixture["id"]: fixture["number"] for fixture in fixtures}
    for key in sorted(after, key=lambda one: one in wanted):
        for position in after[key].tolist():
            other = owners.setdefault(position, numbers[key])
            if other != numbers[key] and key in wanted and key not in trouble:
                trouble[key] = f"It will share channels with {other}."


def renamed(name: str, old: str, new: str) -> str:
    """A name that says the old mode says the new one: "Strip 50 RGB 3" and mode "50 RGB" -> "100 RGB"."""
    if not old or old == new or len(old) < 2:
        return name
    return re.sub(rf"(?<!\w){re.escape(old)}(?!\w)", lambda _: new, name)[:120]


def modes_of_change(
    profile: str, modes: list[dict[str, Any]], fixtures: Iterable[Record]
) -> tuple[dict[str, NewMode], list[Record]]:
    """The mode each fixture of a profile will have once the profile has these `modes` (with `was`, the old name),
    and the fixtures whose mode would be gone."""
    by_old = {mode.get("was") or mode["name"]: mode for mode in modes}
    wanted: dict[str, NewMode] = {}
    lost = []
    for fixture in fixtures:
        if fixture["profile"] != profile:
            continue
        mode = by_old.get(fixture["mode"])
        if mode is None:
            lost.append(fixture)
        else:
            wanted[fixture["id"]] = NewMode(profile, mode["name"], mode_of_json(mode))
    return wanted, lost
