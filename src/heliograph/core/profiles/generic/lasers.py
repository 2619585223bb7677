"""Lasers: all guarded. Every channel has a safe value, which is what leaves until somebody arms them."""

from __future__ import annotations

from heliograph.core.profiles.generic.parts import Data, block, letters, mode, named, profile, span

PATTERN: Data = {
    "attribute": "LEDZoneMode",
    "home": 128,
    "in_fade": "half-way",
    "ranges": [
        span(0, 63, "closed", "off"),
        span(64, 191, "named", "by these channels"),
        span(192, 255, "named", "by itself"),
    ],
}


def safe(channels: list[Data]) -> list[Data]:
    return [{**channel, "safe": 0} for channel in channels]


def projector(fine: bool) -> Data:
    """What is drawn, where, how large, how it turns. Light comes last: a list that is one channel off shows nothing."""
    places = ("Pan", "Tilt", "Zoom")
    placed = " ".join(f"{one}=128 +{one}" if fine else f"{one}=128" for one in places)
    shared = [PATTERN, *named(f"Gobo1 {placed} Gobo1Pos=128 Effects1Rate Dimmer")]
    channels = len(shared) + 3
    return mode(
        f"{channels} channels, {'16' if fine else '8'} bit", block("Projector", safe(shared), 1, safe(letters("RGB")))
    )


LASERS: tuple[Data, ...] = (
    profile(
        "RGB laser head",
        "laser",
        mode("5 channels", block("Zone", safe(named("Shutter1=255 Dimmer")), 1, safe(letters("RGB")))),
        guarded=True,
    ),
    profile("Laser projector", "laser", projector(False), projector(True), guarded=True),
    profile(
        "Laser bar",
        "laser",
        mode("8 heads, tilt and dimmer", block("Bar", safe(named("Tilt=128 Dimmer")), 8, safe(letters("RGB")))),
        mode("6 heads", block("Bar", [], 6, safe(letters("RGB")))),
        guarded=True,
    ),
    profile(
        "Single-colour laser",
        "laser",
        mode("3 channels", block("Head", safe(named("Shutter1=255 Dimmer")), 1, safe(letters("G")))),
        guarded=True,
    ),
)
