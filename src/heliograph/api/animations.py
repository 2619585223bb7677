"""Why nothing shows of an animation that fixtures make themselves, as they are sent at this moment."""

from __future__ import annotations

from collections.abc import Iterable

from heliograph.api.context import Context
from heliograph.core.errors import HeliographError
from heliograph.core.hand.animations import animates, animation_is_on, cell_emitters, said_of_black_cells
from heliograph.core.patch.dmx import SLOTS
from heliograph.core.rig.arrays import RigFixture
from heliograph.ipc.messages.preview import AskMoment

UNIVERSES_MAX = 8
"""Of more, only so many are looked at: a sentence beside a line is no survey."""


def said_of_animations(context: Context, fixtures: Iterable[str]) -> str | None:
    """A sentence, "" where all is well or nothing is sent, None where none of them animates anything."""
    known = context.publisher.current.rig.fixtures
    chosen = [known[one] for one in fixtures if one in known and animates(known[one].mode)]
    if not chosen:
        return None
    universes = sorted({position // SLOTS + 1 for one in chosen for position in _positions(one)})
    values: dict[int, int] = {}
    try:
        for universe in universes[:UNIVERSES_MAX]:
            levels = context.preview.ask(AskMoment(ago_s=0.0, universe=universe)).levels or []
            values.update({(universe - 1) * SLOTS + n: value for n, value in enumerate(levels)})
    except HeliographError:  # what is sent cannot be read just now
        return ""
    black = [
        one.number
        for one in chosen
        if all(position in values for position in _positions(one))
        and animation_is_on(one, values)
        and not any(values[position] for position in cell_emitters(one))
    ]
    return said_of_black_cells(black, {one.number: one.mode.cell_count for one in chosen})


def _positions(fixture: RigFixture) -> list[int]:
    shared = [position for placed in fixture.placed for position in placed.shared.tolist() if position >= 0]
    return [*shared, *cell_emitters(fixture)]
