"""Fixtures: editing in place, many in one step, how they make colour, where their blocks lie, deleting."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.batches import free_numbers, label_of, plan_batch, say
from heliograph.api.choosing import choose
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.sections import mode_of, mode_of_json
from heliograph.api.views import Modes
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.patch.blocks import (
    FOLLOWS,
    check_places,
    is_address,
    lying_at,
    places_of,
    read_lies,
    read_places,
    run_mode,
    runs_of,
    stored_places,
)
from heliograph.core.patch.dmx import Address, address_at, parse_address
from heliograph.core.patch.places import count_on, place_mode
from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.batch_line import begin_line
from heliograph.core.show.deleting import said_before
from heliograph.edits.deleting import delete, deletion_of
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.rows import Record

router = APIRouter(prefix="/api/fixtures", tags=["fixtures"])


@router.post("/select")
def read_selection(body: schemas.SelectText) -> schemas.Selected:
    """What a typed selection means now, or why it cannot be read. Changes nothing."""
    with connected():
        try:
            found = choose(rows.running_show()["id"], body.text)
        except InputError as error:
            return schemas.Selected(fixtures=[], parts=[], cells=0, emitter="", problem=error.what, repair=error.repair)
    return schemas.Selected(
        fixtures=[one.id for one in found.fixtures],
        parts=list(found.parts),
        cells=found.cell_count,
        emitter=found.emitter,
        problem="",
        repair="",
    )


@router.post("/batch/plan")
def plan_many(body: schemas.Batch) -> schemas.ChangePlan:
    """What one thing done to many fixtures would make of each. Changes nothing."""
    with connected():
        show = rows.running_show()["id"]
        profiles, fixtures = rows.all_of("profile", show), rows.all_of("fixture", show)
    try:
        plan = plan_batch(body, profiles, fixtures)
    except InputError as error:
        return schemas.ChangePlan(fixtures=[], problem=error.what, repair=error.repair)
    return schemas.ChangePlan(fixtures=plan.views, problem="", repair="")


@router.post("/batch/begin")
def begin_batch(body: schemas.BatchBegin) -> schemas.BatchLine:
    """What stands in the line before anything is typed: what the fixtures have now."""
    with connected():
        show = rows.running_show()["id"]
        profiles, fixtures = rows.all_of("profile", show), rows.all_of("fixture", show)
    by_id = {one["id"]: one for one in fixtures}
    chosen = [by_id[str(key)] for key in body.ids if str(key) in by_id]
    if not chosen:
        raise NotFoundError("These fixtures are not there any more.", where="ids")
    return schemas.BatchLine(text=begin_line(body.kind, chosen, profiles, fixtures))


@router.post("/batch")
def change_many(body: schemas.Batch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Does it, in one edit."""
    with editing(context, author, label_of(body)) as work:
        show = str(work.show.id)
        plan = plan_batch(body, rows.all_of("profile", show), rows.all_of("fixture", show))
        work.update_many("fixture", plan.updates)
        if plan.inserts:
            ids = body.change.new_ids if isinstance(body.change, schemas.Copies | schemas.TypedChange) else []
            if len(ids) != len(plan.inserts):
                raise InputError(f"{len(plan.inserts)} copies need as many ids, not {len(ids)}.", where="new_ids")
            work.insert("fixture", [(str(key), one) for key, one in zip(ids, plan.inserts, strict=True)])
        return schemas.Done(revision=work.revision)


@router.post("/blocks")
def set_block(body: schemas.FixtureBlock, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Where a block of these fixtures lies: after the one before it, at an address (the others count on), nowhere.

    An address for the first block is the fixture's.
    """
    with editing(context, author, f"Moved a block of {say(len(body.ids))}") as work:
        profiles = {one["id"]: one for one in rows.all_of("profile", str(work.show.id))}
        position: int | None = None
        for key in body.ids:
            fixture = rows.record_of(work.get("fixture", str(key)))
            data = mode_of(profiles[fixture["profile"]], fixture["mode"])
            if data is None or body.block >= len(data["blocks"]):
                raise InputError(f"Fixture {fixture['number']} has no block {body.block + 1}.", where="block")
            mode = mode_of_json(data)
            places = list(places_of(mode, fixture["blocks"]))
            here = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else None
            if is_address(body.lies):
                start = here if body.block == 0 else places[body.block].address
                at = parse_address(body.lies, start).position if position is None else position
                places[body.block] = FOLLOWS if body.block == 0 else lying_at(address_at(at))
                run = next(one for one in runs_of(mode, tuple(places)) if body.block in one)
                placed = count_on(run_mode(mode, run), at)
                position, found = placed[-1].end, address_at(placed[0].first)
                if body.block == 0:
                    here = found
                else:
                    places[body.block] = lying_at(found)
            else:
                places[body.block] = read_lies(mode, tuple(places), body.block, body.lies)
            check_places(mode, tuple(places))
            place_mode(mode, here, tuple(places))
            values: dict[str, Any] = {"blocks": stored_places(mode, tuple(places))}
            if here is not None:
                values |= {"universe": here.universe, "channel": here.channel}
            work.update("fixture", str(key), values)
        return schemas.Done(revision=work.revision)


@router.patch("/{fixture_id}")
def change_fixture(fixture_id: str, body: schemas.FixturePatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Number, name, address (`U3.201`, `3.201`, `+1`, or "" to unpatch), blocks (`without Halo; Ring at U10.1`)."""
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a fixture") as work:
        fixture = rows.record_of(work.get("fixture", fixture_id))
        values: dict[str, Any] = {k: v for k, v in given.items() if k not in ("address", "lies")}
        if body.address is not None:
            values["universe"], values["channel"] = _address(work.show.id, fixture, body.address)
        if body.lies is not None:
            values["blocks"] = _blocks(work.show.id, fixture, body.lies)
        if "number" in values and values["number"] != fixture["number"]:
            free_numbers([values["number"]], rows.all_of("fixture", str(work.show.id)))
        work.update("fixture", fixture_id, values, body.rev)
        return schemas.Done(revision=work.revision)


@router.post("/colour")
def set_colour(body: schemas.FixtureColour, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """How fixtures make colour: the use of white and amber, the response. All of them in one edit."""
    given = only_given(body.model_dump(exclude={"ids"}))
    with editing(context, author, f"Changed how {say(len(body.ids))} make colour") as work:
        work.update_many("fixture", {str(key): dict(given) for key in body.ids})
        return schemas.Done(revision=work.revision)


@router.post("/deletion")
def say_deletion(body: schemas.Ids) -> schemas.DeletionPlan:
    """What deleting these fixtures would take with it, in sentences; nothing is changed."""
    with connected():
        show = rows.running_show()["id"]
        tables, plan = deletion_of(show, "fixture", [str(key) for key in body.ids])
        modes = Modes(rows.all_of("profile", show))
    found = {key: modes.of(dict(fixture)) for key, fixture in plan.gone["fixture"].items()}
    cells = {key: mode.cell_count for key, mode in found.items() if mode is not None}
    return schemas.DeletionPlan(says=said_before(tables, plan, cells))


@router.post("/delete")
def delete_fixtures(body: schemas.Ids, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Deletes fixtures and takes them off all matrices, plans and groups, in one edit; what was seen of them goes."""
    with editing(context, author, f"Deleted {say(len(set(body.ids)))}") as work:
        delete(work, "fixture", [str(key) for key in set(body.ids)])
        return schemas.Done(revision=work.revision)


def _mode(show_id: Any, fixture: Record) -> Mode | None:
    profile = next(p for p in rows.all_of("profile", str(show_id)) if p["id"] == fixture["profile"])
    data = mode_of(profile, fixture["mode"])
    return mode_of_json(data) if data is not None else None


def _blocks(show_id: Any, fixture: Record, text: str) -> list[str]:
    mode = _mode(show_id, fixture)
    if mode is None:
        raise InputError(f"Fixture {fixture['number']} has no mode, so no blocks.", where="lies")
    places = read_places(mode, text.split(";"))
    here = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else None
    place_mode(mode, here, places)
    return stored_places(mode, places)


def _address(show_id: Any, fixture: Record, text: str) -> tuple[int | None, int | None]:
    if not text.strip():
        return None, None
    here = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else None
    address = parse_address(text, here)
    mode = _mode(show_id, fixture)
    if mode is not None:
        place_mode(mode, address, places_of(mode, fixture["blocks"]))
    return address.universe, address.channel
