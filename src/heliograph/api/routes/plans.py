"""Plans: fixtures, labels and nodes where they really are, over a picture."""

from __future__ import annotations

import io
from typing import Annotated

from fastapi import APIRouter, File, UploadFile
from PIL import Image
from starlette.responses import FileResponse

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.api.kept_files import files_folder, keep_file
from heliograph.core.errors import InputError, NotFoundError
from heliograph.store import rows

router = APIRouter(prefix="/api/plans", tags=["plans"])

PICTURE_MAX = 32 * 1024**2
SIDE_MAX = 4096
"""Larger pictures are scaled down: a limit of the product for all pictures."""

PIXELS_MAX = 200_000_000


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
        work.delete("plan", plan_id)
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


@router.post("/{plan_id}/picture")
def set_picture(
    plan_id: str, file: Annotated[UploadFile, File()], context: ContextOf, author: AuthorOf
) -> schemas.Done:
    """A picture behind the plan, kept as PNG; its height follows from its width in metres."""
    name = (file.filename or "picture")[-80:]
    raw = file.file.read(PICTURE_MAX + 1)
    if len(raw) > PICTURE_MAX:
        raise InputError(f"'{name}' is larger than {PICTURE_MAX // 1024**2} MiB.", where="file")
    packed, proportion = _as_png(raw, name)
    content = keep_file(context, packed, ".png")
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


def _as_png(raw: bytes, name: str) -> tuple[bytes, float]:
    """The picture as PNG of at most 4,096 a side, and its height over its width."""
    limit, Image.MAX_IMAGE_PIXELS = Image.MAX_IMAGE_PIXELS, None
    try:
        with Image.open(io.BytesIO(raw)) as image:
            if image.width * image.height > PIXELS_MAX:
                raise InputError(
                    f"'{name}' has {image.width} x {image.height} pixels: {PIXELS_MAX:,} are the most.", where="file"
                )
            image.draft("RGB", (SIDE_MAX, SIDE_MAX))
            kept = image.convert("RGBA" if "A" in image.getbands() else "RGB")
    except (OSError, ValueError, SyntaxError) as error:
        raise InputError(
            f"'{name}' cannot be read as a picture.", where="file", repair="Choose a PNG, JPEG or WebP file."
        ) from error
    finally:
        Image.MAX_IMAGE_PIXELS = limit
    kept.thumbnail((SIDE_MAX, SIDE_MAX))
    out = io.BytesIO()
    kept.save(out, "PNG")
    return out.getvalue(), kept.height / kept.width
