"""Response tables: how a level 0..1 becomes the value that makes an LED look that bright.

Formulas: standards 7.4 (the CIE column equals colour-science's `luminance_CIE1976`).
"""

from __future__ import annotations

from functools import lru_cache
from typing import Literal, get_args

import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError

Floats = npt.NDArray[np.float32]
Response = Literal["as is", "gamma 2.2", "CIE lightness"]
RESPONSES: tuple[Response, ...] = get_args(Response)

STEPS = 255 * 16
"""Entries between 0 and 1: every 8-bit level is met exactly, others within 0.08 of an 8-bit step."""


def check_response(name: str) -> None:
    if name not in RESPONSES:
        raise InputError(f"There is no response '{name}'.", where="response", repair=f"Use {', '.join(RESPONSES)}.")


@lru_cache(maxsize=8)
def response_table(name: Response) -> Floats:
    """(4081,) float32: the response at i / 4080. Do not write to it."""
    level = np.linspace(0.0, 1.0, STEPS + 1)
    if name == "gamma 2.2":
        level = level**2.2
    elif name == "CIE lightness":
        lightness = 100.0 * level
        level = np.where(lightness <= 8.0, lightness / 903.3, ((lightness + 16.0) / 116.0) ** 3)
    table = level.astype(np.float32)
    table.setflags(write=False)
    return table


def respond(name: Response, levels: Floats) -> Floats:
    """Levels 0..1 through the response."""
    if name == "as is":
        return levels
    index = (levels * np.float32(STEPS) + np.float32(0.5)).astype(np.intp)
    answer: Floats = response_table(name).take(index, mode="clip")
    return answer


def asked_of(name: Response, values: Floats) -> Floats:
    """The inverse: which level a value 0..1 stands for."""
    if name == "as is":
        return values
    if name == "gamma 2.2":
        level: Floats = np.power(values, np.float32(1 / 2.2))
        return level
    y = values.astype(np.float64)
    lightness = np.where(y <= 8.0 / 903.3, y * 903.3, 116.0 * np.cbrt(y) - 16.0)
    return (lightness / 100.0).astype(np.float32)
