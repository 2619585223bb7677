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


class WantClips(Request[Answer], frozen=True, tag="want"):
    clips: list[WantedClip]


class ClipWork(msgspec.Struct, frozen=True):
    """`ready`: how much of it is decoded, 0..1. `shape`: how it lies."""

    content: str
    width: int
    height: int
    shape: str
    ready: float
    fault: str


class MediaStatus(Answer, frozen=True):
    """`proxies`: how much of a smaller copy is made, by content."""

    clips: list[ClipWork]
    proxies: dict[str, float]


class AskMedia(Request[MediaStatus], frozen=True, tag="status"):
    answers = MediaStatus


MediaRequest = WantClips | AskMedia
