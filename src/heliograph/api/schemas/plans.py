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
