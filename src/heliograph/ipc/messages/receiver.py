"""Requests to the receiver."""

from __future__ import annotations

import msgspec

from heliograph.ipc.messages.base import Answer, Request


class HeardNode(msgspec.Struct, frozen=True):
    ip: str
    source: str
    card: str
    bind_index: int
    name: str
    long_name: str
    report: str
    style: int
    outputs: list[int]
    by_sacn: bool
    ago_s: float
    silent: bool


class HeardSource(msgspec.Struct, frozen=True):
    """Who announces universes by sACN universe discovery."""

    cid: str
    name: str
    ip: str
    universes: list[int]
    ago_s: int


class HeardStream(msgspec.Struct, frozen=True):
    """One sender of one universe. `counts`: it is one of those whose levels hold; `late`, `lost`: packets; `left_out`:
    senders of this universe beyond those that are followed."""

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


class BadSender(msgspec.Struct, frozen=True):
    sender: str
    packets: int
    last: str


class ReceiverStatus(Answer, frozen=True):
    nodes: list[HeardNode]
    announced: list[HeardSource]
    counts: dict[str, int]
    malformed: list[BadSender]
    malformed_total: int
    streams: list[HeardStream]
    not_followed: int


class AskReceiver(Request[ReceiverStatus], frozen=True, tag="status"):
    answers = ReceiverStatus


class OfferCard(Request[Answer], frozen=True, tag="card"):
    """Two sockets of a network card travel with it: its own, and one on its broadcast address."""

    address: str
    broadcast: str


class Listen(Request[Answer], frozen=True, tag="listen"):
    """Which CID is our own, and which sACN universes to follow."""

    cid: str
    sacn: list[int]


ReceiverRequest = AskReceiver | OfferCard | Listen
