"""What scores do at this moment, as the engine tells it."""

from __future__ import annotations

from collections.abc import Iterator

from heliograph.core.playing.list_run import time_of_beat
from heliograph.core.playing.score import Score, written
from heliograph.core.playing.score_run import ScoreRun
from heliograph.core.playing.tempo import NS_PER_S
from heliograph.engine.loop import Engine
from heliograph.ipc.messages import engine_state as told


def scores_told(engine: Engine, show_ns: int) -> Iterator[told.PlayingScore]:
    """Every score of the show, whether it runs or not."""
    for key, score in engine.show.ground.scores.items():
        run = engine.state.scores.get(key)
        if run is None:
            yield told.PlayingScore(key, False, _seconds(engine, score.beats, engine.state.pace), score.beats)
        else:
            yield _playing(engine, score, run, show_ns)


def _playing(engine: Engine, score: Score, run: ScoreRun, show_ns: int) -> told.PlayingScore:
    tempo = engine.state.tempo
    whole = run.position(show_ns, tempo.beat_at(show_ns))
    number, beat = divmod(max(whole, 0.0), score.beats)
    rate = run.speed * run.pace
    return told.PlayingScore(
        of=score.id,
        running=True,
        length_s=_seconds(engine, score.beats, rate),
        beats=score.beats,
        beat=beat,
        at=written(float(int(beat))),
        round=int(number) + 1,
        left_s=_seconds(engine, score.beats - beat, rate),
        level=run.level_at(show_ns),
        speed=run.speed,
        holds=run.holds,
        ends=run.ends,
        sounding=[
            told.EntryWeight(one.entry, one.weight(whole))
            for one in run.voices
            if one.weight(whole) > 0.0 and not one.stands
        ],
    )


def _seconds(engine: Engine, beats: float, rate: float) -> float:
    """How long so many beats take; 0 where they never pass."""
    tempo = engine.state.tempo
    return (time_of_beat(tempo, tempo.beat + beats) - tempo.since_ns) / NS_PER_S / rate if rate > 0.0 else 0.0
