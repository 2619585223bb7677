"""Matrices and weaves."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Square, Strict


class Packed(BaseModel):
    """Placements: tables of fixtures and cell names, and float32 (n, 6) base64, see core/matrix/placements.py."""

    fixtures: list[str]
    cells: list[str]
    packed: str


class MatrixView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    width: int
    height: int
    placements: Packed
    shares: str = ""
    """The matrix whose arrangement it uses, "" its own."""
    emitter: str = ""
    """Of a group or a selection that is about one emitter: its word."""


CornerName = Literal["top left", "top right", "bottom left", "bottom right"]
Lines = Annotated[int, Field(ge=0, le=250_000)]


class BoardBody(Strict):
    """A block of squares with an order of its own, repeated over the matrix."""

    width: int = Field(ge=1, le=250_000)
    height: int = Field(ge=1, le=250_000)
    corner: CornerName = "top left"
    along: Literal["rows", "columns"] = "rows"
    snake: Lines = 0


class WeaveBody(Strict):
    """How a selection is laid on `width` x `height` squares. `snake`: turns back every so many lines, 0 never.
    `gap_columns`, `gap_rows`: one stays empty after every so many (boards, where one repeats), 0 none. `skip`: squares
    along the way that are left out, "5, 9-12". `flip`: mirrored left to right, then `turn`: clockwise, in degrees.
    """

    selection: str = Field("all", max_length=500)
    width: int
    height: int
    corner: CornerName = "top left"
    along: Literal["rows", "columns"] = "rows"
    snake: Lines = 0
    gap_columns: Lines = 0
    gap_rows: Lines = 0
    skip: str = Field("", max_length=2_000)
    board: BoardBody | None = None
    flip: bool = False
    turn: Literal[0, 90, 180, 270] = 0


class AskedWeave(WeaveBody):
    """`matrix`: the one that would be woven anew."""

    matrix: UUID | None = None


class NewMatrix(Strict):
    id: UUID
    name: Name
    width: int
    height: int
    weave: WeaveBody | None = None


class MatrixPatch(Strict):
    name: Name | None = None
    width: int | None = None
    height: int | None = None
    rev: int | None = None


class Exchange(Strict):
    a: Square
    b: Square
    rev: int | None = None


class Arrange(Strict):
    """What to do with a matrix. `axis`: for mirror. `line`, `index` (from 0): of what is shifted, opened or closed;
    `by`: squares a line moves along."""

    do: Literal["mirror", "shift", "open gap", "close gap"]
    axis: Literal["left to right", "top to bottom"] = "left to right"
    line: Literal["row", "column"] = "row"
    index: int = Field(0, ge=0, le=250_000)
    by: int = Field(1, ge=-250_000, le=250_000)


class CopyMatrix(Strict):
    id: UUID
    name: Name


class SquareSheet(Strict):
    """Squares typed as numbers, row by row from square `at` (x, y)."""

    text: str = Field(max_length=4_000_000)
    at: Square = (0, 0)


class CellBody(Strict):
    fixture: UUID
    cell: str = Field(max_length=40)


class PlaceCell(Strict):
    cell: CellBody
    to: Square
    rev: int | None = None


class PlaceFreely(Strict):
    """Where a cell stands and how much it covers, in squares from the top left; not bound to whole squares."""

    cell: CellBody
    x: float = Field(ge=0, le=250_000)
    y: float = Field(ge=0, le=250_000)
    w: float = Field(1.0, gt=0, le=250_000)
    h: float = Field(1.0, gt=0, le=250_000)


class Share(Strict):
    """`like`: the matrix whose arrangement it uses from now on; None: its own, as it is now."""

    like: UUID | None


class FromPlan(Strict):
    """`square`: how long a square is, in metres; None: the usual distance from one cell to the next."""

    id: UUID
    name: Name
    plan: UUID
    selection: str = Field("all", max_length=500)
    square: float | None = Field(None, gt=0, le=1000)


class LineOf(Strict):
    """A selection as one line, in its own order. Without a `name` it is called after what was typed."""

    id: UUID
    selection: str = Field(min_length=1, max_length=500)
    name: Name | None = None


class MadeMatrix(BaseModel):
    """`free`: cells that do not fall on whole squares; `left_out`: cells that had no place."""

    revision: int
    width: int
    height: int
    cells: int
    free: int
    left_out: int


class Lift(Strict):
    """What stands on `squares`, and `cells` wherever they stand."""

    squares: list[Square] = Field(default_factory=list, max_length=250_000)
    cells: list[CellBody] = Field(default_factory=list, max_length=250_000)
    rev: int | None = None


class WovenView(BaseModel):
    """`known`: it was woven so, or lies so; else this is only where to begin."""

    weave: WeaveBody
    known: bool


class TrayRun(BaseModel):
    """Cells `first` to `last` of a fixture that stand on no square."""

    fixture: str
    first: int
    last: int


class WeaveSaid(BaseModel):
    """`sentence` says what the weave does; `problem` why it cannot be done, "" if it can. `squares`: x, y of the
    cells in the order of their wiring, of at most 20,000. `moved`: cells of the matrix it would move, place or take
    off; -1 where no matrix was named."""

    moved: int

    cells: int
    squares: list[Square]
    sentence: str
    problem: str
    repair: str
