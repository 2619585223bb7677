"""Lamps of one or a few cells."""

from __future__ import annotations

from heliograph.core.profiles.generic.parts import (
    STROBE_DIMMER,
    Data,
    block,
    lamp_mode,
    letters,
    mode,
    named,
    profile,
    span,
    wide,
)

WARM_COOL: list[Data] = [{"attribute": "ColorAdd_WW", "kelvin": 3200}, {"attribute": "ColorAdd_CW", "kelvin": 6500}]
HUE: list[Data] = [*named("HSB_Hue HSB_Saturation"), {"attribute": "Dimmer"}]
"""Hue, saturation, then how bright: the colour before its dimmer."""

STORED: list[Data] = [span(0, 0, "default", "as stored in the lamp"), span(1, 255, "dim", "dark to full")]

LAMPS: tuple[Data, ...] = (
    profile(
        "RGB lamp",
        "lamp",
        lamp_mode("RGB", [], letters("RGB")),
        lamp_mode("GRB", [], letters("GRB")),
        lamp_mode("RGB, 16 bit", [], wide("RGB")),
    ),
    profile(
        "RGBW lamp",
        "lamp",
        lamp_mode("RGBW", [], letters("RGBW")),
        lamp_mode("RGBW, 16 bit", [], wide("RGBW")),
    ),
    profile("RGBA lamp", "lamp", lamp_mode("RGBA", [], letters("RGBA"))),
    profile(
        "RGBAW+UV lamp",
        "lamp",
        lamp_mode("RGBAW+UV", [], letters("RGBAWU")),
        lamp_mode("Dimmer, strobe, RGBAW+UV", letters("DS"), letters("RGBAWU")),
    ),
    profile("White lamp", "lamp", lamp_mode("White", [], letters("W")), lamp_mode("White, 16 bit", [], wide("W"))),
    profile(
        "Dimmer and RGB lamp",
        "lamp",
        lamp_mode("Dimmer, RGB", letters("D"), letters("RGB")),
        lamp_mode("Dimmer, strobe, RGB", letters("DS"), letters("RGB")),
        lamp_mode("Dimmer and strobe in one, RGB", [STROBE_DIMMER], letters("RGB")),
        lamp_mode("Dimmer, RGBW", letters("D"), letters("RGBW")),
    ),
    profile("RGBL lamp", "lamp", lamp_mode("RGBL", [], letters("RGBL"))),
    profile(
        "Six-colour lamp",
        "lamp",
        lamp_mode("RGBALC", [], letters("RGBALC")),
        lamp_mode("Dimmer 16 bit, RGBALC", named("Dimmer +Dimmer"), letters("RGBALC")),
    ),
    profile(
        "Warm and cool white lamp",
        "lamp",
        lamp_mode("Warm, cool", [], WARM_COOL),
        lamp_mode("Dimmer, warm, cool", letters("D"), WARM_COOL),
    ),
    profile(
        "Hue lamp",
        "lamp",
        lamp_mode("Hue, saturation, dimmer", [], HUE),
        mode("3 cells of hue, saturation, dimmer", block("Cells", [], 3, HUE)),
        notes="Driven by hue instead of emitters.",
    ),
    profile(
        "Lamp with a stored default",
        "lamp",
        lamp_mode("RGB", [], [{**one, "ranges": STORED} for one in letters("RGB")]),
        lamp_mode("Dimmer, RGB", [{"attribute": "Dimmer", "ranges": STORED}], letters("RGB")),
        notes="Reads 0 as 'use what is stored': dark is sent as 1.",
    ),
    profile("White strobe", "lamp", lamp_mode("Dimmer, rate", letters("DS"), letters("W"))),
    profile(
        "Blinder",
        "lamp",
        *(mode(f"{n} cells", block("Cells", [], n, [WARM_COOL[0]])) for n in (2, 4, 8)),
        mode("4 cells, dimmer", block("Cells", letters("D"), 4, [WARM_COOL[0]], layout={"kind": "grid", "columns": 2})),
    ),
    profile(
        "Dimmer pack",
        "other",
        *(mode(f"{n} channels", block("Dimmers", [], n, letters("W"))) for n in (4, 6, 12, 24)),
        notes="Each channel is a white cell, so that pixels can play on it.",
    ),
    profile(
        "Lamp bar with strobe",
        "bar",
        mode(
            "4 lamps, 2 strobes",
            block("Lamps", letters("D"), 4, letters("RGB"), cell_names=["far left", "left", "right", "far right"]),
            block("Strobes", letters("S"), 2, letters("W"), cell_names=["strobe left", "strobe right"]),
        ),
    ),
    profile("Fog machine", "other", mode("2 channels", block("Machine", named("Control1 Fans=64")))),
)
