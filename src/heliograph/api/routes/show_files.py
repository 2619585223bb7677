"""A show out to one file, media included, and in again as a new show."""

from __future__ import annotations

import contextlib
import os
import re
import tempfile
from collections.abc import Iterator
from pathlib import Path
from typing import Annotated, Any
from uuid import UUID

from fastapi import APIRouter, Form, UploadFile
from starlette.background import BackgroundTask
from starlette.responses import FileResponse

from heliograph.api import schemas
from heliograph.api.context import Context
from heliograph.api.edits import AuthorOf, ContextOf
from heliograph.api.routes.clips import FOUND_OUT
from heliograph.api.show_import import Rows, imported_rows
from heliograph.core.errors import InputError
from heliograph.formats.show_file import ShowFile, copy_media, read_show_file, write_show_file
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import add_whole_show

router = APIRouter(prefix="/api", tags=["show"])

LEFT_OUT = {"clip": (*FOUND_OUT, "bytes")}
"""Columns that are found out anew when a file is loaded."""


@router.get("/show/file", response_class=FileResponse)
def save(context: ContextOf) -> FileResponse:
    """The running show in one file."""
    with connected():
        show = rows.running_show()
        tables = {table: [_plain(table, one) for one in found] for table, found in rows.whole_show(show).items()}
    folder = context.settings.data / "media" / "files"
    names = {f"{clip['content']}{clip['suffix']}" for clip in tables["clip"]}
    names |= {f"{one['picture']}.png" for one in tables["plan"] if one["picture"]}
    names |= {f"{one['manual']}.pdf" for one in tables["profile"] if one["manual"]}
    missing = sorted(name for name in names if not (folder / name).exists())
    if missing:
        raise InputError(f"The media file {missing[0]} is gone: the show cannot be saved whole.", where="clip")
    handle, path = tempfile.mkstemp(dir=context.settings.data, suffix=".saving")
    try:
        with os.fdopen(handle, "wb") as out:
            write_show_file(out, show["name"], tables, {name: folder / name for name in names})
    except OSError as error:
        Path(path).unlink(missing_ok=True)
        raise InputError(
            f"The show cannot be saved: {error.strerror or error}.", where="file", repair="Make room on the disk."
        ) from error
    name = re.sub(r"[^\w .-]", "_", show["name"]).strip() or "show"
    return FileResponse(
        path,
        media_type="application/zip",
        filename=f"{name}.heliograph.zip",
        background=BackgroundTask(lambda: Path(path).unlink(missing_ok=True)),
    )


@router.post("/shows/file", status_code=201)
def load(context: ContextOf, author: AuthorOf, id: Annotated[UUID, Form()], file: UploadFile) -> schemas.ShowInfo:
    """Makes a new show of a file, all or nothing. It is not opened: what is running goes on."""
    read = read_show_file(file.file)
    made = imported_rows(str(id), read.tables)
    with _media(context, read, made, file) as facts:
        for _, clip in made["clip"]:
            clip.update(facts[clip["content"]])
        with connected():
            name = read.name[:120].strip() or "Loaded show"
            add_whole_show(str(id), name, made, author)
            info = next(one for one in rows.shows() if one["id"] == str(id))
    return schemas.ShowInfo(id=info["id"], name=info["name"], revision=info["revision"])


def _plain(table: str, record: dict[str, Any]) -> dict[str, Any]:
    left_out = {"rev", *LEFT_OUT.get(table, ())}
    return {name: value for name, value in record.items() if name not in left_out}


SIGNATURES = {".pdf": b"%PDF-", ".png": b"\x89PNG\r\n\x1a\n"}
"""How such files begin (ISO 32000-1, 7.5.2; PNG, W3C, 5.2)."""


def _unpack(folder: Path, read: ShowFile, content: str, suffix: str, whose: str, file: UploadFile) -> list[Path]:
    """Unpacks a manual or a picture; answers what was added to the folder."""
    target = folder / f"{content}{suffix}"
    if content not in read.media:
        raise InputError(f"{whose} is not in the file.", where="file")
    if target.exists():
        return []
    temporary = folder / f"{content}.part"
    copy_media(file.file, read.media[content], temporary)
    with open(temporary, "rb") as opened:
        honest = opened.read(8).startswith(SIGNATURES[suffix])
    if not honest:
        temporary.unlink()
        raise InputError(f"{whose} is no {suffix[1:].upper()} file.", where="file")
    os.replace(temporary, target)
    return [target]


@contextlib.contextmanager
def _media(context: Context, read: ShowFile, made: Rows, file: UploadFile) -> Iterator[dict[str, dict[str, Any]]]:
    """Unpacks and looks into the media the show needs; what it added is removed if loading fails after all."""
    folder = context.settings.data / "media" / "files"
    folder.mkdir(parents=True, exist_ok=True)
    facts: dict[str, dict[str, Any]] = {}
    added: list[Path] = []
    try:
        for _, clip in made["clip"]:
            content = clip["content"]
            if content not in read.media:
                raise InputError(f"The media of clip '{clip['name'][:80]}' are not in the file.", where="file")
            target = folder / f"{content}{clip['suffix']}"
            temporary = folder / f"{content}.part"
            copy_media(file.file, read.media[content], temporary)
            try:
                message = {"do": "probe", "path": str(temporary), "name": clip["name"], "content": content}
                found = context.media.ask(message)
                if not target.exists():
                    os.replace(temporary, target)
                    added.append(target)
            finally:
                temporary.unlink(missing_ok=True)
            facts[content] = {**{name: found[name] for name in FOUND_OUT}, "bytes": target.stat().st_size}
        for _, profile in made["profile"]:
            if profile["manual"]:
                whose = f"The manual of profile '{profile['name'][:80]}'"
                added.extend(_unpack(folder, read, profile["manual"], ".pdf", whose, file))
        for _, plan in made["plan"]:
            if plan["picture"]:
                whose = f"The picture of plan '{plan['name'][:80]}'"
                added.extend(_unpack(folder, read, plan["picture"], ".png", whose, file))
        yield facts
    except BaseException:
        for path in added:
            path.unlink(missing_ok=True)
        raise
