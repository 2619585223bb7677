"""Clips: upload, thumbnail, rename, delete."""

from __future__ import annotations

import hashlib
import re
import tempfile
from collections.abc import AsyncIterator
from pathlib import Path
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Depends, Form, Request, UploadFile
from starlette.datastructures import UploadFile as Sent
from starlette.responses import FileResponse

from heliograph.api import schemas
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.kept_files import files_folder, keep_received
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.show.clip_numbers import check_number, next_number, numbers_of
from heliograph.edits.deleting import delete
from heliograph.media.folder import PICTURES_MAX, RATE, pack
from heliograph.media.folder import SUFFIXES as PICTURE_SUFFIXES
from heliograph.parsing.outside import read_outside, received
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import Author

router = APIRouter(prefix="/api/clips", tags=["clips"])

SUFFIXES = (".zip", ".mp4", ".m4v", ".mov", ".webm", ".mkv", ".gif", ".png", ".jpg", ".jpeg", ".webp")
UPLOAD_MAX = 4 * 1024**3
"""Bytes of one clip: an hour of 4K fits; larger is more likely a mistake than a clip."""

FOUND_OUT = ("kind", "width", "height", "frames", "duration_ns")
"""Columns of a clip that the media process finds out by looking into the file."""


@router.post("", status_code=201)
def add_clip(context: ContextOf, author: AuthorOf, id: Annotated[UUID, Form()], file: UploadFile) -> schemas.ClipAdded:
    """Takes a video or picture; it is looked into before it is kept. Content the show has already is not kept again."""
    name, suffix = _clean_name(file.filename or "clip")
    if suffix not in SUFFIXES:
        raise InputError(
            f"'{name}' is not a video or picture Heliograph takes.",
            where="file",
            repair="Give mp4, mov, webm, mkv, GIF, PNG, JPEG, WebP, or a ZIP of pictures.",
        )
    folder = files_folder(context)
    with received(file.file, folder, UPLOAD_MAX, name) as temporary:
        return _taken(context, author, str(id), name, suffix, temporary)


async def _sent_pictures(request: Request) -> AsyncIterator[list[Sent]]:
    """The files of a form, of which there may be many."""
    async with request.form(max_files=PICTURES_MAX, max_fields=8) as form:
        yield [one for one in form.getlist("file") if isinstance(one, Sent)]


@router.post("/pictures", status_code=201)
def add_pictures(
    context: ContextOf,
    author: AuthorOf,
    id: UUID,
    name: str,
    files: Annotated[list[Sent], Depends(_sent_pictures)],
    rate: float = RATE,
) -> schemas.ClipAdded:
    """Makes one clip of many pictures (a form with "file" many times), in the order of their names, so many a
    second."""
    named = [(_clean_name(one.filename or "")[0], one.file) for one in files]
    pictures = [(title, file) for title, file in named if title.lower().endswith(PICTURE_SUFFIXES)]
    if not pictures:
        raise InputError("None of these files is a picture.", where="file", repair="Choose PNG, JPEG or WebP files.")
    folder, title = files_folder(context), _clean_name(name)[0]
    with tempfile.TemporaryFile(dir=folder) as archive:
        try:
            pack(pictures, archive, rate)
        except OSError as error:
            raise InputError(
                f"'{title}' cannot be stored: {error.strerror}.", where="file", repair="Make room on the disk."
            ) from error
        archive.seek(0)
        with received(archive, folder, UPLOAD_MAX, title) as temporary:
            return _taken(context, author, str(id), title, ".zip", temporary)


def _taken(context: Context, author: Author, id: str, name: str, suffix: str, temporary: Path) -> schemas.ClipAdded:
    """A file that was received becomes a clip, unless the show has its content already."""
    folder = files_folder(context)
    with open(temporary, "rb") as raw:
        content = hashlib.file_digest(raw, "sha256").hexdigest()
    if known := _known(content, temporary, folder):
        return known
    thumbs = str(context.settings.data / "media" / "thumbs")
    facts = read_outside("clip", name, path=str(temporary), name=name, thumbs=thumbs)
    content, suffix = facts["content"], facts["suffix"] or suffix
    if known := _known(content, temporary, folder):
        return known
    keep_received(temporary, folder / f"{content}{suffix}", content)
    columns = {one: facts[one] for one in (*FOUND_OUT, "bytes")}
    with editing(context, author, f"Added clip {name}") as work:
        number = next_number(set(numbers_of(rows.all_of("clip", str(work.show.id))).values()))
        values = {"name": name, "number": number, "content": content, "suffix": suffix, **columns}
        work.insert("clip", [(id, values)])
        return schemas.ClipAdded(revision=work.revision, id=id, said=facts["said"])


def _known(content: str, upload: Path, folder: Path) -> schemas.ClipAdded | None:
    """The clip of the running show that has this content; its file is written again where it was damaged."""
    with connected():
        show = rows.running_show()
        clip = next((one for one in rows.all_of("clip", show["id"]) if one["content"] == content), None)
    if clip is None:
        return None
    mended = keep_received(upload, folder / f"{content}{clip['suffix']}", content)
    said = f"This content is here already, as {clip['name']}" + (
        "; its file was damaged and is mended." if mended else "."
    )
    return schemas.ClipAdded(revision=show["revision"], id=clip["id"], said=said)


@router.get("/{clip_id}/thumbnail", response_class=FileResponse)
def thumbnail(clip_id: UUID, context: ContextOf) -> FileResponse:
    """A small PNG of a frame a third into the clip."""
    with connected():
        clips = rows.all_of("clip", rows.running_show()["id"])
    clip = next((one for one in clips if one["id"] == str(clip_id)), None)
    path = context.settings.data / "media" / "thumbs" / f"{clip['content']}.png" if clip else None
    if path is None or not path.exists():
        raise NotFoundError("There is no picture of that clip.", where="clip")
    return FileResponse(path, media_type="image/png", headers={"cache-control": "max-age=86400"})


@router.patch("/{clip_id}")
def rename_clip(clip_id: str, body: schemas.ClipPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    given = body.model_dump(exclude_none=True, exclude={"rev"})
    if not given:
        raise InputError("Nothing of the clip is to be changed.", where="name", repair="Give a name or a number.")
    said = f"Named a clip {body.name}" if body.name else f"Gave a clip the number {body.number}"
    with editing(context, author, said) as work:
        if body.number is not None:
            check_number(body.number, clip_id, rows.all_of("clip", str(work.show.id)))
        work.update("clip", clip_id, given, body.rev)
        return schemas.Done(revision=work.revision)


@router.delete("/{clip_id}")
def delete_clip(clip_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Refused while a look uses it. The file stays, so that this can be undone."""
    with editing(context, author, "Deleted a clip") as work:
        delete(work, "clip", [clip_id])
        return schemas.Done(revision=work.revision)


def _clean_name(given: str) -> tuple[str, str]:
    """A name to show: no path, no control characters. It never becomes a path."""
    plain = re.sub(r"[\x00-\x1f\x7f]", "", given.replace("\\", "/").rsplit("/", 1)[-1]).strip() or "clip"
    path = Path(plain)
    return plain[:200], path.suffix.lower()
