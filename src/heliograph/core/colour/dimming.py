"""Driving a real dimmer channel by its typed ranges: open and dim are used, strobe and the rest are avoided."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import numpy.typing as npt

from heliograph.core.profiles.channel import RangeKind, ValueRange

Floats = npt.NDArray[np.float32]
Values = npt.NDArray[np.uint16]

STEPS = 255 * 16


@dataclass(frozen=True, slots=True)
class DimmerDrive:
    """One way of driving: the channel's ranges (none: 0..255 dims), and whether it has a fine channel."""

    ranges: tuple[ValueRange, ...] = ()
    fine: bool = False


def dimmer_values(drive: DimmerDrive, levels: Floats) -> Values:
    """Levels (n,) 0..1 to 16-bit values: the high byte is the coarse channel's, the low byte the fine one's."""
    index = (np.clip(levels, 0.0, 1.0) * np.float32(STEPS) + np.float32(0.5)).astype(np.intp)
    return _table(drive).take(index, mode="clip")


def exact_value(drive: DimmerDrive, level: float) -> int:
    """The 16-bit value of one level, to the last of its bits: what a hand sets."""
    return int(_values(drive, np.array([min(max(level, 0.0), 1.0)]))[0])


def dimmer_levels(drive: DimmerDrive, coarse: npt.NDArray[np.uint8], fine: npt.NDArray[np.uint8]) -> Floats:
    """The inverse: which level channel values stand for. A strobing lamp counts as lit."""
    if drive.fine and not drive.ranges:
        return ((coarse.astype(np.float32) * 256 + fine) / np.float32(65535.0)).astype(np.float32)
    return _levels(drive).take(coarse)


def value_after(drive: DimmerDrive, value: int, level: float) -> int:
    """A 16-bit value set by hand, after masters. A strobe can only run or be dark: it has no level of its own."""
    if level >= 1.0:
        return value
    if level <= 0.0:
        return int(_table(drive)[0])
    if not drive.ranges:
        return int(value * level + 0.5) if drive.fine else int((value >> 8) * level + 0.5) << 8
    kind = next((one.kind for one in drive.ranges if one.first <= value >> 8 <= one.last), "named")
    if kind not in ("dim", "open"):
        return value
    return int(dimmer_values(drive, _levels(drive)[value >> 8 : (value >> 8) + 1] * np.float32(level))[0])


@lru_cache(maxsize=256)
def _table(drive: DimmerDrive) -> Values:
    return _values(drive, np.linspace(0.0, 1.0, STEPS + 1))


def _values(drive: DimmerDrive, level: npt.NDArray[np.float64]) -> Values:
    """16-bit values of levels (n,) 0..1."""
    if not drive.ranges:
        if drive.fine:
            return np.floor(level * 65535.0 + 0.5).astype(np.uint16)
        return (np.floor(level * 255.0 + 0.5).astype(np.uint16) << 8).astype(np.uint16)
    closed, dim, steady = (_first(drive, kind) for kind in ("closed", "dim", "open"))
    top = steady.last if steady else dim.last if dim else 255
    low, high = (dim.first, dim.last) if dim else (top, top)
    values = low + level * (high - low)
    values[level >= 1.0] = top
    values[level <= 0.0] = closed.first if closed else low if dim else 0
    if drive.fine:
        return np.floor(np.minimum(values * 257.0, 65535.0) + 0.5).astype(np.uint16)
    return (np.floor(values + 0.5).astype(np.uint16) << 8).astype(np.uint16)


@lru_cache(maxsize=256)
def _levels(drive: DimmerDrive) -> Floats:
    """(256,) level of each coarse value."""
    level = np.linspace(0.0, 1.0, 256, dtype=np.float32)
    if drive.ranges:
        level = np.zeros(256, dtype=np.float32)
        for one in drive.ranges:
            span = slice(one.first, one.last + 1)
            if one.kind == "dim":
                level[span] = np.linspace(0.0, 1.0, one.last - one.first + 1, dtype=np.float32)
            elif one.kind in ("open", "strobe"):
                level[span] = 1.0
    level.setflags(write=False)
    return level


def _first(drive: DimmerDrive, kind: RangeKind) -> ValueRange | None:
    return next((one for one in drive.ranges if one.kind == kind), None)
