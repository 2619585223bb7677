"""Handles of looks: on, level, tint; and of their lines."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from heliograph.core.colour.tinting import NO_TINT
from heliograph.core.errors import InputError
from heliograph.core.handles import of_line
from heliograph.core.handles.handle import Ground, Handle, Move, slugs
from heliograph.core.playing.level import FULL
from heliograph.core.playing.state import PlaybackState

NAMES = ("on", "level", "tint_hue", "tint_amount")


class OfLook:
    """Addresses `look/<id>/<name>`, and `look/<id>/<line>/<name>`."""

    def every(self, ground: Ground) -> Iterator[Handle]:
        parts = slugs({key: look.name for key, look in ground.looks.items()})
        for key, look in ground.looks.items():
            for name in NAMES:
                yield _handle(key, look.name, parts[key], name)
            yield from of_line.every(ground, look, parts[key])

    def find(self, ground: Ground, parts: tuple[str, ...]) -> Handle | None:
        look = ground.looks.get(parts[0]) if parts else None
        if look is None:
            return None
        part = slugs({key: one.name for key, one in ground.looks.items()})[look.id]
        if len(parts) == 2 and parts[1] in NAMES:
            return _handle(look.id, look.name, part, parts[1])
        return of_line.find(ground, look, part, parts[1:]) if len(parts) == 3 else None

    def read(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], time_ns: int) -> Any:
        if len(parts) == 3:
            return of_line.read(state, ground, ground.looks[parts[0]], parts[1:])
        look, name = parts
        if name == "on":
            return look in state.looks_on
        if name == "level":
            return state.levels.get(look, FULL).at(time_ns)
        tint = state.look_tints.get(look, NO_TINT)
        return tint.hue if name == "tint_hue" else tint.amount

    def move(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], move: Move) -> PlaybackState:
        if len(parts) == 3:
            return of_line.move(state, ground, ground.looks[parts[0]], parts[1:], move)
        look, name = parts
        if name == "on":
            if move.value:
                return state.started(look, move.time_ns, move.over_s)
            return state.stopped(look, move.time_ns, move.over_s)
        if name == "level":
            if look not in state.looks_on:
                raise InputError("That look does not run.", where="look", repair="Start it first.")
            return state.levelled(look, float(move.value), move.time_ns, move.over_s)
        tints = {key: one for key, one in state.look_tints.items() if key in ground.looks}
        tint = replace(tints.get(look, NO_TINT), **{name.removeprefix("tint_"): float(move.value)})
        return replace(state, look_tints={**tints, look: tint})


def _handle(look: str, called: str, part: str, name: str) -> Handle:
    address, path = f"look/{look}/{name}", f"look/{part}/{name}"
    match name:
        case "on":
            return Handle(address, path, "switch", called, fades=True)
        case "level":
            return Handle(address, path, "level", f"{called}: level", fades=True)
        case "tint_hue":
            return Handle(address, path, "angle", f"{called}: hue of its tint", maximum=360.0, unit="degrees")
        case _:
            return Handle(address, path, "level", f"{called}: tint")
