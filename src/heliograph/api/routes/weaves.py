"""Weaves of matrices: what one would do, how a matrix was woven, weaving it anew."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from fastapi import APIRouter

from heliograph.api import schemas
from heliograph.api.choosing import choose
from heliograph.api.edits import AuthorOf, ContextOf, editing
from heliograph.api.routes.matrices import SQUARES_SHOWN, arranged, cells_of, weave_of, woven
from heliograph.api.views import Modes
from heliograph.core.errors import InputError, NotFoundError
from heliograph.core.matrix.placements import pack, unpack, within
from heliograph.core.matrix.tray import runs_left
from heliograph.core.matrix.weaving import Weave, place, say
from heliograph.core.matrix.woven import moved_by, numbers_as_selection, read_weave
from heliograph.store import rows
from heliograph.store.database import connected

router = APIRouter(prefix="/api/matrices", tags=["matrices"])


@router.post("/say")
def say_weave(body: schemas.AskedWeave) -> schemas.WeaveSaid:
    """What a weave would do, in a sentence and square by square. Changes nothing."""
    with connected():
        try:
            show = rows.running_show()["id"]
            cells = cells_of(show, body.selection)
            weave = weave_of(body)
            placed = place(cells, weave)
        except InputError as error:
            return schemas.WeaveSaid(
                cells=0, squares=[], sentence="", moved=-1, problem=error.what, repair=error.repair
            )
        row = _shown(show, str(body.matrix)) if body.matrix else None
    squares = [one.square for one in placed[:SQUARES_SHOWN]]
    moved = -1
    if row is not None:
        same = (row["width"], row["height"]) == (body.width, body.height)
        moved = moved_by(unpack(row["placements"]), placed) or (0 if same else len(placed))
    return schemas.WeaveSaid(
        cells=len(cells), squares=squares, sentence=say(len(cells), weave), moved=moved, problem="", repair=""
    )


@router.get("/{matrix_id}/tray")
def in_tray(matrix_id: str) -> list[schemas.TrayRun]:
    """Cells that stand on no square of a matrix, as runs in the order of the rig."""
    with connected():
        show = rows.running_show()["id"]
        row = _shown(show, matrix_id)
        if row is None:
            raise NotFoundError("That matrix is gone.", where="matrix")
        modes, fixtures = Modes(rows.all_of("profile", show)), rows.all_of("fixture", show)
    placed: dict[str, list[int]] = {}
    for one in unpack(within(row["placements"], row["width"], row["height"])):
        placed.setdefault(one.key.fixture, []).append(int(one.key.cell))
    found = {fixture["id"]: modes.of(fixture) for fixture in fixtures}
    counts = [(key, mode.cell_count if mode else 0) for key, mode in found.items()]
    return [schemas.TrayRun(**asdict(one)) for one in runs_left(counts, placed)]


@router.get("/{matrix_id}/woven")
def how_woven(matrix_id: str) -> schemas.WovenView:
    """How the matrix was woven last; where that is not known, the weave its cells lie in, or where to begin."""
    with connected():
        show = rows.running_show()["id"]
        row = _shown(show, matrix_id)
        if row is None:
            raise NotFoundError("That matrix is gone.", where="matrix")
        if row["weave"]:
            return schemas.WovenView(weave=schemas.WeaveBody(**row["weave"]), known=True)
        placements = unpack(row["placements"])
        numbers = {one["id"]: one["number"] for one in rows.all_of("fixture", show)}
        there = [numbers[one.key.fixture] for one in placements if one.key.fixture in numbers]
        selection = numbers_as_selection(there) or "all"
        found = None
        if there:
            found = read_weave(choose(show, selection).cells, placements, row["width"], row["height"])
    weave = found or Weave(row["width"], row["height"])
    body = schemas.WeaveBody(
        selection=selection,
        width=weave.width,
        height=weave.height,
        corner=weave.corner,
        along=weave.along,
        snake=weave.snake,
        skip="",
    )
    return schemas.WovenView(weave=body, known=found is not None)


@router.post("/{matrix_id}/weave")
def weave_matrix(matrix_id: str, body: schemas.WeaveBody, context: ContextOf, author: AuthorOf) -> schemas.Done:
    """Places a selection anew, replacing what stands on the matrix."""
    with editing(context, author, "Wove a matrix") as work:
        key, _ = arranged(work, matrix_id)
        placements = woven(str(work.show.id), body)
        columns = {"width": body.width, "height": body.height, "placements": pack(placements)}
        work.update("matrix", key, {**columns, "weave": body.model_dump(mode="json")})
        return schemas.Done(revision=work.revision)


def _shown(show_id: str, matrix_id: str) -> dict[str, Any] | None:
    """The row of a matrix whose arrangement this one uses, its own or a shared one; None where it is gone."""
    found = {one["id"]: one for one in rows.all_of("matrix", show_id)}
    row = found.get(matrix_id)
    return found.get(row["shares"]) if row and row["shares"] else row
