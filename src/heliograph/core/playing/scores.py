"""What is done to scores that play, by hand or by themselves.

Their weights are closed forms of the beat; what sounds changes at beats that are worked out, each done as of its own
moment, however late a frame comes.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from heliograph.core.errors import InputError
from heliograph.core.playing.level import FULL
from heliograph.core.playing.list_run import ListClock
from heliograph.core.playing.lists import GONE_S
from heliograph.core.playing.run import Run
from heliograph.core.playing.score import SAME, Score
from heliograph.core.playing.score_run import ScoreRun
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S

Scores = Mapping[str, Score]


def start(state: PlaybackState, score: Score, time_ns: int) -> PlaybackState:
    """From its first bar."""
    return locate(state, score, 0.0, time_ns)


def locate(state: PlaybackState, score: Score, beat: float, time_ns: int) -> PlaybackState:
    """From a beat of it on: what sounds there is as far as if it had begun at its own time. One that is held stands
    there; one that does not run begins."""
    end = score.end
    if beat < 0.0 or (end is not None and beat >= end - SAME) or (end is None and beat >= score.beats):
        raise InputError(f"{score.name} has {score.bars} bars.", where="bar", repair=f"Use 1 to {score.bars}.")
    now = state.tempo.beat_at(time_ns)
    known = state.scores.get(score.id)
    run = known or ScoreRun(score.id, time_ns, ListClock(time_ns, now, rate=state.pace), pace=state.pace)
    run = replace(run, clock=replace(run.clock, since_ns=time_ns, since_beat=now, beats=beat), fade=FULL, ends=False)
    return _with(state, _sounding(state, replace(run, voices=(), runs={}), score, beat, time_ns))


def hold(state: PlaybackState, score: Score, stands: bool, time_ns: int) -> PlaybackState:
    run = _running(state, score)
    return _with(state, run.at_rate(time_ns, state.tempo.beat_at(time_ns), holds=stands))


def at_speed(state: PlaybackState, score: Score, factor: float, time_ns: int) -> PlaybackState:
    run = _running(state, score)
    return _with(state, run.at_rate(time_ns, state.tempo.beat_at(time_ns), speed=factor))


def at_level(state: PlaybackState, score: Score, level: float, time_ns: int, over_s: float = 0.0) -> PlaybackState:
    run = _running(state, score)
    return _with(state, replace(run, level=run.level.moved(level, time_ns, over_s)))


def release(state: PlaybackState, key: str, over_s: float, time_ns: int) -> PlaybackState:
    """It goes on while it fades, and is gone then. One that does not run lets go of nothing."""
    run = state.scores.get(key)
    if run is None or run.ends:
        return state
    return _with(state, replace(run, fade=run.fade.moved(0.0, time_ns, over_s), ends=True))


def due_ns(state: PlaybackState, run: ScoreRun, score: Score | None) -> int | None:
    """When it does something next by itself; None where it does not."""
    found = [run.fade.since_ns + run.fade.over_ns] if run.ends else []
    if score is not None:
        ahead = run.clock.when("beat", _next(run, score), state.tempo)
        if ahead is not None:
            found.append(ahead)
    return min(found, default=None)


def advanced(state: PlaybackState, scores: Scores, time_ns: int, most: int) -> tuple[PlaybackState, int]:
    """Everything that became due by now, each as of its own moment; with how much of `most` is left."""
    for key in tuple(state.scores):
        score = scores.get(key)
        if score is None:  # it was deleted: it goes as gently as a list would
            state = release(state, key, GONE_S, time_ns)
        while most > 0:
            run = state.scores.get(key)
            due = None if run is None else due_ns(state, run, score)
            if run is None or due is None or due > time_ns:
                break
            state = _happened(state, run, score, due)
            most -= 1
    return state, most


def changed(state: PlaybackState, scores: Scores, keys: Iterable[str], time_ns: int) -> PlaybackState:
    """These scores say something else from now on: what sounds already goes on."""
    for key in keys:
        run, score = state.scores.get(key), scores.get(key)
        if run is not None and score is not None:
            beat = run.position(time_ns, state.tempo.beat_at(time_ns))
            if score.end is None or beat < score.end - SAME:
                state = _with(state, _sounding(state, run, score, beat, time_ns))
    return state


def _next(run: ScoreRun, score: Score) -> float:
    return score.next_boundary(run.done)


def _happened(state: PlaybackState, run: ScoreRun, score: Score | None, due: int) -> PlaybackState:
    if run.ends and run.fade.arrived(due):
        return replace(state, scores={key: one for key, one in state.scores.items() if key != run.of})
    assert score is not None
    beat = _next(run, score)
    if score.end is not None and beat >= score.end - SAME:  # it is over
        return replace(state, scores={key: one for key, one in state.scores.items() if key != run.of})
    return _with(state, _sounding(state, run, score, beat, due))


def _sounding(state: PlaybackState, run: ScoreRun, score: Score, beat: float, time_ns: int) -> ScoreRun:
    """With what sounds from a beat of the score on; what sounded already goes on with its run."""
    voices = score.voices(beat)
    now = state.tempo.beat_at(time_ns)
    runs = {}
    for one in voices:
        known = run.runs.get(one.key)
        if known is None or known.look != one.look:
            ago = max(beat - one.at, 0.0)
            since = time_ns - round(ago * 60.0 / state.tempo.bpm * NS_PER_S)
            name = f"{run.of}:{one.key}@{time_ns}"
            known = Run(name, one.look, since, by=f"score:{run.of}", since_beat=now - ago, from_start=True)
        runs[one.key] = known
    return replace(run, done=beat, voices=voices, runs=runs)


def _running(state: PlaybackState, score: Score) -> ScoreRun:
    run = state.scores.get(score.id)
    if run is None:
        raise InputError(f"{score.name} does not run.", where="score", repair="Start it first.")
    return run


def _with(state: PlaybackState, run: ScoreRun) -> PlaybackState:
    return replace(state, scores={**state.scores, run.of: run})
