"""Fixtures: adding many by one typed line, editing in place, deleting."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.sections import mode_of
from heliograph.api.views import placed_fixture
from heliograph.core.add_line import AddLine, name_at, read_add_line
from heliograph.core.dmx import Address, address_at, parse_address
from heliograph.core.errors import InputError
from heliograph.core.matrix import pack, unpack
from heliograph.core.patch import Occupancy, all_positions, place_many, place_mode
from heliograph.core.profile import Mode, mode_from_json
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.rows import Record

router = APIRouter(prefix="/api/fixtures", tags=["fixtures"])

PLAN_ROWS = 400
"""Lines of a plan that are sent to be shown; more than fit any screen."""


@router.post("/plan")
def plan_fixtures(body: schemas.AddText) -> schemas.AddPlan:
    """What the typed line would add, or why it cannot. Changes nothing."""
    with connected():
        show = rows.running_show()
        profiles, fixtures = rows.all_of("profile", show["id"]), rows.all_of("fixture", show["id"])
    try:
        line, mode, columns = _plan(body.text, profiles, fixtures)
    except InputError as error:
        return schemas.AddPlan(
            count=0, profile="", mode="", cells=0, channels=0, fixtures=[], problem=error.what, repair=error.repair
        )
    return schemas.AddPlan(
        count=line.count,
        profile=line.profile,
        mode=line.mode,
        cells=mode.cell_count * line.count,
        channels=mode.footprint * line.count,
        fixtures=[_planned(mode, c, columns[i - 1] if i else None) for i, c in enumerate(columns[:PLAN_ROWS])],
        problem="",
        repair="",
    )


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
        return schemas.Done(revision=work.revision)


@router.patch("/{fixture_id}")
def change_fixture(fixture_id: str, body: schemas.FixturePatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Number, name or address (`U3.201`, `3.201`, `+1`, or "" to unpatch)."""
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a fixture") as work:
        fixture = _columns(work.get("fixture", fixture_id))
        values: dict[str, Any] = {k: v for k, v in given.items() if k != "address"}
        if body.address is not None:
            values["universe"], values["channel"] = _address(work.show.id, fixture, body.address)
        if "number" in values and values["number"] != fixture["number"]:
            _check_numbers([values["number"]], rows.all_of("fixture", str(work.show.id)))
        work.update("fixture", fixture_id, values, body.rev)
        return schemas.Done(revision=work.revision)


@router.post("/colour")
def set_colour(body: schemas.FixtureColour, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """How fixtures make colour: the use of white and amber, the response. All of them in one edit."""
    given = only_given(body.model_dump(exclude={"ids"}))
    count = f"{len(body.ids)} fixture{'s' if len(body.ids) > 1 else ''}"
    with editing(context, author, f"Changed how {count} make colour") as work:
        for key in body.ids:
            work.update("fixture", str(key), dict(given))
        return schemas.Done(revision=work.revision)


@router.post("/delete")
def delete_fixtures(body: schemas.Ids, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Deletes fixtures and takes their cells off all matrices, in one edit."""
    gone = {str(key) for key in body.ids}
    with editing(context, author, f"Deleted {len(gone)} fixture{'s' if len(gone) > 1 else ''}") as work:
        for matrix in rows.all_of("matrix", str(work.show.id)):
            placements = unpack(matrix["placements"])
            kept = [one for one in placements if one.key.fixture not in gone]
            if len(kept) < len(placements):
                work.update("matrix", matrix["id"], {"placements": pack(kept)})
        for group in rows.all_of("group", str(work.show.id)):
            work.update("group", group["id"], {"fixtures": [one for one in group["fixtures"] if one not in gone]})
        for key in gone:
            work.delete("fixture", key)
        return schemas.Done(revision=work.revision)


def _columns(row: Any) -> Record:
    return rows.record_of(row)


def _address(show_id: Any, fixture: Record, text: str) -> tuple[int | None, int | None]:
    if not text.strip():
        return None, None
    here = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else None
    address = parse_address(text, here)
    profile = next(p for p in rows.all_of("profile", str(show_id)) if p["id"] == fixture["profile"])
    data = mode_of(profile, fixture["mode"])
    if data is not None:
        place_mode(mode_from_json(data), address)
    return address.universe, address.channel


def _plan(text: str, profiles: list[Record], fixtures: list[Record]) -> tuple[AddLine, Mode, list[dict[str, Any]]]:
    line = read_add_line(text, profiles)
    profile = next(p for p in profiles if p["id"] == line.profile)
    data = mode_of(profile, line.mode)
    assert data is not None  # read_add_line answers only modes there are
    mode = mode_from_json(data)
    first = line.first_number or max((f["number"] for f in fixtures), default=0) + 1
    numbers = list(range(first, first + line.count))
    _check_numbers(numbers, fixtures)
    starts: list[Address | None] = [None] * line.count
    if line.patched:
        starts = list(_starts(line, mode, profiles, fixtures))
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
            }
            for index, (number, start) in enumerate(zip(numbers, starts, strict=True))
        ],
    )


def _starts(line: AddLine, mode: Mode, profiles: list[Record], fixtures: list[Record]) -> list[Address]:
    taken = Occupancy()
    by_id = {profile["id"]: profile for profile in profiles}
    for fixture in fixtures:
        data = mode_of(by_id[fixture["profile"]], fixture["mode"])
        placed = placed_fixture(mode_from_json(data), fixture) if data else ()
        if placed:
            taken.take(all_positions(placed))
    if line.address is None:
        return place_many(mode, line.count, taken.end(), taken)
    last = address_at(taken.end() - 1) if taken.end() else None
    start = parse_address(line.address, last)
    wanted = all_positions(place_mode(mode, start))
    if not taken.is_free(wanted):
        free = place_many(mode, 1, start.position, taken)[0]
        raise InputError(
            f"{start} + {mode.footprint} channels meets a fixture that is there already.",
            where="address",
            repair=f"The next free place is {free}.",
        )
    return place_many(mode, line.count, start.position, taken)


def _check_numbers(numbers: list[int], fixtures: list[Record]) -> None:
    if numbers[-1] > 999_999:
        raise InputError(f"The numbers would end at {numbers[-1]}: 999999 is the last.", where="number")
    taken = sorted({f["number"] for f in fixtures} & set(numbers))
    if taken:
        free = max(f["number"] for f in fixtures) + 1
        raise InputError(
            f"Fixture number {taken[0]} is taken.", where="number", repair=f"From {free} on all numbers are free."
        )


def _planned(mode: Mode, columns: dict[str, Any], before: dict[str, Any] | None) -> schemas.PlannedFixture:
    note = ""
    address = end = ""
    if columns["universe"]:
        start = Address(columns["universe"], columns["channel"])
        positions = all_positions(place_mode(mode, start))
        address, end = str(start), str(address_at(int(positions.max())))
        if before and before["universe"] and before["universe"] != start.universe:
            note = f"goes to U{start.universe}"
    return schemas.PlannedFixture(number=columns["number"], name=columns["name"], address=address, end=end, note=note)
