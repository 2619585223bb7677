"""Pictures of a whole matrix that are worked out once for a moment, and soft fields that are worked out on every few
squares and drawn out in between, where that cannot be seen."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

import numpy as np

from heliograph.effects.registry import Canvas, Floats, Indexes, Moment

LARGE = 4096
"""Points of a canvas from which on soft fields are worked out coarsely."""

Field = Callable[[Floats, Floats], Floats]
"""Of x (1, w) and y (h, 1) in squares: planes (k, h, w)."""


class Once:
    """What was worked out last, for the stretches of a canvas that follow at the same moment."""

    __slots__ = ("_moved", "_phase", "_picture")

    def __init__(self) -> None:
        self._moved: Mapping[str, Any] | None = None
        self._phase = 0.0
        self._picture: Any = None

    def at(self, moment: Moment, make: Callable[[], Any]) -> Any:
        if self._moved is not moment.moved or self._phase != moment.phase:
            self._picture = make()
            self._moved, self._phase = moment.moved, moment.phase
        return self._picture


class Kept(Once):
    """The last picture of a canvas. `square` (n,): the square each point lies on, row by row."""

    __slots__ = ("square",)

    def __init__(self, canvas: Canvas) -> None:
        super().__init__()
        self.square: Indexes = (np.floor(canvas.y) * canvas.width + np.floor(canvas.x)).astype(np.intp)


def drawn_out(canvas: Canvas, field: Field, step: int) -> Floats:
    """(k, squares) of a field worked out on every `step`-th column and row, straight in between."""
    xs, left, u = _grid(canvas.width, step)
    ys, top, v = _grid(canvas.height, step)
    coarse = field(xs[None, :], ys[:, None])
    along = coarse.take(left, axis=2)
    along += (coarse.take(left + 1, axis=2) - along) * u
    upper: Floats = along.take(top, axis=1)
    lower = along.take(top + 1, axis=1)
    lower -= upper
    lower *= v[:, None]
    upper += lower
    return upper.reshape(upper.shape[0], -1)


def _grid(squares: int, step: int) -> tuple[Floats, Indexes, Floats]:
    """Middles of the squares worked out, and for every square the one before it and how far it is to the next."""
    count = (squares - 1) // step + 2
    middles = np.arange(count, dtype=np.float32) * np.float32(step) + np.float32(0.5)
    left, rest = np.divmod(np.arange(squares), step)
    return middles, left.astype(np.intp), (rest / step).astype(np.float32)
