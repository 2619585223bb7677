"""What a handle is, what a show offers to make them from, and what a move says."""

from __future__ import annotations

import math
import unicodedata
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, field
from typing import Any, Literal, Protocol

from heliograph.core.errors import InputError
from heliograph.core.look.chase import Strip
from heliograph.core.look.line import Look
from heliograph.core.look.parameter import TEXT_MAX, Parameter
from heliograph.core.playing.cues import CueList
from heliograph.core.playing.favourites import Favourite
from heliograph.core.playing.score import Score
from heliograph.core.playing.state import PlaybackState, Record
from heliograph.core.roles import Role

Kind = Literal["level", "number", "angle", "switch", "trigger", "choice", "ramp", "speed", "text"]
"""level: 0 to 1. number: within its range. angle: degrees. ramp: [[at, red, green, blue], ...]. speed: {value, unit}.
A trigger takes no value, or a moment."""


@dataclass(frozen=True, slots=True)
class Handle:
    """`address` by ids, `path` by names. `words` for people. `needs`: the role that may move it. `fades`: it can be
    moved within a time."""

    address: str
    path: str
    kind: Kind
    words: str
    needs: Role = "run"
    minimum: float = 0.0
    maximum: float = 1.0
    unit: str = ""
    choices: tuple[str, ...] = ()
    fades: bool = False
    repair: str = ""

    @property
    def where(self) -> str:
        """What an error of its value is about."""
        return self.address.rpartition("/")[2]

    def check(self, value: Any) -> Any:
        """The value as this kind takes it; InputError that says what would be right."""
        match self.kind:
            case "switch":
                if not isinstance(value, bool):
                    raise InputError(f"{self.words} is on or off, not {value!r}.", where=self.where)
            case "text":
                if not isinstance(value, str) or len(value) > TEXT_MAX:
                    raise InputError(f"{self.words} takes a text of at most {TEXT_MAX} characters.", where=self.where)
            case "choice":
                if isinstance(value, (int, float)) and not isinstance(value, bool):
                    value = f"{value:g}"  # clips are chosen by their number
                if value not in self.choices:
                    raise InputError(
                        f"{self.words} is not '{value}'.", where=self.where, repair=f"Use {', '.join(self.choices)}."
                    )
            case "level" | "number" | "angle":
                return self._number(value)
        return value

    def _number(self, value: Any) -> float:
        if isinstance(value, bool) or not isinstance(value, (int, float)) or not math.isfinite(value):
            raise InputError(f"{self.words} takes a number, not {value!r}.", where=self.where)
        if self.minimum <= value <= self.maximum:
            return value
        if self.kind == "level":
            raise InputError(f"{self.words} of {value * 100:g} % is outside 0 to 100 %.", where=self.where)
        limits = f"{self.minimum:g} to {self.maximum:g} {self.unit}".strip()
        raise InputError(f"{self.words} {value:g} is outside {limits}.", where=self.where, repair=self.repair)


class Named(Protocol):
    @property
    def name(self) -> str: ...


@dataclass(frozen=True, slots=True)
class Ground:
    """The show as handles see it: looks by id, groups' names by id, parameters by effect. `records`: looks as they are
    stored."""

    looks: Mapping[str, Look] = field(default_factory=dict)
    groups: Mapping[str, str] = field(default_factory=dict)
    parameters: Mapping[str, tuple[Parameter, ...]] = field(default_factory=dict)
    records: Mapping[str, Record] = field(default_factory=dict)
    clips: Mapping[int, str] = field(default_factory=dict)
    """Clips by their number."""
    lengths: Mapping[str, float] = field(default_factory=dict)
    """How long each clip is, seconds."""
    strips: Mapping[str, Strip] = field(default_factory=dict)
    """The frames of each chase."""
    lists: Mapping[str, CueList] = field(default_factory=dict)
    scores: Mapping[str, Score] = field(default_factory=dict)
    favourites: Mapping[str, Favourite] = field(default_factory=dict)
    _paths: dict[int, dict[str, str]] = field(default_factory=dict, init=False, repr=False, compare=False)

    def paths_of(self, things: Mapping[str, str] | Mapping[str, Named]) -> dict[str, str]:
        """`slugs` of one of its own mappings, by name, worked out once: each move would ask for all of them."""
        known = self._paths.get(id(things))
        if known is None:
            names = {key: one if isinstance(one, str) else one.name for key, one in things.items()}
            known = self._paths[id(things)] = slugs(names)
        return known


@dataclass(frozen=True, slots=True)
class Move:
    """One handle to one value, by some hand with a role, at show time `time_ns` (`steady_ms` of the machine's own
    clock)."""

    handle: str
    value: Any = None
    over_s: float = 0.0
    by: str = ""
    role: Role = "edit"
    time_ns: int = 0
    steady_ms: float = 0.0


class Family(Protocol):
    """Handles of one kind of thing. `parts` are those of an address after the first."""

    def every(self, ground: Ground) -> Iterator[Handle]: ...

    def find(self, ground: Ground, parts: tuple[str, ...]) -> Handle | None: ...

    def read(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], time_ns: int) -> Any: ...

    def move(self, state: PlaybackState, ground: Ground, parts: tuple[str, ...], move: Move) -> PlaybackState: ...


def slug(name: str) -> str:
    """A name as a part of a path: lower case, plain letters, `_` for anything else."""
    plain = unicodedata.normalize("NFKD", name).encode("ascii", "ignore").decode().lower()
    return "_".join(part for part in "".join(c if c.isalnum() else " " for c in plain).split()) or "_"


def slugs(names: Mapping[str, str]) -> dict[str, str]:
    """A part of a path for each id; where names agree, the first keeps it and others get the start of their id."""
    found: dict[str, str] = {}
    taken: set[str] = set()
    for key, name in names.items():
        part = slug(name)
        if part in taken:
            part = f"{part}_{slug(key)[:8]}"
        taken.add(part)
        found[key] = part
    return found
