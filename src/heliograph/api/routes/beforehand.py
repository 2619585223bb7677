"""What would happen to the light, asked before something is deleted or another show is opened."""

from __future__ import annotations

from fastapi import APIRouter

from heliograph.api.beforehand import Doing, beforehand
from heliograph.api.edits import ContextOf
from heliograph.api.schemas import Said
from heliograph.store.database import connected

router = APIRouter(prefix="/api/before", tags=["show"])


@router.get("/{doing}/{key}")
def what_would_happen(doing: Doing, key: str, context: ContextOf) -> Said:
    """`says` "" where no lamp would change; also where the engine does not answer."""
    status = context.engine_status()
    with connected():
        return Said(says=beforehand(doing, key, status.state if status else None).says)
