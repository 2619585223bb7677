"""Colours in parts: hue, saturation and light (the H, S and V of HSV), written one without the others, and turned."""

from __future__ import annotations

from typing import Any, Literal, get_args

import numpy as np

from heliograph.core.colour.ramps import Floats

Component = Literal["hue", "saturation", "light"]
COMPONENTS: tuple[Component, ...] = get_args(Component)

LUMINANCE = (np.float32(0.2126), np.float32(0.7152), np.float32(0.0722))
"""Rec. 709 weights of red, green and blue."""

_LEAST = np.float32(1e-6)


def luminance(colour: Floats) -> Floats:
    """(n,) the weighted sum of planes (3, n)."""
    light: Floats = colour[0] * LUMINANCE[0] + colour[1] * LUMINANCE[1] + colour[2] * LUMINANCE[2]
    return light


def written(under: Floats, colour: Floats, part: Component) -> Floats:
    """Planes (3, n): `under` with one component of `colour` (3, n or 1). Where a colour has no hue (it is grey), none
    is written, and a grey beneath gets no saturation: it stays grey."""
    most, least = under.max(axis=0), under.min(axis=0)
    if part == "light":
        light = colour.max(axis=0)
        scale = light / np.maximum(most, _LEAST)
        lit: Floats = np.where(most > _LEAST, under * scale, light).astype(np.float32)
        return lit
    chroma = most - least
    if part == "saturation":
        top = colour.max(axis=0)
        wanted = np.where(top > _LEAST, (top - colour.min(axis=0)) / np.maximum(top, _LEAST), np.float32(0.0))
        apart = (most - under) / np.maximum(chroma, _LEAST)
        made = most * (np.float32(1.0) - wanted * apart)
        return np.where(chroma > _LEAST, made, under).astype(np.float32)
    top = colour.max(axis=0)
    span = top - colour.min(axis=0)
    apart = (top - colour) / np.maximum(span, _LEAST)
    return np.where(span > _LEAST, most - chroma * apart, under).astype(np.float32)


def turned(colour: Floats, degrees: Any, saturation: Any) -> Floats:
    """Planes (3, n) with every hue turned by `degrees` and its saturation times `saturation` (0 or more, as far as full
    saturation), their light kept. Both are numbers or (n,)."""
    red, green, blue = colour
    most = np.maximum(np.maximum(red, green), blue)
    chroma = most - np.minimum(np.minimum(red, green), blue)
    each = np.float32(1.0 / 6.0) / np.maximum(chroma, _LEAST)
    turn = np.where(
        most == red,
        (green - blue) * each,
        np.where(most == green, (blue - red) * each + np.float32(1 / 3), (red - green) * each + np.float32(2 / 3)),
    )
    turn += np.asarray(degrees, dtype=np.float32) / np.float32(360.0)
    spread = np.minimum(chroma * np.asarray(saturation, dtype=np.float32), most)
    made = np.empty_like(colour)
    for plane, offset in zip(made, (5 / 6, 3 / 6, 1 / 6), strict=True):
        np.add(turn, np.float32(offset), out=plane)
        plane -= np.floor(plane)
        plane *= np.float32(6.0)
        np.minimum(plane, np.float32(4.0) - plane, out=plane)
        np.clip(plane, 0.0, 1.0, out=plane)
        plane *= spread
        np.subtract(most, plane, out=plane)
    return made
