"""Matrices and weaves."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Square, Strict


class Packed(BaseModel):
    """Placements: tables of fixtures and cell names, and float32 (n, 6) base64, see core/matrix.py."""

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


class WeaveBody(Strict):
    selection: str = Field("all", max_length=500)
    width: int
    height: int
    corner: Literal["top left", "top right", "bottom left", "bottom right"] = "top left"
    along: Literal["rows", "columns"] = "rows"
    snake: bool = False


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


class CellBody(Strict):
    fixture: UUID
    cell: str = Field(max_length=40)


class PlaceCell(Strict):
    cell: CellBody
    to: Square
    rev: int | None = None


class Lift(Strict):
    squares: list[Square] = Field(min_length=1, max_length=250_000)
    rev: int | None = None


class WeaveSaid(BaseModel):
    """`sentence` says what the weave does; `problem` why it cannot be done, "" if it can."""

    cells: int
    sentence: str
    problem: str
    repair: str
