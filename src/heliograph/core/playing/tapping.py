"""A tempo from taps: the mean of their intervals. Common practice, no published source: the last eight count, a pause
of 2 s begins anew, taps closer than 200 ms are a bounce."""

from __future__ import annotations

from heliograph.core.playing.tempo import BPM_MAX, BPM_MIN

KEPT = 8
PAUSE_MS = 2000.0
BOUNCE_MS = 200.0

Taps = tuple[float, ...]
"""Moments in ms of the tapper's own clock."""


def tapped(taps: Taps, now_ms: float) -> Taps:
    """The taps that count after one more; the same where it is a bounce."""
    since = now_ms - taps[-1] if taps else PAUSE_MS + 1
    if 0 <= since < BOUNCE_MS:
        return taps
    return (now_ms,) if not 0 <= since <= PAUSE_MS else (*taps, now_ms)[-KEPT:]


def tempo_of(taps: Taps) -> float | None:
    """BPM within the limits of a tempo (standards 8.2); None for fewer than two taps."""
    if len(taps) < 2:
        return None
    return min(BPM_MAX, max(BPM_MIN, 60_000.0 * (len(taps) - 1) / (taps[-1] - taps[0])))
