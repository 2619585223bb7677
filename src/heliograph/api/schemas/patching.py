"""Automatic addressing, exchanging places, the patch doctor."""

from __future__ import annotations

from typing import Any, Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Strict


class Addressing(Strict):
    """New addresses for what `selection` says, in an order, by a scheme, counting on from `start`."""

    selection: str = Field("all", max_length=500)
    scheme: Literal["no split fixture", "dense", "a universe each"] = "no split fixture"
    order: Literal["number", "address", "name"] = "number"
    start: str = Field("U1.1", max_length=40)


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
    """One click: a PATCH of `change` on a fixture or an output."""

    label: str
    table: Literal["fixture", "output"]
    id: str
    change: dict[str, Any]


class FindingView(BaseModel):
    kind: str
    sentence: str
    universe: int
    fixture: str
    output: str
    repair: RepairView | None
