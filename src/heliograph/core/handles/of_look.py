"""Handles of looks: on, level, tint; and of their lines."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from typing import Any

from heliograph.core.colour.tinting import NO_TINT
from heliograph.core.errors import InputError
from heliograph.core.handles import of_line
from heliograph.core.handles.handle import Ground, Handle, Move
from heliograph.core.playing.level import FULL
from heliograph.core.playing.state import PlaybackState

NAMES = ("on", "blind", "level", "speed", "tint_hue", "tint_amount")

FACTOR_MAX = 8.0
"""A look runs at most so many times as fast as it is stored, forward or backward."""


class OfLook:
    """Addresses `look/<id>/<name>`, and `look/<id>/<line>/<name>`."""

    def every(self, ground: Ground) -> Iterator[Handle]:
        parts = ground.paths_of(ground.looks)
        for key, look in ground.looks.items():
            for name in NAMES:
                yield _handle(key, look.name, parts[key], name)
            yield from of_line.every(ground, look, parts[key])

    def find(self, ground: Ground, parts: tuple[str, ...]) -> Handle | None:
        look = ground.looks.get(parts[0]) if parts else None
        if look is None:
            return None
        part = ground.paths_of(ground.looks)[look.id]
        if len(parts) == 2 and parts[1] in NAMES:
            return _handle(look.id, look.name, part, parts[1])
        return of_line.find(ground, look, part, parts[1:]) if len(parts) == 3 else None

    def read(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], time_ns: int) -> Any:
        if len(parts) == 3:
            return of_line.read(state, ground, ground.looks[parts[0]], parts[1:])
        look, name = parts
        if name == "on":
            return any(run.look == look and not run.ends for run in state.runs)
        if name == "blind":
            return look in state.blind
        if name == "level":
            return state.levels.get(look, FULL).at(time_ns)
        if name == "speed":
            return state.speeds.get(look, 1.0)
        tint = state.look_tints.get(look, NO_TINT)
        return tint.hue if name == "tint_hue" else tint.amount

    def move(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], move: Move) -> PlaybackState:
        if len(parts) == 3:
            return of_line.move(state, ground, ground.looks[parts[0]], parts[1:], move)
        look, name = parts
        if name == "on":
            own = ground.records.get(look, {}).get("fade_in" if move.value else "fade_out", 0.0)
            over_s = move.over_s or float(own)
            if move.value:
                return state.started(look, move.time_ns, over_s)
            return state.stopped(look, move.time_ns, over_s)
        if name == "blind":
            return _blind(state, ground, look, bool(move.value))
        if name == "speed":
            others = {key: factor for key, factor in state.speeds.items() if key in ground.looks and key != look}
            return replace(state, speeds=others if move.value == 1.0 else {**others, look: float(move.value)})
        if name == "level":
            if look not in state.looks_on:
                raise InputError("That look does not run.", where="look", repair="Start it first.")
            return state.levelled(look, float(move.value), move.time_ns, move.over_s)
        tints = {key: one for key, one in state.look_tints.items() if key in ground.looks}
        tint = replace(tints.get(look, NO_TINT), **{name.removeprefix("tint_"): float(move.value)})
        return replace(state, look_tints={**tints, look: tint})


def _blind(state: PlaybackState, ground: Ground, look: str, blind: bool) -> PlaybackState:
    """What is stored of the look from now on is not painted until that ends."""
    if blind and look not in state.looks_on:
        raise InputError("A look that is off is edited unseen anyway.", where="blind", repair="Start it first.")
    others = {key: record for key, record in state.blind.items() if key != look}
    return replace(state, blind={**others, look: state.blind.get(look, ground.records[look])} if blind else others)


def _handle(look: str, called: str, part: str, name: str) -> Handle:
    address, path = f"look/{look}/{name}", f"look/{part}/{name}"
    match name:
        case "on":
            return Handle(address, path, "switch", called, fades=True)
        case "level":
            return Handle(address, path, "level", f"{called}: level", fades=True)
        case "blind":
            return Handle(address, path, "switch", f"{called}: blind", "edit")
        case "speed":
            words = f"{called}: speed"
            return Handle(address, path, "number", words, minimum=-FACTOR_MAX, maximum=FACTOR_MAX, unit="times")
        case "tint_hue":
            return Handle(address, path, "angle", f"{called}: hue of its tint", maximum=360.0, unit="degrees")
        case _:
            return Handle(address, path, "level", f"{called}: tint")
