"""Handles of groups: master and tint."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from heliograph.core.colour.tinting import NO_TINT
from heliograph.core.handles.handle import Ground, Handle, Move
from heliograph.core.playing.state import PlaybackState

NAMES = ("master", "tint_hue", "tint_amount")


class OfGroup:
    """Addresses `group/<id>/<name>`."""

    def every(self, ground: Ground) -> Iterator[Handle]:
        for group, part in ground.paths_of(ground.groups).items():
            for name in NAMES:
                yield _handle(group, ground.groups[group], part, name)

    def find(self, ground: Ground, parts: tuple[str, ...]) -> Handle | None:
        if len(parts) != 2 or parts[0] not in ground.groups or parts[1] not in NAMES:
            return None
        group, name = parts
        return _handle(group, ground.groups[group], ground.paths_of(ground.groups)[group], name)

    def read(self, state: PlaybackState, _ground: Ground, parts: tuple[str, ...], _time_ns: int) -> Any:
        group, name = parts
        if name == "master":
            return state.masters.get(group, 1.0)
        tint = state.group_tints.get(group, NO_TINT)
        return tint.hue if name == "tint_hue" else tint.amount

    def move(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], move: Move) -> PlaybackState:
        group, name = parts
        if name == "master":
            masters = {key: level for key, level in state.masters.items() if key in ground.groups}
            return replace(state, masters={**masters, group: float(move.value)})
        tints = {key: one for key, one in state.group_tints.items() if key in ground.groups}
        tint = tints.get(group, NO_TINT)
        tint = replace(tint, **{name.removeprefix("tint_"): float(move.value)})
        return replace(state, group_tints={**tints, group: tint})


def _handle(group: str, called: str, part: str, name: str) -> Handle:
    address, path = f"group/{group}/{name}", f"group/{part}/{name}"
    if name == "master":
        return Handle(address, path, "level", f"{called}: master")
    if name == "tint_hue":
        return Handle(address, path, "angle", f"{called}: hue of its tint", maximum=360.0, unit="degrees")
    return Handle(address, path, "level", f"{called}: tint")
