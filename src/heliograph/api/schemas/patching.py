"""Automatic addressing, exchanging places, the patch doctor."""

from __future__ import annotations

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Strict
from heliograph.api.schemas.matrices import CornerName, Lines

Scheme = Literal["no split fixture", "no split pixel", "dense", "a universe each", "a universe a row", "node ports"]


class Walk(Strict):
    """A way over a matrix, square by square: the strand that fixtures get when they are addressed along it."""

    matrix: UUID
    corner: CornerName = "top left"
    along: Literal["rows", "columns"] = "rows"
    snake: Lines = 0


class PortsBody(Strict):
    """Ports of a node by the universes they get; so many fixtures hang on each, 0: spread evenly."""

    universes: list[Annotated[int, Field(ge=1, le=63999)]] = Field(max_length=2_048)
    every: int = Field(0, ge=0, le=512)


class Addressing(Strict):
    """New addresses for what `selection` says, in an order, by a scheme, counting on from `start`.

    `plan`: for order "plan", the first plan where it is left out. `walk`: for order "strand". `ports`: for scheme
    "node ports". A universe a row takes the rows of the walk or of the plan.
    """

    selection: str = Field("all", max_length=500)
    scheme: Scheme = "no split fixture"
    order: Literal["number", "address", "name", "plan", "strand"] = "number"
    start: str = Field("U1.1", max_length=40)
    plan: UUID | None = None
    walk: Walk | None = None
    ports: PortsBody | None = None


class MoveView(BaseModel):
    """`before` is "" where the fixture had no address."""

    fixture: str
    number: int
    name: str
    before: str
    address: str
    end: str


class AddressPlan(BaseModel):
    """Every fixture's old and new address; `changed` of them move. `problem` is why it cannot be done."""

    moves: list[MoveView]
    changed: int
    universes: int
    problem: str
    repair: str


class ExchangePlaces(Strict):
    a: UUID
    b: UUID


class SheetFaultView(BaseModel):
    """`row` counts lines from 1, the heading is 1."""

    row: int
    column: str
    sentence: str


class SheetAnswer(BaseModel):
    """What a patch sheet would do, or did: fixtures added and changed; nothing at all where there are faults."""

    added: int
    changed: int
    same: int
    faults: list[SheetFaultView]
    revision: int


class RepairView(BaseModel):
    """One click: a PATCH of `change` on a fixture or an output, the mending of a profile's mode, or what a walk
    found (`id` is the finding's key, see /api/findings/repair)."""

    label: str
    table: Literal["fixture", "output", "profile", "walk"]
    id: str
    change: dict[str, Any]


class FindingView(BaseModel):
    kind: str
    sentence: str
    universe: int
    fixture: str
    output: str
    repair: RepairView | None


class OutputReach(BaseModel):
    """What can be said of an output's receivers. `state`: "heard", "not heard", "silent", "unknown" or "off"."""

    output: str
    state: Literal["heard", "not heard", "silent", "unknown", "off"]
    says: str


class PortView(BaseModel):
    """A number a node listens to, and which of our universes come to it."""

    ip: str
    name: str
    protocol: str
    number: int
    universes: list[int]


class ReachView(BaseModel):
    """`clear`: what the patch doctor could check and what not, in sentences."""

    outputs: list[OutputReach]
    ports: list[PortView]
    clear: str
