"""Matrices out of what is there already: the plan, a drawing, another matrix's arrangement; and free placement."""

from __future__ import annotations

import math
from typing import Annotated
from uuid import UUID

from fastapi import APIRouter, Form, Response, UploadFile

from heliograph.api import schemas
from heliograph.api.choosing import choose
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.kept_files import files_folder
from heliograph.api.routes.matrices import arranged, cells_by_number, cells_of, shown_matrix
from heliograph.api.views import Modes
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.matrix.from_points import Laid, Spot, lay
from heliograph.core.matrix.placements import CellKey, Placement, check_size, pack, unpack
from heliograph.core.profiles.cell_layout import cell_points
from heliograph.core.profiles.profile import Mode
from heliograph.formats.squares_svg import BYTES_MAX, Drawn, write_svg
from heliograph.parsing.outside import read_outside, received
from heliograph.store import rows
from heliograph.store.journal import Work
from heliograph.store.rows import Record

router = APIRouter(prefix="/api/matrices", tags=["matrices"])


@router.post("/from-plan", status_code=201)
def from_plan(body: schemas.FromPlan, context: ContextOf, author: AuthorOf) -> schemas.MadeMatrix:
    """A matrix of the cells where they really are: positions on the plan become squares."""
    with editing(context, author, f"Made matrix {body.name} from the plan") as work:
        show = str(work.show.id)
        plan = rows.record_of(work.get("plan", str(body.plan)))
        items = {item["id"]: item for item in plan["items"] if item["kind"] == "fixture"}
        chosen = choose(show, body.selection).cells
        modes = Modes(rows.all_of("profile", show))
        by_id = {one["id"]: one for one in rows.all_of("fixture", show)}
        spots: list[Spot] = []
        wanted = [key for key in chosen if key.fixture in items]
        faces: dict[str, list[tuple[float, float]]] = {}
        for key in wanted:
            if key.fixture not in faces:
                mode = modes.of(by_id[key.fixture])
                faces[key.fixture] = [_world(items[key.fixture], point) for point in _face(mode)] if mode else []
            points = faces[key.fixture]
            if int(key.cell) <= len(points):
                x, y = points[int(key.cell) - 1]
                spots.append(Spot(key, x, -y))  # the plan counts up, a matrix down
        if not spots:
            raise InputError(
                f"None of these cells is on the plan {plan['name']}.",
                where="selection",
                repair="Place their fixtures on it at the Rig first.",
            )
        return _made(work, str(body.id), body.name, lay(spots, body.square), len(chosen) - len(spots))


@router.post("/line", status_code=201)
def line_of(body: schemas.LineOf, context: ContextOf, author: AuthorOf) -> schemas.MadeMatrix:
    """A selection without a matrix becomes a matrix of one line at once."""
    with editing(context, author, f"Made a line of {body.selection}"[:120]) as work:
        cells = cells_of(str(work.show.id), body.selection)
        check_size(len(cells), 1)
        placements = [Placement(key, float(n), 0.0) for n, key in enumerate(cells)]
        name = body.name or f"{body.selection.strip()} line"[:120]
        return _made(work, str(body.id), name, Laid(len(cells), 1, placements, 1.0), 0)


@router.post("/svg", status_code=201)
def from_svg(
    context: ContextOf,
    author: AuthorOf,
    id: Annotated[UUID, Form()],
    name: Annotated[str, Form(min_length=1, max_length=120)],
    file: UploadFile,
    selection: Annotated[str, Form(max_length=500)] = "all",
) -> schemas.MadeMatrix:
    """A matrix of a drawing: shapes named by `data-cell` are those cells, others the selection's in their order."""
    said = (file.filename or "drawing")[-80:]
    with received(file.file, files_folder(context), BYTES_MAX, said) as path:
        drawn = [Drawn(**one) for one in read_outside("svg", said, path=str(path))]
    with editing(context, author, f"Made matrix {name} from a drawing") as work:
        show = str(work.show.id)
        named = cells_by_number(show)
        rest = iter(cells_of(show, selection))
        taken: set[CellKey] = set()
        spots = []
        left = 0
        for number, one in enumerate(drawn, start=1):
            key = _named(one.cell, named, number) if one.cell else next((k for k in rest if k not in taken), None)
            if key is None:
                left += 1
                continue
            if key in taken:
                raise InputError(
                    f"Shape {number} of the drawing is cell {one.cell}, as an earlier one is.", where="file"
                )
            taken.add(key)
            spots.append(Spot(key, one.x, one.y, one.w, one.h))
        if left:
            raise InputError(
                f"The drawing has {len(drawn)} shapes, the selection {len(drawn) - left} cells.",
                where="selection",
                repair="Choose as many cells as it has shapes, or take shapes away.",
            )
        return _made(work, str(id), name, lay(spots), len(cells_of(show, selection)) - len(spots))


@router.post("/{matrix_id}/squares.svg")
def squares_as_svg(matrix_id: str) -> Response:
    """The arrangement as a drawing: a rectangle for each cell, named by `data-cell`."""
    matrix, says = shown_matrix(matrix_id)
    text = write_svg(unpack(matrix["placements"]), matrix["width"], matrix["height"], matrix["name"], says)
    headers = {"content-disposition": 'attachment; filename="squares.svg"'}
    return Response(text, media_type="image/svg+xml", headers=headers)


@router.post("/{matrix_id}/free")
def place_freely(matrix_id: str, body: schemas.PlaceFreely, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Lets a cell cover several squares, or stand between them: it averages what it covers."""
    with editing(context, author, "Placed a cell freely") as work:
        key, row = arranged(work, matrix_id)
        cell = CellKey(str(body.cell.fixture), body.cell.cell)
        if body.x + body.w > row["width"] or body.y + body.h > row["height"]:
            raise InputError(
                f"From {body.x + 1:g}, {body.y + 1:g} on {body.w:g} x {body.h:g} squares go off the matrix of "
                f"{row['width']} x {row['height']}.",
                where="place",
                repair="Make the matrix larger first.",
            )
        one = Placement(cell, body.x, body.y, body.w, body.h)
        others = [p for p in unpack(row["placements"]) if p.key != cell]
        if one.is_aligned and any(p.is_aligned and p.square == one.square for p in others):
            raise InputError("That square is taken.", where="place", repair="Drop it on an empty one.")
        if cell not in cells_of(str(work.show.id), "all"):
            raise NotFoundError("There is no such cell.", where="cell")
        work.update("matrix", key, {"placements": pack([*others, one])})
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/share")
def share(matrix_id: str, body: schemas.Share, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """From now on it uses another matrix's arrangement, or again one of its own that begins as it is now."""
    with editing(
        context, author, "Shared an arrangement" if body.like else "Gave a matrix its own arrangement"
    ) as work:
        row = rows.record_of(work.get("matrix", matrix_id))
        if body.like is None:
            _, shared = arranged(work, matrix_id)
            kept = {name: shared[name] for name in rows.ARRANGEMENT}
            work.update("matrix", matrix_id, {**kept, "shares": ""})
            return schemas.Done(revision=work.revision)
        source, _ = arranged(work, str(body.like))
        if source == matrix_id:
            raise InputError(f"{row['name']} cannot use its own arrangement through another.", where="like")
        followers = [one for one in rows.all_of("matrix", str(work.show.id)) if one["shares"] == matrix_id]
        for one in followers:  # they go on sharing, with the same matrix as this one
            work.update("matrix", one["id"], {"shares": source})
        work.update("matrix", matrix_id, {"shares": source})
        return schemas.Done(revision=work.revision)


def _made(work: Work, key: str, name: str, laid: Laid, left_out: int) -> schemas.MadeMatrix:
    place = rows.next_place("matrix", str(work.show.id))
    columns = {"name": name, "width": laid.width, "height": laid.height, "placements": pack(laid.placements)}
    work.insert("matrix", [(key, {**columns, "place": place})])
    return schemas.MadeMatrix(
        revision=work.revision,
        width=laid.width,
        height=laid.height,
        cells=len(laid.placements),
        free=sum(not one.is_aligned for one in laid.placements),
        left_out=left_out,
    )


def _named(text: str, named: dict[tuple[int, int], CellKey], number: int) -> CellKey:
    fixture, _, cell = text.partition(":")
    found = named.get((int(fixture), int(cell or 1))) if fixture.isdigit() and (cell or "1").isdigit() else None
    if found is None:
        raise InputError(
            f"Shape {number} of the drawing is called '{text[:40]}': there is no such cell.",
            where="file",
            repair='Cells are called "101:5".',
        )
    return found


def _face(mode: Mode) -> list[tuple[float, float]]:
    """Cells on a fixture's face of 1 x 1, y down; blocks share it from top to bottom, as the plan draws them."""
    blocks = [block for block in mode.blocks if block.cell_count]
    return [
        (float(x), (index + float(y)) / len(blocks))
        for index, block in enumerate(blocks)
        for x, y in cell_points(block.layout, block.cell_count)
    ]


def _world(item: Record, point: tuple[float, float]) -> tuple[float, float]:
    """Where a point of the face lies, in metres, y up."""
    x = (point[0] - 0.5) * item["w"] * (-1 if item["mirrored"] else 1)
    y = (0.5 - point[1]) * item["h"]
    turn = math.radians(item["turn"])
    return item["x"] + x * math.cos(turn) - y * math.sin(turn), item["y"] + x * math.sin(turn) + y * math.cos(turn)
