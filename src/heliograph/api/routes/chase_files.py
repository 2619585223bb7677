"""Chases as files."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Query, UploadFile
from starlette.responses import Response

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.kept_files import files_folder
from heliograph.core.errors import NotFoundError
from heliograph.edits.chases import insert_pictures
from heliograph.formats.chase_files import as_csv, as_gif
from heliograph.parsing.outside import read_outside, received
from heliograph.store import rows
from heliograph.store.database import connected

PICTURES_MAX = 512 * 1024**2
"""Bytes of a file that frames are taken from."""

router = APIRouter(prefix="/api/chases", tags=["chases"])


@router.post("/{chase_id}/chase.gif", response_class=Response)
def gif(chase_id: str, context: ContextOf) -> Response:
    """A moving picture of it, at the tempo there is now."""
    chase = _stored(chase_id)
    status = context.engine_status()
    beat_s = 60.0 / status.state.bpm if status else 0.5
    headers = {"content-disposition": 'attachment; filename="chase.gif"'}
    return Response(as_gif(chase, beat_s), media_type="image/gif", headers=headers)


@router.post("/{chase_id}/chase.csv", response_class=Response)
def table(chase_id: str) -> Response:
    """The colours of all its squares as a table."""
    chase = _stored(chase_id)
    headers = {"content-disposition": 'attachment; filename="chase.csv"'}
    return Response(as_csv(chase), media_type="text/csv; charset=utf-8", headers=headers)


@router.post("/{chase_id}/pictures", status_code=201)
def add_pictures(
    chase_id: str,
    context: ContextOf,
    author: AuthorOf,
    after: Annotated[str, Query(pattern=r"^[0-9a-z]{0,32}$")],
    file: UploadFile,
) -> schemas.Done:
    """Frames out of a picture, a GIF or a short video, stretched over all squares, behind one ("": first). Those of a
    moving one hold as long as there."""
    chase = _stored(chase_id)
    name = (file.filename or "picture")[-80:]
    size = {"columns": chase["columns"], "rows": chase["rows"]}
    with received(file.file, files_folder(context), PICTURES_MAX, name) as path:
        found = read_outside("frames", name, path=str(path), name=name, **size)
    status = context.engine_status()
    unit_s = 1.0 if chase["unit"] == "s" or status is None else 60.0 / status.state.bpm
    with editing(context, author, f"Took frames from {name}") as work:
        insert_pictures(work, chase_id, after, [(picture, seconds / unit_s) for picture, seconds in found])
        return schemas.Done(revision=work.revision)


def _stored(chase_id: str) -> rows.Record:
    with connected():
        chase = rows.one_of("chase", rows.running_show()["id"], chase_id)
    if chase is None:
        raise NotFoundError("That chase is not there any more.", where="id")
    return chase
