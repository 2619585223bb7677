"""Matrices: making, weaving, exchanging squares, the tray of cells not placed."""

from __future__ import annotations

from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.choosing import choose
from heliograph.api.edits import AuthorOf, ContextOf, editing, only_given
from heliograph.core.errors import InputError
from heliograph.core.matrix import (
    CellKey,
    Placement,
    check_placements,
    check_size,
    exchange,
    pack,
    unpack,
)
from heliograph.core.weaving import Board, Weave, parse_skip, place, say
from heliograph.store import rows
from heliograph.store.database import connected
from heliograph.store.journal import Work

router = APIRouter(prefix="/api/matrices", tags=["matrices"])

SQUARES_SHOWN = 20_000


@router.post("", status_code=201)
def add_matrix(body: schemas.NewMatrix, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """An empty matrix, or one woven at once."""
    check_size(body.width, body.height)
    with editing(context, author, f"Added matrix {body.name}") as work:
        show = str(work.show.id)
        placements = _woven(show, body.weave) if body.weave else []
        check_placements(placements, body.width, body.height)
        columns = {"name": body.name, "width": body.width, "height": body.height, "placements": pack(placements)}
        work.insert("matrix", [(str(body.id), {**columns, "place": rows.next_place("matrix", show)})])
        return schemas.Done(revision=work.revision)


@router.patch("/{matrix_id}")
def change_matrix(matrix_id: str, body: schemas.MatrixPatch, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Name and size. A smaller size that would drop cells is refused."""
    given = only_given(body.model_dump())
    with editing(context, author, f"Changed {' and '.join(given)} of a matrix") as work:
        row = _row(work, matrix_id)
        width, height = body.width or row["width"], body.height or row["height"]
        if body.width is not None or body.height is not None:
            check_size(*(v if v is not None else o for v, o in ((body.width, width), (body.height, height))))
            check_placements(unpack(row["placements"]), width, height)
        work.update("matrix", matrix_id, given, body.rev)
        return schemas.Done(revision=work.revision)


@router.post("/say")
def say_weave(body: schemas.WeaveBody) -> schemas.WeaveSaid:
    """What a weave would do, in a sentence and square by square. Changes nothing."""
    with connected():
        try:
            cells = _cells(rows.running_show()["id"], body.selection)
            woven = weave_of(body)
            placed = place(cells, woven)
        except InputError as error:
            return schemas.WeaveSaid(cells=0, squares=[], sentence="", problem=error.what, repair=error.repair)
    squares = [one.square for one in placed[:SQUARES_SHOWN]]
    return schemas.WeaveSaid(cells=len(cells), squares=squares, sentence=say(len(cells), woven), problem="", repair="")


@router.post("/{matrix_id}/weave")
def weave_matrix(matrix_id: str, body: schemas.WeaveBody, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Places a selection anew, replacing what stands on the matrix."""
    with editing(context, author, "Wove a matrix") as work:
        placements = _woven(str(work.show.id), body)
        work.update("matrix", matrix_id, {"width": body.width, "height": body.height, "placements": pack(placements)})
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/exchange")
def exchange_squares(matrix_id: str, body: schemas.Exchange, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Exchanges two squares; one of them may be empty."""
    with editing(context, author, f"Exchanged squares {_say(body.a)} and {_say(body.b)}") as work:
        row = _row(work, matrix_id)
        for square in (body.a, body.b):
            _check_square(row, square)
        moved = exchange(unpack(row["placements"]), body.a, body.b)
        work.update("matrix", matrix_id, {"placements": pack(moved)})
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/place")
def place_cell(matrix_id: str, body: schemas.PlaceCell, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Puts a cell from the tray on an empty square, or moves one that stands on the matrix."""
    with editing(context, author, f"Placed a cell on {_say(body.to)}") as work:
        row = _row(work, matrix_id)
        _check_square(row, body.to)
        key = CellKey(str(body.cell.fixture), body.cell.cell)
        placements = [one for one in unpack(row["placements"]) if one.key != key]
        if any(one.square == body.to for one in placements):
            raise InputError(f"Square {_say(body.to)} is taken.", where="to", repair="Drop it on an empty one.")
        if key not in _cells(str(work.show.id), "all"):
            raise InputError("There is no such cell.", where="cell")
        placements.append(Placement(key, float(body.to[0]), float(body.to[1])))
        work.update("matrix", matrix_id, {"placements": pack(placements)})
        return schemas.Done(revision=work.revision)


@router.post("/{matrix_id}/lift")
def lift_cells(matrix_id: str, body: schemas.Lift, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Puts what stands on these squares back into the tray."""
    gone = set(body.squares)
    with editing(context, author, f"Took {len(gone)} cells off a matrix") as work:
        row = _row(work, matrix_id)
        kept = [one for one in unpack(row["placements"]) if one.square not in gone]
        work.update("matrix", matrix_id, {"placements": pack(kept)})
        return schemas.Done(revision=work.revision)


@router.delete("/{matrix_id}")
def delete_matrix(matrix_id: str, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Refused while a look paints on it."""
    with editing(context, author, "Deleted a matrix") as work:
        users = [
            look["name"]
            for look in rows.all_of("look", str(work.show.id))
            if any(layer["matrix"] == matrix_id for layer in look["layers"])
        ]
        if users:
            raise InputError(
                f"{' and '.join(users)} paints on this matrix.", where="matrix", repair="Move its layers first."
            )
        work.delete("matrix", matrix_id)
        return schemas.Done(revision=work.revision)


def _row(work: Work, matrix_id: str) -> dict[str, Any]:
    return rows.record_of(work.get("matrix", matrix_id))


def _say(square: tuple[int, int]) -> str:
    """Squares are counted from 1 on the screen."""
    return f"{square[0] + 1}, {square[1] + 1}"


def _check_square(row: dict[str, Any], square: tuple[int, int]) -> None:
    if not (0 <= square[0] < row["width"] and 0 <= square[1] < row["height"]):
        raise InputError(f"Square {_say(square)} is off the matrix of {row['width']} x {row['height']}.", where="to")


def _woven(show_id: str, body: schemas.WeaveBody) -> list[Placement]:
    return place(_cells(show_id, body.selection), weave_of(body))


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


def _cells(show_id: str, selection: str) -> list[CellKey]:
    cells = list(choose(show_id, selection).cells)
    if not cells:
        raise InputError("The selection has no cells.", where="selection", repair="Add fixtures at the Rig first.")
    return cells
