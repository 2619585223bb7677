"""Attribute names of GDTF (DIN SPEC 15800) with the words people use for them.

Names: standards 5.1, from the standard [S], present in pygdtf 1.4.5's table [V]. `n` in a name stands for
a number from 1 on: `Gobo1`, `Shutter2Strobe`.
"""

from __future__ import annotations

import re
from collections.abc import Mapping

DIMMER = "Dimmer"
"""An intensity; a range of such a channel may also strobe."""

HUE, SATURATION, BRIGHTNESS = "HSB_Hue", "HSB_Saturation", "HSB_Brightness"

EMITTERS: Mapping[str, str] = {
    "ColorAdd_R": "red",
    "ColorAdd_G": "green",
    "ColorAdd_B": "blue",
    "ColorAdd_W": "white",
    "ColorAdd_RY": "amber",
    "ColorAdd_UV": "UV",
    "ColorAdd_WW": "warm white",
    "ColorAdd_CW": "cool white",
    "ColorAdd_GY": "lime",
    "ColorAdd_C": "cyan",
    "ColorAdd_M": "magenta",
    "ColorAdd_Y": "yellow",
    "ColorAdd_GC": "green cyan",
    "ColorAdd_BC": "blue cyan",
    "ColorAdd_BM": "indigo",
    "ColorAdd_RM": "pink",
}
"""Emitters by attribute. Amber is ColorAdd_RY, lime ColorAdd_GY: there is no ColorAdd_A."""

WORDS: Mapping[str, str] = {
    DIMMER: "dimmer",
    **EMITTERS,
    HUE: "hue",
    SATURATION: "saturation",
    BRIGHTNESS: "brightness",
    "ColorSub_C": "cyan filter",
    "ColorSub_M": "magenta filter",
    "ColorSub_Y": "yellow filter",
    "CIE_X": "CIE x",
    "CIE_Y": "CIE y",
    "CTO": "CTO",
    "CTC": "temperature",
    "CTB": "CTB",
    "Tint": "tint",
    "Color(n)": "colour wheel",
    "ColorMacro(n)": "colours",
    "ColorMacro(n)Rate": "colours speed",
    "Pan": "pan",
    "Tilt": "tilt",
    "PanRotate": "pan turning",
    "TiltRotate": "tilt turning",
    "XYZ_X": "place, x",
    "XYZ_Y": "place, y",
    "Shutter(n)": "shutter",
    "Shutter(n)Strobe": "strobe",
    "Shutter(n)StrobePulse": "strobe pulse",
    "Shutter(n)StrobeRandom": "strobe random",
    "Iris": "iris",
    "Frost(n)": "frost",
    "Zoom": "zoom",
    "Focus(n)": "focus",
    "Prism(n)": "prism",
    "Prism(n)Pos": "prism turned",
    "Gobo(n)": "gobo",
    "Gobo(n)Pos": "gobo turned",
    "Effects(n)": "effect",
    "Effects(n)Rate": "effect speed",
    "Control(n)": "control",
    "PixelMode": "pixel mode",
    "LEDZoneMode": "LED zones",
    "DimmerCurve": "dimmer curve",
    "LEDFrequency": "LED frequency",
    "Fans": "fans",
    "NoFeature": "nothing",
    "Dummy": "not used",
}
"""Every attribute a channel can be given by name, with its word."""

DEGREES = ("Pan", "Tilt")
"""Attributes whose physical range is an angle in degrees."""

_NUMBER = re.compile(r"\d+")
_RANKS = {attribute: rank for rank, attribute in enumerate(WORDS)}


def rank_of(attribute: str) -> tuple[int, str]:
    """Where an attribute stands among those there are words for: what is said of several begins with light."""
    return _RANKS.get(_NUMBER.sub("(n)", attribute, count=1), _RANKS.get(attribute, len(_RANKS))), attribute


def word_of(attribute: str) -> str:
    """The word for an attribute, with its number where there may be several; the attribute itself where none fits.

    `Gobo2` is "gobo 2", `Gobo1` simply "gobo".
    """
    if attribute in WORDS:
        return WORDS[attribute]
    numbers = _NUMBER.findall(attribute)
    word = WORDS.get(_NUMBER.sub("(n)", attribute, count=1))
    if word is None or not numbers:
        return attribute
    return word if numbers[0] == "1" else f"{word} {numbers[0]}"
