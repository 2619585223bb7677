"""What a look is like as a stroke: a line through the middle of its matrix, painted one moment beside another."""

from __future__ import annotations

import numpy as np

from heliograph.core.colour.ramps import to_bytes
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import NS_PER_S, Tempo
from heliograph.ipc.messages.preview import StrokeFound
from heliograph.preview.squares import squares_of
from heliograph.render.compiled import CompiledShow
from heliograph.render.driving import Now
from heliograph.render.painting import Painter

BEATS = 8.0
COLUMNS, ROWS = 64, 8


def stroke_of(show: CompiledShow, look: str, group: str, tempo: Tempo) -> StrokeFound:
    """`COLUMNS` moments over `BEATS`, each `ROWS` high, red, green and blue row by row; nothing of a look that paints
    nothing. The line lies along the longer side of the matrix that most of its lines are painted over, of those that
    the group has most of."""
    lines = [one for one in show.looks.get(look, ()) if one.line.pictured]
    matrices = [one.matrix for one in lines]
    members = show.groups.get(group)
    if members is not None:
        share = [float(np.isin(show.rig.fixture_of[one.cell], members).mean()) for one in matrices]
        most = max(share, default=0.0)
        matrices = [one for one, here in zip(matrices, share, strict=True) if here >= most > 0.0]
    if not matrices:
        return StrokeFound()
    among = [one.id for one in matrices]
    matrix = max(matrices, key=lambda one: among.count(one.id))
    squares = squares_of(matrix)
    here = [one.on(squares) for one in lines if one.matrix is matrix]
    width, height = matrix.width, matrix.height
    along = np.arange(width) + (height // 2) * width if width >= height else np.arange(height) * width + width // 2
    taken = along[((np.arange(ROWS) + 0.5) * along.size / ROWS).astype(np.int64)]
    state = PlaybackState(Tempo(tempo.bpm), runs=(Run("stroke", "stroke", 0),))
    run = advance(state, {"stroke": tuple(one.line for one in here)}, 0).runs[0]
    picture = np.zeros((ROWS, COLUMNS, 3), dtype=np.uint8)
    for column in range(COLUMNS):
        time_ns = round((column + 0.5) / COLUMNS * BEATS * 60.0 / tempo.bpm * NS_PER_S)
        painter = Painter(np.zeros((3, width * height), dtype=np.float32), np.zeros(width * height, dtype=np.float32))
        painter.look(here, run, Now(time_ns, state.tempo.beat_at(time_ns), 60.0 / tempo.bpm))
        picture[:, column] = to_bytes(painter.pixels[:, taken]).T
    return StrokeFound(columns=COLUMNS, rows=ROWS, beats=BEATS, rgb=picture.tobytes())
