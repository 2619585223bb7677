"""What scores played by themselves and no longer do: kept with the show for as long as it may still fade."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from time import monotonic

from heliograph.core.playing.lists import GONE_S
from heliograph.store.rows import Record

WHILE_S = 5.0 * GONE_S
"""A show takes a moment to get to the engine, and more than one edit may be on its way."""


class Leaving:
    """Called with the own looks of each state of a show, it gives them back with those that have just gone."""

    def __init__(self, clock: Callable[[], float] = monotonic) -> None:
        self._clock = clock
        self._show = ""
        self._seen: dict[str, tuple[Record, float]] = {}
        """By id, with when it was last wanted."""

    def __call__(self, show: str, looks: Sequence[Record]) -> list[Record]:
        now = self._clock()
        kept = self._seen if show == self._show else {}
        self._show = show
        self._seen = {key: one for key, one in kept.items() if now - one[1] < WHILE_S}
        self._seen |= {look["id"]: (look, now) for look in looks}
        return [look for look, _ in self._seen.values()]
