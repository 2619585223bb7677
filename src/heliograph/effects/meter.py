"""Meter: bars that fill to a level. It hears nothing yet: its level is set or driven, and its bars sway by chance."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.core.playing.tempo import Speed
from heliograph.effects.mist import LATTICE, lattice
from heliograph.effects.registry import Canvas, Effect, Floats, Moment, Stretch, register
from heliograph.effects.shaping import noise_on

ORIGINS = ("below", "above", "left", "right", "middle")
BANDS_MOST = 64


class Prepared(NamedTuple):
    """`way` (n,): from where the bars begin 0 to their ends 1; `across` (n,): over the bars, 0 to 1; `step`: one
    square on the way."""

    way: Floats
    across: Floats
    step: float
    table: Floats


def prepare(canvas: Canvas, choices: Mapping[str, str], seed: int) -> Prepared:
    x, y = canvas.x / np.float32(canvas.width), canvas.y / np.float32(canvas.height)
    one = np.float32(1.0)
    ways = {
        "below": (one - y, x, canvas.height),
        "above": (y, x, canvas.height),
        "left": (x, y, canvas.width),
        "right": (one - x, y, canvas.width),
        "middle": (np.abs(y - np.float32(0.5)) * np.float32(2.0), x, canvas.height / 2),
    }
    way, across, squares = ways[choices["origin"]]
    return Prepared(way.astype(np.float32), across.astype(np.float32), 1.0 / max(squares, 0.5), lattice(seed))


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """`bands` bars filled to `level` percent, each swaying beneath it by `sway` percent within some parts of a phase
    of 1; `gap` percent of a bar's width stay dark between them. The ramp lies along the bars."""
    bands = round(moment.moved["bands"])
    along = prepared.across[part] * np.float32(bands)
    number = np.minimum(along.astype(np.int64), bands - 1)
    swings = _swings(prepared.table, moment.phase, bands)[number]
    sway = np.asarray(moment.number("sway", part) / 100.0, dtype=np.float32)
    level = np.asarray(moment.number("level", part) / 100.0, dtype=np.float32)
    filled = level * (np.float32(1.0) - sway * swings)
    way = prepared.way[part]
    cover = np.clip((filled - way) / np.float32(prepared.step) + np.float32(0.5), 0.0, 1.0)
    gap = np.asarray(moment.number("gap", part) / 100.0, dtype=np.float32)
    inside = along - number.astype(np.float32)
    return Stretch(np.clip(way, 0.0, 1.0), (cover * (inside >= gap)).astype(np.float32))


def _swings(table: Floats, phase: float, bands: int) -> Floats:
    """(bands,) 0..1: how far each bar has sunk."""
    beside = (np.arange(bands, dtype=np.float32) * np.float32(5.0)) % np.float32(LATTICE)
    swings: Floats = noise_on(table, beside, np.array([phase * 8.0 % LATTICE], dtype=np.float32))[0]
    return swings


METER = register(
    Effect(
        name="Meter",
        says="bars that fill to a level; until there is sound it is set or driven",
        words=("vu", "equaliser", "spectrum", "level", "bars", "audio"),
        parameters=(
            Parameter("level", "number", 90.0, 0.0, 100.0, "%", each=True),
            Parameter("origin", "choice", "below", choices=ORIGINS),
            Parameter("bands", "number", 8.0, 1.0, BANDS_MOST, "bars"),
            Parameter("gap", "number", 15.0, 0.0, 90.0, "% of a bar", each=True),
            Parameter("sway", "number", 80.0, 0.0, 100.0, "%", each=True),
        ),
        prepare=prepare,
        paint=paint,
        smallest=(1, 4),
        ramp=(Stop(0.0, 0, 150, 120), Stop(0.6, 240, 200, 40), Stop(1.0, 255, 60, 30)),
        speed=Speed(2.0),
    )
)
