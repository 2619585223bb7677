"""Ticker: text that scrolls or stands."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import RAMP_STEPS, Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.effects.lettering import lettered, runs_leftward
from heliograph.effects.registry import Canvas, Effect, Floats, Indexes, Moment, Stretch, register
from heliograph.effects.whole import Kept

SCROLLS, STANDS = "scrolls", "stands"


class Prepared(NamedTuple):
    canvas: Canvas
    moves: str
    kept: Kept


def _prepare(canvas: Canvas, choices: Mapping[str, str], seed: int) -> Prepared:
    return Prepared(canvas, choices["moves"], Kept(canvas))


def _paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Once a cycle the whole text with the gap after it goes by; its ramp lies along it. What stands is in the middle,
    and what is too long for that begins at its beginning."""
    canvas, moves, kept = prepared
    cover, place = kept.at(moment, lambda: _picture(canvas, moves, moment))
    square = kept.square[part]
    return Stretch(place.take(square), cover.take(square))


def _picture(canvas: Canvas, moves: str, moment: Moment) -> tuple[Floats, Indexes]:
    """(squares,) how much the text covers, and the place on the ramp as an index."""
    text = str(moment.moved["text"])
    rows = max(min(round(canvas.height * float(moment.moved["height"]) / 100.0), canvas.height), 1)
    picture = lettered(text, rows)
    width = picture.shape[1]
    leftward = runs_leftward(text)
    squares = np.arange(canvas.width)
    if moves == STANDS:
        free = (canvas.width - width) // 2
        begins = free if free >= 0 else (canvas.width - width if leftward else 0)
        of_text = squares - begins
    else:
        gap = max(round(canvas.width * float(moment.moved["spacing"]) / 100.0), 1)
        length = width + gap
        gone = moment.phase - np.floor(moment.phase)
        # It comes in at the side it is read towards: after a whole cycle it is there again.
        shift = length * (1.0 - gone) if not leftward else length * gone - canvas.width % length
        of_text = (squares - int(np.floor(shift + 1e-6))) % length
    shown = np.zeros((canvas.height, canvas.width), dtype=np.float32)
    there = (of_text >= 0) & (of_text < width)
    above = (canvas.height - rows) // 2
    shown[above : above + rows, there] = picture[:, of_text[there]]
    along = np.rint(np.clip(of_text / max(width - 1, 1), 0.0, 1.0) * (RAMP_STEPS - 1)).astype(np.intp)
    return shown.reshape(-1), np.broadcast_to(along, shown.shape).reshape(-1)


register(
    Effect(
        name="Ticker",
        says="text that scrolls or stands",
        words=("text", "letters", "words", "scroll", "marquee", "writing", "clock", "countdown"),
        parameters=(
            Parameter("text", "text", "Skerry Point"),
            Parameter("moves", "choice", SCROLLS, choices=(SCROLLS, STANDS)),
            Parameter("height", "number", 100.0, 1.0, 100.0, "% of the rows"),
            Parameter("spacing", "number", 60.0, 0.0, 400.0, "% of the columns"),
        ),
        prepare=_prepare,
        paint=_paint,
        smallest=(8, 7),
        ramp=(Stop(0.0, 255, 206, 128),),
        speed=Speed(8.0),
    )
)
