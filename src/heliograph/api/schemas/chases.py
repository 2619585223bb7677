"""Chases: what is asked of them and how they are shown."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict
from heliograph.api.schemas.moving import Word
from heliograph.core.look.chase import FRAME_MOST, FRAMES_MAX
from heliograph.core.look.drawn import Tool

Time = Annotated[float, Field(ge=0.0, le=FRAME_MOST)]
FrameId = Annotated[str, Field(pattern=r"^[0-9a-z]{1,32}$")]
"""Names a frame within its chase: it stays the same wherever the frame stands."""

Frames = Annotated[list[FrameId], Field(min_length=1, max_length=FRAMES_MAX)]
After = Annotated[str, Field(pattern=r"^[0-9a-z]{0,32}$")]
"""The frame that others come behind, "" for none: they are the first then."""

Unit = Literal["s", "beat"]
Square = tuple[int, int]
"""Column and row from 0."""

Byte = Annotated[int, Field(ge=0, le=255)]


class NewChase(Strict):
    """Drawn on one of a matrix, a group, or what a typed selection means (each cell a square of one row)."""

    id: UUID
    name: Name
    matrix: UUID | None = None
    group: UUID | None = None
    selection: Word = ""


class ChaseCopy(Strict):
    id: UUID


class ChasePatch(Strict):
    """Its name, or the unit that its times count in."""

    name: Name | None = None
    unit: Unit | None = None
    rev: int | None = None


class Draw(Strict):
    """A tool on squares of a frame, in the order in which they were touched; `colour` None is clear."""

    frame: FrameId
    tool: Tool
    squares: list[Square] = Field(default_factory=list, max_length=50_000)
    colour: tuple[Byte, Byte, Byte] | None = None
    rev: int | None = None


class DrawTyped(Strict):
    """ "515-517 = amber": colours of cells of a frame, as they are typed."""

    frame: FrameId
    text: Word
    rev: int | None = None


class SetTimes(Strict):
    """Of chosen frames, in the chase's unit."""

    do: Literal["times"]
    frames: Frames
    fade: Time | None = None
    hold: Time | None = None
    rev: int | None = None


class SpreadFrames(Strict):
    """The chosen frames last so long together."""

    do: Literal["spread"]
    frames: Frames
    length: float = Field(gt=0.0, le=FRAME_MOST * 100)
    rev: int | None = None


class Paste(Strict):
    """Copies of frames, of this chase or of another, behind one; `moved`: they leave the place where they were."""

    do: Literal["paste"]
    frames: Frames
    source: UUID | None = None
    after: After
    moved: bool = False
    rev: int | None = None


class InsertFrame(Strict):
    """A frame behind one: clear, or what is sent now."""

    do: Literal["insert", "take"]
    after: After
    rev: int | None = None


class OfFrames(Strict):
    do: Literal["delete", "reverse"]
    frames: Frames
    rev: int | None = None


FrameEdit = Annotated[SetTimes | SpreadFrames | Paste | InsertFrame | OfFrames, Field(discriminator="do")]


class Unroll(Strict):
    """A line of a look, or all of it (no line), becomes frames over one cycle: `count` of them, None for the line's own
    number."""

    id: UUID
    look: UUID
    line: UUID | None = None
    count: int | None = Field(None, ge=1, le=FRAMES_MAX)


class UnrollOffer(BaseModel):
    """What unrolling would make: so many frames over `length` (in `unit`) on `over`, by its name. `own`: that is the
    line's own number."""

    count: int
    length: float
    unit: Unit
    own: bool
    over: str


class FrameSets(BaseModel):
    """What a frame sets of an attribute, as it was typed."""

    attribute: str
    word: str
    text: str


class FrameView(BaseModel):
    """`picture` names what is drawn: GET /api/chases/{id}/pictures/{picture} is it."""

    id: str
    fade: float
    hold: float
    picture: str
    sets: list[FrameSets] = Field(default_factory=list)


class ChaseView(BaseModel):
    """`canvas`: the id of what it is drawn on. `length`: of all frames, each once, in its unit. `lines`: ids of looks'
    lines that show it; `used_by`: those looks and lines in words."""

    id: str
    rev: int
    place: int
    name: str
    matrix: str
    group: str
    selection: str
    canvas: str
    columns: int
    rows: int
    unit: Unit
    frames: list[FrameView]
    length: float
    origin: str
    used_by: list[str]
