"""What plays at this moment, as the engine tells it."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Literal

import numpy as np

from heliograph.core.playing.chase_now import frames_now
from heliograph.core.playing.clip_end import clip_left_s
from heliograph.core.playing.level import FULL
from heliograph.core.playing.list_run import ListRun
from heliograph.core.playing.lists import before_of, due_of, next_of
from heliograph.core.playing.run import Run
from heliograph.core.playing.score_run import ScoreRun
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.engine.loop import Engine
from heliograph.engine.telling_scores import scores_told
from heliograph.ipc.messages import engine_state as told
from heliograph.render.compiled import CompiledShow


def state_told(engine: Engine) -> told.EngineState:
    """What plays at this moment, for the browser."""
    frame, changes = engine.frame, engine.changes  # read first: what is read next may be newer than told, never older
    state, due = engine.state, engine.deadlines.due_ns
    show_ns = engine.clock.at(due)
    return told.EngineState(
        frame=frame,
        changes=changes,
        show_s=show_ns / NS_PER_S,
        held=engine.clock.held,
        bpm=state.tempo.bpm,
        beat=state.tempo.beat_at(show_ns),
        master=state.master,
        masters=dict(state.masters),
        manual=dict(state.manual),
        raw=dict(state.raw),
        highlight=sorted(state.highlight),
        walking=state.walk is not None,
        blackout=state.blackout,
        freeze=state.freeze,
        armed=sorted(state.armed),
        armed_until=engine.leases.until(),
        away=engine.away,
        left=[told.LeftAddress(one.fixture, one.number, one.name, one.said) for one in state.left],
        pace=state.pace,
        tint=(state.tint.hue, state.tint.amount),
        speeds=dict(state.speeds),
        blind=sorted(state.blind),
        look_tints={key: (one.hue, one.amount) for key, one in state.look_tints.items()},
        group_tints={key: (one.hue, one.amount) for key, one in state.group_tints.items()},
        held_lines=sorted(state.held),
        running=[*_by_hand(engine, show_ns), *_by_lists(engine, show_ns), *_by_scores(engine, show_ns)],
        lists=[_list_told(engine, one, show_ns) for one in state.lists.values()],
        scores=list(scores_told(engine, show_ns)),
        clock_s=state.clock_s,
    )


def _by_hand(engine: Engine, show_ns: int) -> Iterator[told.RunningLook]:
    for run in engine.state.runs:
        if run.look in engine.show.looks:
            yield _run_told(engine, run, show_ns, run.level.at(show_ns))


def _by_lists(engine: Engine, show_ns: int) -> Iterator[told.RunningLook]:
    """Each run of a list once, by the weights of the cues that have it."""
    beat = engine.state.tempo.beat_at(show_ns)
    for one in engine.state.lists.values():
        shares: dict[str, float] = {}
        weights: dict[str, float] = {}
        newest: dict[str, str] = {}
        for cue, weight, looks, keys, _ in one.weights(show_ns, beat):
            for look, key in zip(looks, keys, strict=True):
                shares[key] = shares.get(key, 0.0) + weight * look.level
                weights[key] = weights.get(key, 0.0) + weight
                newest[key] = cue
        level = one.level.at(show_ns)
        for key, run in one.runs.items():
            if run.look in engine.show.looks and key in shares:
                yield _run_told(engine, run, show_ns, shares[key] * level, one, newest[key], weights[key])


def _by_scores(engine: Engine, show_ns: int) -> Iterator[told.RunningLook]:
    """Looks that sound in scores; white and presets are no looks."""
    beat = engine.state.tempo.beat_at(show_ns)
    for one in engine.state.scores.values():
        at = one.position(show_ns, beat)
        for voice in one.voices:
            weight, run = voice.weight(at), one.runs.get(voice.key)
            if weight > 0.0 and run is not None and run.look in engine.show.records:
                fade = weight * voice.level * one.level_at(show_ns)
                yield _run_told(engine, run, show_ns, fade, one, voice.entry, weight)


def _run_told(
    engine: Engine,
    run: Run,
    show_ns: int,
    fade: float,
    one: ListRun | ScoreRun | None = None,
    cue: str = "",
    weight: float = 1.0,
) -> told.RunningLook:
    state, lines = engine.state, engine.show.lines.get(run.look, ())
    strips = engine.show.ground.strips
    return told.RunningLook(
        run.id,
        run.look,
        run.by,
        state.levels.get(run.look, FULL).at(show_ns),
        fade,
        run.ends or _leaves(one, cue),
        (show_ns - run.since_ns) / NS_PER_S,
        clip_left_s(state, run, lines, show_ns),
        [told.ChaseNow(*each) for each in frames_now(state, run, lines, strips, show_ns)],
        "" if one is None else one.of,
        cue,
        _trend(run, show_ns, fade, one, cue),
        list(_factors(engine, run, show_ns, fade, one, weight)),
    )


def _leaves(one: ListRun | ScoreRun | None, cue: str) -> bool:
    """Whether what plays it has let go of it."""
    return one.ends if isinstance(one, ScoreRun) else one is not None and cue != one.cue


def _trend(
    run: Run, show_ns: int, fade: float, one: ListRun | ScoreRun | None, cue: str
) -> Literal["coming", "steady", "leaving"]:
    """What becomes of it in the fade that is under way."""
    if run.ends or _leaves(one, cue):
        return "leaving"
    if isinstance(one, ScoreRun):
        return "steady"
    fading = one.fading if one is not None else not run.level.arrived(show_ns)
    return "coming" if fading and fade < 1.0 else "steady"


def _factors(
    engine: Engine, run: Run, show_ns: int, fade: float, one: ListRun | ScoreRun | None, weight: float
) -> Iterator[told.Factor]:
    state, show = engine.state, engine.show
    if one is None:
        yield told.Factor("fade", fade)
    else:
        plays = ("entry", "score") if isinstance(one, ScoreRun) else ("cue", "list")
        level = one.level_at(show_ns) if isinstance(one, ScoreRun) else one.level.at(show_ns)
        yield told.Factor("fade", weight)
        yield told.Factor(plays[0], fade / level / weight if level and weight else 0.0)
        if level < 1.0:
            yield told.Factor(plays[1], level)
    yield told.Factor("look", state.levels.get(run.look, FULL).at(show_ns))
    if any(level < 1.0 for level in state.masters.values()):
        reached = _reached(show, run.look)
        for group, level in state.masters.items():
            if level < 1.0 and group in show.groups and not reached.isdisjoint(show.groups[group].tolist()):
                yield told.Factor(show.ground.groups.get(group, "group"), level)
    yield told.Factor("master", state.master)


_known: list[tuple[CompiledShow, dict[str, frozenset[int]]]] = []
"""Of the show that was asked about last: the fixtures that each look reaches."""


def _reached(show: CompiledShow, look: str) -> frozenset[int]:
    if not _known or _known[0][0] is not show:
        _known[:] = [(show, {})]
    found = _known[0][1]
    if look not in found:
        cells = [show.rig.fixture_of[one.matrix.cell] for one in show.looks.get(look, ())]
        found[look] = frozenset(np.unique(np.concatenate(cells)).tolist()) if cells else frozenset()
    return found[look]


def _list_told(engine: Engine, one: ListRun, show_ns: int) -> told.PlayingList:
    state, known = engine.state, engine.show.ground.lists.get(one.of)
    beat = state.tempo.beat_at(show_ns)
    coming = next_of(one, known) if known else None
    before = before_of(one, known) if known else None
    # What is held is told as if it went on now.
    going = one.at_rate(show_ns, beat, holds=False) if one.holds else one
    arrives = going.arrives_ns(state.tempo)
    begun = going.gone.when(one.fade.unit, 0.0, state.tempo)
    due = due_of(state, one, known, engine.show.lines)
    return told.PlayingList(
        of=one.of,
        cue=one.cue,
        next="" if coming is None else coming.id,
        before="" if before is None else before.id,
        mix=[told.CueWeight(each.cue, each.weight) for each in one.weights(show_ns, beat)],
        fade_left_s=0.0 if arrives is None else max((arrives - show_ns) / NS_PER_S, 0.0),
        fade_s=0.0 if arrives is None or begun is None else max((arrives - begun) / NS_PER_S, 0.0),
        then_left_s=None if due is None or due.what == "arrive" else max((due.time_ns - show_ns) / NS_PER_S, 0.0),
        holds=one.holds,
        letting=one.letting is not None,
        level=one.level.at(show_ns),
        speed=one.speed,
        went_s=(show_ns - one.went_ns) / NS_PER_S,
    )
