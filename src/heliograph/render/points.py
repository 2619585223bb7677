"""What a line paints on the points of its canvas: colours and cover of a stretch, before it is laid on anything."""

from __future__ import annotations

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import RAMP_STEPS, Floats
from heliograph.core.look.line import ChaseLine, ClipLine
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.effects import Moment, Stretch
from heliograph.render.chases import ChaseFrames
from heliograph.render.compiled_line import CompiledLine
from heliograph.render.incoming import IncomingFrames
from heliograph.render.live import LiveFrames

LAST = 1.0 - 1e-6
"""Where in its round a clip shows its last picture."""

Indexes = npt.NDArray[np.intp]


def effect_of(one: CompiledLine, part: slice, phase: float) -> Stretch:
    """What an effect's line paints on a stretch of the canvas."""
    assert one.effect is not None
    return one.effect.paint(one.prepared, part, Moment(phase, one.params))


def painted_points(
    one: CompiledLine, part: slice, phase: float, opacity: float, share: Floats | None = None
) -> tuple[Floats, Floats] | None:
    """Colour (3, n) and cover (n,) of a stretch of points, not averaged yet, of which `share` (n,) is let through; None
    for a clip without a picture, and for what only changes what lies beneath it."""
    points = _painted(one, part, phase, opacity)
    if points is None or share is None:
        return points
    return points[0], points[1] * share


def _painted(one: CompiledLine, part: slice, phase: float, opacity: float) -> tuple[Floats, Floats] | None:
    count = part.stop - part.start
    if one.effect is not None:
        place, cover = effect_of(one, part, phase)
        index = ramp_index(one, place, part)
        if isinstance(index, int):
            index = np.full(count, index, dtype=np.intp)
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


def clip_frame(one: CompiledLine, phase: float) -> npt.NDArray[np.uint8] | Floats | None:
    """The picture of a clip's line at a phase, (squares, 3 or 4) 0..255; None where it has none yet."""
    if one.clip is None:
        return None
    if isinstance(one.clip, ChaseFrames):
        return one.clip.at(one.line, phase, one.cycle is None) if isinstance(one.line, ChaseLine) else None
    if isinstance(one.clip, (LiveFrames, IncomingFrames)):
        return one.clip.frame_at(one.steady_ns) if one.clip.is_open else None
    if not isinstance(one.line, ClipLine):
        return None
    if not one.clip.is_open:  # what is asked for is told all the same: it is decoded first
        one.clip.asked_ns = round((one.line.fitting.in_s + phase % 1.0 * one.line.loop_s) * NS_PER_S)
        return None
    first, last = one.line.fitting.span_s(one.clip.duration_ns / NS_PER_S)
    within = phase % 1.0
    if one.line.rounds and abs(phase) >= one.line.rounds and one.cycle is None:
        if one.line.ends == "clear":
            return None
        within = LAST if phase > 0 else 0.0
    return one.clip.frame_at(round((first + within * (last - first)) * NS_PER_S))


def ramp_index(one: CompiledLine, place: float | Floats | Indexes, part: slice) -> int | Indexes:
    """Places 0..1 as indexes of the line's ramp, shifted where a drive shifts them cell by cell."""
    index = int(place * (RAMP_STEPS - 1) + 0.5) if isinstance(place, float) else table_index(place)
    return index if one.steps is None else (index + one.steps[part]) % RAMP_STEPS


def table_index(place: Floats | Indexes) -> Indexes:
    """Places 0..1 as indexes of a ramp's table; indexes stay as they are."""
    if place.dtype == np.intp:
        return place.astype(np.intp, copy=False)
    return np.rint(place * (RAMP_STEPS - 1)).astype(np.intp)
