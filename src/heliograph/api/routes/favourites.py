"""Favourites: the values that chosen handles have now, kept under a name."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.routes.pages import known_handle
from heliograph.api.schemas import Done
from heliograph.api.schemas import pages as schemas
from heliograph.core.errors import InputError
from heliograph.core.playing.favourites import check_values
from heliograph.edits.deleting import delete
from heliograph.ipc.messages.engine import AskValues
from heliograph.store import rows

router = APIRouter(prefix="/api/favourites", tags=["favourites"])


@router.post("", status_code=201)
def add_favourite(body: schemas.NewFavourite, context: ContextOf, author: AuthorOf) -> Done:
    values = _taken(context, body.handles)
    with editing(context, author, f"Kept the favourite {body.name}") as work:
        place = rows.next_place("favourite", str(work.show.id))
        work.insert("favourite", [(str(body.id), {"name": body.name, "values": values, "place": place})])
        return Done(revision=work.revision)


@router.patch("/{favourite_id}")
def change_favourite(favourite_id: str, body: schemas.FavouritePatch, context: ContextOf, author: AuthorOf) -> Done:
    """`handles`: kept anew, as they are now; the same ones where `again`."""
    given: dict[str, Any] = only_given(body.model_dump(exclude={"again"}) | ({"again": True} if body.again else {}))
    with editing(context, author, "Changed a favourite") as work:
        one = rows.record_of(work.get("favourite", favourite_id))
        change = {"name": given["name"]} if "name" in given else {}
        chosen = body.handles if body.handles is not None else [each["handle"] for each in one["values"]]
        if body.handles is not None or body.again:
            change["values"] = _taken(context, chosen)
        work.update("favourite", favourite_id, change)
        return Done(revision=work.revision)


@router.delete("/{favourite_id}")
def delete_favourite(favourite_id: str, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Deleted a favourite") as work:
        delete(work, "favourite", [favourite_id])
        return Done(revision=work.revision)


def _taken(context: Context, addresses: list[str]) -> list[dict[str, Any]]:
    """What these handles are now; InputError names one that has no value to keep."""
    values = {one.handle: one for one in context.engine.ask(AskValues(handles=addresses)).values}
    found = []
    for address in dict.fromkeys(addresses):
        handle = known_handle(context, address)
        if handle["kind"] == "trigger":
            raise InputError(f"{handle['words']} has no value to keep.", where="handles", repair="Choose a level.")
        found.append({**handle, "value": values[address].value})
    check_values(found)
    return found
