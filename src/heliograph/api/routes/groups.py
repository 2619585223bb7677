"""Groups of fixtures or cells, by hand or by rule, each with a master of its own."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.beforehand import telling_others
from heliograph.api.choosing import group_columns, selectables
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.errors import InputError
from heliograph.edits.deleting import delete
from heliograph.store import rows
from heliograph.store.journal import Work

router = APIRouter(prefix="/api/groups", tags=["groups"])


@router.post("", status_code=201)
def add_group(body: schemas.NewGroup, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """A group of what the typed selection says."""
    with editing(context, author, f"Added group {body.name}") as work:
        show = str(work.show.id)
        _check_name(work, body.name, "")
        columns = {
            "name": body.name,
            "folder": body.folder.strip(),
            "place": rows.next_place("group", show),
            **group_columns(show, body.selection, body.by_rule),
        }
        work.insert("group", [(str(body.id), columns)])
        return schemas.Done(revision=work.revision)


@router.post("/emitters", status_code=201)
def add_emitter_groups(body: schemas.Ids, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """A group by rule for each emitter that these fixtures have: that emitter of all that have one, as `all : red`."""
    with editing(context, author, "Made groups of emitters") as work:
        show = str(work.show.id)
        chosen = {str(key) for key in body.ids}
        fixtures = selectables(rows.all_of("profile", show), rows.all_of("fixture", show))
        has = dict.fromkeys(word for one in fixtures if one.id in chosen for word in one.emitters)
        groups = rows.all_of("group", show)
        there, names = {one["rule"].lower() for one in groups}, {one["name"].lower() for one in groups}
        wanted = [word for word in has if f"all : {word}".lower() not in there and f"all {word}".lower() not in names]
        if not wanted:
            what = "There is a group of each of their emitters already." if has else "None of these has an emitter."
            raise InputError(what, where="ids", repair="Choose fixtures that make colour otherwise.")
        place = rows.next_place("group", show)
        made = [
            (
                str(uuid4()),
                {
                    "name": f"All {word}",
                    "folder": "Emitters",
                    "place": place + n,
                    **group_columns(show, f"all : {word}", by_rule=True),
                },
            )
            for n, word in enumerate(wanted)
        ]
        work.insert("group", made)
        return schemas.Done(revision=work.revision)


@router.patch("/{group_id}")
def change_group(group_id: str, body: schemas.GroupPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    given: dict[str, Any] = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a group") as work:
        group = rows.record_of(work.get("group", group_id))
        values = {name: value for name, value in given.items() if name in ("name", "folder")}
        if body.name is not None:
            _check_name(work, body.name, group_id)
        if body.selection is not None or body.by_rule is not None:
            by_rule = bool(group["rule"]) if body.by_rule is None else body.by_rule
            text = body.selection if body.selection is not None else group["rule"]
            if text:
                values |= group_columns(str(work.show.id), text, by_rule)
            elif by_rule:
                raise InputError(
                    "A group by rule needs its rule.", where="selection", repair="Type one, such as: all strips."
                )
        work.update("group", group_id, values, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/{group_id}")
def delete_group(group_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """The fixtures stay."""
    with telling_others(context, author, "group", group_id), editing(context, author, "Deleted a group") as work:
        delete(work, "group", [group_id])
        return schemas.Done(revision=work.revision)


def _check_name(work: Work, name: str, own: str) -> None:
    """Groups are typed by name, so no two may have the same."""
    for group in rows.all_of("group", str(work.show.id)):
        if group["name"].lower() == name.lower() and group["id"] != own:
            raise InputError(
                f"There is a group '{group['name']}' already.", where="name", repair="Give it another name."
            )
