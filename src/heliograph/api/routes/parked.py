"""Parked channels: show data, so that they stay over restarts, can be undone and travel with the show."""

from __future__ import annotations

from uuid import uuid4

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import Address, parse_address
from heliograph.store import rows

router = APIRouter(prefix="/api", tags=["parked"])

PARKED_MAX = 5_000


@router.put("/parked")
def park(body: schemas.ParkBody, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Parks channels ("7.53" -> 0..255); None releases one. What is not named stays as it is."""
    wanted: dict[Address, int | None] = {}
    for text, value in body.values.items():
        address = parse_address(text)
        if value is not None and not 0 <= value <= 255:
            raise InputError(f"{address} takes 0 to 255, not {value}.", where="values")
        wanted[address] = value
    with editing(context, author, _label(wanted)) as work:
        show = str(work.show.id)
        there = {Address(one["universe"], one["channel"]): one for one in rows.all_of("parked", show)}
        fresh = [(a, v) for a, v in wanted.items() if v is not None and a not in there]
        if len(there) + len(fresh) > PARKED_MAX:
            raise InputError(f"{PARKED_MAX} parked channels are the most.", where="values")
        gone = [there[a]["id"] for a, v in wanted.items() if v is None and a in there]
        changed = {there[a]["id"]: {"value": v} for a, v in wanted.items() if v is not None and a in there}
        if gone:
            work.delete_many("parked", gone)
        if changed:
            work.update_many("parked", changed)
        place = rows.next_place("parked", show)
        work.insert(
            "parked",
            [
                (str(uuid4()), {"place": place + n, "universe": a.universe, "channel": a.channel, "value": value})
                for n, (a, value) in enumerate(fresh)
            ],
        )
        return schemas.Done(revision=work.revision)


@router.delete("/parked")
def release_all(context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Released everything parked") as work:
        if keys := [one["id"] for one in rows.all_of("parked", str(work.show.id))]:
            work.delete_many("parked", keys)
        return schemas.Done(revision=work.revision)


def _label(wanted: dict[Address, int | None]) -> str:
    if not wanted:
        raise InputError("The request changes nothing.", repair='Write {"7.53": 200}.')
    if len(wanted) > 1:
        return f"Parked or released {len(wanted)} channels"
    address, value = next(iter(wanted.items()))
    return f"Released {address}" if value is None else f"Parked {address} at {value}"
