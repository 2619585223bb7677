"""Real dimmers by their typed ranges, and what masters make of a value that is held by hand.

The layout with a strobe in the middle: common practice, no source. Expected values are worked out by hand.
"""

from __future__ import annotations

import numpy as np
import pytest

from heliograph.core.colour.dimming import DimmerDrive, dimmer_levels, dimmer_values, value_after
from heliograph.core.profiles.channel import ValueRange

CLOSED, DIM = ValueRange(0, 7, "closed"), ValueRange(8, 134, "dim")
STROBE, OPEN = ValueRange(135, 239, "strobe"), ValueRange(240, 255, "open")
LANTERN = DimmerDrive((CLOSED, DIM, STROBE, OPEN))
UPSIDE_DOWN = DimmerDrive((ValueRange(0, 0, "open"), ValueRange(1, 200, "strobe"), ValueRange(201, 255, "closed")))


def coarse(drive: DimmerDrive, level: float) -> int:
    return int(dimmer_values(drive, np.array([level], dtype=np.float32))[0]) >> 8


@pytest.mark.parametrize(
    ("drive", "level", "value"),
    [
        (LANTERN, 0.0, 0),
        (LANTERN, 0.5, 71),  # the middle of 8 to 134
        (LANTERN, 1.0, 255),  # the end of the open range, not 134: nothing between them may strobe
        (UPSIDE_DOWN, 0.0, 201),
        (UPSIDE_DOWN, 1.0, 0),
    ],
)
def test_levels_land_in_ranges_that_do_not_strobe(drive: DimmerDrive, level: float, value: int) -> None:
    assert coarse(drive, level) == value


def test_no_level_ever_strobes_and_every_level_is_read_back() -> None:
    levels = np.linspace(0.0, 1.0, 1001, dtype=np.float32)
    values = (dimmer_values(LANTERN, levels) >> 8).astype(np.uint8)
    assert not ((values >= STROBE.first) & (values <= STROBE.last)).any()
    back = dimmer_levels(LANTERN, values, np.zeros_like(values))
    assert float(np.abs(back - levels).max()) <= 0.5 / 126 + 1e-3


@pytest.mark.parametrize(
    ("drive", "value", "level", "wanted"),
    [
        (DimmerDrive(), 200 << 8, 0.5, 100 << 8),
        (DimmerDrive(), 200 << 8, 1.0, 200 << 8),
        (DimmerDrive(), 200 << 8, 0.0, 0),
        (DimmerDrive((), fine=True), 0x8000, 0.5, 0x4000),
        (DimmerDrive((), fine=True), 0x0101, 0.5, 0x0081),  # 257 / 2 = 128.5, up
        (LANTERN, 134 << 8, 0.5, 71 << 8),
        (LANTERN, 250 << 8, 0.5, 71 << 8),  # open is full
        (LANTERN, 71 << 8, 0.5, 40 << 8),  # half of a half: a quarter of 8 to 134 is 39.5
        (LANTERN, 200 << 8, 0.5, 200 << 8),  # strobing: it has no level, it goes on
        (LANTERN, 200 << 8, 0.0, 0),  # but it goes dark
        (LANTERN, 3 << 8, 0.5, 3 << 8),  # closed stays closed
        (UPSIDE_DOWN, 0, 0.0, 201 << 8),  # dark is where the fixture is dark, not at 0
    ],
)
def test_a_value_by_hand_follows_masters_within_its_ranges(
    drive: DimmerDrive, value: int, level: float, wanted: int
) -> None:
    assert value_after(drive, value, level) == wanted
