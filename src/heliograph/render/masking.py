"""What a line is painted through, worked out for the canvas it is painted on."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from heliograph.core.colour.components import luminance
from heliograph.core.colour.ramps import Floats
from heliograph.core.playing.run import Run
from heliograph.render.compiled_line import CompiledLine
from heliograph.render.driving import Now, driven, phase_of
from heliograph.render.points import painted_points


class Masking(NamedTuple):
    """The line another is painted through, on the canvas of that one, at its phase in cycles."""

    line: CompiledLine
    phase: float


def masking_of(one: CompiledLine, run: Run, now: Now) -> Masking | None:
    """None where it is painted through no line, or through one that is muted: it is whole then."""
    mask = one.mask
    if mask is None or mask.line.mute:
        return None
    line = driven(mask, run, now)
    phase = phase_of(line, run, now)
    return None if phase is None else Masking(line, phase)


def share_of(one: CompiledLine, masking: Masking | None, part: slice) -> Floats | None:
    """(n,) 0..1: how much of a line each point of a stretch lets through; None where it is all of it everywhere."""
    share = None if one.region is None else one.region[part]
    if masking is None or one.line.through is None:
        return share
    mask = masking.line
    region = None if mask.region is None else mask.region[part]
    points = painted_points(mask, part, masking.phase, mask.opacity, region)
    if points is None:  # a clip whose picture is not there yet lights nothing
        lets = np.zeros(part.stop - part.start, dtype=np.float32)
    else:
        colour, cover = points
        lets = luminance(colour) * cover if one.line.through.by == "light" else cover
    if one.line.through.inverse:
        lets = np.float32(1.0) - lets
    return lets if share is None else lets * share
