"""Outputs, network cards, levels."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict


class OutputBody(Strict):
    """`first_number`: the protocol's own number of the first universe (Art-Net counts from 0, sACN from 1)."""

    name: Name
    protocol: Literal["artnet", "sacn"]
    mode: Literal["unicast", "broadcast", "multicast"]
    destination: str = Field("", max_length=253)
    card: str = Field("", max_length=40)
    first_universe: int = Field(1, ge=1, le=63999)
    count: int = Field(1, ge=1, le=32768)
    first_number: int = Field(0, ge=0, le=63999)
    priority: int = Field(100, ge=0, le=200)
    on: bool = True


class NewOutput(OutputBody):
    id: UUID


class OutputPatch(Strict):
    name: Name | None = None
    protocol: Literal["artnet", "sacn"] | None = None
    mode: Literal["unicast", "broadcast", "multicast"] | None = None
    destination: str | None = Field(None, max_length=253)
    card: str | None = Field(None, max_length=40)
    first_universe: int | None = Field(None, ge=1, le=63999)
    count: int | None = Field(None, ge=1, le=32768)
    first_number: int | None = Field(None, ge=0, le=63999)
    priority: int | None = Field(None, ge=0, le=200)
    on: bool | None = None
    rev: int | None = None


class OutputView(BaseModel):
    """`spelled_first`, `spelled_last`: the protocol's numbers in every counting."""

    id: str
    rev: int
    place: int
    name: str
    protocol: str
    mode: str
    destination: str
    address: str
    card: str
    first_universe: int
    count: int
    first_number: int
    priority: int
    on: bool
    spelled_first: str
    spelled_last: str


class OwnerView(BaseModel):
    """Who owns a channel: `written` "301:5" or "301:0" for the shared part, `label` its emitter or attribute."""

    channel: int
    fixture: int
    name: str
    written: str
    label: str


class ReceivedUniverse(BaseModel):
    """The newest levels of a universe another device sends; `ago_s` is their age."""

    protocol: str
    number: int
    priority: int
    ago_s: float
    values: list[int]


class Levels(BaseModel):
    """512 values of a universe as sent in frame `frame`; zeros where `sent` is false."""

    universe: int
    frame: int
    sent: bool
    values: list[int]
    owners: list[OwnerView]
    numbers: list[str]


class CardView(BaseModel):
    name: str
    address: str
    netmask: str
    broadcast: str
    up: bool
