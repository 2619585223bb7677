"""Patching as a whole: automatic addressing, exchanging two places, the patch doctor."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import msgspec
from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.addressing import Tables, moves_of
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.mending import findings
from heliograph.api.views import Modes, fixture_views, placed_fixture
from heliograph.core.errors import InputError
from heliograph.core.lasers.guarding import unsafe_channels
from heliograph.core.patch.blocks import places_of
from heliograph.core.patch.dmx import Address, address_at
from heliograph.core.patch.doctor import PatchedFixture, examine
from heliograph.core.patch.places import Occupancy, all_positions, count_on, place_mode
from heliograph.core.patch.reaching import HeardNode, Network, all_clear, ports_of, reach_of
from heliograph.core.profiles.mode_faults import never_dark, old_mode_in, stays_dark
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
        tables = _tables(show["id"])
    try:
        moves = moves_of(body, tables)
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
        moves = moves_of(body, _tables(str(work.show.id)))
        places = {one.fixture.id: {"universe": one.to.universe, "channel": one.to.channel} for one in moves}
        work.update_many("fixture", places)
        return schemas.Done(revision=work.revision)


@router.post("/exchange")
def exchange(body: schemas.ExchangePlaces, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Two fixtures change places; both must fit where the other was."""
    with editing(context, author, "Exchanged two addresses") as work:
        a, b = (rows.record_of(work.get("fixture", str(key))) for key in (body.a, body.b))
        modes = Modes(rows.all_of("profile", str(work.show.id)))
        for one, other in ((a, b), (b, a)):
            if other["universe"] is not None and (mode := modes.of(one)):
                place_mode(mode, Address(other["universe"], other["channel"]), places_of(mode, one["blocks"]))
            work.update("fixture", one["id"], {"universe": other["universe"], "channel": other["channel"]})
        return schemas.Done(revision=work.revision)


@router.get("/doctor")
def doctor(context: ContextOf) -> list[schemas.FindingView]:
    """What will go wrong with the patch and what was seen to be wrong on a walk, with a repair where there is one."""
    with connected():
        tables = rows.whole_show(rows.running_show())
    found = examine(_patched(tables["profile"], tables["fixture"]), tables["output"], _network(context))
    seen = [] if all(one["kind"] == "good" for one in tables["mark"]) else findings(tables)
    return [
        *(
            schemas.FindingView(
                kind="seen on a walk",
                sentence=one.sentence,
                universe=0,
                fixture="",
                output="",
                repair=schemas.RepairView(label=one.repairs[0].label, table="walk", id=one.key, change={}),
            )
            for one in seen
        ),
        *(
            schemas.FindingView(
                kind=one.kind,
                sentence=one.sentence,
                universe=one.universe,
                fixture=one.fixture,
                output=one.output,
                repair=schemas.RepairView(**asdict(one.repair)) if one.repair else None,
            )
            for one in found
        ),
    ]


@router.get("/reach")
def reach(context: ContextOf) -> schemas.ReachView:
    """Beside each output whether its node answers and listens; what each port of the nodes heard gets; what of all
    this can be known."""
    with connected():
        outputs = rows.all_of("output", str(rows.running_show()["id"]))
    network = _network(context)
    return schemas.ReachView(
        outputs=[schemas.OutputReach(**asdict(reach_of(output, network))) for output in outputs],
        ports=[schemas.PortView(**asdict(port)) for port in ports_of(outputs, network)],
        clear=all_clear(outputs, network),
    )


def _tables(show_id: str) -> Tables:
    return {table: rows.all_of(table, show_id) for table in ("profile", "fixture", "group", "plan", "matrix")}


def _patched(profiles: list[Record], fixtures: list[Record]) -> list[PatchedFixture]:
    """Fixtures for the doctor; the next free address is looked for only where one is in trouble."""
    views = fixture_views(profiles, fixtures)
    modes, taken = Modes(profiles), Occupancy()
    guarded = {profile["id"] for profile in profiles if profile["guarded"]}
    names = {profile["id"]: [str(mode["name"]) for mode in profile["modes"]] for profile in profiles}
    for fixture in fixtures:
        mode = modes.of(fixture)
        if mode is not None:
            taken.take(all_positions(placed_fixture(mode, fixture)))
    found = []
    for view, fixture in zip(views, fixtures, strict=True):
        troubled = view["conflict"] or (view["address"] and not view["spans"])
        mode = modes.of(fixture)
        free = str(address_at(int(all_positions(count_on(mode, taken.end()))[0]))) if troubled and mode else ""
        found.append(
            PatchedFixture(
                view["id"],
                view["number"],
                view["name"],
                view["footprint"],
                view["address"],
                tuple(view["spans"]),
                tuple(view["conflict"]),
                free,
                view["mode"],
                fixture["profile"],
                stays_dark(mode) if mode else "",
                never_dark(mode) if mode else "",
                old_mode_in(view["name"], view["mode"], names.get(fixture["profile"], ())),
                ", ".join(unsafe_channels(mode)) if mode and fixture["profile"] in guarded else "",
            )
        )
    return found


def _network(context: Context) -> Network:
    """What the receiver hears; nothing where it does not answer at the moment."""
    status: dict[str, Any] = msgspec.to_builtins(context.receiver_status()) or {"nodes": [], "streams": []}
    nodes: dict[tuple[str, bool], HeardNode] = {}
    for one in status["nodes"]:
        if one["silent"] or one["style"] != STYLE_NODE:
            continue
        key = (one["ip"], one["by_sacn"])
        known = nodes.get(key, HeardNode(one["ip"], one["name"], (), one["by_sacn"]))
        nodes[key] = HeardNode(known.ip, known.name, (*known.outputs, *one["outputs"]), known.by_sacn)
    cards = [f"{card.address}/{card.netmask}" for card in context.cards()]
    senders = [(one["protocol"], one["number"], _sender_name(one), one["priority"]) for one in status["streams"]]
    return Network(list(nodes.values()), cards, senders)


def _sender_name(stream: dict[str, Any]) -> str:
    return f"{stream['name']} ({stream['ip']})" if stream["name"] else f"Another device ({stream['ip']})"
