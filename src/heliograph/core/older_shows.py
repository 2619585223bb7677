"""What shows of older programs said in more fields than one, as it is said today.

Where a block lies was {state, universe, channel}; a channel that snaps was a yes or no, and had a smallest step; a
line's direction stood beside its speed.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from heliograph.core.patch.dmx import Address
from heliograph.core.profiles.channel import HALF_WAY
from heliograph.core.profiles.profile import AFTER


def lies_of_states(states: Sequence[Mapping[str, Any]]) -> list[str]:
    """Where each block lies, as its one field. One that had its own address and none yet was nowhere, and so was
    what followed it. ValueError where it is none of an older show."""
    lies, lost = [], False
    for one in states:
        state = one.get("state") or "follows"
        if state not in ("follows", "own", "off"):
            raise ValueError(state)
        if state == "own":
            address = Address(one["universe"], one["channel"]) if one.get("universe") else None
            lost = address is None
            lies.append(str(address or ""))
        else:
            lies.append(AFTER if state == "follows" and not lost else "")
    return lies


def newer_mode(mode: Mapping[str, Any]) -> dict[str, Any]:
    """A mode of a profile; one of today's stays as it is."""
    blocks = [dict(block) for block in mode["blocks"]]
    lies = lies_of_states(blocks)
    for block, where in zip(blocks, lies, strict=True):
        if "state" in block:
            del block["state"]
            block["lies"] = where
        for channels in ("shared", "cell_channels"):
            block[channels] = [_channel(one) for one in block.get(channels) or ()]
    return {**mode, "blocks": blocks}


def _channel(channel: Mapping[str, Any]) -> dict[str, Any]:
    newer = {name: value for name, value in channel.items() if name not in ("snap", "step")}
    if channel.get("snap"):
        newer["in_fade"] = HALF_WAY
    return newer


OTHERS = {"effect": ("clip", "fitting"), "clip": ("effect", "params", "seed")}
"""Fields that lines of each kind once had and that are of the other kind."""


def newer_line(line: Mapping[str, Any]) -> dict[str, Any]:
    """A line of a look: backward is a negative speed, and each kind has its own fields."""
    gone = ("direction", *OTHERS.get(line["paints"], ()))
    newer = {name: value for name, value in line.items() if name not in gone}
    if line.get("direction") == "backward":
        newer["speed"] = {**line["speed"], "value": -line["speed"]["value"]}
    return newer


WHOLE: dict[str, dict[str, Any]] = {
    "effect": {"params": {}, "seed": 0},
    "clip": {"fitting": {"fit": "fill", "rotate": 0, "mirror": "none", "in_s": 0.0, "out_s": 0.0}},
}


def whole_line(line: Mapping[str, Any]) -> dict[str, Any]:
    """A stored line with every field its kind has; what an older program left out as it was taken then."""
    common = {"saved_ramp": "", "mute": False, "solo": False, "drives": {}}
    return {**common, **WHOLE[line["paints"]], **newer_line(line)}
