"""Outputs, network cards, levels."""

from __future__ import annotations

from typing import Literal
from uuid import UUID

from pydantic import BaseModel, Field

from heliograph.api.schemas.base import Name, Strict

WhenEnds = Literal["dark", "as it is"]

DESTINATIONS_LENGTH = 1_000


class OutputBody(Strict):
    """`first_number`: the protocol's own number of the first universe (Art-Net counts from 0, sACN from 1).

    `destination`: one or several addresses or names, separated by commas. `sync`: sACN: the universe of the
    synchronisation packets, 0: none; Art-Net: 1 sends an ArtSync after each frame. `rate_hz`: of the 44 frames of a
    second so many are sent. `mute`: goes on sending, nothing lit. `when_ends`: what it leaves behind where it no longer
    sends: lamps that are dark, or as they are (guarded channels are safe in any case).
    """

    name: Name
    protocol: Literal["artnet", "sacn"]
    mode: Literal["unicast", "broadcast", "multicast"]
    destination: str = Field("", max_length=DESTINATIONS_LENGTH)
    card: str = Field("", max_length=40)
    first_universe: int = Field(1, ge=1, le=63999)
    count: int = Field(1, ge=1, le=32768)
    first_number: int = Field(0, ge=0, le=63999)
    priority: int = Field(100, ge=0, le=200)
    sync: int = Field(0, ge=0, le=63999)
    rate_hz: int = Field(44, ge=1, le=44)
    mute: bool = False
    when_ends: WhenEnds = "dark"
    on: bool = True


class NewOutput(OutputBody):
    id: UUID


class OutputPatch(Strict):
    name: Name | None = None
    protocol: Literal["artnet", "sacn"] | None = None
    mode: Literal["unicast", "broadcast", "multicast"] | None = None
    destination: str | None = Field(None, max_length=DESTINATIONS_LENGTH)
    card: str | None = Field(None, max_length=40)
    first_universe: int | None = Field(None, ge=1, le=63999)
    count: int | None = Field(None, ge=1, le=32768)
    first_number: int | None = Field(None, ge=0, le=63999)
    priority: int | None = Field(None, ge=0, le=200)
    sync: int | None = Field(None, ge=0, le=63999)
    rate_hz: int | None = Field(None, ge=1, le=44)
    mute: bool | None = None
    when_ends: WhenEnds | None = None
    on: bool | None = None
    rev: int | None = None


class OutputView(BaseModel):
    """`spelled_first`, `spelled_last`: the protocol's numbers in every counting. `address`: of each destination.
    `sentences`: all of it in three short ones."""

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
    sync: int
    rate_hz: int
    mute: bool
    when_ends: str
    on: bool
    spelled_first: str
    spelled_last: str
    sentences: list[str]


class OwnerView(BaseModel):
    """Who owns a channel: `written` "405:5" or "405:0" for the shared part, `label` its emitter or attribute."""

    channel: int
    fixture: int
    name: str
    written: str
    label: str


class StreamView(BaseModel):
    """One sender of one universe that arrives. `number` is the protocol's own; `counts`: its values are taken;
    `rate` in packets a second; `lost`: packets its sequence skipped; `late`: such as came out of order; `left_out`:
    packets of more senders than are followed."""

    protocol: str
    number: int
    sender: str
    name: str
    ip: str
    priority: int
    counts: bool
    packets: int
    rate: float
    late: int
    lost: int
    ago_s: float
    left_out: int


class AnnouncedView(BaseModel):
    """A source that announces its universes by sACN universe discovery."""

    cid: str
    name: str
    ip: str
    universes: list[int]
    ago_s: float


class ReceivedUniverse(BaseModel):
    """The newest levels of a universe another device sends; `ago_s` is their age."""

    protocol: str
    number: int
    priority: int
    ago_s: float
    values: list[int]


class LevelSpan(BaseModel):
    """`count` channels from `first` on, from `column` on."""

    first: int
    column: int
    count: int


class LevelWord(BaseModel):
    column: int
    word: str


class LevelLine(BaseModel):
    """A line of channels folded at the fixture. `fixtures`: "402", "601-604", "" where it goes on from the line before;
    `head`: what stands over the columns, where it is another than before."""

    fixtures: str
    spans: list[LevelSpan]
    head: list[LevelWord]


class Marks(BaseModel):
    """Channels that somebody writes over what looks make, by who: "manual", "raw", "highlight", "walk", "parked"."""

    frame: int
    channels: dict[str, list[int]]


class Levels(BaseModel):
    """512 values of a universe as sent in frame `frame`; zeros where `sent` is false. `lines`: the channels folded at
    the fixture, `columns` wide."""

    universe: int
    frame: int
    sent: bool
    values: list[int]
    owners: list[OwnerView]
    numbers: list[str]
    columns: int
    lines: list[LevelLine]


class CardView(BaseModel):
    name: str
    address: str
    netmask: str
    broadcast: str
    up: bool
