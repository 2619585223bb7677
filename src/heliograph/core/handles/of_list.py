"""Handles of cue lists: Go, Back, Hold, Release, go to, position, level, speed."""

from __future__ import annotations

from typing import Any

from heliograph.core.handles.handle import Ground, Handle, Move
from heliograph.core.handles.of_look import FACTOR_MAX
from heliograph.core.handles.of_named import OfNamed
from heliograph.core.playing import lists
from heliograph.core.playing.cues import NUMBER_MAX, CueList
from heliograph.core.playing.state import PlaybackState

NAMES = ("go", "back", "hold", "release", "go_to", "position", "level", "speed")


class OfList(OfNamed):
    """Addresses `list/<id>/<name>`."""

    def __init__(self) -> None:
        super().__init__(NAMES, lambda ground: ground.lists, _handle)

    def read(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], time_ns: int) -> Any:
        key, name = parts
        run = state.lists.get(key)
        match name:
            case "hold":
                return run is not None and run.holds
            case "level":
                return 1.0 if run is None else run.level.at(time_ns)
            case "speed":
                return 1.0 if run is None else run.speed
            case "go_to":
                cue = None if run is None else ground.lists[key].cue(run.cue)
                return 0.0 if cue is None else cue.number
            case "position":
                place = None if run is None else ground.lists[key].by_id.get(run.cue)
                return 1.0 if place is None else place + 1.0
        return None

    def move(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], move: Move) -> PlaybackState:
        one, now = ground.lists[parts[0]], move.time_ns
        match parts[1]:
            case "go":
                return lists.go(state, one, now)
            case "back":
                return lists.back(state, one, now)
            case "hold":
                return lists.hold(state, one, bool(move.value), now)
            case "release":
                return lists.release(state, one, now)
            case "go_to":
                return lists.go_to(state, one, float(move.value), now)
            case "position":
                return lists.at_position(state, one, float(move.value), now)
            case "level":
                return lists.at_level(state, one, float(move.value), now, move.over_s)
        return lists.at_speed(state, one, float(move.value), now)


def _handle(one: CueList, part: str, name: str) -> Handle:
    address, path, words = f"list/{one.id}/{name}", f"list/{part}/{name}", f"{one.name}: {name.replace('_', ' ')}"
    match name:
        case "hold":
            return Handle(address, path, "switch", words)
        case "go_to":
            return Handle(address, path, "number", words, maximum=NUMBER_MAX)
        case "position":
            return Handle(address, path, "number", words, minimum=1.0, maximum=float(max(len(one.cues), 1)))
        case "level":
            return Handle(address, path, "level", words, fades=True)
        case "speed":
            return Handle(address, path, "number", words, maximum=FACTOR_MAX, unit="times")
    return Handle(address, path, "trigger", words)
