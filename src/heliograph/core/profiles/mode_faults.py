"""What in a mode, or in a name that speaks of one, will leave a lamp dark or lit when nobody means it.

Causes: trade practice, no published source.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from typing import Any, Literal

from heliograph.core.profiles.attributes import BRIGHTNESS, DIMMER
from heliograph.core.profiles.channel import Channel, channel_from_json
from heliograph.core.profiles.profile import Mode


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


def proposed_safe(channel: Channel) -> int:
    """The value a laser's channel is proposed to be held at: closed or off where its ranges name it, its place at rest
    for what only moves, else 0. A proposal: only the laser's manual knows."""
    closed = next((one for one in channel.ranges if one.kind == "closed"), None)
    if closed is not None:
        return closed.first
    return channel.home if channel.attribute in ("Pan", "Tilt") else 0


Mend = Literal["stays dark", "never dark", "not safe"]


def mended(mode: Mapping[str, Any], what: Mend) -> dict[str, Any]:
    """The stored mode with what `stays_dark` or `never_dark` names put right, as far as it can be without the fixture:
    a dimmer is driven again, its last range counts as open, the value after a stored default counts as dark; channels
    without a safe value get the one that is proposed."""
    blocks = []
    for block in mode["blocks"]:
        runs = {run: [_mended(one, what) for one in block.get(run) or ()] for run in ("shared", "cell_channels")}
        blocks.append({**block, **runs})
    return {**mode, "blocks": blocks}


def _mended(stored: Mapping[str, Any], what: Mend) -> dict[str, Any]:
    channel = channel_from_json(stored)
    ranges = [dict(one) for one in stored.get("ranges") or ()]
    if what == "not safe":
        return {**stored, "safe": proposed_safe(channel)} if channel.safe is None else dict(stored)
    if what == "never dark":
        if not _reads_nought_as_default(channel) or _has_dark(channel):
            return dict(stored)
        dark = min(channel.ranges[0].last + 1, 255)
        after = [{**one, "first": max(int(one["first"]), dark + 1)} for one in ranges[1:] if int(one["last"]) > dark]
        first = {**ranges[0], "last": dark - 1}
        return {**stored, "ranges": [first, {"first": dark, "last": dark, "kind": "closed", "name": "dark"}, *after]}
    if channel.attribute not in (DIMMER, BRIGHTNESS) or channel.fine:
        return dict(stored)
    if ranges and not any(one["kind"] in ("dim", "open") for one in ranges):
        ranges[-1]["kind"] = "open"
    return {**stored, "alone": False, "ranges": ranges}


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
