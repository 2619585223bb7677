"""Chequer: every n-th cell, row or column, or squares of a board."""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import NamedTuple

import numpy as np
import numpy.typing as npt

from heliograph.core.colour.ramps import Stop
from heliograph.core.look.parameter import Parameter
from heliograph.effects.registry import Canvas, Effect, Moment, Stretch, register
from heliograph.effects.shaping import cells_of

WAYS = ("both", "cells", "rows", "columns")


class Prepared(NamedTuple):
    """`across`, `down` (n,): which of them each point stands in; of one way alone the other is 0."""

    across: npt.NDArray[np.int64]
    down: npt.NDArray[np.int64]


def prepare(canvas: Canvas, choices: Mapping[str, str], _seed: int) -> Prepared:
    column, row = np.floor(canvas.x).astype(np.int64), np.floor(canvas.y).astype(np.int64)
    nothing = np.zeros_like(column)
    ways = {
        "both": (column, row),
        "cells": (cells_of(canvas), nothing),
        "rows": (nothing, row),
        "columns": (column, nothing),
    }
    return Prepared(*ways[choices["of"]])


def paint(prepared: Prepared, part: slice, moment: Moment) -> Stretch:
    """Every `every`-th is lit, in groups of `size`; within a phase of 1 each comes to its turn once. The ramp runs over
    the turns."""
    every, size = round(moment.moved["every"]), round(moment.moved["size"])
    counted = prepared.across[part] // size + prepared.down[part] // size
    turn = (counted + math.floor(moment.phase % 1.0 * every)) % every
    lit = (turn == 0).astype(np.float32)
    return Stretch((counted % every).astype(np.float32) / np.float32(max(every - 1, 1)), lit)


CHEQUER = register(
    Effect(
        name="Chequer",
        says="every n-th cell, row or column, or squares of a board",
        words=("checker", "board", "odd", "even", "alternate", "squares"),
        parameters=(
            Parameter("of", "choice", "both", choices=WAYS),
            Parameter("every", "number", 2.0, 2.0, 64.0, "th"),
            Parameter("size", "number", 2.0, 1.0, 64.0, "cells"),
        ),
        prepare=prepare,
        paint=paint,
        ramp=(Stop(0.0, 255, 96, 72),),
    )
)
