"""Lasers: all guarded. Every channel has a safe value, which is what leaves until somebody arms them."""

from __future__ import annotations

from heliograph.api.generic.parts import Data, block, letters, mode, named, profile, span

MODES: Data = {
    "attribute": "LEDZoneMode",
    "home": 200,
    "snap": True,
    "ranges": [
        span(0, 49, "closed", "off"),
        span(50, 99, "named", "by sound"),
        span(100, 149, "named", "by itself"),
        span(150, 255, "named", "by DMX"),
    ],
}


def safe(channels: list[Data]) -> list[Data]:
    return [{**channel, "safe": 0} for channel in channels]


def zone(size: int) -> Data:
    """A projector's zone: mode (resting at "by DMX"), pattern, place, size, turning, further ones, colours."""
    shared = [
        MODES,
        {"attribute": "Dimmer"},
        *named("Gobo1 Gobo1Pos Pan=128 Tilt=128 Zoom=128 Effects1 Effects1Rate"),
    ]
    rest = [{"attribute": f"Control{n + 1}"} for n in range(size - len(shared) - 3)]
    return mode(f"{size} channels", block("Zone", safe(shared + rest), 1, safe(letters("RGB"))))


BAR = safe(named("Dimmer Shutter1=255 Tilt=128 Control1"))

LASERS: tuple[Data, ...] = (
    profile(
        "RGB laser head",
        "laser",
        mode("5 channels", block("Zone", safe(named("Shutter1=255 Dimmer")), 1, safe(letters("RGB")))),
        guarded=True,
    ),
    profile("Laser projector", "laser", *(zone(n) for n in (16, 20, 32, 50)), guarded=True),
    profile(
        "Laser bar",
        "laser",
        mode(
            "8 heads, 4 shared", block("Bar", safe(named("Dimmer Shutter1 Tilt=128 Control1")), 8, safe(letters("RGB")))
        ),
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
