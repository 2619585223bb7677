"""The patch sheet: CSV out, and in again after a look at what it would do."""

from __future__ import annotations

from typing import Annotated, Any
from uuid import NAMESPACE_OID, uuid5

from fastapi import APIRouter, Form, UploadFile
from starlette.responses import Response

from heliograph.api import schemas
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.kept_files import files_folder
from heliograph.formats.patch_sheet import SHEET_BYTES_MAX, Sheet, SheetRow, sheet_from_json, write_sheet
from heliograph.parsing.outside import read_outside, received
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.rows import Record

router = APIRouter(prefix="/api/patch/sheet", tags=["patch"])


@router.post("/file")
def save() -> Response:
    """The patch as CSV, one row a fixture."""
    with connected():
        show = rows.running_show()
        text = write_sheet(rows.all_of("fixture", show["id"]), rows.all_of("profile", show["id"]))
    heading = {"content-disposition": 'attachment; filename="patch.csv"'}
    return Response(text, media_type="text/csv; charset=utf-8", headers=heading)


@router.post("")
def load(
    context: ContextOf, author: AuthorOf, file: UploadFile, only_look: Annotated[bool, Form()] = False
) -> schemas.SheetAnswer:
    """Adds fixtures with new numbers and changes those with known ones, all or nothing, in one edit.

    `only_look` tells what it would do. With any fault nothing is done. Fixtures the sheet does not name stay.
    """
    with connected():
        show = rows.running_show()
        profiles = rows.all_of("profile", show["id"])
    name = (file.filename or "sheet")[-80:]
    with received(file.file, files_folder(context), SHEET_BYTES_MAX, name) as path:
        sheet = sheet_from_json(read_outside("sheet", name, path=str(path), profiles=profiles))
    with connected():
        show = rows.running_show()
        known = {one["number"]: one for one in rows.all_of("fixture", show["id"])}
    if sheet.faults or only_look:
        return _answer(sheet, known, show["revision"])
    with editing(context, author, "Loaded a patch sheet") as work:
        key = str(work.show.id)
        known = {one["number"]: one for one in rows.all_of("fixture", key)}
        new = []
        for row in sheet.rows:
            if row.number in known:
                work.update("fixture", known[row.number]["id"], _said(row, sheet))
            else:
                # One id a show, revision and number: the same sheet sent twice adds nothing twice.
                made = str(uuid5(NAMESPACE_OID, f"{key}:{work.revision}:{row.number}"))
                new.append((made, {"number": row.number, **_columns(row)}))
        if new:
            work.insert("fixture", new)
        return _answer(sheet, known, work.revision)


def _said(row: SheetRow, sheet: Sheet) -> dict[str, Any]:
    """Only what the sheet has columns for: what it does not speak of stays as it is."""
    heads = {"universe": "address", "channel": "address"}
    return {name: value for name, value in _columns(row).items() if heads.get(name, name) in sheet.columns}


def _columns(row: SheetRow) -> dict[str, Any]:
    return {
        "name": row.name,
        "profile": row.profile,
        "mode": row.mode,
        "universe": row.address.universe if row.address else None,
        "channel": row.address.channel if row.address else None,
        "blocks": row.blocks,
        "extra": row.extra,
        "response": row.response,
    }


def _answer(sheet: Sheet, known: dict[int, Record], revision: int) -> schemas.SheetAnswer:
    faults = [schemas.SheetFaultView(row=f.row, column=f.column, sentence=f.sentence) for f in sheet.faults]
    if faults:
        return schemas.SheetAnswer(added=0, changed=0, same=0, faults=faults, revision=revision)
    changed = same = 0
    for row in sheet.rows:
        if row.number in known:
            alike = all(known[row.number][name] == value for name, value in _said(row, sheet).items())
            same, changed = same + alike, changed + (not alike)
    added = len(sheet.rows) - changed - same
    return schemas.SheetAnswer(added=added, changed=changed, same=same, faults=[], revision=revision)
