"""From a colour to a cell's emitters, and back.

Four ways, because fixtures differ (formulas: standards 7.2, common practice; values checked there):
*replace* takes the common part of the colour out of red, green and blue and gives it to the white;
*add* leaves red, green and blue as they are and puts the white on top; *match* does the same as replace
in linear light with the emitter's own colour, so that the light stays the colour that was asked for;
*leave* keeps the extra emitters dark. Further whites, lime and amber follow in the same way, the most saturated
last. UV and emitters of rarer colours are never taken from a colour: they stay at their home values.

Lamps that are driven by hue, saturation and intensity get the colour in those terms instead.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from functools import lru_cache
from typing import Literal, get_args

import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError

Floats = npt.NDArray[np.float32]

RED, GREEN, BLUE, WHITE, AMBER, UV, WARM, COOL, LIME, HUE, SATURATION, INTENSITY = range(12)
EMITTER_ATTRIBUTES = (
    "ColorAdd_R",
    "ColorAdd_G",
    "ColorAdd_B",
    "ColorAdd_W",
    "ColorAdd_RY",
    "ColorAdd_UV",
    "ColorAdd_WW",
    "ColorAdd_CW",
    "ColorAdd_GY",
    "HSB_Hue",
    "HSB_Saturation",
    "HSB_Brightness",
)
"""GDTF attributes the colour engine drives, in the order of its planes. A cell with a hue and a dimmer of its own
has its brightness on that dimmer."""

WHITES = (WHITE, COOL, WARM)
EXTRAS = (*WHITES, LIME, AMBER)
"""Emitters taken out of a colour, in this order."""

WARM_KELVIN, COOL_KELVIN = 3200, 6500
"""Of warm and cool white emitters (common practice, no source)."""

LIME_LINEAR = (0.691, 1.0, 0.0)
"""A lime LED in linear sRGB, clipped and scaled to 1 (x .41 y .56, from memory; matrix of standards 7.3)."""

ExtraUse = Literal["replace", "add", "match", "leave"]
EXTRA_USES: tuple[ExtraUse, ...] = get_args(ExtraUse)

DRIVEN = (RED, GREEN, BLUE, WHITE, AMBER, UV, WARM, COOL, LIME)
"""Emitters that a line may be painted over by itself."""

ADDED_LEAST = 1.5 / 255
"""Levels that differ by less are the same: two roundings to 8 bits."""

UV_SEEN = (0.30, 0.0, 0.85)
"""What stands for an ultraviolet emitter on screens: it has no colour of its own (ours)."""

LUMA = np.array([0.2126, 0.7152, 0.0722], dtype=np.float32)
"""Weights of red, green and blue in brightness (ITU-R BT.709)."""

AMBER_LINEAR = (1.0, 0.197, 0.0)
"""An amber LED of 590 nm in linear sRGB, clipped and scaled to 1 (CIE 1931 x .575 y .424, matrix of standards 7.3)."""


def check_extra_use(name: str) -> None:
    if name not in EXTRA_USES:
        raise InputError(f"White cannot be used by '{name}'.", where="extra", repair=f"Use {', '.join(EXTRA_USES)}.")


@dataclass(frozen=True, slots=True)
class Recipe:
    """How cells of one kind make a colour: their emitters (planes), the use of the extra ones, the white's kelvin."""

    emitters: tuple[int, ...]
    extra: ExtraUse = "replace"
    kelvin: int = 6500
    is_hue: bool = field(init=False, compare=False)
    """Driven by hue and saturation instead of emitters."""
    is_white_only: bool = field(init=False, compare=False)
    extras: tuple[int, ...] = field(init=False, compare=False)
    """What is driven beyond red, green and blue."""

    def __post_init__(self) -> None:
        own = set(self.emitters)
        wanted = (HUE, SATURATION, INTENSITY) if HUE in own else EXTRAS
        # Asked for in every frame: worked out once.
        object.__setattr__(self, "is_hue", HUE in own)
        object.__setattr__(self, "is_white_only", bool(own & set(WHITES)) and not own & {RED, GREEN, BLUE, HUE})
        object.__setattr__(self, "extras", tuple(e for e in wanted if e in own))

    @property
    def is_plain(self) -> bool:
        """Red, green and blue only (or some of them): the colour itself is what is sent."""
        return not self.extras


def extract(recipe: Recipe, rgb: Floats) -> tuple[Floats, Floats]:
    """`rgb` (3, n) 0..1 to what stays on red, green and blue (3, n), and the extra emitters (len(extras), n)."""
    if recipe.is_hue:
        parts = dict(zip((HUE, SATURATION, INTENSITY), to_hsv(rgb), strict=True))
        return np.zeros_like(rgb), np.stack([parts[e] for e in recipe.extras])
    if recipe.is_white_only:
        grey = np.clip(luma(rgb), 0.0, 1.0)
        return np.zeros_like(rgb), np.stack([grey if e in WHITES else np.zeros_like(grey) for e in recipe.extras])
    if recipe.extra == "leave" or not recipe.extras:
        return rgb, np.zeros((len(recipe.extras), rgb.shape[1]), dtype=np.float32)
    linear = recipe.extra == "match"
    rest = to_linear(rgb) if linear else rgb.copy()
    found = np.empty((len(recipe.extras), rgb.shape[1]), dtype=np.float32)
    for part, emitter in zip(found, recipe.extras, strict=True):
        if emitter in (WHITE, COOL) and not linear:  # pure white: as below, with a colour of ones
            rest.min(axis=0, out=part)
        else:
            colour = emitter_colour(emitter, recipe.kelvin, linear)
            lit = colour > 0.0
            np.min(rest[lit] / colour[lit, None], axis=0, out=part)
        np.maximum(part, 0.0, out=part)
        np.minimum(part, 1.0, out=part)
        if recipe.extra != "add":
            rest -= part if emitter in (WHITE, COOL) and not linear else colour[:, None] * part
    np.maximum(rest, 0.0, out=rest)
    return (rgb if recipe.extra == "add" else to_display(rest) if linear else rest), found


def recombine(recipe: Recipe, rgb: Floats, extras: Floats) -> Floats:
    """The inverse: the colour (3, n) that emitter levels stand for."""
    if recipe.is_hue:
        ones = np.ones(extras.shape[1], dtype=np.float32)
        parts = dict(zip(recipe.extras, extras, strict=True))
        return from_hsv(parts[HUE], parts.get(SATURATION, ones), parts.get(INTENSITY, ones))
    if recipe.is_white_only:
        first = next(n for n, e in enumerate(recipe.extras) if e in WHITES)
        return np.repeat(extras[first][None, :], 3, axis=0)
    linear = recipe.extra == "match"
    if recipe.extra == "add":  # what is there beyond the colour's own part was put on it by itself
        beyond = extras - extract(recipe, rgb)[1]
        extras = np.where(beyond > ADDED_LEAST, beyond, np.float32(0.0))
        if not extras.any():
            return rgb
    total = to_linear(rgb) if linear else rgb.copy()
    for emitter, level in zip(recipe.extras, extras, strict=True):
        total += emitter_colour(emitter, recipe.kelvin, linear)[:, None] * level
    np.clip(total, 0.0, 1.0, out=total)
    return to_display(total) if linear else total


def shown(recipe: Recipe, rgb: Floats) -> Floats:
    """What of a colour such a cell can show at all: a white-only cell shows its brightness."""
    return np.repeat(luma(rgb)[None, :], 3, axis=0) if recipe.is_white_only else rgb


def luma(rgb: Floats) -> Floats:
    """Brightness (n,) of display-referred (3, n)."""
    weighted: Floats = LUMA @ rgb
    return weighted


def seen_colour(emitter: int) -> Floats:
    """(3,) how the light of one emitter alone is shown."""
    if emitter in (RED, GREEN, BLUE):
        return np.array([emitter == plane for plane in (RED, GREEN, BLUE)], dtype=np.float32)
    return np.array(UV_SEEN, dtype=np.float32) if emitter == UV else emitter_colour(emitter, 6500, False)


@lru_cache(maxsize=64)
def emitter_colour(emitter: int, kelvin: int, linear: bool) -> Floats:
    """(3,) the colour of an extra emitter. Outside linear light white and cool white count as pure white."""
    if emitter in (WHITE, COOL) and not linear:
        colour = np.ones(3, dtype=np.float32)
    else:
        white = white_linear({WARM: WARM_KELVIN, COOL: COOL_KELVIN}.get(emitter, kelvin))
        light = {LIME: LIME_LINEAR, AMBER: AMBER_LINEAR}.get(emitter, white)
        colour = np.array(light, dtype=np.float32)
        colour = colour if linear else to_display(colour)
    colour.setflags(write=False)
    return colour


def white_linear(kelvin: int) -> tuple[float, float, float]:
    """Linear sRGB of a white of so many kelvin, its largest part 1. Kang et al. 2002, standards 7.3."""
    t = float(min(max(kelvin, 1667), 25_000))
    if t <= 4000:
        x = -0.2661239e9 / t**3 - 0.2343589e6 / t**2 + 0.8776956e3 / t + 0.179910
    else:
        x = -3.0258469e9 / t**3 + 2.1070379e6 / t**2 + 0.2226347e3 / t + 0.24039
    if t <= 2222:
        y = -1.1063814 * x**3 - 1.34811020 * x**2 + 2.18555832 * x - 0.20219683
    elif t <= 4000:
        y = -0.9549476 * x**3 - 1.37418593 * x**2 + 2.09137015 * x - 0.16748867
    else:
        y = 3.0817580 * x**3 - 5.87338670 * x**2 + 3.75112997 * x - 0.37001483
    xyz = (x / y, 1.0, (1.0 - x - y) / y)
    rows = ((3.2406, -1.5372, -0.4986), (-0.9689, 1.8758, 0.0415), (0.0557, -0.2040, 1.0570))
    rgb = [max(sum(a * b for a, b in zip(row, xyz, strict=True)), 0.0) for row in rows]
    most = max(rgb)
    return rgb[0] / most, rgb[1] / most, rgb[2] / most


def to_hsv(rgb: Floats) -> tuple[Floats, Floats, Floats]:
    """Hue 0..1 (a whole turn), saturation and value 0..1 of (3, n). Hexcone model, standards 7.1."""
    red, green, blue = rgb
    high = rgb.max(axis=0)
    span = high - rgb.min(axis=0)
    safe = np.where(span > 0.0, span, np.float32(1.0))
    sector = np.where(
        high == red,
        np.mod((green - blue) / safe, 6.0),
        np.where(high == green, (blue - red) / safe + 2.0, (red - green) / safe + 4.0),
    )
    hue = np.where(span > 0.0, sector / 6.0, 0.0).astype(np.float32)
    saturation = np.where(high > 0.0, span / np.where(high > 0.0, high, 1.0), 0.0).astype(np.float32)
    return hue, saturation, high


def from_hsv(hue: Floats, saturation: Floats, value: Floats) -> Floats:
    """(3, n), the inverse of `to_hsv`."""
    parts = []
    for offset in (5.0, 3.0, 1.0):
        k = np.mod(offset + hue * 6.0, 6.0)
        parts.append(value - value * saturation * np.clip(np.minimum(k, 4.0 - k), 0.0, 1.0))
    return np.stack(parts).astype(np.float32)


def to_linear(display: Floats) -> Floats:
    """sRGB decoding (IEC 61966-2-1; standards 7.4)."""
    linear: Floats = np.where(
        display <= 0.04045, display / np.float32(12.92), ((display + np.float32(0.055)) / np.float32(1.055)) ** 2.4
    ).astype(np.float32)
    return linear


def to_display(linear: Floats) -> Floats:
    """sRGB encoding, the inverse of `to_linear`."""
    display: Floats = np.where(
        linear <= 0.0031308,
        linear * np.float32(12.92),
        np.float32(1.055) * np.maximum(linear, 0.0) ** np.float32(1 / 2.4) - np.float32(0.055),
    ).astype(np.float32)
    return display
