"""The built-in effects: each is a description of its parameters and one pure function.

An effect paints a stretch of a matrix's cells at a phase in cycles. It answers where on the ramp
each cell stands and how much it covers; colour comes from the ramp afterwards.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Literal, NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.errors import InputError

Floats = npt.NDArray[np.float32]
Indexes = npt.NDArray[np.intp]


class Order(NamedTuple):
    """A way through the cells: `rank` (n,) float32 0..steps-1, and its place on the ramp as a table index."""

    rank: Floats
    steps: int
    place: Indexes


@dataclass(frozen=True, slots=True)
class Canvas:
    """What an effect sees of a matrix. Arrays run over its placements in strand (address) order.

    `x`, `y`: centres in squares, float32 (n,). `width`, `height` in squares. `orders` by name:
    see `canvas_for`.
    """

    x: Floats
    y: Floats
    width: int
    height: int
    orders: Mapping[str, Order]

    @property
    def count(self) -> int:
        return int(self.x.size)


class Stretch(NamedTuple):
    """Result of an effect: `place` on the ramp (0..1, or (n,) integers into its 1,024 steps) and `cover`
    0..1, each a number for all cells or one for each."""

    place: float | Floats | Indexes
    cover: float | Floats


@dataclass(frozen=True, slots=True)
class Parameter:
    """One parameter: its range and unit, or its choices."""

    name: str
    kind: Literal["number", "choice"]
    default: float | str
    minimum: float = 0.0
    maximum: float = 1.0
    unit: str = ""
    choices: tuple[str, ...] = ()


Paint = Callable[[Canvas, slice, float, Mapping[str, Any]], Stretch]


@dataclass(frozen=True, slots=True)
class Effect:
    """An effect of the set: its words, its parameters, the smallest matrix it reads well on, its function."""

    name: str
    says: str
    words: tuple[str, ...]
    parameters: tuple[Parameter, ...]
    paint: Paint
    moves: bool = True
    smallest: tuple[int, int] = (1, 1)


EFFECTS: dict[str, Effect] = {}


def register(effect: Effect) -> Effect:
    EFFECTS[effect.name] = effect
    return effect


def effect_named(name: str) -> Effect:
    """The effect; raises InputError that lists what there is."""
    if name not in EFFECTS:
        raise InputError(
            f"There is no effect '{name}'.", where="effect", repair=f"There are: {', '.join(sorted(EFFECTS))}."
        )
    return EFFECTS[name]


def complete_params(effect: Effect, given: Mapping[str, Any]) -> dict[str, Any]:
    """All parameters of an effect, missing ones at their default.

    Raises InputError for an unknown name, a value outside its range or not among the choices.
    """
    known = {parameter.name: parameter for parameter in effect.parameters}
    for name in given:
        if name not in known:
            raise InputError(
                f"{effect.name} has no parameter '{name}'.",
                where=f"params.{name}",
                repair=f"It has: {', '.join(known) or 'none'}.",
            )
    result: dict[str, Any] = {}
    for name, parameter in known.items():
        value = given.get(name, parameter.default)
        if parameter.kind == "choice":
            if value not in parameter.choices:
                raise InputError(
                    f"{name} '{value}' is not one of {', '.join(parameter.choices)}.", where=f"params.{name}"
                )
        elif (
            isinstance(value, bool)
            or not isinstance(value, (int, float))
            or not parameter.minimum <= value <= parameter.maximum
        ):
            raise InputError(
                f"{name} {value} is outside {parameter.minimum:g} to {parameter.maximum:g} {parameter.unit}".strip()
                + ".",
                where=f"params.{name}",
            )
        result[name] = value
    return result
