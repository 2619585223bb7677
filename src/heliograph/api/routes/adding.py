"""Adding many fixtures by one typed line: what it would do, and doing it."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any
from uuid import UUID, uuid4

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.batches import free_numbers
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.sections import mode_of, mode_of_json
from heliograph.api.views import covered_by, end_of, placed_fixture, profile_view, spread_of
from heliograph.core.errors import InputError
from heliograph.core.patch.blocks import Places, places_of, say_places, stored_places
from heliograph.core.patch.dmx import Address, address_at, parse_address
from heliograph.core.patch.places import Occupancy, all_positions, place_in_runs, place_mode
from heliograph.core.patch.rulers import rulers_of
from heliograph.core.plan.items import item_to_json
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.add_line import AddLine, name_at, read_add_line
from heliograph.core.rig.suggesting import suggest
from heliograph.edits.plans import hang_below, place_below
from heliograph.edits.profiles import insert_described
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.rows import Record

router = APIRouter(prefix="/api/fixtures", tags=["fixtures"])

RULERS = 4
"""Rulers that are told of one line; more would not be read."""


@router.post("/plan")
def plan_fixtures(body: schemas.AddText) -> schemas.AddPlan:
    """What the typed line would add, or why it cannot. Changes nothing."""
    with connected():
        show = rows.running_show()
        profiles, fixtures = rows.all_of("profile", show["id"]), rows.all_of("fixture", show["id"])
        plan = _plan_of(show["id"], body.plan)
    suggested = _suggested(body.text, profiles, fixtures)
    try:
        line, mode, columns = _plan(body.text, profiles, fixtures)
    except InputError as error:
        problem = error.what if body.text.strip() else ""
        empty: dict[str, Any] = {"count": 0, "profile": "", "mode": "", "cells": 0, "channels": 0}
        empty |= {"fixtures": [], "rulers": [], "hang": [], "says": []}
        return schemas.AddPlan(**empty, problem=problem, repair=error.repair, **suggested)
    return schemas.AddPlan(
        count=line.count,
        profile=line.profile,
        mode=line.mode,
        cells=mode.cell_count * line.count,
        channels=mode.footprint * line.count,
        fixtures=[_planned(mode, c, columns[i - 1] if i else None) for i, c in enumerate(columns)],
        problem="",
        repair="",
        rulers=_rulers(profiles, fixtures, columns)[:RULERS],
        hang=_hang(plan, profiles, columns),
        says=_says(line, plan, columns),
        **suggested,
    )


def _plan_of(show: str, plan: UUID | None) -> Record | None:
    return next((one for one in rows.all_of("plan", show) if plan is not None and one["id"] == str(plan)), None)


def _rulers(profiles: list[Record], fixtures: list[Record], columns: list[Record]) -> list[schemas.AddRuler]:
    found = rulers_of(spread_of(profiles, fixtures), spread_of(profiles, columns))
    return [schemas.AddRuler(**asdict(one)) for one in found]


def _hang(plan: Record | None, profiles: list[Record], columns: list[Record]) -> list[schemas.PlanItem]:
    if plan is None:
        return []
    items = hang_below(plan, {str(uuid4()): one for one in columns}, {one["id"]: one for one in profiles})
    return [schemas.PlanItem(**item_to_json(one)) for one in items]


def _says(line: AddLine, plan: Record | None, columns: list[Record]) -> list[str]:
    """What was looked at and holds: the line would not be offered otherwise."""
    said = ["No number is taken twice." if not line.patched else "No number and no channel is taken twice."]
    if plan is not None:
        said.append(f"{'It hangs' if line.count == 1 else 'They hang'} below everything on {plan['name']}.")
    last = columns[-1]
    if last["universe"] and columns[0]["universe"] != last["universe"]:
        said.append(f"They go on into U{last['universe']}.")
    return said


def _suggested(text: str, profiles: list[Record], fixtures: list[Record]) -> dict[str, Any]:
    """What hangs there already is what is most likely added again."""
    used = {one["profile"] for one in fixtures}
    found = suggest(text, [profile_view(one) for one in sorted(profiles, key=lambda one: one["id"] not in used)])
    items = [schemas.SuggestionView(label=one.label, text=one.text, makes=one.makes is not None) for one in found.items]
    return {"suggested": found.of, "suggests": items}


@router.post("/profile", status_code=201)
def make_profile(body: schemas.ProfileOfWords, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Makes the profile that the words of a typed line describe: "7 bars of nine RGBA cells"."""
    with connected():
        profiles = rows.all_of("profile", rows.running_show()["id"])
    found = suggest(body.text, [profile_view(one) for one in profiles])
    said = next((one.makes for one in found.items if one.makes is not None), None)
    if said is None:
        raise InputError(
            "The line describes no profile that could be made.",
            where="text",
            repair="Say what it is, how many cells, and their emitters in order: 7 bars of nine RGBA cells.",
        )
    with editing(context, author, f"Made profile {said.name}") as work:
        insert_described(work, str(body.id), said)
        return schemas.Done(revision=work.revision)


@router.post("", status_code=201)
def add_fixtures(body: schemas.AddFixtures, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Adds what the typed line says, all or nothing."""
    with connected():
        show = rows.running_show()
        profiles = rows.all_of("profile", show["id"])
    line = read_add_line(body.text, profiles)
    label = f"Added {line.count} fixture{'s' if line.count > 1 else ''}"
    with editing(context, author, label) as work:
        _, _, columns = _plan(body.text, profiles, rows.all_of("fixture", show["id"]))
        if len(columns) != len(body.ids):
            raise InputError(f"{len(columns)} fixtures need {len(columns)} ids, not {len(body.ids)}.", where="ids")
        work.insert("fixture", [(str(key), one) for key, one in zip(body.ids, columns, strict=True)])
        if body.plan is not None:
            place_below(work, str(body.plan), [str(key) for key in body.ids])
        return schemas.Done(revision=work.revision)


def _plan(text: str, profiles: list[Record], fixtures: list[Record]) -> tuple[AddLine, Mode, list[dict[str, Any]]]:
    line = read_add_line(text, profiles)
    profile = next(p for p in profiles if p["id"] == line.profile)
    data = mode_of(profile, line.mode)
    assert data is not None  # read_add_line answers only modes there are
    mode = mode_of_json(data)
    first = line.first_number or max((f["number"] for f in fixtures), default=0) + 1
    numbers = list(range(first, first + line.count))
    free_numbers(numbers, fixtures)
    starts: list[Address | None] = [None] * line.count
    blocks: list[Places] = [line.places(mode)] * line.count
    if line.patched:
        starts, blocks = _starts(line, mode, profiles, fixtures)
    return (
        line,
        mode,
        [
            {
                "number": number,
                "name": name_at(line.name, index, number)[:120],
                "profile": line.profile,
                "mode": line.mode,
                "universe": start.universe if start else None,
                "channel": start.channel if start else None,
                "extra": "replace",
                "response": "as is",
                "blocks": stored_places(mode, places),
            }
            for index, (number, start, places) in enumerate(zip(numbers, starts, blocks, strict=True))
        ],
    )


def _starts(
    line: AddLine, mode: Mode, profiles: list[Record], fixtures: list[Record]
) -> tuple[list[Address | None], list[Places]]:
    taken = Occupancy()
    taken.take(covered_by(profiles, fixtures))
    places = line.places(mode)
    own = {n: one.address.position for n, one in enumerate(places) if one.address}
    if line.address is None:
        return place_in_runs(mode, places, line.count, taken.end(), own, taken)
    last = address_at(taken.end() - 1) if taken.end() else None
    start = parse_address(line.address, last)
    wanted = all_positions(place_mode(mode, start, places))
    if not taken.is_free(wanted):
        free = place_in_runs(mode, places, 1, start.position, own, taken)[0][0]
        raise InputError(
            f"{start} + {mode.footprint} channels meets a fixture that is there already.",
            where="address",
            repair=f"The next free place is {free}.",
        )
    return place_in_runs(mode, places, line.count, start.position, own, taken)


def _planned(mode: Mode, columns: dict[str, Any], before: dict[str, Any] | None) -> schemas.PlannedFixture:
    note = ""
    address = end = ""
    if columns["universe"]:
        start = Address(columns["universe"], columns["channel"])
        end = end_of(mode, placed_fixture(mode, columns), columns)
        address = str(start)
        if before and before["universe"] and before["universe"] != start.universe:
            note = f"goes to U{start.universe}"
    if columns["blocks"]:
        address = f"{address}, {say_places(mode, places_of(mode, columns['blocks']))}".lstrip(", ")
    return schemas.PlannedFixture(number=columns["number"], name=columns["name"], address=address, end=end, note=note)
