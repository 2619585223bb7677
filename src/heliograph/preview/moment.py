"""A sent frame with what it was rendered from, and how a look runs in it."""

from __future__ import annotations

from dataclasses import dataclass

from heliograph.core.playing.run import Run
from heliograph.core.playing.state import Painting, PlaybackState, advance
from heliograph.ipc.frames import SentFrame
from heliograph.render.compiled import CompiledShow


@dataclass(frozen=True, slots=True)
class Moment:
    """One sent frame and the playback state it was rendered from; `exact` where its show is the one known here."""

    frame: SentFrame
    state: PlaybackState
    exact: bool

    @property
    def painting(self) -> Painting:
        return self.state.painting(self.frame.show_ns)


def run_of(show: CompiledShow, moment: Moment, look: str) -> tuple[Run, bool]:
    """How the look runs, the newest run of several; one that is off, or edited unseen, runs here from show time 0, so
    that its picture moves."""
    runs = [run for run in moment.painting.all_runs() if run.look == look]
    if runs and look not in moment.state.blind:
        return runs[-1], True
    alone = PlaybackState(moment.state.tempo, runs=(Run("alone", look, 0),))
    return advance(alone, show.lines, 0).runs[0], False
