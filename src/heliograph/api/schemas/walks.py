"""Test walks, what was marked on them, and what that comes to."""

from __future__ import annotations

from typing import Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Square, Strict

WalkByName = Literal["fixture", "cell", "row", "column", "universe", "address", "emitter", "all", "number", "line"]
MarkName = Literal["good", "dark", "wrong place", "wrong colour"]
Seconds = float


class WalkStart(Strict):
    """Over a `matrix`, else over a typed `selection`; addresses also over a whole `universe`. `emitter`: a colour
    attribute, "" all. `alone`: everything else dark, else the show goes on around it. `seconds`: how long each
    step stays when it goes by itself, 0 by hand."""

    by: WalkByName
    matrix: UUID | None = None
    selection: str = Field("all", max_length=500)
    universe: int | None = Field(None, ge=1, le=63_999)
    emitter: str = Field("", max_length=60)
    level: float = Field(1.0, ge=0.0, le=1.0)
    alone: bool = True
    seconds: Seconds = Field(0.0, ge=0.0, le=3600.0)


class WalkPatch(Strict):
    emitter: str | None = Field(None, max_length=60)
    level: float | None = Field(None, ge=0.0, le=1.0)
    alone: bool | None = None
    seconds: Seconds | None = Field(None, ge=0.0, le=3600.0)
    hold: bool | None = None


class WalkGo(Strict):
    """One of: `to` a step from 0, `by` so many on or back (round the ends), the step that lights a cell."""

    to: int | None = Field(None, ge=0)
    by: int | None = Field(None, ge=-250_000, le=250_000)
    fixture: UUID | None = None
    cell: int = Field(0, ge=0, le=20_000)


class CellAt(BaseModel):
    fixture: str
    cell: int


class WalkView(BaseModel):
    """Where a walk is. `cells` at most 500, `squares` at most 20,000 of what is lit; `turn` counts its steps, so
    that a browser sees that it went on."""

    running: bool
    turn: int
    by: WalkByName = "fixture"
    matrix: str = ""
    over: str = ""
    index: int = 0
    count: int = 0
    label: str = ""
    place: str = ""
    before: str = ""
    after: str = ""
    cells: list[CellAt] = []
    squares: list[Square] = []
    emitter: str = ""
    level: float = 1.0
    alone: bool = True
    seconds: float = 0.0
    hold: bool = False
    blackout: bool = False


class MarkView(BaseModel):
    id: str
    rev: int
    place: int
    fixture: str
    cell: int
    kind: MarkName
    seen: dict[str, Any]


class NewMark(Strict):
    """Marks `cells`, or what the present step lights (a whole fixture as its cell 0). `onward`: and the cells after
    it in its fixture, as behind a dead pixel. `seen`: for a wrong place {"fixture", "cell"} of the lamp that lit;
    for a wrong colour {emitter lit: [emitters seen]}. `go`: then one step on."""

    kind: MarkName
    cells: list[tuple[UUID, int]] | None = Field(None, max_length=20_000)
    onward: bool = False
    seen: dict[str, Any] = Field(default_factory=dict, max_length=20)
    go: bool = False


class WalkRepairView(BaseModel):
    label: str


class WalkFinding(BaseModel):
    key: str
    kind: MarkName
    sentence: str
    marks: list[str]
    repairs: list[WalkRepairView]


class FindingRepair(Strict):
    key: str = Field(max_length=200)
    label: str = Field(max_length=300)
