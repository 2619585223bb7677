"""Saved ramps: named colours that several lines share."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.colour.ramps import check_ramp, stops_from_json
from heliograph.edits.deleting import delete
from heliograph.store import rows

router = APIRouter(prefix="/api/ramps", tags=["ramps"])


@router.post("", status_code=201)
def add_ramp(body: schemas.NewRamp, context: ContextOf, author: AuthorOf) -> schemas.Done:
    check_ramp(stops_from_json(body.stops))
    with editing(context, author, f"Saved ramp {body.name}") as work:
        place = rows.next_place("ramp", str(work.show.id))
        stops = [list(stop) for stop in body.stops]
        work.insert("ramp", [(str(body.id), {"name": body.name, "stops": stops, "place": place})])
        return schemas.Done(revision=work.revision)


@router.patch("/{ramp_id}")
def change_ramp(ramp_id: str, body: schemas.RampPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Name or colours; every line that uses it follows."""
    given: dict[str, Any] = only_given(body.model_dump())
    if body.stops is not None:
        check_ramp(stops_from_json(body.stops))
        given["stops"] = [list(stop) for stop in body.stops]
    with editing(context, author, f"Changed {' and '.join(given)} of a ramp") as work:
        work.update("ramp", ramp_id, given, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/{ramp_id}")
def delete_ramp(ramp_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Lines that use it keep its colours as their own."""
    with editing(context, author, "Deleted a ramp") as work:
        delete(work, "ramp", [ramp_id])
        return schemas.Done(revision=work.revision)
