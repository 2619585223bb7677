"""Other colours made of those that lie beneath a line."""

from __future__ import annotations

import numpy as np

from heliograph.core.colour.components import luminance, turned
from heliograph.core.colour.ramps import RAMP_STEPS, Floats
from heliograph.core.look.recolour import ONTO
from heliograph.effects import Moment
from heliograph.render.compiled_line import CompiledLine
from heliograph.render.points import ramp_index

PERCENT = np.float32(0.01)


def recoloured(one: CompiledLine, part: slice, phase: float, under: Floats) -> Floats:
    """Planes (3, n) of what a line makes of `under` (3, n), 0..1: between its black and white points first, then its
    hue turned and its saturation scaled, then its light (Rec. 709 weights) taken as the place on the ramp."""
    moment = Moment(phase, one.params)

    def number(name: str) -> Floats:
        return np.asarray(moment.number(name, part), dtype=np.float32)

    black, white = number("black") * PERCENT, number("white") * PERCENT
    turn, saturation = number("turn"), number("saturation") * PERCENT
    made = under
    if np.any(black != 0.0) or np.any(white != 1.0):
        made = np.clip((made - black) / np.maximum(white - black, np.float32(1e-3)), 0.0, 1.0)
    if np.any(turn != 0.0) or np.any(saturation != 1.0):
        made = turned(made, turn, saturation)
    if one.params["onto"] == ONTO:
        place = np.rint(luminance(made) * np.float32(RAMP_STEPS - 1)).astype(np.intp)
        made = one.table.take(ramp_index(one, place, part), axis=1, mode="clip")
    return made
