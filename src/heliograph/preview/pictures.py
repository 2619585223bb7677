"""What the screens show beside the sent picture: miniatures, and one frame painted and on the cells."""

from __future__ import annotations

import base64
import struct
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from uuid import UUID

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.extraction import shown
from heliograph.core.colour.ramps import Floats, to_bytes
from heliograph.core.colour.reading import ColourReader, SentValues
from heliograph.core.colour.tinting import tint
from heliograph.core.hand.values import hand_values
from heliograph.core.lasers.guarding import without_shared
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import Painting, PlaybackState, advance
from heliograph.core.rig.arrays import Rig
from heliograph.ipc.frames import SentFrame
from heliograph.ipc.messages.preview import KeptPicture
from heliograph.power.levels import fixture_levels
from heliograph.preview.squares import squares_of
from heliograph.render.compiled import CompiledLine, CompiledMatrix, CompiledShow
from heliograph.render.mixing import Mixer
from heliograph.render.painting import Painter
from heliograph.render.renderer import Renderer
from heliograph.render.resolving import Resolver

Bytes = npt.NDArray[np.uint8]

MINIATURE, LOOK, PAINTED, CELLS = 1, 2, 3, 4
"""Kinds of picture: one line, one look of the list, a matrix as painted, a matrix as asked of its cells."""

SENT_TOO, ONLY_HERE = 0, 1
"""Whether what a picture shows is part of what is being sent."""

MINIATURE_PIXELS = 1_200
PICTURE_PIXELS = 8_000
KIND_PREVIEW = 3
_HEAD = struct.Struct("<BBHIQq")  # kind, reserved, pictures, reserved, frame number, show time ns
_PICTURE = struct.Struct("<16sHHHBBhH")  # id, columns, rows, step, kind, state, difference (-1 unknown), reserved


@dataclass(frozen=True, slots=True)
class Moment:
    """One sent frame and the playback state it was rendered from; `exact` where its show is the one known here."""

    frame: SentFrame
    state: PlaybackState
    exact: bool

    @property
    def painting(self) -> Painting:
        return self.state.painting(self.frame.show_ns)


class Preview:
    """Pictures of one compiled show at a time. Call it from one thread."""

    def __init__(self) -> None:
        self._renderer = Renderer()
        self._squares: dict[str, tuple[CompiledMatrix, CompiledMatrix]] = {}
        self._on_squares: dict[str, tuple[CompiledLine, CompiledMatrix, CompiledLine]] = {}
        self._resolver = Resolver()
        self._reader: tuple[Rig, ColourReader] | None = None

    def message(self, show: CompiledShow, moment: Moment, look: str, looks: Sequence[str]) -> bytes:
        """Miniatures of `look`'s lines, one frame of its matrices, and miniatures of `looks`, for the browser."""
        parts = [*self._looks(show, moment, looks), *self._lines(show, moment, look), *self._frame(show, moment, look)]
        head = _HEAD.pack(KIND_PREVIEW, 0, len(parts), 0, moment.frame.number, moment.frame.show_ns)
        return head + b"".join(parts)

    def _lines(self, show: CompiledShow, moment: Moment, look: str) -> Iterable[bytes]:
        run, on = _run_of(show, moment, look)
        painting = moment.painting
        for one in self._resolver.lines(show.looks.get(look, ()), painting.held):
            anchor = run.phases.get(one.line.id)
            if anchor is None:
                continue
            pixels = np.zeros((3, one.matrix.width * one.matrix.height), dtype=np.float32)
            phase = anchor.phase_at(painting.time_ns, painting.beat)
            Painter(pixels).line(_over(self._squared(one)), phase, 1.0)
            state = SENT_TOO if on and not one.line.mute else ONLY_HERE
            yield _packed(one.line.id, one.matrix, pixels, MINIATURE, state, MINIATURE_PIXELS)

    def _looks(self, show: CompiledShow, moment: Moment, looks: Sequence[str]) -> Iterable[bytes]:
        painting = moment.painting
        for look in looks:
            lines = self._resolver.lines(show.looks.get(look, ()), painting.held)
            if not lines:
                continue
            run, on = _run_of(show, moment, look)
            matrix = max((one.matrix for one in lines), key=lambda m: sum(one.matrix is m for one in lines))
            pixels = self._painted(lines, run, matrix, painting)
            yield _packed(look, matrix, pixels, LOOK, SENT_TOO if on else ONLY_HERE, MINIATURE_PIXELS)

    def _frame(self, show: CompiledShow, moment: Moment, look: str) -> Iterable[bytes]:
        """Painted and on the cells. Of a look that is off, both show it alone, as if it were on."""
        lines = show.looks.get(look, ())
        run, on = _run_of(show, moment, look)
        if not lines:
            return
        live = moment.state
        state = live if on else PlaybackState(live.tempo, runs=(run,), held=live.held, tint=live.tint)
        painting = state.painting(moment.frame.show_ns)
        asked = self._asked(show, state, painting.time_ns)
        difference = self._difference(show, asked, moment) if on and moment.exact and not state.walk else None
        for matrix in {id(one.matrix): one.matrix for one in lines}.values():
            here = [
                playing._replace(lines=[self._squared(one) for one in playing.lines if one.matrix is matrix])
                for playing in self._resolver.playing(show, painting)
            ]
            pixels = np.zeros((3, matrix.width * matrix.height), dtype=np.float32)
            Mixer(pixels).mix(here, painting.time_ns, painting.beat)
            tint(pixels, painting.tint)
            mark = SENT_TOO if on else ONLY_HERE
            yield _packed(matrix.id, matrix, pixels, PAINTED, mark, PICTURE_PIXELS)
            cells = matrix.cell
            grid = np.zeros_like(pixels)
            grid[:, matrix.square] = asked[:, cells]
            most = -1 if difference is None else int(difference[cells].max(initial=0))
            yield _packed(matrix.id, matrix, grid, CELLS, mark, PICTURE_PIXELS, most)

    def _asked(self, show: CompiledShow, state: PlaybackState, time_ns: int) -> Floats:
        """(3, N) what is asked of each cell, as far as its emitters can show it: after masters."""
        asked = np.clip(self._renderer.paint(show, state, time_ns), 0.0, 1.0)
        asked *= (
            np.float32(0.0) if state.blackout else fixture_levels(show.rig, show.groups, state)[show.rig.fixture_of]
        )
        for group in show.rig.colours:
            if group.recipe.is_white_only:
                asked[:, group.cells] = shown(group.recipe, asked[:, group.cells])
        return asked

    def _difference(self, show: CompiledShow, asked: Floats, moment: Moment) -> npt.NDArray[np.int64]:
        """(N,) the largest difference of a cell between asked and sent, in 255ths. Guarded fixtures that are not
        armed, cells held by hand and cells without an address do not count: no look asks anything of them."""
        rig = show.rig
        if self._reader is None or self._reader[0] is not rig:
            self._reader = (rig, ColourReader(rig))
        frame = moment.frame
        sent = self._reader[1].read(SentValues(frame.universes, frame.sent, frame.data))
        apart = np.abs(to_bytes(sent.rgb).astype(np.int64) - to_bytes(asked).astype(np.int64)).max(axis=0, initial=0)
        state = moment.state
        emitting = frozenset() if state.blackout else without_shared(state.armed, show.emission.guard_shared)
        held = [f.guarded and f.id not in emitting for f in rig.fixtures.values()]
        counts = sent.whole & ~np.array(held, dtype=bool)[rig.fixture_of] if held else sent.whole
        counts &= ~_by_hand(show, state)
        return np.where(counts, apart, 0)

    def _painted(self, lines: Sequence[CompiledLine], run: Run, matrix: CompiledMatrix, painting: Painting) -> Floats:
        pixels = np.zeros((3, matrix.width * matrix.height), dtype=np.float32)
        here = [self._squared(one) for one in lines if one.matrix is matrix]
        Painter(pixels).look(here, run, painting.time_ns, painting.beat)
        return pixels

    def _squared(self, one: CompiledLine) -> CompiledLine:
        """The line on all squares of its matrix."""
        squares = self._of(one.matrix)
        known = self._on_squares.get(one.line.id)
        if known is None or known[0] is not one or known[1] is not squares:
            known = self._on_squares[one.line.id] = (one, squares, one.on(squares))
        return known[2]

    def _of(self, matrix: CompiledMatrix) -> CompiledMatrix:
        known = self._squares.get(matrix.id)
        if known is None or known[0] is not matrix:
            known = (matrix, squares_of(matrix))
            self._squares[matrix.id] = known
        return known[1]


def kept_picture(show: CompiledShow, frame: SentFrame, matrix: str) -> KeptPicture:
    """A matrix as a frame lit it, decoded through the patch of the frame's own show: columns, rows and base64 RGB."""
    one = show.matrices[matrix]
    sent = ColourReader(show.rig).read(SentValues(frame.universes, frame.sent, frame.data))
    grid = np.zeros((3, one.width * one.height), dtype=np.float32)
    grid[:, one.square] = sent.rgb[:, one.cell]
    rgb = np.ascontiguousarray(to_bytes(grid).T)
    return KeptPicture(one.width, one.height, base64.b64encode(rgb.tobytes()).decode())


def _by_hand(show: CompiledShow, state: PlaybackState) -> npt.NDArray[np.bool_]:
    """(N,) cells with an emitter or a dimmer that is held by hand, parked, or safe because a laser lay there."""
    rig, parked = show.rig, show.parked
    if not (state.manual or state.raw or state.highlight or parked.values or state.left):
        return np.zeros(rig.cell_count, dtype=bool)
    levels = np.ones(len(rig.fixtures), dtype=np.float32)
    left = [position for one in state.left for position, _ in one.values]
    held = np.concatenate([hand_values(rig, state, levels).positions, [*parked.values, *left]]).astype(np.int64)
    dimmers = np.append(np.isin(rig.dimmers.coarse, held), False)  # the last stands for "no dimmer", index -1
    cells = np.isin(rig.emitters, held).any(axis=1) | dimmers[rig.dimmers.of_cell].any(axis=1)
    return np.asarray(cells, dtype=bool)


def _run_of(show: CompiledShow, moment: Moment, look: str) -> tuple[Run, bool]:
    """How the look runs, the newest run of several; one that is off runs here from show time 0, so that its picture
    moves."""
    runs = [run for run in moment.painting.runs if run.look == look]
    if runs:
        return runs[-1], True
    alone = PlaybackState(moment.state.tempo, runs=(Run("alone", look, 0),))
    return advance(alone, show.lines, 0).runs[0], False


def _over(one: CompiledLine) -> CompiledLine:
    """The line as it looks by itself: blended over black, whatever its blend."""
    return replace(one, line=replace(one.line, blend="over"))


def _packed(
    key: str, matrix: CompiledMatrix, pixels: Floats, kind: int, state: int, most_pixels: int, difference: int = -1
) -> bytes:
    grid = to_bytes(pixels).reshape(3, matrix.height, matrix.width)
    step = 1
    while -(-matrix.height // step) * -(-matrix.width // step) > most_pixels:
        step += 1
    thin = np.ascontiguousarray(grid[:, ::step, ::step].transpose(1, 2, 0))
    head = _PICTURE.pack(UUID(key).bytes, thin.shape[1], thin.shape[0], step, kind, state, difference, 0)
    return head + thin.tobytes()
