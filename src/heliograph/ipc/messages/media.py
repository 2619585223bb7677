"""Requests to the media process."""

from __future__ import annotations

from typing import Any

import msgspec

from heliograph.ipc.messages.base import Answer, Request


class WantedClip(msgspec.Struct, frozen=True):
    """A clip by its content, for a matrix size and a fitting in its stored form."""

    content: str
    suffix: str
    width: int
    height: int
    fitting: dict[str, Any]
    asked_ns: int | None = None
    """The moment of the clip that is shown now, where its frames are not all there."""


class WantedFeed(msgspec.Struct, frozen=True):
    """A live picture by its address, for a matrix size and a fitting in its stored form. `file`: of the clip that is
    shown in a loop, where the address names one."""

    address: str
    width: int
    height: int
    fitting: dict[str, Any]
    file: str = ""


class WantClips(Request[Answer], frozen=True, tag="want"):
    """`hosts`: those whose live pictures are let in beside this machine's own."""

    clips: list[WantedClip]
    feeds: list[WantedFeed] = msgspec.field(default_factory=list)
    hosts: list[str] = msgspec.field(default_factory=list)


class ClipWork(msgspec.Struct, frozen=True):
    """`ready`: how much of it is decoded, 0..1. `shape`: how it lies."""

    content: str
    width: int
    height: int
    shape: str
    ready: float
    fault: str


class FeedWork(msgspec.Struct, frozen=True):
    """A live picture: how many come a second, how old the newest is (-1 before the first), whether it counts as `lost`,
    its size, and what is wrong."""

    address: str
    rate: float
    age_s: float
    lost: bool
    size: str
    fault: str


class MediaStatus(Answer, frozen=True):
    """`proxies`: how much of a smaller copy is made, by content."""

    clips: list[ClipWork]
    proxies: dict[str, float]
    feeds: list[FeedWork] = msgspec.field(default_factory=list)


class AskMedia(Request[MediaStatus], frozen=True, tag="status"):
    answers = MediaStatus


MediaRequest = WantClips | AskMedia
