"""Lines painted onto a buffer of cells (or of a matrix's squares): effects, clips, blends."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import RAMP_STEPS, Floats
from heliograph.core.indexes import Index
from heliograph.core.look.line import Blend, ClipLine
from heliograph.core.playing.run import Run
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.effects import Moment, Stretch
from heliograph.render.compiled import BLOCK, CompiledLine

Indexes = npt.NDArray[np.intp]

COVERING: tuple[Blend, ...] = ("over", "add", "lighten")


class Painter:
    """Paints on `pixels` (3, N) float32 planes and, where it is given, keeps how much of each is covered: `cover` (N,).
    Owns only scratch buffers; call it from one thread."""

    def __init__(self, pixels: Floats, cover: Floats | None = None) -> None:
        # Planes, not triples: numpy multiplies a plane by a cover 6 times faster than rows of three (measured).
        self.pixels, self.cover = pixels, cover
        self._colour = np.empty(3 * BLOCK, dtype=np.float32)
        self._painting = np.empty(3 * BLOCK, dtype=np.float32)

    def look(self, lines: Sequence[CompiledLine], run: Run, time_ns: int, beat: float) -> None:
        """Paints a look's lines, bottom first; where any that is not muted is solo, only those that are. Its level is
        left to whoever mixes looks."""
        solo = any(one.line.solo and not one.line.mute for one in lines)
        for one in lines:
            anchor = run.phases.get(one.line.id)
            opacity = one.line.opacity
            if anchor is None or opacity <= 0.0 or one.line.mute or (solo and not one.line.solo):
                continue
            self.line(one, anchor.phase_at(time_ns, beat), opacity)

    def line(self, one: CompiledLine, phase: float, opacity: float) -> None:
        """Paints one line at a phase in cycles. Cells that are placed freely are painted with the others first; that
        is taken back, and they get the mean of what they cover."""
        kept = [self.pixels[:, spread.cells] for spread in one.matrix.spreads]
        covered = [None if self.cover is None else self.cover[spread.cells] for spread in one.matrix.spreads]
        if one.effect is None:
            self._clip(one, phase, opacity)
        else:
            self._effect(one, phase, opacity)
        for spread, before, cover_before in zip(one.matrix.spreads, kept, covered, strict=True):
            self.pixels[:, spread.cells] = before
            if self.cover is not None:
                self.cover[spread.cells] = cover_before
            points = painted_points(one, spread.part, phase, opacity)
            if points is not None:
                colour, cover = averaged(*points, spread.starts, spread.weight)
                self.blend(one.line.blend, spread.cells, colour, cover)

    def _effect(self, one: CompiledLine, phase: float, opacity: float) -> None:
        for part, cells in one.matrix.parts:
            place, cover = effect_of(one, part, phase)
            covered = cover * opacity if isinstance(cover, float) else cover * np.float32(opacity)
            if isinstance(place, float):
                colour: Floats = one.table[:, int(place * (RAMP_STEPS - 1) + 0.5), None]
            else:
                index = table_index(place)
                colour = _planes(self._colour, part.stop - part.start)
                one.table.take(index, axis=1, out=colour, mode="clip")
            self.blend(one.line.blend, cells, colour, covered)

    def _clip(self, one: CompiledLine, phase: float, opacity: float) -> None:
        frame = clip_frame(one, phase)
        if frame is None:
            return
        clear = frame.shape[1] == 4
        for part, cells in one.matrix.parts:
            colour = _planes(self._colour, part.stop - part.start)
            squares = frame[one.matrix.square[part]].T
            np.multiply(squares[:3], np.float32(1 / 255), out=colour)
            cover = squares[3] * np.float32(opacity / 255) if clear else opacity
            self.blend(one.line.blend, cells, colour, cover)

    def blend(self, blend: Blend, cells: Index, colour: Floats, cover: float | Floats) -> None:
        """Blends `colour` (3, n) or (3, 1) onto the cells, covering 0..1: under + (blended - under) x cover.

        What only changes the colours beneath it (multiply, darken) covers nothing that was not covered before.
        """
        if self.cover is not None and blend in COVERING:
            self.cover[cells] += (np.float32(1.0) - self.cover[cells]) * cover
        if blend == "over" and not isinstance(cover, np.ndarray) and cover >= 1.0:
            self.pixels[:, cells] = colour
            return
        under = self.pixels[:, cells]
        painted = _planes(self._painting, under.shape[1])
        if blend == "multiply":
            np.multiply(under, colour, out=painted)
        elif blend == "lighten":
            np.maximum(under, colour, out=painted)
        elif blend == "darken":
            np.minimum(under, colour, out=painted)
        else:
            np.copyto(painted, colour)
        painted *= cover
        if blend != "add":
            under *= np.float32(1.0) - cover if isinstance(cover, np.ndarray) else 1.0 - cover
        under += painted
        if not isinstance(cells, slice):
            self.pixels[:, cells] = under


def _planes(scratch: Floats, count: int) -> Floats:
    """(3, count) of a scratch buffer, without gaps: numpy takes into it in one call, which three rows apart cost twelve
    times as much on a small matrix (measured)."""
    return scratch[: 3 * count].reshape(3, count)


def effect_of(one: CompiledLine, part: slice, phase: float) -> Stretch:
    """What an effect's line paints on a stretch of the canvas."""
    assert one.effect is not None
    return one.effect.paint(one.prepared, part, Moment(phase, one.params))


def painted_points(one: CompiledLine, part: slice, phase: float, opacity: float) -> tuple[Floats, Floats] | None:
    """Colour (3, n) and cover (n,) of a stretch of points, not averaged yet; None for a clip without a picture."""
    count = part.stop - part.start
    if one.effect is not None:
        place, cover = effect_of(one, part, phase)
        index = (
            np.full(count, int(place * (RAMP_STEPS - 1) + 0.5), dtype=np.intp)
            if isinstance(place, float)
            else table_index(place)
        )
        if isinstance(cover, float):
            return one.table[:, index].astype(np.float32), np.full(count, cover * opacity, dtype=np.float32)
        return one.table[:, index].astype(np.float32), cover * np.float32(opacity)
    frame = clip_frame(one, phase)
    if frame is None:
        return None
    squares = frame[one.matrix.square[part]].T
    colour = squares[:3].astype(np.float32) * np.float32(1 / 255)
    clear = frame.shape[1] == 4
    cover = squares[3] * np.float32(opacity / 255) if clear else np.full(count, opacity, dtype=np.float32)
    return colour, cover


def averaged(colour: Floats, cover: Floats, starts: Indexes, weight: Floats) -> tuple[Floats, Floats]:
    """What cells that cover several points get: the mean cover, and the mean colour of what is covered."""
    part = cover * weight
    whole = np.add.reduceat(part, starts)
    mixed = np.add.reduceat(colour * part, starts, axis=1)
    return (mixed / np.maximum(whole, np.float32(1e-9))).astype(np.float32), whole.astype(np.float32)


def clip_frame(one: CompiledLine, phase: float) -> npt.NDArray[np.uint8] | None:
    """The picture of a clip's line at a phase, (squares, 3 or 4); None where it has none yet."""
    if one.clip is None or not one.clip.is_open or not isinstance(one.line, ClipLine):
        return None
    first, last = one.line.fitting.span_s(one.clip.duration_ns / NS_PER_S)
    return one.clip.frame_at(round((first + (phase % 1.0) * (last - first)) * NS_PER_S))


def table_index(place: Floats | Indexes) -> Indexes:
    """Places 0..1 as indexes of a ramp's table; indexes stay as they are."""
    if place.dtype == np.intp:
        return place.astype(np.intp, copy=False)
    return np.rint(place * (RAMP_STEPS - 1)).astype(np.intp)
