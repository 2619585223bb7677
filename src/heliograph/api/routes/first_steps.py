"""The way from an empty show to light, for who comes here for the first time."""

from __future__ import annotations

from dataclasses import asdict

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import ContextOf
from heliograph.core.show.first_steps import first_steps

router = APIRouter(prefix="/api/first-steps", tags=["show"])


@router.get("")
def steps(context: ContextOf) -> list[schemas.FirstStep]:
    """Five steps, each done or not, with what to do or what is there: of the show as it was published last."""
    now = context.publisher.current
    status = context.engine_status()
    running = {run.look for run in status.state.running if not run.ends} if status is not None else set()
    return [schemas.FirstStep(**asdict(one)) for one in first_steps(now.sections, set(now.rig.universes), running)]
