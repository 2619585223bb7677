"""Playback state: what runs, at which level, since when; masters. Immutable, so a frame can be repeated.

A frame is a pure function of (compiled show, this state, inputs, show time).
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.lasers.guarding import LeftGuard, left_from_json, left_to_json
from heliograph.core.look.line import Line
from heliograph.core.playing.tempo import PhaseAnchor, Tempo, start_phase
from heliograph.core.walk.moment import Walk, walk_from_json, walk_to_json


@dataclass(frozen=True, slots=True)
class RunningLook:
    """A look that is on: since when (show time), at which level 0..1, and each line's phase."""

    since_ns: int
    level: float = 1.0
    phases: Mapping[str, PhaseAnchor] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class PlaybackState:
    """`running` is ordered: later started looks paint over earlier ones. `master` 0..1; `masters`: those of
    groups by the group's id, 1 where none is named.

    By hand, until released: `manual` ("<fixture id>/<channel of the mode, from 1>" -> 0..255) and `raw`
    ("<universe>.<channel>" -> 0..255, whatever is patched there). `highlight`: fixtures lit up while held.
    `walk`: a test walk over it all. `left`: addresses that stay safe after a guarded fixture left them.
    """

    tempo: Tempo = field(default_factory=Tempo)
    master: float = 1.0
    blackout: bool = False
    freeze: bool = False
    armed: frozenset[str] = frozenset()
    running: Mapping[str, RunningLook] = field(default_factory=dict)
    masters: Mapping[str, float] = field(default_factory=dict)
    manual: Mapping[str, int] = field(default_factory=dict)
    raw: Mapping[str, int] = field(default_factory=dict)
    highlight: frozenset[str] = frozenset()
    walk: Walk | None = None
    left: tuple[LeftGuard, ...] = ()

    def __post_init__(self) -> None:
        if not 0.0 <= self.master <= 1.0:
            raise InputError(f"A master of {self.master * 100:g} % is outside 0 to 100 %.", where="master")
        for level in self.masters.values():
            if not 0.0 <= level <= 1.0:
                raise InputError(f"A group's master of {level * 100:g} % is outside 0 to 100 %.", where="level")

    def started(self, look: str, time_ns: int) -> PlaybackState:
        """The look begins (again) at phase 0, over what runs already."""
        running = {key: value for key, value in self.running.items() if key != look}
        return replace(self, running={**running, look: RunningLook(time_ns)})

    def levelled(self, look: str, level: float) -> PlaybackState:
        """The look at another level 0..1, in its place among the others."""
        return replace(self, running={**self.running, look: replace(self.running[look], level=level)})

    def stopped(self, look: str) -> PlaybackState:
        return replace(self, running={key: value for key, value in self.running.items() if key != look})


def advance(state: PlaybackState, lines: Mapping[str, tuple[Line, ...]], time_ns: int) -> PlaybackState:
    """Gives new lines of running looks a phase and re-anchors those whose speed changed.

    `lines` are the show's looks by id. Returns the same object where nothing changed, which is
    every frame between two edits.
    """
    beat = state.tempo.beat_at(time_ns)
    running: dict[str, RunningLook] = {}
    changed = False
    for look, run in state.running.items():
        phases: dict[str, PhaseAnchor] = {}
        same = True
        for line in lines.get(look, ()):
            anchor = run.phases.get(line.id)
            if anchor is None:
                phases[line.id] = start_phase(*line.rate, time_ns, beat)
                same = False
                continue
            moved = anchor.at_rate(*line.rate, time_ns, beat)
            phases[line.id] = moved
            same = same and moved is anchor
        if same:
            running[look] = run
            continue
        changed = True
        running[look] = replace(run, phases={**run.phases, **phases})
    return replace(state, running=running) if changed else state


def state_to_json(state: PlaybackState) -> dict[str, Any]:
    """For the spool and the API; `state_from_json` reads it back unchanged."""
    return {
        "tempo": [state.tempo.bpm, state.tempo.since_ns, state.tempo.beat],
        "master": state.master,
        "blackout": state.blackout,
        "freeze": state.freeze,
        "masters": dict(state.masters),
        "manual": dict(state.manual),
        "raw": dict(state.raw),
        "armed": sorted(state.armed),
        "highlight": sorted(state.highlight),
        "walk": walk_to_json(state.walk) if state.walk else None,
        "left": left_to_json(state.left),
        "running": [
            {
                "look": look,
                "since_ns": run.since_ns,
                "level": run.level,
                "phases": {key: [a.phase, a.since, a.unit, a.rate] for key, a in run.phases.items()},
            }
            for look, run in state.running.items()
        ],
    }


def state_from_json(data: Mapping[str, Any], *, live: bool = False) -> PlaybackState:
    """What is armed, highlighted or walked is read only of a `live` engine: after every start lasers are safe, and
    nobody holds anything."""
    bpm, since_ns, beat = data["tempo"]
    return PlaybackState(
        armed=frozenset(data.get("armed", ())) if live else frozenset(),
        highlight=frozenset(data.get("highlight", ())) if live else frozenset(),
        walk=walk_from_json(data["walk"]) if live and data.get("walk") else None,
        left=left_from_json(data.get("left", ())),
        tempo=Tempo(float(bpm), int(since_ns), float(beat)),
        master=float(data["master"]),
        blackout=bool(data["blackout"]),
        freeze=bool(data["freeze"]),
        masters={str(key): float(level) for key, level in data.get("masters", {}).items()},
        manual={str(key): int(value) for key, value in data.get("manual", {}).items()},
        raw={str(key): int(value) for key, value in data.get("raw", {}).items()},
        running={
            run["look"]: RunningLook(
                int(run["since_ns"]),
                float(run["level"]),
                {key: PhaseAnchor(float(a[0]), float(a[1]), a[2], float(a[3])) for key, a in run["phases"].items()},
            )
            for run in data["running"]
        },
    )
