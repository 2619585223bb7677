"""The last minutes of sent frames, and a universe before hand and guard."""

from __future__ import annotations

import msgspec
from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import ContextOf
from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import UNIVERSE_MAX
from heliograph.ipc.messages.preview import AskBefore, AskKept, AskMoment

router = APIRouter(prefix="/api", tags=["looking back"])


@router.get("/back")
def kept(context: ContextOf) -> schemas.KeptFrames:
    """How far back sent frames are kept, and in how much memory."""
    found = context.preview.ask(AskKept())
    return schemas.KeptFrames(**{name: getattr(found, name) for name in schemas.KeptFrames.model_fields})


@router.get("/back/moment")
def moment(
    context: ContextOf,
    frame: int | None = None,
    after: bool = False,
    ago_s: float = 0.0,
    matrix: str = "",
    universe: int = 0,
) -> schemas.KeptMoment:
    """The kept frame of a number (or the nearest before or `after` it), or of so many seconds ago: a matrix as it was
    lit, a universe as it was sent."""
    if not 0 <= ago_s <= 86_400:
        raise InputError(f"{ago_s:g} s ago is not possible.", where="ago_s")
    asked = AskMoment(frame=frame, after=after, ago_s=ago_s, matrix=matrix, universe=universe)
    return schemas.KeptMoment(**msgspec.to_builtins(context.preview.ask(asked)))


@router.get("/levels/{universe}/before-desk")
def before_desk(universe: int, context: ContextOf) -> schemas.BeforeDesk:
    """A universe as looks and masters make it, before anything from a desk, from hand or the guard."""
    if not 1 <= universe <= UNIVERSE_MAX:
        raise InputError(f"Universe {universe} is outside 1 to {UNIVERSE_MAX}.", where="universe")
    return schemas.BeforeDesk(**msgspec.structs.asdict(context.preview.ask(AskBefore(universe=universe))))
