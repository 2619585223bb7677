"""A line of a look, or all of it, as pictures over one cycle."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Floats, to_bytes
from heliograph.core.errors import InputError
from heliograph.core.look.drawn import packed
from heliograph.core.look.line import EffectLine, Line
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import NS_PER_S, PhaseUnit, Tempo
from heliograph.ipc.messages.preview import UnrolledFrames
from heliograph.render.compiled import CompiledShow
from heliograph.render.compiled_line import CompiledLine
from heliograph.render.driving import Now, driven, phase_of
from heliograph.render.masking import masking_of
from heliograph.render.painting import Painter

Ints = npt.NDArray[np.int64]

OWN_MOST = 256
"""An effect of more steps is not unrolled into all of them unless that is asked for."""


def unrolled(show: CompiledShow, look: str, line_id: str, count: int, tempo: Tempo) -> UnrolledFrames:
    """`count` pictures of a line of a look ("" all of it, as it lies over nothing) on the matrix it is painted over (of
    a look, that of most of its lines), each in the middle of its part of one cycle; only what it would be for 0."""
    lines = show.looks.get(look, ())
    chosen = [one for one in lines if one.line.pictured and line_id in ("", one.line.id)]
    if not chosen:
        raise InputError("There is nothing to unroll.", where="line", repair="Choose a line that paints something.")
    among = [one.matrix.id for one in chosen]
    matrix = max((one.matrix for one in chosen), key=lambda one: among.count(one.id))
    here = [one for one in chosen if one.matrix is matrix]
    if not any(one.line.timed for one in here):
        raise InputError("That does not move by itself.", where="line", repair="Unroll an effect, a clip or a chase.")
    unit, length = _cycle(here, tempo)
    steps = [_steps(one) for one in here]
    own = next((one for one in steps if one), 0) if line_id else 0
    on = (matrix.id, matrix.name, matrix.width, matrix.height)
    offered = own if own <= OWN_MOST else 0
    if not count:
        return UnrolledFrames(offered, length, unit, *on)
    state = PlaybackState(Tempo(tempo.bpm), runs=(Run("unrolled", look, 0),))
    run = advance(state, show.lines, 0).runs[0]
    seconds = length if unit == "s" else length * 60.0 / tempo.bpm
    pictures = []
    for n in range(count):
        time_ns = round((n + 0.5) / count * seconds * NS_PER_S)
        now = Now(time_ns, state.tempo.beat_at(time_ns), 60.0 / tempo.bpm)
        pixels = np.zeros((3, show.rig.cell_count), dtype=np.float32)
        painter = Painter(pixels, np.zeros(show.rig.cell_count, dtype=np.float32))
        if line_id:
            one = driven(here[0].changed(line=_alone(here[0])), run, now)
            phase = phase_of(one, run, now)
            if phase is not None:
                painter.line(one, phase, 1.0, masking_of(one, run, now))
        else:
            painter.look(here, run, now)
        assert painter.cover is not None
        pictures.append(_picture(matrix.square, matrix.cell, (matrix.width, matrix.height), pixels, painter.cover))
    return UnrolledFrames(offered, length, unit, *on, pictures)


def _cycle(lines: list[CompiledLine], tempo: Tempo) -> tuple[PhaseUnit, float]:
    """How long the longest cycle is: in beats where all go by beats."""
    rates = [one.line.rate for one in lines if one.line.timed and one.line.rate.rate]
    if not rates:
        return "s", 4.0
    if all(rate.unit == "beat" for rate in rates):
        return "beat", max(abs(1.0 / rate.rate) for rate in rates)
    beat = 60.0 / tempo.bpm
    return "s", max(abs(1.0 / rate.rate) * (1.0 if rate.unit == "s" else beat) for rate in rates)


def _steps(one: CompiledLine) -> int:
    if one.effect is None or one.effect.steps is None or not isinstance(one.line, EffectLine):
        return 0
    return one.effect.steps(one.prepared, one.params)


def _alone(one: CompiledLine) -> Line:
    """The line as it looks by itself: its colours and its cover, whatever its blend."""
    return replace(one.line, blend="over", only="", emitter="", opacity=1.0)


def _picture(squares: Ints, cells: Ints, size: tuple[int, int], pixels: Floats, cover: Floats) -> str:
    """The stored form of what was painted on cells, on the squares they stand on; squares without a cell are clear."""
    columns, rows = size
    picture = np.zeros((rows * columns, 4), dtype=np.uint8)
    painted = np.clip(pixels[:, cells], 0.0, 1.0)
    own = np.maximum(cover[cells], painted.max(axis=0))  # light added to what is clear in part covers as much as it is
    colour = painted / np.maximum(own, np.float32(1e-6))
    picture[squares, :3] = to_bytes(np.minimum(colour, np.float32(1.0))).T
    picture[squares, 3] = np.rint(np.minimum(own, np.float32(1.0)) * np.float32(255.0)).astype(np.uint8)
    return packed(picture.reshape(rows, columns, 4))
