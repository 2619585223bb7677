"""Chases: strips of drawn frames, each of which fades in and then holds; and which of them shows when.

Times are seconds or beats, one unit for a whole chase. A round shows every frame once; with turns it goes there and
back and shows the frames between its ends twice.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from itertools import accumulate
from math import floor
from typing import Any, Literal, NamedTuple, get_args

import numpy as np

from heliograph.core.errors import InputError
from heliograph.core.playing.tempo import PhaseUnit

Order = Literal["along", "turns", "dealt"]
"""Frame after frame; there and back; or each once a round, in an order dealt anew for each round."""

ORDERS: tuple[Order, ...] = get_args(Order)
FRAMES_MAX = 1_000
SQUARES_MAX = 4_000_000
"""Squares of all frames of a chase together: 16 MB of colours."""

FRAME_LEAST = 1 / 60
FRAME_MOST = 3_600.0
"""A frame's fade and hold together, in s or beats."""


@dataclass(frozen=True, slots=True)
class FrameTimes:
    """How long a frame takes to appear, and how long it stays then."""

    fade: float
    hold: float

    def __post_init__(self) -> None:
        for name in ("fade", "hold"):
            if not 0.0 <= getattr(self, name) <= FRAME_MOST:
                raise InputError(f"A {name} of {getattr(self, name):g} is outside 0 to {FRAME_MOST:,.0f}.", where=name)
        if self.length < FRAME_LEAST:
            raise InputError(
                f"A frame that fades in {self.fade:g} and holds {self.hold:g} is over at once.",
                where="hold",
                repair="Fade and hold together last at least a sixtieth: type 0.5.",
            )

    @property
    def length(self) -> float:
        return self.fade + self.hold


class Shown(NamedTuple):
    """What shows at a moment: `frame` by `share` 0..1 over `before`, the one that showed before it (None for nothing);
    `left`: until the next one begins, in the chase's unit at its own speed. `step`: which frame of the round it is."""

    frame: int
    before: int | None
    share: float
    left: float
    step: int


class _Round(NamedTuple):
    """The frames of a round in the order in which they show; when each begins, and when all are over."""

    steps: tuple[int, ...]
    starts: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Strip:
    """The times of a chase's frames, in its unit, in the order in which they are drawn."""

    unit: PhaseUnit
    frames: tuple[FrameTimes, ...]
    length: float = field(init=False)
    """Of all frames, each once."""
    _rounds: dict[tuple[Order, int, int], _Round] = field(default_factory=dict, init=False, repr=False, compare=False)

    def __post_init__(self) -> None:
        if not self.frames:
            raise InputError("A chase has at least one frame.", where="frames", repair="Draw one.")
        if len(self.frames) > FRAMES_MAX:
            raise InputError(f"{len(self.frames):,} frames are more than {FRAMES_MAX:,}.", where="frames")
        object.__setattr__(self, "length", sum(one.length for one in self.frames))

    def round_of(self, order: Order) -> float:
        """How long one round lasts."""
        return self.length + (sum(one.length for one in self.frames[1:-1]) if order == "turns" else 0.0)

    def at(self, phase: float, order: Order, seed: int = 0, begins: bool = True) -> Shown:
        """What shows at a phase in rounds (below 0 backward). `begins`: the first frame of all fades in from nothing,
        not from the last."""
        number = floor(phase)
        steps, starts = self._round(order, seed, number)
        at = (phase - number) * starts[-1]
        step = min(max(bisect_right(starts, at) - 1, 0), len(steps) - 1)
        at -= starts[step]
        frame = steps[step]
        times = self.frames[frame]
        before: int | None
        if step:
            before = steps[step - 1]
        elif begins and number == 0:
            before = None
        else:
            before = self._round(order, seed, number - 1).steps[-1]
        share = 1.0 if at >= times.fade else at / times.fade
        return Shown(frame, before if share < 1.0 else frame, share, max(times.length - at, 0.0), step)

    def begins_at(self, phase: float, order: Order, seed: int, by: int) -> float:
        """The phase at which the frame `by` steps from the one that shows begins to hold: where somebody steps to the
        next by hand, it is there at once."""
        turns, step = divmod(self.at(phase, order, seed).step + by, self.steps_of(order))
        number = floor(phase) + turns
        steps, starts = self._round(order, seed, number)
        return number + (starts[step] + self.frames[steps[step]].fade + ROUNDING) / starts[-1]

    def steps_of(self, order: Order) -> int:
        """How many frames show in a round."""
        count = len(self.frames)
        return count + max(count - 2, 0) if order == "turns" else count

    def _round(self, order: Order, seed: int, number: int) -> _Round:
        key = (order, seed, number) if order == "dealt" else (order, 0, 0)
        known = self._rounds.get(key)
        if known is None:
            steps = tuple(range(len(self.frames)))
            if order == "dealt":
                steps = dealt(len(steps), seed, number)
            elif order == "turns":
                steps = (*steps, *steps[-2:0:-1])
            known = _Round(steps, (0.0, *accumulate(self.frames[one].length for one in steps)))
            if len(self._rounds) > ROUNDS_KEPT:
                self._rounds.clear()
            self._rounds[key] = known
        return known


ROUNDS_KEPT = 32
ROUNDING = 1e-9
"""So much later a step by hand arrives, so that no rounding leaves it in the frame before."""


def dealt(count: int, seed: int, number: int) -> tuple[int, ...]:
    """Every frame once, by chance; none shows twice running across two rounds where there are three or more."""
    dealt = _shuffled(count, seed, number)
    if count > 2 and dealt[0] == _shuffled(count, seed, number - 1)[-1]:
        dealt = (dealt[1], dealt[0], *dealt[2:])
    return dealt


def _shuffled(count: int, seed: int, number: int) -> tuple[int, ...]:
    chance = np.random.Generator(np.random.PCG64([seed & 0x7FFFFFFF, number & 0xFFFFFFFF]))
    return tuple(int(one) for one in chance.permutation(count))


def strip_from_json(data: Mapping[str, Any]) -> Strip:
    """Of a stored chase."""
    return Strip(data["unit"], tuple(FrameTimes(float(one["fade"]), float(one["hold"])) for one in data["frames"]))


def check_shape(columns: int, rows: int, frames: Sequence[Any]) -> None:
    """Raises InputError for a chase that is larger than what is kept."""
    squares = columns * rows * len(frames)
    if squares > SQUARES_MAX:
        most = SQUARES_MAX // max(columns * rows, 1)
        raise InputError(
            f"{len(frames):,} frames of {columns} x {rows} are {squares:,} squares: {SQUARES_MAX:,} are the most.",
            where="frames",
            repair=f"Use at most {most:,} frames of this size.",
        )
