"""Handles of scores: start, hold, release, bar, level, speed."""

from __future__ import annotations

from typing import Any

from heliograph.core.handles.handle import Ground, Handle, Move
from heliograph.core.handles.of_look import FACTOR_MAX
from heliograph.core.handles.of_named import OfNamed
from heliograph.core.playing import scores
from heliograph.core.playing.cues import BEATS_OF_BAR
from heliograph.core.playing.score import Score
from heliograph.core.playing.state import PlaybackState

NAMES = ("start", "hold", "release", "bar", "level", "speed")


class OfScore(OfNamed):
    """Addresses `score/<id>/<name>`."""

    def __init__(self) -> None:
        super().__init__(NAMES, lambda ground: ground.scores, _handle)

    def read(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], time_ns: int) -> Any:
        key, name = parts
        run = state.scores.get(key)
        match name:
            case "hold":
                return run is not None and run.holds
            case "level":
                return 1.0 if run is None else run.level.at(time_ns)
            case "speed":
                return 1.0 if run is None else run.speed
            case "bar":
                beat = 0.0 if run is None else run.position(time_ns, state.tempo.beat_at(time_ns))
                return 1.0 + beat % ground.scores[key].beats / BEATS_OF_BAR
        return None

    def move(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], move: Move) -> PlaybackState:
        one, now = ground.scores[parts[0]], move.time_ns
        match parts[1]:
            case "start":
                return scores.start(state, one, now)
            case "hold":
                return scores.hold(state, one, bool(move.value), now)
            case "release":
                return scores.release(state, one.id, one.release_s, now)
            case "bar":
                return scores.locate(state, one, (float(move.value) - 1.0) * BEATS_OF_BAR, now)
            case "level":
                return scores.at_level(state, one, float(move.value), now, move.over_s)
        return scores.at_speed(state, one, float(move.value), now)


def _handle(one: Score, part: str, name: str) -> Handle:
    address, path, words = f"score/{one.id}/{name}", f"score/{part}/{name}", f"{one.name}: {name}"
    match name:
        case "hold":
            return Handle(address, path, "switch", words)
        case "bar":
            last = one.bars + 1.0
            return Handle(address, path, "number", words, minimum=1.0, maximum=last, unit="bar")
        case "level":
            return Handle(address, path, "level", words, fades=True)
        case "speed":
            return Handle(address, path, "number", words, maximum=FACTOR_MAX, unit="times")
    return Handle(address, path, "trigger", words)
