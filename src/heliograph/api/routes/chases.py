"""Chases: frames drawn, timed, copied; looks unrolled into them; what is sent taken."""

from __future__ import annotations

import base64
import io
import re
import time
from typing import Any
from uuid import UUID

import numpy as np
from fastapi import APIRouter
from PIL import Image
from starlette.responses import Response

from heliograph.api import schemas
from heliograph.api.attributes import check_typed, chosen_by
from heliograph.api.canvases import canvases
from heliograph.api.chase_views import picture_key
from heliograph.api.choosing import choose
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.colour.typed import typed_colours
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.look.canvas import canvas_of
from heliograph.core.look.drawn import packed, unpacked
from heliograph.core.look.setting import attributes_in
from heliograph.core.matrix.placements import unpack
from heliograph.core.profiles.attributes import word_of
from heliograph.edits import chases
from heliograph.edits.deleting import delete
from heliograph.ipc.messages.preview import AskMoment, AskUnrolled, UnrolledFrames
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import Work

router = APIRouter(prefix="/api/chases", tags=["chases"])

OFFERED = 16
"""Frames that are offered where a line has no number of its own."""

PATIENCE_S = 3.0
"""A look that was changed just now reaches the preview within this."""


@router.post("", status_code=201)
def add_chase(body: schemas.NewChase, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """A chase of one clear frame on all squares of a matrix, or the cells of a group or a selection."""
    with editing(context, author, f"Began the chase {body.name}") as work:
        over = {name: str(getattr(body, name) or "") for name in ("matrix", "group", "selection")}
        if sum(bool(value) for value in over.values()) != 1:
            raise InputError("A chase is drawn on one thing.", where="matrix", repair="Give a matrix or a group.")
        canvas = _canvas(str(work.show.id), over)
        size = {"columns": canvas["width"], "rows": canvas["height"]}
        chases.add_chase(work, str(body.id), {"name": body.name, **over, **size})
        return schemas.Done(revision=work.revision)


@router.post("/{chase_id}/copy", status_code=201)
def copy_chase(chase_id: str, body: schemas.ChaseCopy, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Copied a chase") as work:
        chases.copy_chase(work, chase_id, str(body.id))
        return schemas.Done(revision=work.revision)


@router.patch("/{chase_id}")
def change_chase(chase_id: str, body: schemas.ChasePatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a chase") as work:
        work.update("chase", chase_id, given, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/{chase_id}")
def delete_chase(chase_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Refused while a look shows it."""
    with editing(context, author, "Deleted a chase") as work:
        delete(work, "chase", [chase_id])
        return schemas.Done(revision=work.revision)


@router.post("/{chase_id}/draw")
def draw(chase_id: str, body: schemas.Draw, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Drew on a frame") as work:
        chases.draw(work, chase_id, body.frame, body.tool, body.squares, body.colour, body.rev)
        return schemas.Done(revision=work.revision)


@router.post("/{chase_id}/typed")
def draw_typed(chase_id: str, body: schemas.DrawTyped, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Colours of cells as they are typed: "515-517 = amber", "all = red > blue"; or what is set of an attribute of all
    fixtures it is drawn on: "zoom = 12 %", "pan =" for nothing any more."""
    match = re.match(r"^(.+?)=(.*)$", body.text)
    if match is None:
        raise InputError(
            f"'{body.text[:60]}' does not say which cells get what.", where="text", repair="Type 515-517 = amber."
        )
    with editing(context, author, f"Typed {body.text.strip()[:60]}") as work:
        show = str(work.show.id)
        chase = rows.record_of(work.get("chase", chase_id))
        attribute = _attribute_of(show, chase, match[1])
        if attribute:
            sets = {attribute: match[2].strip()}
            check_typed(show, {**chase, "params": sets})
            chases.set_values(work, chase_id, [body.frame], sets, body.rev)
            return schemas.Done(revision=work.revision)
        cells = choose(show, match[1].strip()).cells
        if not cells:
            raise InputError(f"'{match[1].strip()}' has no cells.", where="text", repair="Type 515-517 = amber.")
        squares = {one.key: one.square for one in unpack(_canvas(show, chase)["placements"])}
        there = [squares[cell] for cell in cells if cell in squares]
        if not there:
            raise InputError(f"None of '{match[1].strip()}' stands here.", where="text", repair="Name cells of it.")
        colours = typed_colours(match[2], len(there))
        rgb = [tuple(round(part * 255) for part in colour) for colour in colours]
        chases.fill_squares(work, chase_id, body.frame, dict(zip(there, rgb, strict=True)), body.rev)  # type: ignore[arg-type]
        return schemas.Done(revision=work.revision)


def _attribute_of(show: str, chase: rows.Record, typed: str) -> str:
    """The attribute that is called so, of what the chase is drawn on; "" where there is none."""
    said = typed.strip().casefold()
    found = attributes_in(chosen_by(show, chase))
    return next((one for one in found if said in (one.casefold(), word_of(one).casefold())), "")


LABELS = {
    "times": "Timed frames",
    "spread": "SpreadFrames frames",
    "paste": "Pasted frames",
    "insert": "Added a frame",
    "take": "Took what is sent",
    "delete": "Deleted frames",
    "reverse": "Reversed frames",
}


@router.post("/{chase_id}/frames")
def change_frames(chase_id: str, body: schemas.FrameEdit, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Times, copies and order of frames."""
    taken = _taken(context, chase_id) if body.do == "take" else None
    with editing(context, author, LABELS[body.do]) as work:
        _edit_frames(work, chase_id, body, taken)
        return schemas.Done(revision=work.revision)


def _edit_frames(work: Work, chase: str, body: schemas.FrameEdit, taken: str | None) -> None:
    match body:
        case schemas.SetTimes():
            times = {name: value for name, value in (("fade", body.fade), ("hold", body.hold)) if value is not None}
            if not times:
                raise InputError("No time is given.", where="hold", repair="Give fade or hold.")
            chases.set_times(work, chase, body.frames, times, body.rev)
        case schemas.SpreadFrames():
            chases.spread(work, chase, body.frames, body.length, body.rev)
        case schemas.Paste():
            chases.paste(work, chase, str(body.source or chase), body.frames, body.after, body.moved, body.rev)
        case schemas.InsertFrame():
            chases.insert(work, chase, body.after, taken, body.rev)
        case schemas.OfFrames(do="delete"):
            chases.delete_frames(work, chase, body.frames, body.rev)
        case schemas.OfFrames():
            chases.reverse(work, chase, body.frames, body.rev)


@router.get("/{chase_id}/pictures/{key}", response_class=Response)
def picture(chase_id: UUID, key: str) -> Response:
    """What is drawn on a frame, a pixel for each square (PNG); by its own name, so it never changes."""
    with connected():
        one = rows.one_of("chase", rows.running_show()["id"], str(chase_id))
    stored = next((f["picture"] for f in one["frames"] if picture_key(f["picture"]) == key), None) if one else None
    if one is None or stored is None:
        raise NotFoundError("That picture is not there any more.", where="picture")
    found = io.BytesIO()
    Image.fromarray(unpacked(stored, one["columns"], one["rows"]), "RGBA").save(found, "png", compress_level=1)
    kept = {"cache-control": "private, max-age=31536000, immutable"}
    return Response(found.getvalue(), media_type="image/png", headers=kept)


@router.get("/unroll/{look_id}")
def unroll_offer(look_id: str, context: ContextOf, line: str = "") -> schemas.UnrollOffer:
    """What unrolling a line of a look, or all of it, would make."""
    found = _unrolled(context, look_id, line, 0)
    count, own = found.offered or OFFERED, bool(found.offered)
    return schemas.UnrollOffer(count=count, length=found.length, unit=found.unit, own=own, over=found.over)


@router.post("/unroll", status_code=201)
def unroll(body: schemas.Unroll, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Frames over one cycle, as a new chase. The line is muted and the chase plays in its place; a whole look stays as
    it is."""
    look_id, line_id = str(body.look), str(body.line) if body.line else ""
    count = body.count or (_unrolled(context, look_id, line_id, 0).offered or OFFERED)
    found = _unrolled(context, look_id, line_id, count)
    with editing(context, author, "Unrolled a line" if line_id else "Unrolled a look") as work:
        look = rows.record_of(work.get("look", look_id))
        lines = [one["id"] for one in look["lines"]]
        place = lines.index(line_id) if line_id in lines else -1
        source = next((one for one in look["lines"] if canvas_of(one) == found.matrix), None)
        if source is None:
            raise NotFoundError("What it is painted over is not there any more.", where="look")
        of = f"{look['name']}, line {place + 1}" if line_id else look["name"]
        given: dict[str, Any] = {
            "name": f"{of}, frames"[:120],
            **{name: source.get(name) or "" for name in ("matrix", "group", "selection")},
            "columns": found.columns,
            "rows": found.rows,
            "unit": found.unit,
            "origin": f"unrolled from {of}, {count} frames of {found.length:g} {found.unit}",
        }
        each = found.length / count
        if line_id:
            chases.unroll(work, str(body.id), given, found.pictures, each, (look_id, line_id))
        else:
            chases.add_chase(work, str(body.id), given, found.pictures, each)
        return schemas.Done(revision=work.revision)


def _unrolled(context: Context, look: str, line: str, count: int) -> UnrolledFrames:
    """Waits a moment for the preview to have the look as it is stored."""
    until = time.monotonic() + PATIENCE_S
    while True:
        asked = AskUnrolled(
            look=look, hash=context.publisher.current.hashes.get(f"look:{look}", ""), line=line, count=count
        )
        try:
            return context.preview.ask(asked)
        except InputError as error:
            if error.where != "look" or time.monotonic() > until:
                raise
            time.sleep(0.1)


def _canvas(show: str, over: dict[str, Any]) -> rows.Record:
    """The matrix, or the row of cells of a group or a selection, that a chase is drawn on."""
    tables = {kind: rows.all_of(kind, show) for kind in ("profile", "fixture", "group", "matrix")}
    among = [*rows.with_shared(tables["matrix"]), *canvases({**tables, "look": [], "chase": [over]})]
    found = next((one for one in among if one["id"] == canvas_of(over)), None)
    if found is None:
        raise NotFoundError("What it is drawn on is not there any more.", where="matrix")
    return found


def _taken(context: Context, chase_id: str) -> str:
    """What the matrix of a chase shows now, as it was sent."""
    with connected():
        chase = rows.one_of("chase", rows.running_show()["id"], chase_id)
    if chase is None:
        raise NotFoundError("That chase is not there any more.", where="id")
    if not chase["matrix"]:
        raise InputError("It is not drawn on a matrix.", where="matrix", repair="Begin a chase on a matrix.")
    until = time.monotonic() + PATIENCE_S
    while (found := context.preview.ask(AskMoment(ago_s=0.0, matrix=chase["matrix"])).picture) is None:
        if time.monotonic() > until:
            break
        time.sleep(0.1)  # a matrix that was changed just now
    if found is None or (found.columns, found.rows) != (chase["columns"], chase["rows"]):
        raise InputError("Nothing of this size is sent on its matrix.", where="matrix", repair="Start a look on it.")
    rgb = np.frombuffer(base64.b64decode(found.rgb), dtype=np.uint8).reshape(found.rows, found.columns, 3)
    return packed(np.dstack([rgb, np.full(rgb.shape[:2], 255, dtype=np.uint8)]))
