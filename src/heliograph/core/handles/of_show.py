"""Handles of the show as a whole: grand master, blackout, freeze, tempo, tap, tint, and lasers safe."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from typing import Any

from heliograph.core.handles.handle import Ground, Handle, Move
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tapping import tapped, tempo_of
from heliograph.core.playing.tempo import BPM_MAX, BPM_MIN

PACE_MAX = 4.0

Read = Callable[[PlaybackState], Any]
Act = Callable[[PlaybackState, Ground, Move], PlaybackState]


def _tap(state: PlaybackState, _ground: Ground, move: Move) -> PlaybackState:
    """A tap says its moment on its own clock in ms, or counts when it arrives."""
    taps = tapped(state.taps, float(move.value) if isinstance(move.value, (int, float)) else move.steady_ms)
    if taps is state.taps:
        return state
    bpm = tempo_of(taps)
    tempo = state.tempo if bpm is None else state.tempo.changed(bpm, move.time_ns)
    return replace(state, taps=taps, tempo=tempo.on_beat(move.time_ns))


def _freeze(state: PlaybackState, ground: Ground, move: Move) -> PlaybackState:
    return state.froze(move.time_ns, ground.records) if move.value else state.thawed()


TABLE: dict[str, tuple[Handle, Read, Act]] = {
    one.address: (one, read, act)
    for one, read, act in (
        (
            Handle("master", "master", "level", "The grand master"),
            lambda state: state.master,
            lambda state, _ground, move: replace(state, master=float(move.value)),
        ),
        (
            Handle("blackout", "blackout", "switch", "Blackout"),
            lambda state: state.blackout,
            lambda state, _ground, move: replace(state, blackout=move.value),
        ),
        (Handle("freeze", "freeze", "switch", "Freeze"), lambda state: state.freeze, _freeze),
        (
            Handle(
                "tempo",
                "tempo",
                "number",
                "The tempo",
                minimum=BPM_MIN,
                maximum=BPM_MAX,
                unit="BPM",
                repair="Use half or double of it.",
            ),
            lambda state: state.tempo.bpm,
            lambda state, _ground, move: replace(state, tempo=state.tempo.changed(float(move.value), move.time_ns)),
        ),
        (
            Handle("pace", "pace", "number", "The pace of everything", maximum=PACE_MAX, unit="times"),
            lambda state: state.pace,
            lambda state, _ground, move: state.paced(float(move.value), move.time_ns),
        ),
        (Handle("tap", "tap", "trigger", "A tap"), lambda _state: None, _tap),
        (
            Handle("safe", "safe", "trigger", "All lasers safe"),
            lambda _state: None,
            lambda state, _ground, _move: replace(state, armed=frozenset()),
        ),
        (
            Handle("tint_hue", "tint_hue", "angle", "The show's tint, hue", maximum=360.0, unit="degrees"),
            lambda state: state.tint.hue,
            lambda state, _ground, move: replace(state, tint=replace(state.tint, hue=float(move.value))),
        ),
        (
            Handle("tint_amount", "tint_amount", "level", "The show's tint"),
            lambda state: state.tint.amount,
            lambda state, _ground, move: replace(state, tint=replace(state.tint, amount=float(move.value))),
        ),
    )
}


@dataclass(frozen=True, slots=True)
class OfShow:
    """Family of the handles in `TABLE`."""

    def every(self, _ground: Ground) -> Iterator[Handle]:
        return (handle for handle, _, _ in TABLE.values())

    def find(self, _ground: Ground, parts: tuple[str, ...]) -> Handle | None:
        return TABLE[parts[0]][0] if len(parts) == 1 and parts[0] in TABLE else None

    def read(self, state: PlaybackState, _ground: Ground, parts: tuple[str, ...], _time_ns: int) -> Any:
        return TABLE[parts[0]][1](state)

    def move(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], move: Move) -> PlaybackState:
        return TABLE[parts[0]][2](state, ground, move)
