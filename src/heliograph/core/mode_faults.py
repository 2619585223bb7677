"""What in a mode, or in a name that speaks of one, will leave a lamp dark or lit when nobody means it.

Causes: trade practice, no published source.
"""

from __future__ import annotations

import re
from collections.abc import Iterable

from heliograph.core.attributes import BRIGHTNESS, DIMMER
from heliograph.core.channel import Channel
from heliograph.core.profile import Mode


def stays_dark(mode: Mode) -> str:
    """The channel that keeps the mode's cells dark, in words; "" where none does.

    A dimmer that is left alone, or whose ranges have no place that dims or is open.
    """
    for block in mode.blocks:
        for channel in (*block.shared, *block.cell_channels):
            if channel.attribute not in (DIMMER, BRIGHTNESS) or channel.fine or not mode.cell_count:
                continue
            if channel.alone:
                return f"its {channel.label} is left alone"
            if channel.ranges and not any(one.kind in ("dim", "open") for one in channel.ranges):
                return f"the ranges of its {channel.label} neither dim nor open"
    return ""


def never_dark(mode: Mode) -> str:
    """The channel that reads 0 as its stored default and has no value for dark, in words; "" where there is none."""
    for block in mode.blocks:
        for channel in (*block.shared, *block.cell_channels):
            if _reads_nought_as_default(channel) and not _has_dark(channel):
                return channel.label
    return ""


def _reads_nought_as_default(channel: Channel) -> bool:
    return bool(channel.ranges) and channel.ranges[0].first == 0 and channel.ranges[0].kind == "default"


def _has_dark(channel: Channel) -> bool:
    return any(one.kind in ("closed", "dim") for one in channel.ranges)


def old_mode_in(name: str, mode: str, others: Iterable[str]) -> str:
    """Another mode of the profile that the name still speaks of; "" where it speaks of none, or of its own."""
    if _speaks_of(name, mode):
        return ""
    return max((other for other in others if other != mode and _speaks_of(name, other)), key=len, default="")


def _speaks_of(name: str, mode: str) -> bool:
    # One letter or a bare number may stand in any name: "Tower 7" says nothing of a mode "7".
    if len(mode) < 3 or mode.isdigit():
        return False
    return re.search(rf"(?<!\w){re.escape(mode)}(?!\w)", name, re.IGNORECASE) is not None
