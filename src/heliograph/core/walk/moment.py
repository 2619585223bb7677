"""A test walk on the wire: which cells or channels are lit at this moment, in which emitters, over what.

Above looks, manual, highlight and raw values; below the guard. A walk ignores the masters, as a highlight does, so that
a fader that is down hides no fault; blackout stays black.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.patch.dmx import parse_address

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


def walk_to_json(walk: Walk) -> dict[str, Any]:
    return {
        "cells": {key: list(cells) if cells is not None else None for key, cells in walk.cells.items()},
        "channels": list(walk.channels),
        "emitter": walk.emitter,
        "level": walk.level,
        "alone": walk.alone,
    }


def walk_from_json(data: Mapping[str, Any]) -> Walk:
    """Reads `walk_to_json` back; raises InputError for a channel that is none."""
    return Walk(
        {str(k): tuple(int(c) for c in v) if v is not None else None for k, v in data.get("cells", {}).items()},
        tuple(str(parse_address(str(one)))[1:] for one in data.get("channels", ())),
        str(data.get("emitter", "")),
        float(data.get("level", 1.0)),
        bool(data.get("alone", True)),
    )
