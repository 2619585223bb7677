"""A test walk on the wire: which cells or channels are lit at this moment, in which emitters, over what.

Above looks, manual, highlight and raw values; below the guard. A walk ignores the masters, as a highlight does, so that
a fader that is down hides no fault; blackout stays black.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from heliograph.core.errors import InputError

ALL_EMITTERS = ""
"""All emitters of a cell at once."""


@dataclass(frozen=True, slots=True)
class Walk:
    """`cells`: fixture id -> its lit cells (from 1), None for all of it. `channels`: "7.215", lit whoever owns them,
    with the dimmers above them open. `emitter`: a colour attribute, "" all of them. `level` 0..1.
    `alone`: everything else dark; else the show goes on around it.
    """

    cells: Mapping[str, tuple[int, ...] | None] = field(default_factory=dict)
    channels: tuple[str, ...] = ()
    emitter: str = ALL_EMITTERS
    level: float = 1.0
    alone: bool = True

    def __post_init__(self) -> None:
        if not 0.0 <= self.level <= 1.0:
            raise InputError(f"A level of {self.level * 100:g} % is outside 0 to 100 %.", where="level")
