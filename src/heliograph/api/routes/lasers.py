"""Guarded fixtures: which may be armed, what to know before, and addresses that stay safe after one left them."""

from __future__ import annotations

import msgspec
from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import ContextOf
from heliograph.core.lasers.guarding import arming_warnings
from heliograph.ipc.messages.engine import AskStatus

router = APIRouter(prefix="/api", tags=["lasers"])


@router.get("/lasers")
def lasers(context: ContextOf) -> schemas.LasersView:
    """Asked before arming: who else sends there, and what keeps a laser from being armed."""
    status = context.engine.ask(AskStatus())
    state = status.state
    published = context.publisher.current
    outputs = published.sections.get("outputs", {"outputs": []})["outputs"]
    network = msgspec.to_builtins(context.receiver_status()) or {}
    found = []
    for one in status.lasers:
        fixture = published.rig.fixtures.get(one.id)
        warnings = arming_warnings(fixture, outputs, network) if fixture is not None and fixture.placed else []
        found.append(schemas.LaserView(**msgspec.structs.asdict(one), armed=one.id in state.armed, warnings=warnings))
    return schemas.LasersView(
        lasers=found,
        left=[schemas.LeftView(**msgspec.structs.asdict(one)) for one in state.left],
        armed_until=state.armed_until,
    )
