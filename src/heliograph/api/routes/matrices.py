"""Matrices: making, weaving, exchanging squares, the tray of cells not placed."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from fastapi import APIRouter, Response

from heliograph.api import schemas
from heliograph.api.choosing import choose
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.matrix.arranging import (
    gap_closed,
    gap_opened,
    mirrored,
    placed_as_typed,
    read_sheet,
    sheet_of,
    shifted,
)
from heliograph.core.matrix.placements import (
    CellKey,
    Placement,
    check_size,
    exchange,
    pack,
    unpack,
)
from heliograph.core.matrix.weaving import Board, Weave, parse_skip, place
from heliograph.edits.deleting import delete
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import Work

router = APIRouter(prefix="/api/matrices", tags=["matrices"])

SQUARES_SHOWN = 20_000

_ARRANGED = {
    "mirror": "Mirrored the squares",
    "shift": "Moved a line",
    "open gap": "Opened a gap",
    "close gap": "Closed a gap",
}


@router.post("", status_code=201)
def add_matrix(body: schemas.NewMatrix, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """An empty matrix, or one woven at once."""
    check_size(body.width, body.height)
    with editing(context, author, f"Added matrix {body.name}") as work:
        show = str(work.show.id)
        weave = body.weave
        if weave and (weave.width > body.width or weave.height > body.height):
            raise InputError(
                f"A weave of {weave.width} x {weave.height} is larger than the matrix of {body.width} x {body.height}.",
                where="weave",
            )
        placements = woven(show, weave) if weave else []
        columns = {"name": body.name, "width": body.width, "height": body.height, "placements": pack(placements)}
        columns["weave"] = weave.model_dump(mode="json") if weave else None
        work.insert("matrix", [(str(body.id), {**columns, "place": rows.next_place("matrix", show)})])
        return schemas.Done(revision=work.revision)


@router.patch("/{matrix_id}")
def change_matrix(matrix_id: str, body: schemas.MatrixPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Name and size. What stands off a smaller one waits there and is in the tray; made larger again, it is back."""
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a matrix") as work:
        key, row = arranged(work, matrix_id)
        width, height = body.width or row["width"], body.height or row["height"]
        if body.width is not None or body.height is not None:
            check_size(*(v if v is not None else o for v, o in ((body.width, width), (body.height, height))))
        if "name" in given:
            work.update("matrix", matrix_id, {"name": given.pop("name")}, body.rev)
        if given:
            work.update("matrix", key, given, body.rev if key == matrix_id else None)
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/exchange")
def exchange_squares(matrix_id: str, body: schemas.Exchange, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Exchanges two squares; one of them may be empty."""
    with editing(context, author, f"Exchanged squares {_say(body.a)} and {_say(body.b)}") as work:
        key, row = arranged(work, matrix_id)
        for square in (body.a, body.b):
            _check_square(row, square)
        moved = exchange(unpack(row["placements"]), body.a, body.b)
        work.update("matrix", key, {"placements": pack(moved)})
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/place")
def place_cell(matrix_id: str, body: schemas.PlaceCell, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Puts a cell from the tray on an empty square, or moves one that stands on the matrix."""
    with editing(context, author, f"Placed a cell on {_say(body.to)}") as work:
        matrix_key, row = arranged(work, matrix_id)
        _check_square(row, body.to)
        key = CellKey(str(body.cell.fixture), body.cell.cell)
        placements = [one for one in unpack(row["placements"]) if one.key != key]
        if any(one.is_aligned and one.square == body.to for one in placements):
            raise InputError(f"Square {_say(body.to)} is taken.", where="to", repair="Drop it on an empty one.")
        if key not in cells_of(str(work.show.id), "all"):
            raise InputError("There is no such cell.", where="cell")
        placements.append(Placement(key, float(body.to[0]), float(body.to[1])))
        work.update("matrix", matrix_key, {"placements": pack(placements)})
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/lift")
def lift_cells(matrix_id: str, body: schemas.Lift, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Puts what stands on these squares back into the tray."""
    gone = set(body.squares)
    cells = {CellKey(str(one.fixture), one.cell) for one in body.cells}
    if not gone and not cells:
        raise InputError("Nothing was chosen.", where="squares")
    with editing(context, author, f"Took {len(gone) + len(cells)} cells off a matrix") as work:
        key, row = arranged(work, matrix_id)
        kept = [one for one in unpack(row["placements"]) if one.square not in gone and one.key not in cells]
        work.update("matrix", key, {"placements": pack(kept)})
        return schemas.Done(revision=work.revision)


@router.delete("/{matrix_id}")
def delete_matrix(matrix_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Refused while a look paints on it."""
    with editing(context, author, "Deleted a matrix") as work:
        delete(work, "matrix", [matrix_id])
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/arrange")
def arrange(matrix_id: str, body: schemas.Arrange, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Mirrors the matrix, moves one of its lines along, opens or closes a gap."""
    with editing(context, author, f"{_ARRANGED[body.do]} of a matrix") as work:
        key, row = arranged(work, matrix_id)
        width, height = row["width"], row["height"]
        placements = unpack(row["placements"])
        match body.do:
            case "mirror":
                placements = mirrored(placements, width, height, body.axis)
            case "shift":
                placements = shifted(placements, width, height, body.line, body.index, body.by)
            case "open gap":
                placements = gap_opened(placements, body.line, body.index)
            case _:
                placements = gap_closed(placements, body.line, body.index)
        if body.do in ("open gap", "close gap"):
            more = 1 if body.do == "open gap" else -1
            width, height = (width, height + more) if body.line == "row" else (width + more, height)
            check_size(width, height)
        work.update("matrix", key, {"width": width, "height": height, "placements": pack(placements)})
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/copy", status_code=201)
def copy_matrix(matrix_id: str, body: schemas.CopyMatrix, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Another matrix over the same cells, arranged alike to begin with."""
    with editing(context, author, "Copied a matrix") as work:
        _, row = arranged(work, matrix_id)
        show = str(work.show.id)
        columns = {k: row[k] for k in ("width", "height", "placements")}
        work.insert(
            "matrix", [(str(body.id), {**columns, "name": body.name, "place": rows.next_place("matrix", show)})]
        )
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/squares.csv")
def squares_as_sheet(matrix_id: str) -> Response:
    """The squares row by row, each as "101:5"."""
    matrix, says = shown_matrix(matrix_id)
    text = sheet_of(unpack(matrix["placements"]), matrix["width"], matrix["height"], says)
    return Response(text, media_type="text/csv", headers={"content-disposition": 'attachment; filename="squares.csv"'})


def shown_matrix(matrix_id: str) -> tuple[dict[str, Any], Callable[[Placement], str]]:
    """A matrix of the running show, and how its cells are written: "101:5"."""
    with connected():
        show = rows.running_show()
        matrix = next((one for one in rows.all_of("matrix", show["id"]) if one["id"] == matrix_id), None)
        numbers = {one["id"]: one["number"] for one in rows.all_of("fixture", show["id"])}
    if matrix is None:
        raise NotFoundError("There is no such matrix.", where="matrix")
    return matrix, lambda one: f"{numbers.get(one.key.fixture, 0)}:{one.key.cell}"


@router.post("/{matrix_id}/squares")
def place_sheet(matrix_id: str, body: schemas.SquareSheet, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Squares typed as numbers ("101:5", or "101" for its first cell), row by row from a square; all or nothing.

    An empty square leaves what stands there; "-" puts it into the tray. The matrix grows where it has to.
    """
    typed = read_sheet(body.text)
    with editing(context, author, "Placed squares by their numbers") as work:
        key, row = arranged(work, matrix_id)
        placements = placed_as_typed(unpack(row["placements"]), typed, body.at, cells_by_number(str(work.show.id)))
        width = max(row["width"], body.at[0] + max(map(len, typed)))
        height = max(row["height"], body.at[1] + len(typed))
        check_size(width, height)
        work.update("matrix", key, {"width": width, "height": height, "placements": pack(placements)})
        return schemas.Done(revision=work.revision)


def cells_by_number(show_id: str) -> dict[tuple[int, int], CellKey]:
    """(fixture number, cell) -> the cell, of everything there is."""
    numbers = {one["id"]: one["number"] for one in rows.all_of("fixture", show_id)}
    return {(numbers[key.fixture], int(key.cell)): key for key in choose(show_id, "all").cells}


def arranged(work: Work, matrix_id: str) -> tuple[str, dict[str, Any]]:
    """The matrix whose arrangement this one uses, its own or a shared one: its id and its row."""
    row = rows.record_of(work.get("matrix", matrix_id))
    if row["shares"]:
        return row["shares"], rows.record_of(work.get("matrix", row["shares"]))
    return matrix_id, row


def _say(square: tuple[int, int]) -> str:
    """Squares are counted from 1 on the screen."""
    return f"{square[0] + 1}, {square[1] + 1}"


def _check_square(row: dict[str, Any], square: tuple[int, int]) -> None:
    if not (0 <= square[0] < row["width"] and 0 <= square[1] < row["height"]):
        raise InputError(f"Square {_say(square)} is off the matrix of {row['width']} x {row['height']}.", where="to")


def woven(show_id: str, body: schemas.WeaveBody) -> list[Placement]:
    return place(cells_of(show_id, body.selection), weave_of(body))


def weave_of(body: schemas.WeaveBody) -> Weave:
    """The weave a body describes; raises InputError for squares to skip that cannot be read."""
    board = body.board
    return Weave(
        body.width,
        body.height,
        body.corner,
        body.along,
        body.snake,
        body.gap_columns,
        body.gap_rows,
        parse_skip(body.skip),
        Board(board.width, board.height, board.corner, board.along, board.snake) if board else None,
        body.flip,
        body.turn,
    )


def cells_of(show_id: str, selection: str) -> list[CellKey]:
    cells = list(choose(show_id, selection).cells)
    if not cells:
        raise InputError("The selection has no cells.", where="selection", repair="Add fixtures at the Rig first.")
    return cells
