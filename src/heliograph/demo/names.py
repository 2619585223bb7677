"""Stable ids of the demo's objects, so that a start that was cut short goes on where it was."""

from __future__ import annotations

from uuid import NAMESPACE_URL, uuid5


def key(name: str) -> str:
    return str(uuid5(NAMESPACE_URL, f"heliograph:demo:{name}"))
