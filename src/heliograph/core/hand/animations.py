"""Animations that a fixture makes by itself, and the colours of its cells in which they show.

That such an animation takes the colours of the cells, and shows nothing where all of them are black: common practice,
no source.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Mapping

from heliograph.core.profiles.profile import Mode
from heliograph.core.rig.arrays import RigFixture

_ANIMATION = re.compile(r"(Effects|ColorMacro)\d+$")


def is_animation(attribute: str) -> bool:
    """Whether a channel of this attribute chooses what the fixture itself does with its cells."""
    return _ANIMATION.match(attribute) is not None


def animates(mode: Mode) -> bool:
    """Whether fixtures of this mode have an animation of their own and cells in whose colours it shows."""
    shared = any(is_animation(one.attribute) for block in mode.blocks for one in block.shared)
    return shared and any(one.is_emitter for block in mode.blocks if block.cell_count for one in block.cell_channels)


def cell_emitters(fixture: RigFixture) -> list[int]:
    """Absolute positions of the emitters of its cells."""
    found: list[int] = []
    for placed in fixture.placed:
        for column, channel in enumerate(placed.block.cell_channels):
            if channel.is_emitter and placed.cells.size:
                found.extend(placed.cells[:, column].tolist())
    return [position for position in found if position >= 0]


def animation_is_on(fixture: RigFixture, values: Mapping[int, int]) -> bool:
    """Whether an animation of its own is chosen: a channel of one is away from its rest. `values`: by position."""
    for placed in fixture.placed:
        for position, channel in zip(placed.shared.tolist(), placed.block.shared, strict=True):
            rest = channel.home ^ (255 if channel.invert else 0)
            if is_animation(channel.attribute) and values.get(position, rest) != rest:
                return True
    return False


def said_of_black_cells(black: Collection[int], cells: Mapping[int, int]) -> str:
    """A sentence for fixtures whose animation is on while all their cells are `black`; "" where there is none.
    `black`: numbers of those fixtures; `cells`: how many each has."""
    if not black:
        return ""
    numbers = sorted(black)
    who = ", ".join(map(str, numbers[:4])) + (" and others" if len(numbers) > 4 else "")
    count = sum(cells[one] for one in numbers)
    return (
        f"Nothing shows of it on {who}: it moves in the colours of the {count} cells, which are all black. "
        "Give them a colour, by hand or by a line over them."
    )
