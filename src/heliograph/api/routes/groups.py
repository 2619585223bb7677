"""Groups of fixtures, each with a master of its own."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.sections import rig_section
from heliograph.core.errors import InputError
from heliograph.core.rig import build_rig
from heliograph.core.selection import select
from heliograph.store import rows
from heliograph.store.journal import Work

router = APIRouter(prefix="/api/groups", tags=["groups"])


@router.post("", status_code=201)
def add_group(body: schemas.NewGroup, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """A group of what the typed selection says."""
    with editing(context, author, f"Added group {body.name}") as work:
        columns = {
            "name": body.name,
            "fixtures": _members(work, body.selection),
            "place": rows.next_place("group", str(work.show.id)),
        }
        work.insert("group", [(str(body.id), columns)])
        return schemas.Done(revision=work.revision)


@router.patch("/{group_id}")
def change_group(group_id: str, body: schemas.GroupPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    given: dict[str, Any] = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a group") as work:
        if body.selection is not None:
            del given["selection"]
            given["fixtures"] = _members(work, body.selection)
        work.update("group", group_id, given, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/{group_id}")
def delete_group(group_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """The fixtures stay."""
    with editing(context, author, "Deleted a group") as work:
        work.delete("group", group_id)
        return schemas.Done(revision=work.revision)


def _members(work: Work, selection: str) -> list[str]:
    show = str(work.show.id)
    rig = build_rig(rig_section(rows.all_of("profile", show), rows.all_of("fixture", show)))
    fixtures = [fixture.id for fixture in select(rig, selection).fixtures]
    if not fixtures:
        raise InputError("A group has at least one fixture.", where="selection", repair="Type 101-118, or all.")
    return fixtures
