"""A show out to one file, media included, and in again as a new show."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Form, UploadFile
from starlette.responses import FileResponse

from heliograph.api import schemas
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf
from heliograph.api.kept_files import files_folder, keep_received
from heliograph.api.routes.clips import FOUND_OUT
from heliograph.api.show_import import Rows, imported_rows
from heliograph.api.totals import check_size
from heliograph.core.errors import InputError
from heliograph.formats.show_file import MEDIA_MAX, ShowFile, check_show_file, write_show_file
from heliograph.ipc.durable import sync
from heliograph.parsing.outside import read_outside, received
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import add_whole_show

router = APIRouter(prefix="/api", tags=["show"])

UPLOAD_MAX = MEDIA_MAX + 64 * 1024**2

LEFT_OUT = {"clip": (*FOUND_OUT, "bytes")}
"""Columns that are found out anew when a file is loaded."""


@router.post("/show/file")
def save(context: ContextOf) -> schemas.SavedShow:
    """Puts the running show into one file, reads it back and compares; only then it is there to be fetched."""
    with connected():
        show = rows.running_show()
        tables = {table: [_plain(table, one) for one in found] for table, found in rows.whole_show(show).items()}
    folder = files_folder(context)
    names = {f"{clip['content']}{clip['suffix']}" for clip in tables["clip"]}
    names |= {f"{one['picture']}.png" for one in tables["plan"] if one["picture"]}
    names |= {f"{one['manual']}.pdf" for one in tables["profile"] if one["manual"]}
    missing = sorted(name for name in names if not (folder / name).exists())
    if missing:
        raise InputError(f"The media file {missing[0]} is gone: the show cannot be saved whole.", where="clip")
    saved = context.saved.place()
    try:
        with open(saved.path, "wb") as out:
            write_show_file(out, show["name"], tables, {name: folder / name for name in names})
        sync(saved.path)
        check_show_file(saved.path, show["name"], tables, names)
    except OSError as error:
        saved.forget()
        raise InputError(
            f"The show cannot be saved: {error.strerror or error}.", where="file", repair="Make room on the disk."
        ) from error
    except BaseException:
        saved.forget()
        raise
    name = re.sub(r"[^\w .-]", "_", show["name"]).strip() or "show"
    saved.name = f"{name}.heliograph.zip"
    return schemas.SavedShow(token=saved.token, name=saved.name, bytes=saved.path.stat().st_size)


@router.get("/show/file/{token}", response_class=FileResponse)
def fetch(token: str, context: ContextOf) -> FileResponse:
    """A file that was just saved, for as long as ten minutes."""
    saved = context.saved.of(token)
    return FileResponse(saved.path, media_type="application/zip", filename=saved.name)


@router.post("/shows/file", status_code=201)
def load(context: ContextOf, author: AuthorOf, id: Annotated[UUID, Form()], file: UploadFile) -> schemas.ShowListed:
    """Makes a new show of a file, all or nothing. It is not opened: what is running goes on."""
    said = (file.filename or "show")[-80:]
    with received(file.file, files_folder(context), UPLOAD_MAX, said) as path:
        read = ShowFile(**read_outside("show", said, path=str(path)))
        made = imported_rows(str(id), read.tables)
        _check_size(made)
        with _media(context, read, made, path) as facts:
            for _, clip in made["clip"]:
                clip.update(facts[clip["content"]])
            with connected():
                name = read.name[:120].strip() or "Loaded show"
                add_whole_show(str(id), name, made, author)
                info = next(one for one in rows.shows() if one["id"] == str(id))
    return schemas.ShowListed(**info)


def _check_size(made: Rows) -> None:
    """A show that is too large to play is not loaded either."""
    check_size(
        ((str(one["profile"]), str(one["mode"]), 1) for _, one in made["fixture"]),
        ({"id": key, **one} for key, one in made["profile"]),
        (one for _, one in made["output"]),
    )


def _plain(table: str, record: dict[str, Any]) -> dict[str, Any]:
    left_out = {"rev", *LEFT_OUT.get(table, ())}
    return {name: value for name, value in record.items() if name not in left_out}


SIGNATURES = {".pdf": b"%PDF-", ".png": b"\x89PNG\r\n\x1a\n"}
"""How such files begin (ISO 32000-1, 7.5.2; PNG, W3C, 5.2)."""


def _unpack(folder: Path, read: ShowFile, content: str, suffix: str, whose: str, path: Path) -> list[Path]:
    """Unpacks a manual or a picture; answers what was added to the folder."""
    target = folder / f"{content}{suffix}"
    if content not in read.media:
        raise InputError(f"{whose} is not in the file.", where="file")
    temporary = folder / f"{content}.part"
    try:
        read_outside("media", whose, path=str(path), entry=read.media[content], target=str(temporary))
        with open(temporary, "rb") as opened:
            if not opened.read(8).startswith(SIGNATURES[suffix]):
                raise InputError(f"{whose} is no {suffix[1:].upper()} file.", where="file")
        return [target] if keep_received(temporary, target, content) else []
    finally:
        temporary.unlink(missing_ok=True)


@contextlib.contextmanager
def _media(context: Context, read: ShowFile, made: Rows, path: Path) -> Iterator[dict[str, dict[str, Any]]]:
    """Unpacks and looks into the media the show needs; what it added is removed if loading fails after all."""
    folder, thumbs = files_folder(context), str(context.settings.data / "media" / "thumbs")
    facts: dict[str, dict[str, Any]] = {}
    added: list[Path] = []
    try:
        for _, clip in made["clip"]:
            content = clip["content"]
            if content not in read.media:
                raise InputError(f"The media of clip '{clip['name'][:80]}' are not in the file.", where="file")
            temporary = folder / f"{content}.part"
            try:
                read_outside("media", clip["name"], path=str(path), entry=read.media[content], target=str(temporary))
                found = read_outside("clip", clip["name"], path=str(temporary), name=clip["name"], thumbs=thumbs)
                facts[content] = {one: found[one] for one in (*FOUND_OUT, "bytes", "content")}
                facts[content]["suffix"] = found["suffix"] or clip["suffix"]
                target = folder / f"{found['content']}{facts[content]['suffix']}"
                if keep_received(temporary, target, found["content"]):
                    added.append(target)
            finally:
                temporary.unlink(missing_ok=True)
        for _, profile in made["profile"]:
            if profile["manual"]:
                whose = f"The manual of profile '{profile['name'][:80]}'"
                added.extend(_unpack(folder, read, profile["manual"], ".pdf", whose, path))
        for _, plan in made["plan"]:
            if plan["picture"]:
                whose = f"The picture of plan '{plan['name'][:80]}'"
                added.extend(_unpack(folder, read, plan["picture"], ".png", whose, path))
        yield facts
    except BaseException:
        for one in added:
            one.unlink(missing_ok=True)
        raise
