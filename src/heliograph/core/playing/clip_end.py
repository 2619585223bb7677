"""When a clip that plays is at its end: what a cue or a person may wait for."""

from __future__ import annotations

from collections.abc import Sequence

from heliograph.core.look.line import ChaseLine, ClipLine, Line
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import PlaybackState


def clip_left_s(state: PlaybackState, run: Run, lines: Sequence[Line], time_ns: int) -> float | None:
    """Seconds until the last of a run's clips is at its end, of its rounds or, where it has none, of this round; 0 once
    they are. None where it shows no clip whose end is known: what stands still, or is driven."""
    left = [
        _left_s(state, run, line, time_ns)
        for line in lines
        if isinstance(line, (ClipLine, ChaseLine)) and line.paints_itself
    ]
    known = [one for one in left if one is not None]
    return max(known) if known else None


def _left_s(state: PlaybackState, run: Run, line: ClipLine | ChaseLine, time_ns: int) -> float | None:
    anchor = run.phases.get(line.id)
    held = state.held.get(line.id)
    stands = line.cycle is not None or "cycle" in line.drives or (held is not None and "cycle" in held.values)
    if anchor is None or anchor.drive is not None or not anchor.rate or stands:
        return None
    done = abs(anchor.phase_at(time_ns, state.tempo.beat_at(time_ns)))
    ahead = max(line.rounds - done, 0.0) if line.rounds else 1.0 - done % 1.0
    each = 60.0 / state.tempo.bpm if anchor.unit != "s" else 1.0
    return ahead / abs(anchor.rate) * each
