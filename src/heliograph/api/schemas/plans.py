"""Plans: where things really are, in metres."""

from __future__ import annotations

from typing import Annotated, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict

METRES_MAX = 10_000
Metres = Annotated[float, Field(ge=-METRES_MAX, le=METRES_MAX, allow_inf_nan=False)]
Size = Annotated[float, Field(gt=0, le=METRES_MAX, allow_inf_nan=False)]


class PlanItem(Strict):
    """Something on a plan. `id`: of its fixture, or its own. `x`, `y`: its middle in metres, x to the right, y up.
    `turn`: degrees, counter-clockwise. `w`, `h`: of its face, before it is turned. `text`: of a label; a node's
    address."""

    id: UUID
    kind: Literal["fixture", "label", "node"]
    x: Metres
    y: Metres
    turn: Annotated[float, Field(ge=-3600, le=3600, allow_inf_nan=False)] = 0.0
    w: Size = 0.2
    h: Size = 0.2
    mirrored: bool = False
    text: str = Field("", max_length=200)


class NewPlan(Strict):
    id: UUID
    name: Name


class PlanPatch(Strict):
    name: Name | None = None
    picture_width_m: Size | None = None
    picture_height_m: Size | None = None
    picture_x: Metres | None = None
    picture_y: Metres | None = None
    rev: int | None = None


class PlanItems(Strict):
    """`put`: items as they shall be, new or moved. `remove`: ids that leave the plan. One edit, called `label`."""

    put: list[PlanItem] = Field(default_factory=list, max_length=20_000)
    remove: list[UUID] = Field(default_factory=list, max_length=20_000)
    label: str = Field("Moved on the plan", max_length=80)


PlanPoint = tuple[Metres, Metres]
ItemIds = Annotated[list[UUID], Field(min_length=1, max_length=20_000)]


class DrawnOut(Strict):
    """Fixtures in a row or as tiles from one point to another, or in a ring around the first through the second."""

    how: Literal["row", "grid", "ring"]
    start: PlanPoint
    end: PlanPoint


class Aligned(Strict):
    how: Literal["align"]
    edge: Literal["left", "right", "top", "bottom", "middle", "centre"]


class Spread(Strict):
    how: Literal["spread"]
    axis: Literal["x", "y"]


class Turned(Strict):
    """Together, counter-clockwise."""

    how: Literal["turn"]
    degrees: Annotated[float, Field(ge=-3600, le=3600, allow_inf_nan=False)]


class Mirrored(Strict):
    how: Literal["mirror"]


class Below(Strict):
    """Under everything that is there."""

    how: Literal["below"]


Way = DrawnOut | Aligned | Spread | Turned | Mirrored | Below


class Arrangement(Strict):
    """`items`: in the order in which they are arranged; fixtures that are not on the plan come onto it."""

    items: ItemIds
    arrange: Annotated[Way, Field(discriminator="how")]


class PlanView(BaseModel):
    id: str
    rev: int
    place: int
    name: str
    items: list[PlanItem]
    picture: str
    picture_width_m: float
    picture_height_m: float
    picture_x: float
    picture_y: float
