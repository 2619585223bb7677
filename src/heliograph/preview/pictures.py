"""What the screens show beside the sent picture: miniatures, and one frame painted and on the cells."""

from __future__ import annotations

import base64
import struct
from collections.abc import Iterable, Sequence
from dataclasses import replace
from uuid import UUID

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.extraction import extract, recombine, shown
from heliograph.core.colour.ramps import Floats, to_bytes
from heliograph.core.colour.reading import ColourReader, SentValues
from heliograph.core.colour.tinting import tint
from heliograph.core.hand.values import hand_values
from heliograph.core.lasers.guarding import without_shared
from heliograph.core.look.line import RecolourLine
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import Painting, PlaybackState
from heliograph.core.rig.arrays import Rig
from heliograph.ipc.frames import SentFrame
from heliograph.ipc.messages.preview import KeptPicture
from heliograph.power.levels import fixture_levels
from heliograph.power.settings import AnyTold, each_told
from heliograph.preview.driven import driven_now
from heliograph.preview.moment import Moment, run_of
from heliograph.preview.squares import squares_of
from heliograph.render.compiled import CompiledShow
from heliograph.render.compiled_line import CompiledLine, CompiledMatrix
from heliograph.render.direct import lit, own_lit, put_on
from heliograph.render.driving import driven, now_of, phase_of
from heliograph.render.masking import masking_of
from heliograph.render.mixing import Mixer, with_lines
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
_HEAD = struct.Struct("<BBHIQq")  # kind, reserved, pictures, drives, frame number, show time ns
_PICTURE = struct.Struct("<16sHHHBBhH")  # id, columns, rows, step, kind, state, difference (-1 unknown), reserved


class Preview:
    """Pictures of one compiled show at a time. Call it from one thread."""

    def __init__(self) -> None:
        self._renderer = Renderer()
        self._squares: dict[str, tuple[CompiledMatrix, CompiledMatrix]] = {}
        self._on_squares: dict[str, tuple[CompiledLine, CompiledMatrix, CompiledLine]] = {}
        self._resolver = Resolver()
        self._reader: tuple[Rig, ColourReader] | None = None
        self._told: Sequence[AnyTold] = ()

    def message(self, show: CompiledShow, moment: Moment, look: str, looks: Sequence[str]) -> bytes:
        """Miniatures of `look`'s lines, one frame of its matrices, and miniatures of `looks`, for the browser."""
        parts = [*self._looks(show, moment, looks), *self._lines(show, moment, look), *self._frame(show, moment, look)]
        moving = driven_now(show, moment, look, self._resolver)
        head = _HEAD.pack(KIND_PREVIEW, 0, len(parts), len(moving), moment.frame.number, moment.frame.show_ns)
        return head + b"".join(parts) + b"".join(moving)

    def _lines(self, show: CompiledShow, moment: Moment, look: str) -> Iterable[bytes]:
        run, on = run_of(show, moment, look)
        painting = moment.painting
        now = now_of(painting)
        lines = self._resolver.lines(show.looks.get(look, ()), painting.held, show)
        for place, one in enumerate(lines):
            alone = driven(_over(self._squared(one)), run, now)
            phase = phase_of(alone, run, now)
            if phase is None:
                continue
            painter = _painter(one.matrix)
            pixels = painter.pixels
            if isinstance(one.line, RecolourLine):  # by itself it makes nothing: it is shown on what lies beneath it
                beneath = [self._squared(other) for other in lines[:place] if other.matrix is one.matrix]
                painter.look(beneath, run, now)
            painter.line(alone, phase, 1.0, masking_of(alone, run, now))
            state = SENT_TOO if on and not one.line.mute else ONLY_HERE
            yield _packed(one.line.id, one.matrix, pixels, MINIATURE, state, MINIATURE_PIXELS)

    def _looks(self, show: CompiledShow, moment: Moment, looks: Sequence[str]) -> Iterable[bytes]:
        painting = moment.painting
        for look in looks:
            lines = self._resolver.lines(show.looks.get(look, ()), painting.held, show)
            if not lines:
                continue
            run, on = run_of(show, moment, look)
            matrix = max((one.matrix for one in lines), key=lambda m: sum(one.matrix is m for one in lines))
            pixels = self._painted(lines, run, matrix, painting)
            yield _packed(look, matrix, pixels, LOOK, SENT_TOO if on else ONLY_HERE, MINIATURE_PIXELS)

    def _frame(self, show: CompiledShow, moment: Moment, look: str) -> Iterable[bytes]:
        """Painted and on the cells. Of a look that is off, both show it alone, as if it were on."""
        lines = show.looks.get(look, ())
        run, on = run_of(show, moment, look)
        if not lines:
            return
        live = moment.state
        state = live if on else PlaybackState(live.tempo, runs=(run,), held=live.held, tint=live.tint)
        painting = state.painting(moment.frame.show_ns)
        asked = self._asked(show, state, painting.time_ns, moment.frame.steady_ns)
        difference = self._difference(show, asked, moment) if on and moment.exact and not state.walk else None
        for matrix in {id(one.matrix): one.matrix for one in lines}.values():
            pixels = self._mixed(show, matrix, painting, moment.frame.steady_ns)
            mark = SENT_TOO if on else ONLY_HERE
            yield _packed(matrix.id, matrix, pixels, PAINTED, mark, PICTURE_PIXELS)
            cells = matrix.cell
            grid = np.zeros_like(pixels)
            grid[:, matrix.square] = asked[:, cells]
            most = -1 if difference is None else int(difference[cells].max(initial=0))
            yield _packed(matrix.id, matrix, grid, CELLS, mark, PICTURE_PIXELS, most)

    def _mixed(self, show: CompiledShow, matrix: CompiledMatrix, painting: Painting, steady_ns: int) -> Floats:
        """(3, squares) what everything that plays paints on all squares of a matrix."""
        here = with_lines(
            self._resolver.stack(show, painting),
            lambda lines: [self._squared(one) for one in lines if one.matrix is matrix],
        )
        pixels = np.zeros((3, matrix.width * matrix.height), dtype=np.float32)
        mixer = Mixer(pixels)
        mixer.mix(here, now_of(painting, steady_ns), lambda group: _squares_of(show, matrix, group))
        tint(pixels, painting.tint)
        return lit(pixels, mixer.direct)

    def _asked(self, show: CompiledShow, state: PlaybackState, time_ns: int, steady_ns: int = 0) -> Floats:
        """(3, N) what is asked of each cell, as far as its emitters can show it: after masters."""
        pixels, direct, self._told = self._renderer.paint(show, state, time_ns, steady_ns)
        asked = np.clip(pixels, 0.0, 1.0)
        levels = (
            np.float32(0.0) if state.blackout else fixture_levels(show.rig, show.groups, state)[show.rig.fixture_of]
        )
        asked *= levels
        for group in show.rig.colours:
            if group.recipe.is_white_only:
                asked[:, group.cells] = shown(group.recipe, asked[:, group.cells])
            if direct:  # as its emitters make it, and as that is seen
                rest, extras = (part.copy() for part in extract(group.recipe, asked[:, group.cells]))
                put_on(group.recipe, group.cells, rest, extras, direct, np.broadcast_to(levels, asked.shape[1:]))
                said = np.any([one.cover[group.cells] > 0.0 for one in direct.values()], axis=0)
                seen = recombine(group.recipe, rest, extras)
                asked[:, group.cells] = np.where(said, seen, asked[:, group.cells])
        return asked

    def _difference(self, show: CompiledShow, asked: Floats, moment: Moment) -> npt.NDArray[np.int64]:
        """(N,) the largest difference of a cell between asked and sent, in 255ths. Guarded fixtures that are not
        armed, cells held by hand or set by lines and cells without an address do not count: no picture is asked of
        them."""
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
        counts &= ~_by_hand(show, state) & ~_by_lines(show, self._told)
        return np.where(counts, apart, 0)

    def _painted(self, lines: Sequence[CompiledLine], run: Run, matrix: CompiledMatrix, painting: Painting) -> Floats:
        painter = _painter(matrix)
        here = [self._squared(one) for one in lines if one.matrix is matrix]
        painter.look(here, run, now_of(painting))
        return own_lit(painter)

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
    return _cells_lit_by(rig, held)


def _squares_of(show: CompiledShow, matrix: CompiledMatrix, group: str) -> npt.NDArray[np.bool_] | None:
    """The squares of a matrix on which cells of a group's fixtures lie."""
    if group not in show.groups:
        return None
    there = np.zeros(matrix.width * matrix.height, dtype=np.bool_)
    there[matrix.square[np.isin(show.rig.fixture_of[matrix.cell], show.groups[group])]] = True
    return there


def _by_lines(show: CompiledShow, told: Sequence[AnyTold]) -> npt.NDArray[np.bool_]:
    """(N,) cells with an emitter or a dimmer that a line sets: no picture is asked of them."""
    rig = show.rig
    if not told:
        return np.zeros(rig.cell_count, dtype=bool)
    return _cells_lit_by(rig, np.concatenate([one.settings.coarse for one in each_told(told)]))


def _cells_lit_by(rig: Rig, positions: npt.NDArray[np.int64]) -> npt.NDArray[np.bool_]:
    """(N,) cells of which an emitter or a dimmer is at one of these positions."""
    dimmers = np.append(np.isin(rig.dimmers.coarse, positions), False)  # the last stands for "no dimmer", index -1
    cells = np.isin(rig.emitters, positions).any(axis=1) | dimmers[rig.dimmers.of_cell].any(axis=1)
    return np.asarray(cells, dtype=bool)


def _painter(matrix: CompiledMatrix) -> Painter:
    """One that paints on all squares of a matrix, none of which is covered yet."""
    squares = matrix.width * matrix.height
    return Painter(np.zeros((3, squares), dtype=np.float32), np.zeros(squares, dtype=np.float32))


def _over(one: CompiledLine) -> CompiledLine:
    """The line as it looks by itself: all of its colour blended over black, whatever its blend."""
    if isinstance(one.line, RecolourLine):
        return one
    return replace(one, line=replace(one.line, blend="over", only="", emitter=""))


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
