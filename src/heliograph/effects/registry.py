"""The built-in effects: each is a description of its parameters and two pure functions.

`prepare` works out, once for a line, what hangs on the canvas, the seed and the choices alone. `paint` then paints a
stretch of the cells at a moment, from that and from the numbers, which may move. It answers where on the ramp each cell
stands and how much it covers; colour comes from the ramp afterwards.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Stop
from heliograph.core.errors import InputError
from heliograph.core.look.line import EffectLine, Line, RecolourLine
from heliograph.core.look.parameter import Parameter, complete
from heliograph.core.look.recolour import RECOLOUR
from heliograph.core.playing.tempo import Speed

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

    @property
    def from_middle(self) -> tuple[Floats, Floats]:
        """x and y (n,) counted from the middle of the matrix, in squares."""
        return self.x - np.float32(self.width / 2), self.y - np.float32(self.height / 2)


class Stretch(NamedTuple):
    """Result of an effect: `place` on the ramp (0..1, or (n,) integers into its 1,024 steps) and `cover`
    0..1, each a number for all cells or one for each."""

    place: float | Floats | Indexes
    cover: float | Floats


class Moment(NamedTuple):
    """`phase` in cycles; `moved`: the numbers by name, each for all cells or, where the parameter allows it, (n,)
    float32 for every point of the canvas."""

    phase: float
    moved: Mapping[str, Any]

    def number(self, name: str, part: slice) -> Any:
        """One of `moved` for a stretch of the cells: a float, or float32 of the stretch's length."""
        value = self.moved[name]
        return value[part] if isinstance(value, np.ndarray) else value


Prepare = Callable[[Canvas, Mapping[str, str], int], Any]
Paint = Callable[[Any, slice, Moment], Stretch]

FOUR_SECONDS = Speed(4.0)
PLAIN: tuple[Stop, ...] = (Stop(0.0, 255, 206, 128),)
"""One warm colour."""

EVENING: tuple[Stop, ...] = (Stop(0.0, 6, 18, 46), Stop(1.0, 255, 206, 128))
"""Two colours, for what one would show nothing of."""


@dataclass(frozen=True, slots=True)
class Effect:
    """An effect of the set: its words, its parameters, the smallest matrix it reads well on, its functions.

    `prepare(canvas, choices, seed)` gives what `paint(prepared, part, moment)` begins from. `ramp`, `speed`: what a new
    line of it has.
    """

    name: str
    says: str
    words: tuple[str, ...]
    parameters: tuple[Parameter, ...]
    prepare: Prepare
    paint: Paint
    moves: bool = True
    smallest: tuple[int, int] = (1, 1)
    ramp: tuple[Stop, ...] = PLAIN
    speed: Speed = FOUR_SECONDS
    begins: Mapping[str, Any] = field(default_factory=dict)
    steps: Callable[[Any, Mapping[str, Any]], int] | None = None
    """How many pictures a cycle of it has, where it goes by steps: of what was prepared, by its parameters."""
    """Parameters of a new line of it that are not at their default, which is what stored lines without them have."""

    def choices(self, params: Mapping[str, Any]) -> dict[str, str]:
        """Those parameters that are chosen among words."""
        return {one.name: str(params[one.name]) for one in self.parameters if one.kind == "choice"}

    @property
    def texts(self) -> tuple[str, ...]:
        """Those parameters that are texts."""
        return tuple(one.name for one in self.parameters if one.kind == "text")


EFFECTS: dict[str, Effect] = {}


def register(effect: Effect) -> Effect:
    EFFECTS[effect.name] = effect
    return effect


def unsuited(effect: Effect, width: int, height: int) -> str:
    """Why an effect does not read well on a matrix of this size, "" where it does. It is never forbidden."""
    columns, rows = effect.smallest
    if width >= columns and height >= rows:
        return ""
    return f"reads well from {columns} x {rows} on; here are {width} x {height}"


def effect_named(name: str) -> Effect:
    """The effect; raises InputError that lists what there is."""
    if name not in EFFECTS:
        raise InputError(
            f"There is no effect '{name}'.", where="effect", repair=f"There are: {', '.join(sorted(EFFECTS))}."
        )
    return EFFECTS[name]


def parameters_of(line: Line) -> tuple[Parameter, ...]:
    """What a line's kind takes: numbers and choices."""
    if isinstance(line, RecolourLine):
        return RECOLOUR
    return EFFECTS[line.effect].parameters if isinstance(line, EffectLine) and line.effect in EFFECTS else ()


def complete_params(effect: Effect, given: Mapping[str, Any]) -> dict[str, Any]:
    """All parameters of an effect, missing ones at their default; InputError for one it does not take."""
    return complete(effect.parameters, given, effect.name)
