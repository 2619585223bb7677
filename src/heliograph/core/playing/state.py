"""Playback state: what runs, at which level, since when; masters, tints, what hands hold. Immutable, so a frame can be
repeated: it is a pure function of (compiled show, this state, inputs, show time).

The state changes at events only. What moves by itself is a closed form of show time or beat: levels, phases.
"""

from __future__ import annotations

from collections.abc import Container, Iterator, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, TypeVar

from heliograph.core.colour.tinting import NO_TINT, Tint
from heliograph.core.errors import InputError
from heliograph.core.lasers.hanging import Hanging, LeftGuard
from heliograph.core.look.line import Line, look_from_json
from heliograph.core.look.moved import rate_of
from heliograph.core.playing.fingers import Finger
from heliograph.core.playing.level import FULL, Level, check_level
from heliograph.core.playing.list_run import ListRun
from heliograph.core.playing.run import HAND, Run
from heliograph.core.playing.score_run import ScoreRun
from heliograph.core.playing.tapping import Taps
from heliograph.core.playing.tempo import NS_PER_S, Tempo
from heliograph.core.walk.moment import Walk

Record = Mapping[str, Any]
"""A look as it is stored."""


@dataclass(frozen=True, slots=True)
class HeldLine:
    """What hands hold of one line over what is stored: `values` by field (a parameter is "params.scale"), and whose
    hand it is, `by` field."""

    values: Mapping[str, Any] = field(default_factory=dict)
    by: Mapping[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Acting:
    """An action of a cue that is to be done: a handle to a value within `over_s`, by `by`, as of `time_ns`."""

    handle: str
    value: Any
    over_s: float
    by: str
    time_ns: int


@dataclass(frozen=True, slots=True)
class Painting:
    """All that looks are painted from at one moment. `runs` in the order in which they began: later ones lie over
    earlier ones. `levels`, `look_tints` by look, `group_tints` by group, `held` by line.

    `looks`: those that are painted as they were stored at that moment, whatever the show says now; None: as they are.
    `beat_s`: how long a beat lasts then; `local_s`: seconds since 1970 by the clock on the wall.
    `blind`: looks that are edited unseen, each painted as it was stored when that began, whatever hands hold of it.
    `lists`, `scores`: cue lists and scores that play, by their id.
    """

    time_ns: int
    beat: float
    runs: tuple[Run, ...] = ()
    levels: Mapping[str, Level] = field(default_factory=dict)
    tint: Tint = NO_TINT
    look_tints: Mapping[str, Tint] = field(default_factory=dict)
    group_tints: Mapping[str, Tint] = field(default_factory=dict)
    held: Mapping[str, HeldLine] = field(default_factory=dict)
    looks: Mapping[str, Record] | None = None
    beat_s: float = 0.5
    local_s: float = 0.0
    blind: Mapping[str, Record] = field(default_factory=dict)
    lists: Mapping[str, ListRun] = field(default_factory=dict)
    scores: Mapping[str, ScoreRun] = field(default_factory=dict)

    def all_runs(self) -> Iterator[Run]:
        """Those by hand, and those of lists and scores that play."""
        return _all_runs(self)

    def level_of(self, run: Run) -> float:
        """0..1: the run's own times its look's."""
        return run.level.at(self.time_ns) * self.levels.get(run.look, FULL).at(self.time_ns)


@dataclass(frozen=True, slots=True)
class PlaybackState:
    """`master` 0..1; `masters`: those of groups by the group's id, 1 where none is named. `runs`, `levels`, tints and
    `held` as in `Painting`; `speeds`: factors of all speeds of a look, 1 where none is named; `begun`: how many runs
    there were ever. `frozen`: the moment that is painted again and again instead of this one.

    By hand, until released: `manual` ("<fixture id>/<channel of the mode, from 1>" -> 0..255) and `raw`
    ("<universe>.<channel>" -> 0..255, whatever is patched there). `highlight`: fixtures lit up while held.
    `walk`: a test walk over it all. `left`: addresses that stay safe after a guarded fixture left them. `wall_ns`: the
    time on the wall is show time and so much more. `blind` as in `Painting`. `lists`, `scores`: those
    that play, by their id; `acting`: actions of cues that are not done yet. `pace`: a factor of all speeds, of looks
    and of lists. `clock_s`: up to which moment (Unix time) what a clock had to do is done, 0 for never.
    `fingers` on pads, by the id that whoever touches gave them.
    """

    tempo: Tempo = field(default_factory=Tempo)
    taps: Taps = ()
    master: float = 1.0
    blackout: bool = False
    frozen: Painting | None = None
    armed: frozenset[str] = frozenset()
    runs: tuple[Run, ...] = ()
    begun: int = 0
    levels: Mapping[str, Level] = field(default_factory=dict)
    speeds: Mapping[str, float] = field(default_factory=dict)
    tint: Tint = NO_TINT
    look_tints: Mapping[str, Tint] = field(default_factory=dict)
    group_tints: Mapping[str, Tint] = field(default_factory=dict)
    held: Mapping[str, HeldLine] = field(default_factory=dict)
    masters: Mapping[str, float] = field(default_factory=dict)
    manual: Mapping[str, int] = field(default_factory=dict)
    raw: Mapping[str, int] = field(default_factory=dict)
    highlight: frozenset[str] = frozenset()
    walk: Walk | None = None
    left: tuple[LeftGuard, ...] = ()
    hung: tuple[Hanging, ...] = ()
    wall_ns: int = 0
    blind: Mapping[str, Record] = field(default_factory=dict)
    lists: Mapping[str, ListRun] = field(default_factory=dict)
    pace: float = 1.0
    acting: tuple[Acting, ...] = ()
    scores: Mapping[str, ScoreRun] = field(default_factory=dict)
    clock_s: float = 0.0
    fingers: Mapping[str, Finger] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not 0.0 <= self.master <= 1.0:
            raise InputError(f"A master of {self.master * 100:g} % is outside 0 to 100 %.", where="master")
        for level in self.masters.values():
            if not 0.0 <= level <= 1.0:
                raise InputError(f"A group's master of {level * 100:g} % is outside 0 to 100 %.", where="level")

    def paced(self, pace: float, time_ns: int) -> PlaybackState:
        """Everything goes at another pace from now on, from where it is."""
        beat = self.tempo.beat_at(time_ns)
        lists = {key: one.at_rate(time_ns, beat, pace=pace) for key, one in self.lists.items()}
        scores = {key: one.at_rate(time_ns, beat, pace=pace) for key, one in self.scores.items()}
        return replace(self, pace=pace, lists=lists, scores=scores)

    @property
    def freeze(self) -> bool:
        return self.frozen is not None

    @property
    def looks_on(self) -> frozenset[str]:
        return frozenset(run.look for run in self.all_runs())

    def all_runs(self) -> Iterator[Run]:
        """Those by hand, and those of lists and scores that play."""
        return _all_runs(self)

    def painting(self, time_ns: int) -> Painting:
        """What is painted at a show time; while frozen, what was painted when it was."""
        return self.frozen if self.frozen is not None else self.live_painting(time_ns)

    def live_painting(self, time_ns: int) -> Painting:
        beat = self.tempo.beat_at(time_ns)
        return Painting(
            time_ns,
            beat,
            self.runs,
            self.levels,
            self.tint,
            self.look_tints,
            self.group_tints,
            self.held,
            beat_s=60.0 / self.tempo.bpm,
            local_s=(time_ns + self.wall_ns) / NS_PER_S,
            blind=self.blind,
            lists=self.lists,
            scores=self.scores,
        )

    def froze(self, time_ns: int, looks: Mapping[str, Record]) -> PlaybackState:
        """Frozen at this moment; `looks`: all of the show, of which those that run are kept as they are now."""
        if self.frozen is not None:
            return self
        kept = {look: looks[look] for look in self.looks_on if look in looks}
        return replace(self, frozen=replace(self.live_painting(time_ns), looks=kept))

    def thawed(self) -> PlaybackState:
        return replace(self, frozen=None)

    def started(self, look: str, time_ns: int, over_s: float = 0.0, by: str = HAND) -> PlaybackState:
        """The look begins (again) at phase 0, over what runs already, from dark within `over_s`. A run of it by the
        same hand ends; one that is fading out goes on and comes back from the level it has."""
        leaving = next((one for one in self.runs if one.look == look and one.by == by and one.ends), None)
        if leaving is not None:  # turned round from where it stands
            back = replace(leaving, level=leaving.level.moved(1.0, time_ns, over_s), ends=False)
            return replace(self, runs=tuple(back if one is leaving else one for one in self.runs))
        level = Level(0.0, 0.0).moved(1.0, time_ns, over_s) if over_s > 0.0 else FULL
        run = Run(f"r{self.begun + 1}", look, time_ns, level, by=by, since_beat=self.tempo.beat_at(time_ns))
        others = tuple(one for one in self.runs if one.look != look or one.by != by)
        return replace(_with_runs(self, (*others, run)), begun=self.begun + 1)

    def stopped(self, look: str, time_ns: int = 0, over_s: float = 0.0, by: str = HAND) -> PlaybackState:
        """The runs of the look by that hand end within `over_s`; others go on."""
        runs: list[Run] = []
        for run in self.runs:
            if run.look != look or run.by != by:
                runs.append(run)
            elif over_s > 0.0:
                runs.append(replace(run, level=run.level.moved(0.0, time_ns, over_s), ends=True))
        return _with_runs(self, tuple(runs))

    def levelled(self, look: str, level: float, time_ns: int = 0, over_s: float = 0.0) -> PlaybackState:
        """The look's own level, which scales all its runs."""
        check_level(level)
        moved = self.levels.get(look, FULL).moved(level, time_ns, over_s)
        return replace(self, levels={**self.levels, look: moved})

    def of_show(
        self,
        looks: Container[str],
        groups: Container[str],
        lists: Container[str] = frozenset(),
        scores: Container[str] = frozenset(),
    ) -> PlaybackState:
        """What of it goes on in another show: nothing of looks, groups, lists and scores that are not in it."""
        runs = tuple(run for run in self.runs if run.look in looks)
        return replace(
            _with_runs(self, runs),
            masters={key: level for key, level in self.masters.items() if key in groups},
            speeds={key: factor for key, factor in self.speeds.items() if key in looks},
            look_tints={key: one for key, one in self.look_tints.items() if key in looks},
            group_tints={key: one for key, one in self.group_tints.items() if key in groups},
            held={},
            blind={},
            frozen=None,
            fingers={},
            lists={key: one for key, one in self.lists.items() if key in lists},
            scores={key: one for key, one in self.scores.items() if key in scores},
            acting=(),
        )


def _all_runs(of: Painting | PlaybackState) -> Iterator[Run]:
    yield from of.runs
    played: tuple[ListRun | ScoreRun, ...] = (*of.lists.values(), *of.scores.values())
    for one in played:
        yield from one.runs.values()


def advance(state: PlaybackState, looks: Mapping[str, tuple[Line, ...]], time_ns: int) -> PlaybackState:
    """The state at a moment: new lines of running looks have a phase, those whose speed changed are anchored anew, runs
    that are over are gone.

    `looks`: lines by look. Returns the same object where nothing changed, which is every frame between two events.
    """
    beat = state.tempo.beat_at(time_ns)
    runs = [_advanced(run, looks.get(run.look, ()), state, time_ns, beat) for run in state.runs]
    left = tuple(run for run in runs if run is not None)
    playing = {key: _played(one, looks, state, time_ns, beat) for key, one in state.lists.items()}
    if any(playing[key] is not one for key, one in state.lists.items()):
        state = replace(state, lists=playing)
    scores = {key: _played(one, looks, state, time_ns, beat) for key, one in state.scores.items()}
    if any(scores[key] is not one for key, one in state.scores.items()):
        state = replace(state, scores=scores)
    gone = any(look not in state.looks_on for look in (*state.levels, *state.blind))  # a list let go of it
    if not gone and len(left) == len(state.runs) and all(a is b for a, b in zip(left, state.runs, strict=True)):
        return state
    return _with_runs(state, left)


Played = TypeVar("Played", ListRun, ScoreRun)


def _played(
    one: Played, looks: Mapping[str, tuple[Line, ...]], state: PlaybackState, time_ns: int, beat: float
) -> Played:
    runs = {key: _advanced(run, looks.get(run.look, ()), state, time_ns, beat) or run for key, run in one.runs.items()}
    return one if all(runs[key] is run for key, run in one.runs.items()) else replace(one, runs=runs)


def _with_runs(state: PlaybackState, runs: tuple[Run, ...]) -> PlaybackState:
    """Other runs; the level of a look that no longer runs is let go of, and what is blind of it is gone."""
    played: tuple[ListRun | ScoreRun, ...] = (*state.lists.values(), *state.scores.values())
    on = {run.look for run in runs} | {run.look for one in played for run in one.runs.values()}
    return replace(
        state,
        runs=runs,
        levels={look: level for look, level in state.levels.items() if look in on},
        blind={look: record for look, record in state.blind.items() if look in on},
    )


def _advanced(run: Run, lines: tuple[Line, ...], state: PlaybackState, time_ns: int, beat: float) -> Run | None:
    if run.is_over(time_ns):
        return None
    held, factor = state.held, state.speeds.get(run.look, 1.0) * state.pace
    if run.look in state.blind:
        lines, held = look_from_json(state.blind[run.look]).lines, {}
    rates = {line.id: rate_of(line, held[line.id].values) if line.id in held else line.rate for line in lines}
    if factor != 1.0:
        rates = {line: rate._replace(rate=rate.rate * factor) for line, rate in rates.items()}
    return run.with_phases(rates, time_ns, beat)
