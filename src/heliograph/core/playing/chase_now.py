"""Which frame of a chase shows, and for how long yet."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

from heliograph.core.look.any_line import CYCLE
from heliograph.core.look.chase import Strip
from heliograph.core.look.line import ChaseLine, Line
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import PlaybackState


class FrameNow(NamedTuple):
    """`frame` from 0; `left_s` seconds, None where that is not known: what is driven, or stands still."""

    line: str
    chase: str
    frame: int
    left_s: float | None


def frames_now(
    state: PlaybackState, run: Run, lines: Sequence[Line], strips: Mapping[str, Strip], time_ns: int
) -> Iterator[FrameNow]:
    """Of each line of a run that shows a chase and is not over."""
    beat = state.tempo.beat_at(time_ns)
    for line in lines:
        strip = strips.get(line.chase) if isinstance(line, ChaseLine) and line.paints_itself else None
        anchor = run.phases.get(line.id)
        if strip is None or anchor is None:
            continue
        assert isinstance(line, ChaseLine)
        held = state.held.get(line.id)
        stands = line.cycle is not None or CYCLE in line.drives or (held is not None and CYCLE in held.values)
        phase = anchor.phase_at(time_ns, beat)
        by_hand = int(held.values.get("frame", 0)) if held is not None else 0
        if by_hand:
            yield FrameNow(line.id, line.chase, min(by_hand, len(strip.frames)) - 1, None)
            continue
        if stands or (line.rounds and abs(phase) >= line.rounds):
            continue
        shown = strip.at(phase, line.order, line.seed)
        left: float | None = None
        if anchor.drive is None and anchor.rate:
            gone = strip.frames[shown.frame].length - shown.left
            ahead = shown.left if anchor.rate > 0 else gone
            each = 1.0 if anchor.unit == "s" else 60.0 / state.tempo.bpm
            left = ahead / strip.round_of(line.order) / abs(anchor.rate) * each
        yield FrameNow(line.id, line.chase, shown.frame, left)
