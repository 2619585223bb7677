"""Patching as a whole: automatic addressing, exchanging two places, the patch doctor."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.sections import mode_of, rig_section
from heliograph.api.views import fixture_views
from heliograph.core.addressing import Move, ToAddress, in_order, plan_addresses
from heliograph.core.dmx import Address, address_at, parse_address
from heliograph.core.doctor import HeardNode, Network, PatchedFixture, examine
from heliograph.core.errors import InputError
from heliograph.core.patch import Occupancy, all_positions, count_on, place_mode
from heliograph.core.profile import Mode, mode_from_json
from heliograph.core.rig import build_rig
from heliograph.core.selection import select
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.rows import Record

router = APIRouter(prefix="/api/patch", tags=["patch"])

STYLE_NODE = 0
"""Art-Net style code of a node (ArtPollReply, field Style)."""


@router.post("/plan")
def plan(body: schemas.Addressing) -> schemas.AddressPlan:
    """What automatic addressing would do, or why it cannot. Changes nothing."""
    with connected():
        show = rows.running_show()
        profiles, fixtures = rows.all_of("profile", show["id"]), rows.all_of("fixture", show["id"])
    try:
        moves = _moves(body, profiles, fixtures)
    except InputError as error:
        return schemas.AddressPlan(moves=[], changed=0, universes=0, problem=error.what, repair=error.repair)
    return schemas.AddressPlan(
        moves=[
            schemas.MoveView(
                fixture=one.fixture.id,
                number=one.fixture.number,
                name=one.fixture.name,
                before=str(one.fixture.address or ""),
                address=str(one.to),
                end=str(one.end),
            )
            for one in moves
        ],
        changed=sum(one.to != one.fixture.address for one in moves),
        universes=len({u for one in moves for u in range(one.to.universe, one.end.universe + 1)}),
        problem="",
        repair="",
    )


@router.post("/apply")
def apply(body: schemas.Addressing, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Moves the fixtures as the plan says, in one edit."""
    with editing(context, author, "Addressed fixtures") as work:
        show = str(work.show.id)
        for one in _moves(body, rows.all_of("profile", show), rows.all_of("fixture", show)):
            work.update("fixture", one.fixture.id, {"universe": one.to.universe, "channel": one.to.channel})
        return schemas.Done(revision=work.revision)


@router.post("/exchange")
def exchange(body: schemas.ExchangePlaces, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Two fixtures change places; both must fit where the other was."""
    with editing(context, author, "Exchanged two addresses") as work:
        a, b = (rows.record_of(work.get("fixture", str(key))) for key in (body.a, body.b))
        profiles = {p["id"]: p for p in rows.all_of("profile", str(work.show.id))}
        for one, other in ((a, b), (b, a)):
            if other["universe"] is not None and (mode := _mode(profiles, one)):
                place_mode(mode, Address(other["universe"], other["channel"]))
            work.update("fixture", one["id"], {"universe": other["universe"], "channel": other["channel"]})
        return schemas.Done(revision=work.revision)


@router.get("/doctor")
def doctor(context: ContextOf) -> list[schemas.FindingView]:
    """What will go wrong with the patch, with a repair where there is one."""
    with connected():
        show = rows.running_show()
        profiles, fixtures = rows.all_of("profile", show["id"]), rows.all_of("fixture", show["id"])
        outputs = rows.all_of("output", show["id"])
    found = examine(_patched(profiles, fixtures), outputs, _network(context))
    return [
        schemas.FindingView(
            kind=one.kind,
            sentence=one.sentence,
            universe=one.universe,
            fixture=one.fixture,
            output=one.output,
            repair=schemas.RepairView(**asdict(one.repair)) if one.repair else None,
        )
        for one in found
    ]


def _moves(body: schemas.Addressing, profiles: list[Record], fixtures: list[Record]) -> list[Move]:
    by_id = {profile["id"]: profile for profile in profiles}
    rig = build_rig(rig_section(profiles, fixtures))
    chosen = {one.id for one in select(rig, body.selection).fixtures}
    taken = Occupancy()
    wanted = []
    for fixture in fixtures:
        mode = _mode(by_id, fixture)
        if mode is None:
            continue
        address = Address(fixture["universe"], fixture["channel"]) if fixture["universe"] else None
        if fixture["id"] in chosen:
            wanted.append(ToAddress(fixture["id"], fixture["number"], fixture["name"], mode, address))
        elif rig.fixtures[fixture["id"]].placed:
            taken.take(all_positions(rig.fixtures[fixture["id"]].placed))
    if not wanted:
        raise InputError("There is no fixture to address.", where="selection", repair="Type 101-118, or all.")
    return plan_addresses(in_order(wanted, body.order), body.scheme, parse_address(body.start), taken)


def _mode(profiles: dict[str, Record], fixture: Record) -> Mode | None:
    data = mode_of(profiles[fixture["profile"]], fixture["mode"]) if fixture["profile"] in profiles else None
    return mode_from_json(data) if data else None


def _patched(profiles: list[Record], fixtures: list[Record]) -> list[PatchedFixture]:
    """Fixtures for the doctor; the next free address is looked for only where one is in trouble."""
    views = fixture_views(profiles, fixtures)
    by_id = {profile["id"]: profile for profile in profiles}
    rig = build_rig(rig_section(profiles, fixtures))
    taken = Occupancy()
    for placed in rig.fixtures.values():
        if placed.placed:
            taken.take(all_positions(placed.placed))
    found = []
    for view, fixture in zip(views, fixtures, strict=True):
        troubled = view.conflict or (view.address and not view.spans)
        mode = _mode(by_id, fixture) if troubled else None
        free = str(address_at(int(all_positions(count_on(mode, taken.end()))[0]))) if mode else ""
        found.append(
            PatchedFixture(
                view.id,
                view.number,
                view.name,
                view.footprint,
                view.address,
                tuple(view.spans),
                tuple(view.conflict),
                free,
            )
        )
    return found


def _network(context: Context) -> Network:
    """What the receiver hears; nothing where it does not answer at the moment."""
    status: dict[str, Any] = context.live_status()["receiver"] or {"nodes": [], "streams": []}
    nodes: dict[tuple[str, bool], HeardNode] = {}
    for one in status["nodes"]:
        if one["silent"] or one["style"] != STYLE_NODE:
            continue
        key = (one["ip"], one["by_sacn"])
        known = nodes.get(key, HeardNode(one["ip"], one["name"], (), one["by_sacn"]))
        nodes[key] = HeardNode(known.ip, known.name, (*known.outputs, *one["outputs"]), known.by_sacn)
    cards = [f"{card.address}/{card.netmask}" for card in context.cards()]
    senders = [(one["protocol"], one["number"], f"Another device ({one['sender']})") for one in status["streams"]]
    return Network(list(nodes.values()), cards, senders)
