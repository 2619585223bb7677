"""The show handed over: to the engine and the preview alike."""

from __future__ import annotations

from typing import Any

from heliograph.ipc.messages.base import Answer, Request
from heliograph.ipc.sections import Manifest


class Missing(Answer, frozen=True):
    """Hashes that have not arrived, and the manifest, show and revision that are current."""

    missing: list[str]
    manifest: Manifest
    revision: int = 0
    show: str = ""


class OfferManifest(Request[Missing], frozen=True, tag="manifest"):
    """Which sections (key -> hash) a show would have."""

    answers = Missing
    manifest: Manifest


class HandSections(Request[Answer], frozen=True, tag="sections"):
    sections: list[dict[str, Any]]


class Adopted(Answer, frozen=True):
    revision: int


class Adopt(Request[Adopted], frozen=True, tag="adopt"):
    """From now on this show plays; all its sections have arrived. `show`: which it is."""

    answers = Adopted
    manifest: Manifest
    revision: int
    show: str = ""


ShowRequest = OfferManifest | HandSections | Adopt
