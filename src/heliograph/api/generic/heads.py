"""Moving heads and moving bars. Their pixels drive colour only; pan, tilt and gobos rest until set by hand."""

from __future__ import annotations

from heliograph.api.generic.parts import COLOURS, GOBOS, SHUTTER, Data, block, letters, mode, named, profile, turning

DIMMER_16 = named("Dimmer +Dimmer")
WASH_FINE = [*turning(), *DIMMER_16, SHUTTER, *named("Zoom=128 Control1")]
WASH = [*named("Pan=128 Tilt=128 Dimmer"), SHUTTER, *named("Zoom=128 Control1")]
RING: Data = {"kind": "ring", "centre": True}


def ring_mode(pixels: int) -> Data:
    """Base 20, animation 15, then the pixels of 4 (check values of the trade, no published source)."""
    base = [
        *turning(),
        *DIMMER_16,
        SHUTTER,
        *letters("RGBW"),
        *named("CTO Zoom=128 +Zoom Control1 Control2 Control3 PixelMode LEDFrequency Fans=64"),
    ]
    animation = named("Effects1 Effects1Rate Effects2 Effects2Rate Effects3 Effects3Rate Effects4 Effects4Rate")
    animation += named("ColorMacro1 ColorMacro1Rate Control4 Control5 Control6 Control7 Control8")
    return mode(
        f"Base, animation, {pixels} pixels",
        block("Base", base),
        block("Animation", animation),
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
    profile("Wash head with 7 pixels", "head", ring_mode(7)),
    profile("Wash head with 19 pixels", "head", ring_mode(19)),
    profile("Wash head with 37 pixels", "head", ring_mode(37)),
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
