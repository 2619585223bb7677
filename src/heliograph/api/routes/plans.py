"""Plans: fixtures, labels and nodes where they really are, over a picture."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from typing import Annotated

from fastapi import APIRouter, File, UploadFile
from starlette.responses import FileResponse

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.kept_files import files_folder, keep_file
from heliograph.api.schemas import plans as ways
from heliograph.core.errors import NotFoundError
from heliograph.core.plan.arranging import aligned, in_grid, in_ring, in_row, mirrored, spread, turned
from heliograph.core.plan.items import Item, Point
from heliograph.edits.deleting import delete
from heliograph.edits.plans import Arrange, arrange, place_below
from heliograph.parsing.outside import read_outside, received
from heliograph.store import rows

router = APIRouter(prefix="/api/plans", tags=["plans"])

DRAWN: dict[str, Callable[[Sequence[Item], Point, Point], list[Item]]] = {
    "row": in_row,
    "grid": in_grid,
    "ring": in_ring,
}

PICTURE_MAX = 32 * 1024**2


@router.post("", status_code=201)
def add_plan(body: schemas.NewPlan, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, f"Added plan {body.name}") as work:
        columns = {
            "name": body.name,
            "place": rows.next_place("plan", str(work.show.id)),
            "items": [],
            "picture": "",
            "picture_width_m": 20.0,
            "picture_height_m": 10.0,
            "picture_x": 0.0,
            "picture_y": 0.0,
        }
        work.insert("plan", [(str(body.id), columns)])
        return schemas.Done(revision=work.revision)


@router.patch("/{plan_id}")
def change_plan(plan_id: str, body: schemas.PlanPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Its name, and where its picture lies: the middle of it, and its size in metres."""
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a plan") as work:
        work.update("plan", plan_id, dict(given), body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/{plan_id}")
def delete_plan(plan_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """The fixtures stay."""
    with editing(context, author, "Deleted a plan") as work:
        delete(work, "plan", [plan_id])
        return schemas.Done(revision=work.revision)


@router.post("/{plan_id}/items")
def change_items(plan_id: str, body: schemas.PlanItems, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Puts items where they shall be and takes others away, in one edit."""
    with editing(context, author, body.label) as work:
        plan = rows.record_of(work.get("plan", plan_id))
        known = {one["id"] for one in rows.all_of("fixture", str(work.show.id))}
        items = {one["id"]: one for one in plan["items"]}
        for key in body.remove:
            items.pop(str(key), None)
        for item in body.put:
            if item.kind == "fixture" and str(item.id) not in known:
                raise NotFoundError("One of these fixtures is not there any more.", where="put")
            items[str(item.id)] = item.model_dump(mode="json")
        work.update("plan", plan_id, {"items": list(items.values())})
        return schemas.Done(revision=work.revision)


@router.post("/{plan_id}/arrange")
def arrange_items(plan_id: str, body: schemas.Arrangement, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Rows, tiles, rings, alignment and the like: where things come to lie is worked out here."""
    how, keys = body.arrange, [str(key) for key in body.items]
    with editing(context, author, _label(how, len(keys))) as work:
        if isinstance(how, ways.Below):
            place_below(work, plan_id, keys)
        else:
            arrange(work, plan_id, keys, _way(how))
        return schemas.Done(revision=work.revision)


def _way(how: ways.Way) -> Arrange:
    match how:
        case ways.DrawnOut():
            drawn = DRAWN[how.how]
            return lambda items: drawn(items, how.start, how.end)
        case ways.Aligned():
            return lambda items: aligned(items, how.edge)
        case ways.Spread():
            return lambda items: spread(items, how.axis)
        case ways.Turned():
            return lambda items: turned(items, how.degrees)
        case _:
            return mirrored


def _label(how: ways.Way, count: int) -> str:
    match how:
        case ways.DrawnOut():
            return f"Placed {count} in a {how.how}"
        case ways.Aligned():
            return f"Aligned {how.edge}"
        case ways.Below():
            return "Placed on the plan"
        case ways.Spread():
            return "Spread on the plan"
        case ways.Turned():
            return "Turned on the plan"
        case _:
            return "Mirrored on the plan"


@router.post("/{plan_id}/picture")
def set_picture(
    plan_id: str, file: Annotated[UploadFile, File()], context: ContextOf, author: AuthorOf
) -> schemas.Done:
    """A picture behind the plan, kept as PNG; its height follows from its width in metres."""
    name = (file.filename or "picture")[-80:]
    with received(file.file, files_folder(context), PICTURE_MAX, name) as path:
        packed = path.with_suffix(".png")
        try:
            proportion = read_outside("picture", name, path=str(path), target=str(packed), name=name)["proportion"]
            content = keep_file(context, packed.read_bytes(), ".png")
        finally:
            packed.unlink(missing_ok=True)
    with editing(context, author, f"Put {name} behind a plan") as work:
        width = rows.record_of(work.get("plan", plan_id))["picture_width_m"]
        work.update("plan", plan_id, {"picture": content, "picture_height_m": width * proportion})
        return schemas.Done(revision=work.revision)


@router.delete("/{plan_id}/picture")
def take_picture(plan_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    with editing(context, author, "Took the picture from a plan") as work:
        work.update("plan", plan_id, {"picture": ""})
        return schemas.Done(revision=work.revision)


@router.get("/pictures/{content}", response_class=FileResponse)
def picture(content: str, context: ContextOf) -> FileResponse:
    path = files_folder(context) / f"{content}.png"
    if len(content) != 64 or not content.isalnum() or not path.exists():
        raise NotFoundError("That picture is not there any more.", where="picture")
    return FileResponse(path, media_type="image/png", headers={"cache-control": "max-age=31536000, immutable"})
