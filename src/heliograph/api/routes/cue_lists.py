"""Cue lists: made, typed as a table, taken from what runs now."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

from fastapi import APIRouter
from starlette.responses import Response

from heliograph.api.beforehand import telling_others
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.schemas import Done
from heliograph.api.schemas import cue_lists as schemas
from heliograph.core.errors import HeliographError, InputError, NotFoundError
from heliograph.core.playing.typed_actions import read_actions
from heliograph.core.playing.typed_cues import read_looks, read_then, read_time
from heliograph.edits import cue_lists
from heliograph.edits.deleting import delete
from heliograph.formats.cue_table import read_cues, write_cues
from heliograph.ipc.messages.engine import AskHandles, HandleView
from heliograph.ipc.messages.preview import AskCue
from heliograph.store import rows
from heliograph.store.database import connected

HANDLES_MAX = 500
"""Of more that hold the typed words, the right one is not guessed."""

router = APIRouter(prefix="/api/lists", tags=["cue lists"])


@router.post("", status_code=201)
def add_list(body: schemas.NewCueList, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, f"Made the list {body.name}") as work:
        cue_lists.add_list(work, str(body.id), {"name": body.name})
        return Done(revision=work.revision)


@router.patch("/{list_id}")
def change_list(list_id: str, body: schemas.CueListPatch, context: ContextOf, author: AuthorOf) -> Done:
    given: dict[str, Any] = only_given(body.model_dump())
    if "release" in given:
        time = read_time(given.pop("release"), "release")
        if time.unit != "s":
            raise InputError("A list lets go within seconds.", where="release", repair="Type 3 s.")
        given["release_s"] = time.value
    with editing(context, author, f"Changed {' and '.join(given)} of a list") as work:
        cue_lists.change_list(work, list_id, given, body.rev)
        return Done(revision=work.revision)


@router.post("/{list_id}/copy", status_code=201)
def copy_list(list_id: str, body: schemas.CueListCopy, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Copied a list") as work:
        cue_lists.copy_list(work, list_id, str(body.id))
        return Done(revision=work.revision)


@router.delete("/{list_id}")
def delete_list(list_id: str, context: ContextOf, author: AuthorOf) -> Done:
    """What of it plays comes to the end of its fade and stays until it is let go of: it is let go of at once."""
    with telling_others(context, author, "list", list_id), editing(context, author, "Deleted a list") as work:
        delete(work, "cue_list", [list_id])
        return Done(revision=work.revision)


@router.post("/{list_id}/cues", status_code=201)
def add_cue(list_id: str, body: schemas.NewCue, context: ContextOf, author: AuthorOf) -> Done:
    """A cue as it is typed, or of what runs now."""
    running = _running(context) if body.take else []
    with editing(context, author, "Took what runs as a cue" if body.take else "Added a cue") as work:
        given = _typed(context, str(work.show.id), body)
        if body.take:
            given["looks"] = running
        cue_lists.add_cue(work, list_id, str(body.id), given, body.after)
        return Done(revision=work.revision)


@router.patch("/{list_id}/cues")
def change_cues(list_id: str, body: schemas.CuesPatch, context: ContextOf, author: AuthorOf) -> Done:
    """The same of each: typed fields, as in the table."""
    names = [name.replace("_", " ") for name in only_given(body.model_dump(exclude={"cues"}))]
    many = f"{len(body.cues)} cues" if len(body.cues) > 1 else "a cue"
    with editing(context, author, f"Changed {' and '.join(names)} of {many}") as work:
        given = _typed(context, str(work.show.id), body)
        _check_units(cue_lists.cues_of(work, list_id), body.cues, given)
        cue_lists.change_cues(work, list_id, set(body.cues), given)
        return Done(revision=work.revision)


@router.post("/{list_id}/cues/delete")
def delete_cues(list_id: str, body: schemas.ChosenCues, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, f"Deleted {len(body.cues)} cues" if len(body.cues) > 1 else "Deleted a cue") as work:
        cue_lists.delete_cues(work, list_id, set(body.cues))
        return Done(revision=work.revision)


@router.post("/{list_id}/cues/copy", status_code=201)
def copy_cues(list_id: str, body: schemas.CopyCues, context: ContextOf, author: AuthorOf) -> Done:
    if len(body.ids) != len(set(body.cues)):
        raise InputError("There is one new id for each cue.", where="ids")
    with editing(context, author, "Copied cues") as work:
        cue_lists.copy_cues(work, list_id, body.cues, [str(one) for one in body.ids])
        return Done(revision=work.revision)


@router.post("/{list_id}/cues/move")
def move_cues(list_id: str, body: schemas.MoveCues, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Moved cues") as work:
        cue_lists.move_cues(work, list_id, set(body.cues), body.after)
        return Done(revision=work.revision)


@router.post("/{list_id}/cues/renumber")
def renumber(list_id: str, body: schemas.Renumber, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Renumbered cues") as work:
        cue_lists.renumber(work, list_id, set(body.cues), body.first, body.step)
        return Done(revision=work.revision)


@router.get("/{list_id}/cues/{cue_id}/cells")
def cells_of_cue(list_id: str, cue_id: str, context: ContextOf) -> Response:
    """What would be sent at the end of its fade: red, green and blue of every cell of the rig, in its order; nothing of
    a cue that is not known there yet, or not any more."""
    try:
        found = context.preview.ask(AskCue(of=list_id, cue=cue_id))
    except NotFoundError:
        return Response(status_code=204)
    headers = {"x-frame": str(found.frame), "cache-control": "no-store"}
    return Response(found.rgb, media_type="application/octet-stream", headers=headers)


@router.post("/{list_id}/cues.csv", response_class=Response)
def cues_as_csv(list_id: str) -> Response:
    """All of its cues as they are typed."""
    with connected():
        show = rows.running_show()["id"]
        one = next((each for each in rows.all_of("cue_list", show) if each["id"] == list_id), None)
        if one is None:
            raise InputError("That list is not there any more.", where="list")
        text = write_cues(one["cues"], rows.all_of("look", show), rows.all_of("group", show))
    headers = {"content-disposition": 'attachment; filename="cues.csv"'}
    return Response(text, media_type="text/csv; charset=utf-8", headers=headers)


@router.put("/{list_id}/cues.csv")
def cues_from_csv(list_id: str, body: schemas.CueTable, context: ContextOf, author: AuthorOf) -> Done:
    """All cues of the list as a table says them; one that has the number it had stays the same cue."""
    with editing(context, author, "Pasted a table of cues") as work:
        show = str(work.show.id)
        read = read_cues(body.table, rows.all_of("look", show), rows.all_of("group", show))
        before = {float(one["number"]): one for one in cue_lists.cues_of(work, list_id)}
        cues = [{**before.get(one["number"], {"id": str(uuid4())}), **one} for one in read]
        cue_lists.replace_cues(work, list_id, cues)
        return Done(revision=work.revision)


def _typed(context: Context, show: str, body: schemas.CueFields) -> dict[str, Any]:
    """Fields of a stored cue of what was typed."""
    given = {name: value for name, value in body.model_dump().items() if value is not None}
    given = {name: value for name, value in given.items() if name not in ("cues", "id", "take", "after")}
    if "looks" in given:
        given["looks"] = read_looks(given["looks"], rows.all_of("look", show), rows.all_of("group", show))
    if "does" in given:
        given["actions"] = read_actions(given.pop("does"), lambda words: _handles(context, words))
    if "then" in given:
        given |= read_then(given["then"])
    units = set()
    for name in ("fade_in", "fade_out", "delay"):
        if name in given:
            text = given[name].strip()
            if not text:
                given[name] = None if name == "fade_out" else 0.0
                continue
            time = read_time(text, name)
            given[name] = time.value
            if time.value or name == "fade_in":
                units.add(time.unit)
    if len(units) > 1:
        raise InputError("A fade is in seconds or in beats.", where="fade_in", repair="Give all of it in one.")
    if units:
        given["unit"] = units.pop()
    return given


def _handles(context: Context, words: str) -> list[HandleView]:
    return context.engine.ask(AskHandles(words=words, most=HANDLES_MAX)).handles


def _check_units(cues: list[rows.Record], chosen: list[str], given: dict[str, Any]) -> None:
    """A fade that was in seconds and shall be in beats takes its other times along only where they are none."""
    if "unit" not in given:
        return
    for one in cues:
        if one["id"] in chosen and one["unit"] != given["unit"]:
            left = [name for name in ("fade_in", "fade_out", "delay") if name not in given and one[name]]
            if left:
                raise InputError(
                    f"Cue {one['number']:g}: its {left[0].replace('_', ' ')} is in "
                    f"{'beats' if one['unit'] == 'beat' else 'seconds'}.",
                    where=left[0],
                    repair="Give all of its times in one.",
                )


def _running(context: Context) -> list[dict[str, Any]]:
    """What runs now, by hand and in lists, as the looks of a cue."""
    status = context.engine_status()
    if status is None:
        raise HeliographError("What runs cannot be read just now.", repair="Try again.")
    found: dict[str, float] = {}
    for one in status.state.running:
        if not one.ends:
            found[one.look] = max(found.get(one.look, 0.0), round(one.level * one.fade, 3))
    if not found:
        raise InputError("Nothing runs that a cue could be made of.", where="take", repair="Start a look first.")
    return [{"look": look, "level": level, "group": "", "restart": False} for look, level in found.items()]
