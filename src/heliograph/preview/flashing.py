"""Whether a look flashes: ten seconds of it painted ahead, beside everything else, and the line that makes it."""

from __future__ import annotations

import threading
import time
from collections import OrderedDict
from collections.abc import Sequence

import numpy as np

from heliograph.core.colour.flashes import LIMIT, FlashCounter, Flashing
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import Tempo
from heliograph.ipc.messages.preview import FlashesFound
from heliograph.preview.squares import squares_of
from heliograph.render.compiled import CompiledShow
from heliograph.render.compiled_line import CompiledLine, CompiledMatrix
from heliograph.render.direct import own_lit
from heliograph.render.driving import Now
from heliograph.render.painting import Painter

RATE = 44
SECONDS = 10
BUDGET_S = 20.0
"""So long a look is looked at; a larger one is told by what was seen until then."""

REST_S = 0.002
KEPT = 64


def flashes_of(lines: Sequence[CompiledLine], bpm: float, until: float) -> FlashesFound:
    """What the worst second of a look had over its matrices, at full level and a tempo. `until`: a monotonic time."""
    worst = FlashesFound(known=True)
    matrices = {one.matrix.id: one.matrix for one in lines}
    for matrix in matrices.values():
        squares = squares_of(matrix)
        here = [(place, one.on(squares)) for place, one in enumerate(lines, start=1) if one.matrix is matrix]
        found, seconds = _painted([one for _, one in here], squares, matrix, bpm, until)
        if found.rate > max(worst.rate, LIMIT):
            line = _maker(here, squares, matrix, bpm, until)
            worst = FlashesFound(True, *found, matrix=matrix.id, name=matrix.name, line=line, seconds=seconds)
        elif found.rate > worst.rate:
            worst = FlashesFound(True, *found, matrix=matrix.id, name=matrix.name, seconds=seconds)
    return worst


def _maker(
    here: Sequence[tuple[int, CompiledLine]], squares: CompiledMatrix, matrix: CompiledMatrix, bpm: float, until: float
) -> int:
    """The first line without which it flashes no more; 0 where that is none alone."""
    for place, one in here:
        rest = [other for _, other in here if other is not one]
        if _painted(rest, squares, matrix, bpm, until)[0].rate <= LIMIT:
            return place
    return 0


def _painted(
    lines: Sequence[CompiledLine], squares: CompiledMatrix, matrix: CompiledMatrix, bpm: float, until: float
) -> tuple[Flashing, float]:
    """What is found where the matrix has cells, and how many seconds were looked at."""
    state = PlaybackState(Tempo(bpm), runs=(Run("ahead", "ahead", 0),))
    run = advance(state, {"ahead": tuple(one.line for one in lines)}, 0).runs[0]
    there = np.unique(matrix.square)
    counter = FlashCounter(there.size)
    count = squares.width * squares.height
    frames = 0
    for frame in range(SECONDS * RATE):
        if time.monotonic() > until:
            break
        time_ns = frame * 1_000_000_000 // RATE
        painter = Painter(np.zeros((3, count), dtype=np.float32), np.zeros(count, dtype=np.float32))
        now = Now(time_ns, state.tempo.beat_at(time_ns), 60.0 / bpm)
        painter.look(lines, run, now)
        counter.take(own_lit(painter)[:, there])
        frames += 1
        time.sleep(REST_S)  # whoever paints what is shown goes first
    return counter.found(RATE), frames / RATE


class FlashWatch:
    """Answers from what was found before; what is not known yet is looked for in a thread of its own, one look after
    another."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._found: OrderedDict[tuple[str, ...], FlashesFound] = OrderedDict()
        self._working: tuple[str, ...] | None = None

    def ask(self, show: CompiledShow, look: str, bpm: float) -> FlashesFound | None:
        """None while it is not known."""
        lines = show.looks.get(look, ())
        if not lines:
            return FlashesFound(known=True)
        matrices = sorted({one.matrix.id for one in lines})
        parts = [f"look:{look}", *(f"matrix:{one}" for one in matrices)]
        key = (f"{bpm:.1f}", *(show.hashes.get(part, "") for part in parts))
        with self._lock:
            if key in self._found:
                return self._found[key]
            if self._working is None:
                self._working = key
                threading.Thread(target=self._look, args=(key, lines, bpm), name="flashes", daemon=True).start()
        return None

    def _look(self, key: tuple[str, ...], lines: Sequence[CompiledLine], bpm: float) -> None:
        found = FlashesFound(known=True)
        try:
            found = flashes_of(lines, bpm, time.monotonic() + BUDGET_S)
        finally:
            with self._lock:
                self._found[key] = found
                while len(self._found) > KEPT:
                    self._found.popitem(last=False)
                self._working = None
