"""Handles of favourites: one trigger each."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.handles.handle import Ground, Handle, Move
from heliograph.core.playing.favourites import Favourite
from heliograph.core.playing.state import PlaybackState

RECALL = "recall"


class OfFavourite:
    """Addresses `favourite/<id>/recall`. `move`: how any other handle is moved; `fades`: whether one can be moved
    within a time."""

    def __init__(
        self, move: Callable[[PlaybackState, Ground, Move], PlaybackState], fades: Callable[[Ground, str], bool]
    ) -> None:
        self._move, self._fades = move, fades

    def every(self, ground: Ground) -> Iterator[Handle]:
        parts = ground.paths_of(ground.favourites)
        return (_handle(one, parts[key]) for key, one in ground.favourites.items())

    def find(self, ground: Ground, parts: tuple[str, ...]) -> Handle | None:
        one = ground.favourites.get(parts[0]) if parts else None
        if one is None or parts[1:] != (RECALL,):
            return None
        return _handle(one, ground.paths_of(ground.favourites)[one.id])

    def read(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], time_ns: int) -> Any:
        return None

    def move(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], move: Move) -> PlaybackState:
        """All of it; what is gone meanwhile, or does not run, is left out."""
        for handle, value in ground.favourites[parts[0]].values:
            try:
                over_s = move.over_s if self._fades(ground, handle) else 0.0
                state = self._move(state, ground, replace(move, handle=handle, value=value, over_s=over_s))
            except InputError:
                continue
        return state


def _handle(one: Favourite, part: str) -> Handle:
    words = f"{one.name}: recall"
    return Handle(f"favourite/{one.id}/{RECALL}", f"favourite/{part}/{RECALL}", "trigger", words, fades=True)
