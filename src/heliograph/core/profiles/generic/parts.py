"""What profiles are put together from: channels by short words, blocks, modes."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from heliograph.core.rig.plain_line import LETTERS

Data = dict[str, Any]


def letters(text: str) -> list[Data]:
    """`DRGB` -> a dimmer, red, green, blue. A strobe rests at 0: steady light."""
    return [{"attribute": LETTERS[letter]} for letter in text]


def named(text: str) -> list[Data]:
    """`Pan +Pan Zoom=128` -> channels by attribute; + is a fine one, = its home."""
    found: list[Data] = []
    for word in text.split():
        attribute, _, home = word.partition("=")
        channel: Data = {"attribute": attribute.removeprefix("+"), "home": int(home or 0)}
        if attribute.startswith("+"):
            channel["fine"] = True
        found.append(channel)
    return found


def wide(text: str) -> list[Data]:
    """Each letter as a coarse and a fine channel."""
    return [channel for one in letters(text) for channel in (one, {**one, "fine": True})]


def span(first: int, last: int, kind: str, name: str, **more: str) -> Data:
    return {"first": first, "last": last, "kind": kind, "name": name, **more}


STROBE_DIMMER: Data = {
    "attribute": "Dimmer",
    "ranges": [
        span(0, 4, "closed", "dark"),
        span(5, 184, "dim", "dark to full"),
        span(185, 249, "strobe", "strobe, slow to fast"),
        span(250, 255, "open", "full"),
    ],
}
"""Dimmer and strobe in one: most of the way for dimming, which is used most; made up for this library."""

SHUTTER: Data = {
    "attribute": "Shutter1",
    "home": 255,
    "in_fade": "half-way",
    "ranges": [
        span(0, 9, "closed", "closed"),
        span(10, 169, "strobe", "strobe, slow to fast"),
        span(170, 219, "strobe", "strobe, random"),
        span(220, 255, "open", "open"),
    ],
}
"""A shutter that has to be open for any light; it rests open."""

GOBOS: Data = {
    "attribute": "Gobo1",
    "in_fade": "half-way",
    "ranges": [
        span(0, 24, "named", "open"),
        span(25, 49, "named", "net"),
        span(50, 74, "named", "waves"),
        span(75, 99, "named", "gulls"),
        span(100, 124, "named", "shingle"),
        span(125, 149, "named", "rope"),
        span(150, 255, "named", "turning, slow to fast"),
    ],
}
COLOURS: Data = {
    "attribute": "Color1",
    "in_fade": "half-way",
    "ranges": [
        span(0, 24, "named", "open", colour="#ffffff"),
        span(25, 49, "named", "amber", colour="#f0a030"),
        span(50, 74, "named", "red", colour="#e03020"),
        span(75, 99, "named", "magenta", colour="#c040b0"),
        span(100, 124, "named", "blue", colour="#3060e0"),
        span(125, 149, "named", "green", colour="#30b050"),
        span(150, 255, "named", "turning, slow to fast"),
    ],
}


def turning(pan: int = 540, tilt: int = 270) -> list[Data]:
    """Pan and tilt at 16 bit, resting in the middle, with their degrees."""
    found = named("Pan=128 +Pan Tilt=128 +Tilt")
    for channel, degrees in zip(found, (pan, pan, tilt, tilt), strict=True):
        if not channel.get("fine"):
            channel["physical"] = [-degrees / 2, degrees / 2]
    return found


def block(name: str, shared: Sequence[Data], cells: int = 0, each: Sequence[Data] = (), **more: Any) -> Data:
    return {"name": name, "shared": list(shared), "cell_count": cells, "cell_channels": list(each), **more}


def mode(name: str, *blocks: Data) -> Data:
    return {"name": name, "blocks": list(blocks)}


def lamp_mode(name: str, shared: Sequence[Data], each: Sequence[Data]) -> Data:
    """One cell."""
    return mode(name, block("Lamp", shared, 1, each))


def profile(name: str, kind: str, *modes: Data, **more: Any) -> Data:
    return {"name": name, "kind": kind, "modes": list(modes), **more}
