"""The running show as a whole, the list of shows, undo and redo."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import UUID

import orjson
from fastapi import APIRouter, Query
from starlette.responses import Response

from heliograph.api import schemas
from heliograph.api.beforehand import telling_others
from heliograph.api.context import Context
from heliograph.api.copying import copy_show
from heliograph.api.edits import AuthorOf, ContextOf
from heliograph.api.shown import Shown
from heliograph.edits.shows import create_show
from heliograph.store import journal, rows
from heliograph.store.database import connected, one_transaction
from heliograph.store.journal import Steps

router = APIRouter(prefix="/api", tags=["show"])


@router.get("/show", response_model=schemas.WholeShow)
def get_show(context: ContextOf, author: AuthorOf) -> Response:
    """Everything of the running show, and what undo and redo would do next for this person."""
    with connected():
        now = context.shown.read()
        steps = journal.steps_of(now.show["id"], author)
    # Not through the response model: checking 2,000 fixtures again took longer than reading them (bench/rig.py).
    return _json(_whole(context, now, steps))


@router.get("/show/changes", response_model=schemas.ShowChanges)
def get_changes(
    context: ContextOf,
    author: AuthorOf,
    show: Annotated[str, Query(max_length=36)],
    known: Annotated[str, Query(max_length=40)],
) -> Response:
    """What of the show is other than at a version that is known: objects to put and those that are gone, by part. All
    of it where that version is not known any more."""
    with connected():
        now = context.shown.read()
        steps = journal.steps_of(now.show["id"], author)
    changed = context.shown.changes(now, show, known)
    if changed is None:
        return _json({"whole": _whole(context, now, steps), "parts": {}, **_heads(context, now, steps)})
    return _json({"whole": None, "parts": changed, **_heads(context, now, steps)})


def _whole(context: Context, now: Shown, steps: Steps) -> dict[str, Any]:
    return {**now.parts, **_heads(context, now, steps)}


def _heads(context: Context, now: Shown, steps: Steps) -> dict[str, Any]:
    """What every answer says."""
    version = context.shown.named(now.version)
    return {"show": now.show, "version": version, "undo": steps.undo, "redo": steps.redo}


def _json(content: dict[str, Any]) -> Response:
    return Response(orjson.dumps(content), media_type="application/json")


@router.get("/shows")
def list_shows() -> list[schemas.ShowListed]:
    with connected():
        return [schemas.ShowListed(**show) for show in rows.shows()]


@router.post("/shows", status_code=201)
def add_show(body: schemas.NewShow, context: ContextOf, author: AuthorOf) -> schemas.ShowInfo:
    """Makes a show and opens it: empty with the generic profiles, or like another show or a template."""
    with connected():
        with one_transaction():
            if body.like is None:
                create_show(str(body.id), body.name, author)
            else:
                copy_show(str(body.like), str(body.id), body.name, author)
            rows.open_show(str(body.id))
        show = rows.running_show()
    context.changed()
    return schemas.ShowInfo(**show)


@router.post("/shows/templates", status_code=201)
def add_template(body: schemas.NewTemplate, author: AuthorOf) -> schemas.ShowListed:
    """Keeps the running show as it is as a template, which later shows can start from."""
    with connected():
        copy_show(rows.running_show()["id"], str(body.id), body.name, author, is_template=True)
        listed = next(one for one in rows.shows() if one["id"] == str(body.id))
    return schemas.ShowListed(**listed)


@router.delete("/shows/templates/{show_id}")
def delete_template(show_id: str) -> list[schemas.ShowListed]:
    """Shows that were started from it stay."""
    with connected():
        rows.delete_template(show_id)
    return list_shows()


@router.delete("/shows/{show_id}")
def delete_show(show_id: UUID) -> list[schemas.ShowListed]:
    """Puts a show away that is not open; it is kept for 30 days."""
    with connected():
        rows.delete_show(str(show_id))
    return list_shows()


@router.post("/shows/{show_id}/restore")
def restore_show(show_id: UUID) -> list[schemas.ShowListed]:
    """Brings a deleted show back, as it was."""
    with connected():
        rows.restore_show(str(show_id))
    return list_shows()


@router.post("/shows/{show_id}/open")
def open_show(show_id: str, context: ContextOf, author: AuthorOf) -> schemas.ShowInfo:
    """Makes it the running show: the engine goes over to it at the next frame."""
    with telling_others(context, author, "open", show_id), connected():
        rows.open_show(show_id)
        show = rows.running_show()
    context.changed()
    return schemas.ShowInfo(**show)


@router.patch("/show")
def rename_show(body: schemas.RenameShow, context: ContextOf) -> schemas.ShowInfo:
    with connected():
        show = rows.running_show()
        rows.rename_show(show["id"], body.name)
        show = rows.running_show()
    context.changed()
    return schemas.ShowInfo(**show)


@router.post("/undo")
def undo(context: ContextOf, author: AuthorOf) -> schemas.Stepped:
    """Takes back this person's last edit; 409 with a sentence where somebody else built on it."""
    with connected():
        label = journal.undo(rows.running_show()["id"], author)
        revision = rows.running_show()["revision"]
    context.changed()
    return schemas.Stepped(revision=revision, label=label)


@router.post("/redo")
def redo(context: ContextOf, author: AuthorOf) -> schemas.Stepped:
    with connected():
        label = journal.redo(rows.running_show()["id"], author)
        revision = rows.running_show()["revision"]
    context.changed()
    return schemas.Stepped(revision=revision, label=label)
