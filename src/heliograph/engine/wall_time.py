"""The clock on the wall beside show time: what texts tell the time by."""

from __future__ import annotations

import time
from dataclasses import replace

from heliograph.core.playing.frames import FRAME_HZ
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S, ShowClock

OFF_NS = 100_000_000
"""So far off the time on the wall may be before it is set right: the state changes at events, not every second."""


def told_time(state: PlaybackState, clock: ShowClock, show_ns: int, frame: int) -> PlaybackState:
    """The state with the time on the wall, looked at once a second; show time that is held holds it too."""
    if frame % FRAME_HZ or clock.held:
        return state
    wall_ns = local_ns() - show_ns
    return state if abs(wall_ns - state.wall_ns) < OFF_NS else replace(state, wall_ns=wall_ns)


def local_ns() -> int:
    """Nanoseconds since 1970 as the clock on the wall counts them: by this machine's time zone."""
    now_ns = time.time_ns()
    return now_ns + time.localtime(now_ns // NS_PER_S).tm_gmtoff * NS_PER_S
