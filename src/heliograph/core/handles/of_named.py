"""What handles of lists and of scores have in common: they are found by the id of their thing and one of its names."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping
from typing import Any, Protocol

from heliograph.core.handles.handle import Ground, Handle


class Named(Protocol):
    @property
    def id(self) -> str: ...

    @property
    def name(self) -> str: ...


class OfNamed:
    """Addresses `<kind>/<id>/<name>`. `among`: the things of a show by their id; `handle`: of one of them, by its part
    of a path and a name."""

    def __init__(
        self,
        names: tuple[str, ...],
        among: Callable[[Ground], Mapping[str, Any]],
        handle: Callable[[Any, str, str], Handle],
    ) -> None:
        self._names, self._among, self._handle = names, among, handle

    def every(self, ground: Ground) -> Iterator[Handle]:
        things = self._among(ground)
        parts = ground.paths_of(things)
        return (self._handle(one, parts[key], name) for key, one in things.items() for name in self._names)

    def find(self, ground: Ground, parts: tuple[str, ...]) -> Handle | None:
        things = self._among(ground)
        one = things.get(parts[0]) if parts else None
        if one is None or len(parts) != 2 or parts[1] not in self._names:
            return None
        return self._handle(one, ground.paths_of(things)[one.id], parts[1])
