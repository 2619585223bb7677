"""Chases as the renderer reads them: pictures of all frames, and what shows of them at a phase, mixed as it fades."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.look.chase import Shown, Strip, strip_from_json
from heliograph.core.look.drawn import unpacked
from heliograph.core.look.line import ChaseLine

Bytes = npt.NDArray[np.uint8]
Floats = npt.NDArray[np.float32]
Ints = npt.NDArray[np.int64]


class Painted(NamedTuple):
    colour: Floats
    cover: Floats | None


@dataclass(slots=True)
class _OnPoints:
    """All pictures on the points of one canvas: `planes` (frames, 4, n); `whole`: all of them cover everything."""

    square: Ints
    planes: Bytes
    whole: bool
    _frames: tuple[int | None, int] | None = None
    _old: Floats = field(default_factory=lambda: np.empty((4, 0), dtype=np.float32))
    _step: Floats = field(default_factory=lambda: np.empty((4, 0), dtype=np.float32))
    _made: Floats = field(default_factory=lambda: np.empty((4, 0), dtype=np.float32))

    @classmethod
    def of(cls, pictures: Bytes, lies: Ints, square: Ints) -> _OnPoints:
        planes = np.ascontiguousarray(pictures[:, lies].transpose(0, 2, 1))
        return cls(square, planes, bool((planes[:, 3] == 255).all()))

    def painted(self, shown: Shown) -> Painted:
        if self._frames != (shown.before, shown.frame):
            self._frames = (shown.before, shown.frame)
            self._old = self._covered(shown.before)
            self._step = self._covered(shown.frame) - self._old
            self._made = np.empty_like(self._old)
        whole = self.whole and shown.before is not None
        rows = 3 if whole else 4
        made = self._made[:rows]
        if shown.before == shown.frame:
            np.copyto(made, self._old[:rows])
        else:
            np.multiply(self._step[:rows], np.float32(shown.share), out=made)
            made += self._old[:rows]
        if whole:
            return Painted(made, None)
        cover = made[3]
        made[:3] /= np.maximum(cover, np.float32(1e-6))
        return Painted(made[:3], cover)

    def _covered(self, frame: int | None) -> Floats:
        """(4, n) a picture premultiplied by its cover, 0..1; clear for none."""
        if frame is None:
            return np.zeros(self.planes.shape[1:], dtype=np.float32)
        planes: Floats = self.planes[frame] * np.float32(1 / 255)
        planes[:3] *= planes[3]
        return planes


@dataclass(slots=True)
class ChaseFrames:
    """`pictures` (n, squares, 4) uint8, cover last. `lies` (k,): on which of its squares each square of the matrix it
    is shown on lies, None where both have one size."""

    strip: Strip
    columns: int
    rows: int
    pictures: Bytes
    lies: Ints | None = None
    _pair: tuple[int | None, int] | None = field(default=None, repr=False)
    _mixing: tuple[Floats, Floats] | None = field(default=None, repr=False)
    _points: _OnPoints | None = field(default=None, repr=False)
    sets: tuple[Mapping[str, str], ...] = ()
    """What each frame sets of attributes, as it is typed."""

    def on(self, columns: int, rows: int) -> ChaseFrames:
        """The same frames stretched over a matrix of another size."""
        if (columns, rows) == (self.columns, self.rows):
            return ChaseFrames(self.strip, self.columns, self.rows, self.pictures, sets=self.sets)
        x = np.minimum(((np.arange(columns) + 0.5) * (self.columns / columns)).astype(np.int64), self.columns - 1)
        y = np.minimum(((np.arange(rows) + 0.5) * (self.rows / rows)).astype(np.int64), self.rows - 1)
        lies = (y[:, None] * self.columns + x[None, :]).reshape(-1)
        return ChaseFrames(self.strip, self.columns, self.rows, self.pictures, lies, sets=self.sets)

    def at(self, line: ChaseLine, phase: float, in_time: bool) -> Bytes | Floats | None:
        """(squares, 4) 0..255, not premultiplied, of a phase in rounds; None once it is over and shows nothing.
        `in_time`: time moves it, so it begins and may end."""
        shown = self.shown(line, phase, in_time)
        if shown is None:
            return None
        picture: Bytes | Floats
        if shown.before == shown.frame:
            picture = self.pictures[shown.frame]
        else:
            picture = self._mixed(shown.before, shown.frame, shown.share)
        return picture if self.lies is None else picture[self.lies]

    def shown(self, line: ChaseLine, phase: float, in_time: bool) -> Shown | None:
        """What shows at a phase in rounds; None once it is over and shows nothing."""
        if line.frame:
            frame = min(line.frame, len(self.strip.frames)) - 1
            return Shown(frame, frame, 1.0, 0.0, frame)
        if line.rounds and in_time and abs(phase) >= line.rounds:
            if line.ends == "clear":
                return None
            phase = line.rounds - LAST if phase > 0 else -line.rounds + LAST
        return self.strip.at(phase, line.order, line.seed, begins=in_time)

    def painted(self, line: ChaseLine, phase: float, in_time: bool, square: Ints) -> Painted | None:
        """As `at`, for the points of a canvas that lie on `square` (n,) of its matrix: (3, n) 0..1 and their cover,
        None where all is covered. Each picture is laid out for those points once: taking it to pieces in every frame
        made fifty chases twice as dear (measured)."""
        shown = self.shown(line, phase, in_time)
        if shown is None:
            return None
        if self._points is None or self._points.square is not square:
            self._points = _OnPoints.of(self.pictures, square if self.lies is None else self.lies[square], square)
        return self._points.painted(shown)

    def _mixed(self, before: int | None, frame: int, share: float) -> Floats:
        if self._pair != (before, frame) or self._mixing is None:
            self._pair, self._mixing = (before, frame), (self._covered(before), self._covered(frame))
        old, new = self._mixing
        mixed: Floats = old + (new - old) * np.float32(share)
        cover = mixed[:, 3:]
        mixed[:, :3] *= np.float32(255.0) / np.maximum(cover, np.float32(1e-3))
        return mixed

    def _covered(self, frame: int | None) -> Floats:
        """A frame premultiplied by its cover, 0..255; clear for none."""
        if frame is None:
            return np.zeros(self.pictures.shape[1:], dtype=np.float32)
        picture: Floats = self.pictures[frame].astype(np.float32)
        picture[:, :3] *= picture[:, 3:] * np.float32(1 / 255)
        return picture


LAST = 1e-6
"""So much before the end of its rounds a chase shows its last frame."""


def chase_from_section(section: Mapping[str, Any]) -> ChaseFrames:
    columns, rows = int(section["columns"]), int(section["rows"])
    pictures = np.stack([unpacked(one["picture"], columns, rows).reshape(-1, 4) for one in section["frames"]])
    sets = tuple(dict(one.get("sets", {})) for one in section["frames"])
    return ChaseFrames(strip_from_json(section), columns, rows, pictures, sets=sets)
