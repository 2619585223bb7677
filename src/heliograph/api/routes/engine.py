"""The engine: what plays, commands for the next frame, levels of a universe with their owners."""

from __future__ import annotations

import time
from typing import Annotated, Any, Literal

import msgspec
from fastapi import APIRouter, Query, Request
from starlette.responses import Response

from heliograph.api import schemas
from heliograph.api.access import role_of
from heliograph.api.edits import ContextOf
from heliograph.api.schemas.commands import as_request
from heliograph.core.errors import AccessError, HeliographError, InputError, UnavailableError
from heliograph.core.patch.dmx import SLOTS, UNIVERSE_MAX, spell_number
from heliograph.core.playing.frames import PERIOD_NS
from heliograph.core.rig.arrays import owners_of
from heliograph.core.rig.level_lines import COLUMNS, lines_of
from heliograph.core.roles import may, refusal
from heliograph.core.wellbeing import Facts, said_of
from heliograph.ipc.messages.engine import AskHandles, AskStatus
from heliograph.ipc.messages.preview import AskKept, AskMarks, KeptFrames
from heliograph.ipc.messages.receiver import AskReceiver
from heliograph.store.database import connected, database_bytes

router = APIRouter(prefix="/api", tags=["engine"])


def as_json(told: Any) -> Response:
    """What a process answered, as it is."""
    return Response(msgspec.json.encode(told), media_type="application/json")


BY_API = "api"
"""Whose hand holds what is moved without a live connection: until it is let go of."""


@router.get("/engine")
def engine_status(context: ContextOf) -> Response:
    """State, statistics and outputs of the engine, as it answers itself."""
    return as_json(context.engine.ask(AskStatus()))


@router.post("/engine")
def command_engine(body: schemas.EngineCommand, context: ContextOf, request: Request) -> Response:
    """Acts on the next frame; never waits for the database."""
    role = role_of(request.scope)
    if not may(role, body.needs):
        raise AccessError(refusal(role, body.needs), where="access")
    return as_json(context.command(as_request(body, BY_API, role)))


@router.get("/handles")
def handles(context: ContextOf, words: str = "", most: Annotated[int, Query(ge=1, le=2_000)] = 200) -> Response:
    """Everything that can be moved while the show runs: those whose words and path hold every word asked for."""
    return as_json(context.engine.ask(AskHandles(words=words, most=most)))


@router.get("/status")
def status(context: ContextOf) -> Response:
    """Everything the live strip shows; a part that does not answer is null."""
    return as_json(context.live_status())


@router.get("/health")
def health(context: ContextOf) -> schemas.Health:
    """What stands behind the engine: the database, its spool, network cards, frames kept to look back at."""
    begun = time.monotonic()
    try:
        with connected():
            size = database_bytes()
        database: float | None = round((time.monotonic() - begun) * 1000, 2)
    except UnavailableError:
        size, database = 0, None
    copy = context.settings.data / "engine" / "spool.kept"
    try:
        copied: float | None = round(time.time() - copy.stat().st_mtime, 1)
    except OSError:
        copied = None
    try:
        kept = context.preview.ask(AskKept())
    except HeliographError:
        kept = KeptFrames(frames=0, bytes=0, first=0, last=0, seconds=0.0)
    return schemas.Health(
        says=[schemas.HealthLine(text=one.text, good=one.good) for one in said_of(_facts(context, database, kept))],
        database_ms=database,
        database_bytes=size,
        spool_behind=kept.spool_behind,
        spool_copy_s=copied,
        cards=[schemas.CardHealth(name=c.name, address=c.address, up=c.up) for c in context.cards()],
        kept_s=kept.seconds,
        kept_bytes=kept.bytes,
    )


def _facts(context: ContextOf, database_ms: float | None, kept: KeptFrames) -> Facts:
    engine, receiver = context.engine_status(), context.receiver_status()
    outputs = context.publisher.current.sections.get("outputs", {"outputs": []})["outputs"]
    names = {str(one["id"]): str(one["name"]) for one in outputs}
    nodes = {node.ip: node for node in receiver.nodes} if receiver else {}
    return Facts(
        stats=engine.stats if engine else {},
        period_ms=PERIOD_NS / 1e6,
        failing={names.get(o.id, "An output"): o.last_error for o in engine.outputs if o.last_error} if engine else {},
        nodes=[(node.name, node.ago_s, node.silent) for node in nodes.values()],
        database_ms=database_ms,
        spool_behind=kept.spool_behind,
        down=[card.name for card in context.cards() if not card.up],
        malformed=[(one.sender, one.packets, one.last) for one in receiver.malformed] if receiver else [],
    )


@router.get("/levels/{universe}")
def levels(universe: int, context: ContextOf) -> schemas.Levels:
    """A universe as last sent, with the fixture cell that owns each channel."""
    if not 1 <= universe <= UNIVERSE_MAX:
        raise InputError(f"Universe {universe} is outside 1 to {UNIVERSE_MAX}.", where="universe")
    frame = context.frames.read()
    if frame is None:
        raise UnavailableError("No frame has been sent yet.", repair="The engine is starting; try again.")
    row = [i for i, number in enumerate(frame.universes.tolist()) if number == universe]
    sent = bool(row and frame.sent[row[0]])
    owners = owners_of(context.publisher.current.rig, universe)
    first = {channel: own[0] for channel, own in owners.items()}
    lines = lines_of({channel: (one.fixture.number, one.cell, one.label) for channel, one in first.items()})
    return schemas.Levels(
        universe=universe,
        frame=frame.number,
        sent=sent,
        values=frame.data[row[0]].tolist() if sent else [0] * SLOTS,
        owners=[
            schemas.OwnerView(
                channel=channel,
                fixture=owner.fixture.number,
                name=owner.fixture.name,
                written=owner.written,
                label=owner.label,
            )
            for channel, own in sorted(owners.items())
            for owner in own
        ],
        numbers=_numbers(context, universe),
        columns=COLUMNS,
        lines=[
            schemas.LevelLine(
                fixtures=line.fixtures,
                spans=[schemas.LevelSpan(first=first, column=at, count=many) for first, at, many in line.spans],
                head=[schemas.LevelWord(column=at, word=word) for at, word in line.head],
            )
            for line in lines
        ],
    )


@router.get("/levels/{universe}/marks")
def marks(universe: int, context: ContextOf, frame: int | None = None) -> schemas.Marks:
    """Which channels of a universe are held by hand, lit by a walk or parked, now or in a `frame` that is kept."""
    if not 1 <= universe <= UNIVERSE_MAX:
        raise InputError(f"Universe {universe} is outside 1 to {UNIVERSE_MAX}.", where="universe")
    found = context.preview.ask(AskMarks(universe=universe, at=frame))
    return schemas.Marks(frame=found.frame, channels=found.channels)


@router.get("/received")
def received(
    context: ContextOf, protocol: Literal["artnet", "sacn"] | None = None, number: int | None = None
) -> list[schemas.ReceivedUniverse]:
    """Universes that arrive from the network, with their newest levels: all, or those of a protocol or number.
    Numbers are the protocol's own."""
    now = time.monotonic_ns()
    return [
        schemas.ReceivedUniverse(
            protocol=one.protocol,
            number=one.number,
            priority=one.priority,
            ago_s=round((now - one.steady_ns) / 1e9, 2),
            values=list(one.data),
        )
        for _, one in sorted(context.incoming.read().items())
        if protocol in (None, one.protocol) and number in (None, one.number)
    ]


@router.get("/streams")
def streams(context: ContextOf) -> list[schemas.StreamView]:
    """Who sends which universe to us, and who of them counts."""
    return [schemas.StreamView(**msgspec.structs.asdict(one)) for one in context.receiver.ask(AskReceiver()).streams]


@router.get("/announced")
def announced(context: ContextOf) -> list[schemas.AnnouncedView]:
    """Sources that announce their universes by sACN universe discovery."""
    return [
        schemas.AnnouncedView(**msgspec.structs.asdict(one)) for one in context.receiver.ask(AskReceiver()).announced
    ]


def _numbers(context: ContextOf, universe: int) -> list[str]:
    """How each output that carries the universe numbers it on the wire."""
    outputs = context.publisher.current.sections.get("outputs", {"outputs": []})["outputs"]
    return [
        f"{o['name']}: {spell_number(o['protocol'], o['first_number'] + universe - o['first_universe'])}"
        + ("" if o["on"] else ", off")
        for o in outputs
        if o["first_universe"] <= universe < o["first_universe"] + o["count"]
    ]
