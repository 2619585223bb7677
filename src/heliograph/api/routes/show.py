"""The running show as a whole, the list of shows, undo and redo."""

from __future__ import annotations

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf
from heliograph.api.generic_profiles import generic_profiles
from heliograph.api.views import clip_view, fixture_views, output_view, profile_view, ramp_view
from heliograph.store import journal, rows
from heliograph.store.database import connected
from heliograph.store.journal import edit

router = APIRouter(prefix="/api", tags=["show"])


@router.get("/show")
def get_show(author: AuthorOf) -> schemas.WholeShow:
    """Everything of the running show, and what undo and redo would do next for this person."""
    with connected():
        show = rows.running_show()
        tables = rows.whole_show(show)
        steps = journal.steps_of(show["id"], author)
    return schemas.WholeShow(
        show=schemas.ShowInfo(**show),
        profiles=[profile_view(profile) for profile in tables["profile"]],
        fixtures=fixture_views(tables["profile"], tables["fixture"]),
        groups=[schemas.GroupView(**group) for group in tables["group"]],
        matrices=[schemas.MatrixView(**matrix) for matrix in tables["matrix"]],
        looks=[schemas.LookView(**look) for look in tables["look"]],
        outputs=[output_view(output) for output in tables["output"]],
        clips=[clip_view(clip, tables["look"]) for clip in tables["clip"]],
        ramps=[ramp_view(ramp, tables["look"]) for ramp in tables["ramp"]],
        undo=steps.undo,
        redo=steps.redo,
    )


@router.get("/shows")
def list_shows() -> list[schemas.ShowListed]:
    with connected():
        return [schemas.ShowListed(**show) for show in rows.shows()]


@router.post("/shows", status_code=201)
def add_show(body: schemas.NewShow, context: ContextOf, author: AuthorOf) -> schemas.ShowInfo:
    """Makes an empty show with the generic profiles, and opens it."""
    with connected():
        create_show(str(body.id), body.name, author)
        rows.open_show(str(body.id))
        show = rows.running_show()
    context.changed()
    return schemas.ShowInfo(**show)


def create_show(key: str, name: str, author: journal.Author) -> None:
    rows.add_show(key, name)
    with edit(key, journal.Author("heliograph", "Heliograph"), f"Made {name}") as work:
        work.insert("profile", generic_profiles())


@router.post("/shows/{show_id}/open")
def open_show(show_id: str, context: ContextOf) -> schemas.ShowInfo:
    """Makes it the running show: the engine goes over to it at the next frame."""
    with connected():
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
