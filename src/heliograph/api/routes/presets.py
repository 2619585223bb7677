"""Presets: made from what is typed or held by hand, changed, pasted as a table; and looks kept from by hand."""

from __future__ import annotations

import itertools
from typing import Any

from fastapi import APIRouter

from heliograph.api.attributes import check_preset, held_by, taken_by_hand
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.schemas import Done
from heliograph.api.schemas import presets as schemas
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.look.attributes import values_from_json
from heliograph.edits import presets
from heliograph.edits.deleting import delete
from heliograph.formats.filter_table import filters_of
from heliograph.ipc.messages.engine import SetManual
from heliograph.store import rows
from heliograph.store.database import connected

router = APIRouter(prefix="/api", tags=["presets"])


@router.post("/presets", status_code=201)
def add_preset(body: schemas.NewPreset, context: ContextOf, author: AuthorOf) -> Done:
    """A named value: what is typed, what is kept, or what is held by hand of a selection."""
    with editing(context, author, f"Made a preset of {body.kind}") as work:
        show = str(work.show.id)
        given: dict[str, Any] = body.model_dump(mode="json", exclude={"id", "take"})
        given["name"] = body.name or _free(f"{body.kind.capitalize()}", rows.all_of("preset", show))
        check_preset(show, body.sets)
        if body.take is not None:
            given["kept"] = taken_by_hand(context, show, body.take, body.kind)
        presets.add_preset(work, str(body.id), given)
        return Done(revision=work.revision)


@router.patch("/presets/{preset_id}")
def change_preset(preset_id: str, body: schemas.PresetPatch, context: ContextOf, author: AuthorOf) -> Done:
    """Reaches every line that refers to it at the next frame."""
    given = only_given(body.model_dump(mode="json"))
    selection = given.pop("take", None)
    said = " and ".join([*given, *(["values"] if selection is not None else [])])
    with editing(context, author, f"Changed {said} of a preset") as work:
        taken = None
        check_preset(str(work.show.id), body.sets or {})
        if selection is not None:
            kind = rows.record_of(work.get("preset", preset_id))["kind"]
            taken = taken_by_hand(context, str(work.show.id), body.take or "", kind)
        presets.change_preset(work, preset_id, given, taken, body.rev)
        return Done(revision=work.revision)


@router.post("/presets/{preset_id}/hold")
def hold_preset(preset_id: str, body: schemas.HoldPreset, context: ContextOf) -> schemas.Held:
    """Sets fixtures by hand to what a preset says; what it says nothing of stays."""
    with connected():
        show = rows.running_show()["id"]
        preset = next((one for one in rows.all_of("preset", show) if one["id"] == preset_id), None)
        if preset is None:
            raise NotFoundError("That preset is not there any more.", where="preset")
        found = held_by(show, body.chosen, values_from_json(preset))
    if not found:
        raise InputError("Nothing of what is chosen takes that preset.", where="chosen")
    context.command(SetManual(values=dict(found)))
    return schemas.Held(channels=len(found))


@router.delete("/presets/{preset_id}")
def delete_preset(preset_id: str, context: ContextOf, author: AuthorOf) -> Done:
    with editing(context, author, "Deleted a preset") as work:
        delete(work, "preset", [preset_id])
        return Done(revision=work.revision)


@router.post("/presets/table", status_code=201)
def paste_filters(body: schemas.FilterTable, context: ContextOf, author: AuthorOf) -> Done:
    """A preset of colour for each line of a table of filters."""
    with editing(context, author, "Pasted a table of colours") as work:
        presets.add_colours(work, filters_of(body.csv), body.folder)
        return Done(revision=work.revision)


@router.post("/looks/kept", status_code=201)
def keep_as_look(body: schemas.LookKept, context: ContextOf, author: AuthorOf) -> Done:
    """Everything that is held by hand (or of what is chosen) becomes a look, to the byte."""
    with editing(context, author, "Kept a look from by hand") as work:
        show = str(work.show.id)
        kept = taken_by_hand(context, show, body.chosen)
        name = body.name or _free("Kept", rows.all_of("look", show))
        numbers = [one["number"] for one in rows.all_of("fixture", show) if one["id"] in kept]
        presets.keep_as_look(work, str(body.id), name, kept, numbers)
        return Done(revision=work.revision)


def _free(word: str, taken: list[rows.Record]) -> str:
    """The word with the first number that makes a name nobody has."""
    names = {one["name"] for one in taken}
    return next(name for n in itertools.count(1) if (name := f"{word} {n}") not in names)
