"""Shapes of a period, and numbers by chance that are the same ones everywhere: closed forms, without memory."""

from __future__ import annotations

import math
from typing import Any

import numpy as np
import numpy.typing as npt

Floats = npt.NDArray[np.float32]
Whole = npt.NDArray[np.uint32]
SHAPES = ("sine", "triangle", "square", "saw up", "saw down")

_MIXERS = (np.uint32(0x6A09E667), np.uint32(0xBB67AE85), np.uint32(0x3C6EF373))
"""The fractions of the square roots of 2, 3 and 5 as 32 bits: odd, and with nothing in common."""


def round_of(at: Any) -> Any:
    """Where in its period each stands, 0 to 1."""
    return at - np.floor(at)


def oscillation(shape: str, at: Any, duty: Any = 0.5) -> Any:
    """0 to 1 at places of a period: sine and triangle are 0 at its beginning and 1 in its middle; square is 1 for
    `duty` of it; a saw rises or falls evenly."""
    at = round_of(np.asarray(at, dtype=np.float32))
    if shape == "sine":
        return np.float32(0.5) - np.float32(0.5) * np.cos(at * np.float32(2 * math.pi))
    if shape == "triangle":
        return np.float32(1.0) - np.abs(at * np.float32(2.0) - np.float32(1.0))
    if shape == "square":
        return (at < np.asarray(duty, dtype=np.float32)).astype(np.float32)
    return at if shape == "saw up" else np.float32(1.0) - at


def chance(seed: int, *keys: Any) -> Floats:
    """(n,) float32 from 0 to below 1 that hang on nothing but the seed and whole `keys` (n,): the same ones everywhere
    and after every restart."""
    mixed = np.full(np.broadcast_shapes(*(np.shape(key) for key in keys)) or (1,), seed & 0xFFFFFFFF, dtype=np.uint32)
    for turn, key in enumerate(keys):
        mixed = mixed ^ (np.asarray(key).astype(np.int64).astype(np.uint32) * _MIXERS[turn % 3])
        mixed = _stirred(mixed)
    numbers: Floats = (mixed >> np.uint32(8)).astype(np.float32) * np.float32(2.0**-24)
    return numbers


def _stirred(mixed: Whole) -> Whole:
    mixed = mixed ^ (mixed >> np.uint32(16))
    mixed = mixed * _MIXERS[1]
    mixed = mixed ^ (mixed >> np.uint32(13))
    mixed = mixed * _MIXERS[2]
    stirred: Whole = mixed ^ (mixed >> np.uint32(16))
    return stirred


def smooth(t: Any) -> Any:
    return t * t * (3.0 - 2.0 * t)
