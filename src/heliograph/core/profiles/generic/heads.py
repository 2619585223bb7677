"""Moving heads and moving bars. Their pixels drive colour only; pan, tilt and gobos rest until set by hand."""

from __future__ import annotations

from heliograph.core.profiles.generic.parts import (
    COLOURS,
    GOBOS,
    SHUTTER,
    Data,
    block,
    letters,
    mode,
    named,
    profile,
    turning,
)

DIMMER_16 = named("Dimmer +Dimmer")
WASH_FINE = [*turning(), *DIMMER_16, SHUTTER, *named("Zoom=128 Control1")]
WASH = [*named("Pan=128 Tilt=128 Dimmer"), SHUTTER, *named("Zoom=128 Control1")]
RING: Data = {"kind": "ring"}


def ring_mode(pixels: int, fine: bool) -> Data:
    """What moves first, then light, then its pixels in a ring; the coarse mode leaves all fine channels out."""
    moves = turning() if fine else named("Pan=128 Tilt=128")
    light = [*(DIMMER_16 if fine else letters("D")), SHUTTER]
    lens = named("Zoom=128 +Zoom Iris" if fine else "Zoom=128")
    return mode(
        f"{pixels} pixels, {'16' if fine else '8'} bit",
        block("Base", [*moves, *light, *lens, *named("Control1")]),
        block("Pixels", [], pixels, letters("RGBW"), layout=RING, hides=True),
    )


HEADS: tuple[Data, ...] = (
    profile(
        "Spot head",
        "head",
        mode(
            "16 channels",
            block(
                "Head",
                [
                    *turning(),
                    *DIMMER_16,
                    SHUTTER,
                    COLOURS,
                    GOBOS,
                    *named("Gobo1Pos Prism1 Focus1=128 Zoom=128 Iris Frost1 Control1"),
                ],
            ),
        ),
        mode(
            "9 channels",
            block(
                "Head",
                [*named("Pan=128 Tilt=128 Dimmer"), SHUTTER, COLOURS, GOBOS, *named("Focus1=128 Prism1 Control1")],
            ),
        ),
    ),
    profile(
        "Beam head",
        "head",
        mode(
            "14 channels",
            block(
                "Head",
                [
                    *turning(),
                    *named("Dimmer"),
                    SHUTTER,
                    COLOURS,
                    GOBOS,
                    *named("Prism1 Prism1Pos Frost1 Focus1=128 Control1 Control2"),
                ],
            ),
        ),
    ),
    profile(
        "Wash head",
        "head",
        mode(
            "13 channels",
            block("Head", [*turning(), *DIMMER_16, SHUTTER, *named("Zoom=128 Control1")], 1, letters("RGBW")),
        ),
        mode(
            "10 channels",
            block(
                "Head", [*named("Pan=128 Tilt=128 Dimmer"), SHUTTER, *named("Zoom=128 Control1")], 1, letters("RGBW")
            ),
        ),
    ),
    *(profile(f"Ring head with {n} pixels", "head", ring_mode(n, False), ring_mode(n, True)) for n in (8, 12, 20)),
    profile(
        "Moving bar",
        "head",
        mode(
            "10 cells, tilt",
            block("Base", [*named("Tilt=128 +Tilt Dimmer"), SHUTTER, *named("Zoom=128 Control1")]),
            block("Cells", [], 10, letters("RGBW")),
        ),
    ),
    profile("Mirror ball motor", "other", mode("2 channels", block("Motor", named("PanRotate=128 Control1")))),
)
