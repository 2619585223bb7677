"""Lines painted onto a buffer of cells (or of a matrix's squares): effects, clips, blends."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from heliograph.core.colour.components import Component, luminance, written
from heliograph.core.colour.ramps import Floats
from heliograph.core.indexes import Index
from heliograph.core.look.any_line import Blend
from heliograph.core.look.line import ChaseLine, RecolourLine
from heliograph.core.playing.run import Run
from heliograph.render.chases import ChaseFrames
from heliograph.render.compiled_line import BLOCK, CompiledLine
from heliograph.render.driving import Now, driven, phase_of
from heliograph.render.masking import Masking, masking_of, share_of
from heliograph.render.points import averaged, clip_frame, effect_of, painted_points, ramp_index
from heliograph.render.recolouring import recoloured

COVERING: tuple[Blend, ...] = ("over", "add", "lighten")


class Painter:
    """Paints on `pixels` (3, N) float32 planes and, where it is given, keeps how much of each is covered: `cover` (N,).
    `levels`: what lines over one emitter paint, by its plane, each a painter of (1, N). Owns only scratch buffers; call
    it from one thread."""

    def __init__(self, pixels: Floats, cover: Floats | None = None) -> None:
        # Planes, not triples: numpy multiplies a plane by a cover 6 times faster than rows of three (measured).
        self.pixels, self.cover = pixels, cover
        self.levels: dict[int, Painter] = {}
        self._colour = np.empty(3 * BLOCK, dtype=np.float32)
        self._painting = np.empty(3 * BLOCK, dtype=np.float32)

    def look(self, lines: Sequence[CompiledLine], run: Run, now: Now) -> None:
        """Paints a look's lines, bottom first; where any that is not muted is solo, only those that are. Its level is
        left to whoever mixes looks."""
        for stored in painted_lines(lines):
            if not stored.line.pictured:
                continue
            one = driven(stored, run, now)
            phase = phase_of(one, run, now)
            if phase is not None and one.opacity > 0.0:
                self.line(one, phase, one.opacity, masking_of(one, run, now))

    def line(self, one: CompiledLine, phase: float, opacity: float, masking: Masking | None = None) -> None:
        """Paints one line at a phase in cycles, through `masking` where there is one. Cells that are placed freely are
        painted with the others first; that is taken back, and they get the mean of what they cover. What a line over
        one emitter paints is its brightness, and goes to that emitter's own painter."""
        if one.plane is not None and len(self.pixels) == 3:
            self.over_emitter(one.plane).line(one, phase, opacity, masking)
            return
        if isinstance(one.line, RecolourLine):
            self._recolour(one, phase, opacity, masking)
            return
        kept = [self.pixels[:, spread.cells] for spread in one.matrix.spreads]
        covered = [None if self.cover is None else self.cover[spread.cells] for spread in one.matrix.spreads]
        if one.effect is None:
            self._clip(one, phase, opacity, masking)
        else:
            self._effect(one, phase, opacity, masking)
        for spread, before, cover_before in zip(one.matrix.spreads, kept, covered, strict=True):
            self.pixels[:, spread.cells] = before
            if self.cover is not None:
                self.cover[spread.cells] = cover_before
            share = share_of(one, masking, spread.part)
            points = painted_points(one, spread.part, phase, opacity, share)
            if points is not None:
                colour, cover = averaged(self.own(points[0]), points[1], spread.starts, spread.weight)
                self.blend(one.line.blend, spread.cells, colour, cover, one.line.writes)

    def over_emitter(self, plane: int) -> Painter:
        """The painter of one emitter's levels; made clear where nothing was painted over it yet."""
        if plane not in self.levels:
            count = self.pixels.shape[1]
            self.levels[plane] = Painter(np.zeros((1, count), dtype=np.float32), np.zeros(count, dtype=np.float32))
        return self.levels[plane]

    def clear(self) -> None:
        """Everything clear, and no emitter painted over."""
        self.pixels.fill(0.0)
        if self.cover is not None:
            self.cover.fill(0.0)
        self.levels.clear()

    def own(self, colour: Floats) -> Floats:
        """Colours (3, n) as this painter takes them: one that paints levels takes their brightness."""
        return colour if len(self.pixels) == 3 else luminance(colour)[None]

    def _effect(self, one: CompiledLine, phase: float, opacity: float, masking: Masking | None) -> None:
        table = self.own(one.table)
        plain = len(one.line.ramp) == 1  # one colour, wherever on it
        for part, cells in one.matrix.parts:
            place, cover = effect_of(one, part, phase)
            if not isinstance(cover, float) and not cover.max(initial=0.0) > 0.0:
                continue  # nothing of it is here
            covered = cover * opacity if isinstance(cover, float) else cover * np.float32(opacity)
            share = share_of(one, masking, part)
            if share is not None:
                covered = share * np.float32(covered) if isinstance(covered, float) else share * covered
            index = 0 if plain else ramp_index(one, place, part)
            if isinstance(index, int):
                colour: Floats = table[:, index, None]
            else:
                colour = _planes(self._colour, part.stop - part.start, len(table))
                table.take(index, axis=1, out=colour, mode="clip")
            self.blend(one.line.blend, cells, colour, covered, one.line.writes)

    def _chase(self, one: CompiledLine, phase: float, opacity: float, masking: Masking | None) -> None:
        assert isinstance(one.clip, ChaseFrames)
        assert isinstance(one.line, ChaseLine)
        painted = one.clip.painted(one.line, phase, one.cycle is None, one.matrix.square)
        if painted is None:
            return
        for part, cells in one.matrix.parts:
            covered: float | Floats = opacity if painted.cover is None else painted.cover[part] * np.float32(opacity)
            share = share_of(one, masking, part)
            if share is not None:
                covered = share * np.float32(covered) if isinstance(covered, float) else share * covered
            self.blend(one.line.blend, cells, self.own(painted.colour[:, part]), covered, one.line.writes)

    def _clip(self, one: CompiledLine, phase: float, opacity: float, masking: Masking | None) -> None:
        if isinstance(one.clip, ChaseFrames):
            self._chase(one, phase, opacity, masking)
            return
        frame = clip_frame(one, phase)
        if frame is None:
            return
        clear = frame.shape[1] == 4
        for part, cells in one.matrix.parts:
            colour = _planes(self._colour, part.stop - part.start)
            squares = frame[one.matrix.square[part]].T
            np.multiply(squares[:3], np.float32(1 / 255), out=colour)
            cover = squares[3] * np.float32(opacity / 255) if clear else opacity
            share = share_of(one, masking, part)
            if share is not None:
                cover = share * np.float32(cover) if isinstance(cover, float) else share * cover
            self.blend(one.line.blend, cells, self.own(colour), cover, one.line.writes)

    def _recolour(self, one: CompiledLine, phase: float, opacity: float, masking: Masking | None) -> None:
        for part, cells in one.matrix.parts:
            self.recolour(one, phase, opacity, part, cells, share_of(one, masking, part))

    def recolour(
        self, one: CompiledLine, phase: float, opacity: float, part: slice, cells: Index, share: Floats | None
    ) -> None:
        """Recolours a stretch of cells, of which `share` (n,) is let through. What is covered only in part is
        recoloured as if it were whole, and covers as much as before."""
        under = self.pixels[:, cells]
        cover = None if self.cover is None else self.cover[cells]
        share_of_whole = np.float32(1.0) if cover is None else np.maximum(cover, np.float32(1e-6))
        own: Floats = np.minimum(under / share_of_whole, np.float32(1.0)).astype(np.float32)
        made = self._blended(one.line.blend, own, recoloured(one, part, phase, own))
        if one.line.writes:
            made = written(own, made, one.line.writes)
        amount = np.float32(opacity) if share is None else share * np.float32(opacity)
        under += ((made if cover is None else made * cover) - under) * amount
        if not isinstance(cells, slice):
            self.pixels[:, cells] = under

    def _blended(self, blend: Blend, under: Floats, colour: Floats) -> Floats:
        """What a blend makes where it covers whole: (3, n) in a scratch buffer."""
        painted = _planes(self._painting, under.shape[1], len(under))
        if blend == "multiply":
            np.multiply(under, colour, out=painted)
        elif blend == "lighten":
            np.maximum(under, colour, out=painted)
        elif blend == "darken":
            np.minimum(under, colour, out=painted)
        elif blend == "add":
            np.add(under, colour, out=painted)
            np.minimum(painted, np.float32(1.0), out=painted)
        else:
            np.copyto(painted, colour)
        return painted

    def blend(
        self, blend: Blend, cells: Index, colour: Floats, cover: float | Floats, only: Component | None = None
    ) -> None:
        """Blends `colour` (3, n) or (3, 1) onto the cells, covering 0..1: under + (blended - under) x cover; `only` one
        component of what that makes.

        What only changes the colours beneath it (multiply, darken, hue, saturation) covers nothing that was not covered
        before.
        """
        if only is not None:
            self._write(only, blend, cells, colour, cover)
            return
        if self.cover is not None and blend in COVERING:
            self.cover[cells] += (np.float32(1.0) - self.cover[cells]) * cover
        if blend == "over" and not isinstance(cover, np.ndarray) and cover >= 1.0:
            self.pixels[:, cells] = colour
            return
        under = self.pixels[:, cells]
        if blend in ("over", "add"):
            painted = _planes(self._painting, under.shape[1], len(under))
            np.multiply(colour, cover, out=painted)
        else:
            painted = self._blended(blend, under, colour)
            painted *= cover
        if blend != "add":
            under *= np.float32(1.0) - cover if isinstance(cover, np.ndarray) else 1.0 - cover
        under += painted
        if not isinstance(cells, slice):
            self.pixels[:, cells] = under

    def _write(self, only: Component, blend: Blend, cells: Index, colour: Floats, cover: float | Floats) -> None:
        if self.cover is not None and only == "light" and blend in COVERING:
            self.cover[cells] += (np.float32(1.0) - self.cover[cells]) * cover
        under = self.pixels[:, cells]
        made = written(under, self._blended(blend, under, colour), only)
        under += (made - under) * (cover if isinstance(cover, np.ndarray) else np.float32(cover))
        if not isinstance(cells, slice):
            self.pixels[:, cells] = under


def painted_lines(lines: Sequence[CompiledLine]) -> list[CompiledLine]:
    """Lines of a look that do something now: where any that is not muted is solo, only those that are."""
    solo = any(one.line.solo and one.line.paints_itself for one in lines)
    return [one for one in lines if one.line.paints_itself and (one.line.solo or not solo)]


def _planes(scratch: Floats, count: int, rows: int = 3) -> Floats:
    """(rows, count) of a scratch buffer, without gaps: numpy takes into it in one call, which three rows apart cost
    twelve times as much on a small matrix (measured)."""
    return scratch[: rows * count].reshape(rows, count)
