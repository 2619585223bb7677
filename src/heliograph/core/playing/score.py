"""Scores as they are stored: a piece of known length in bars, a stave for each group, entries on staves by beats.

Places and lengths are beats from the start, 0 for the first; people read them as `bar.beat`, both from 1.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from heliograph.core.errors import InputError
from heliograph.core.playing.cues import BEATS_OF_BAR, BY_HAND, PRIORITY_MAX, TIME_MAX
from heliograph.core.playing.level import check_level

BARS_MAX = 2_000
STAVES_MAX = 64
ENTRIES_MAX = 4_000
ACCENT_BEATS = 0.5
"""How long an accent stands, fading from its beat on."""

SHORTEST = 1 / 16
"""Of entries, in beats."""

SAME = 1e-6
"""Beats that are taken for one."""


@dataclass(frozen=True, slots=True)
class Stave:
    """What is written on it plays over the fixtures of its `group`."""

    id: str
    group: str


@dataclass(frozen=True, slots=True)
class Entry:
    """A look on a stave, from a beat for a length, at a level 0..1; it tapers within `fade_in` and `fade_out`, all in
    beats. One that directly follows another crossfades from it within its `fade_in`. `accent`: drawn as a star."""

    id: str
    stave: str
    look: str
    at: float
    length: float
    level: float = 1.0
    fade_in: float = 0.0
    fade_out: float = 0.0
    accent: bool = False

    def __post_init__(self) -> None:
        check_level(self.level)
        if not self.length >= SHORTEST:
            raise InputError(
                f"An entry of {self.length:g} beats is too short.", where="length", repair=f"Use {SHORTEST:g} or more."
            )
        if self.fade_in < 0.0 or self.fade_out < 0.0 or self.fade_in + self.fade_out > self.length + SAME:
            raise InputError(
                f"Fades of {self.fade_in:g} and {self.fade_out:g} beats do not fit into {self.length:g}.",
                where="fade_in",
                repair="Both together are at most as long as the entry.",
            )

    @property
    def end(self) -> float:
        return self.at + self.length


@dataclass(frozen=True, slots=True)
class Held:
    """A position that a stave's fixtures take from a beat on, until the next one; `look` sets it."""

    id: str
    stave: str
    look: str
    at: float


@dataclass(frozen=True, slots=True)
class Voice:
    """An entry while it sounds, in beats since the score began, rounds counted. `follower`: within so many beats from
    its end the next entry takes over; 0 where none does. `before`: the voice it takes over from. `stands`: a position,
    which neither fades nor paints."""

    key: str
    entry: str
    group: str
    look: str
    level: float
    at: float
    end: float
    fade_in: float = 0.0
    fade_out: float = 0.0
    follower: float = 0.0
    before: str = ""
    stands: bool = False

    def weight(self, beat: float) -> float:
        """0..1 at a beat of the score: how much of its picture there is."""
        if beat < self.at or beat >= self.end + self.follower:
            return 0.0
        if beat >= self.end:
            return 1.0 - (beat - self.end) / self.follower
        into = min((beat - self.at) / self.fade_in, 1.0) if self.fade_in > 0.0 else 1.0
        if self.follower > 0.0 or self.fade_out <= 0.0:
            return into
        return min(into, (self.end - beat) / self.fade_out)


@dataclass(frozen=True, slots=True)
class Score:
    """`bars` of four beats. `rounds`: 0 without end. `release_s`: how long letting go of it takes."""

    id: str
    name: str
    bars: int
    staves: tuple[Stave, ...] = ()
    entries: tuple[Entry, ...] = ()
    positions: tuple[Held, ...] = ()
    rounds: int = 1
    priority: int = BY_HAND
    release_s: float = 2.0
    boundaries: tuple[float, ...] = field(default=(), compare=False, repr=False)
    _follows: Mapping[str, Entry] = field(default_factory=dict, compare=False, repr=False)

    def __post_init__(self) -> None:
        _within(self.bars, 1, BARS_MAX, "bars", "bars")
        _within(self.rounds, 0, 10_000, "rounds", "rounds")
        _within(self.priority, 0, PRIORITY_MAX, "priority", "as a priority")
        _within(self.release_s, 0, TIME_MAX, "release_s", "seconds of letting go")
        _within(len(self.staves), 0, STAVES_MAX, "staves", "staves")
        _within(len(self.entries) + len(self.positions), 0, ENTRIES_MAX, "entries", "entries")
        for one in self.entries:
            if not (one.at >= 0.0 and one.end <= self.beats + SAME):
                raise InputError(
                    f"An entry from {written(one.at)} for {one.length:g} beats is not within {self.bars} bars.",
                    where="at",
                    repair="Make the score longer, or the entry shorter.",
                )
        follows = self._followers()
        object.__setattr__(self, "_follows", follows)
        found = {0.0}
        for one in self.entries:
            found |= {one.at, one.end}
            if one.id in follows:
                found.add(one.end + follows[one.id].fade_in)
        found |= {one.at for one in self.positions}
        object.__setattr__(self, "boundaries", tuple(sorted(one for one in found if one < self.beats - SAME)))

    @property
    def beats(self) -> float:
        return float(self.bars * BEATS_OF_BAR)

    @property
    def end(self) -> float | None:
        """Beats until it is over, all rounds; None of one without end."""
        return self.beats * self.rounds if self.rounds else None

    def next_boundary(self, beat: float) -> float:
        """The first beat after `beat`, rounds counted, at which other entries may sound."""
        number, local = divmod(beat, self.beats)
        place = bisect_right(self.boundaries, local + SAME)
        ahead = self.boundaries[place] if place < len(self.boundaries) else self.beats
        return number * self.beats + ahead

    @property
    def followers(self) -> frozenset[str]:
        """Entries that take over from the one before, by their ids."""
        return frozenset(one.id for one in self._follows.values())

    def voices(self, beat: float) -> tuple[Voice, ...]:
        """What sounds from a beat on: positions first, then entries stave by stave, later ones over earlier ones."""
        number = int(beat // self.beats + SAME)
        local, first = beat - number * self.beats, number * self.beats
        groups = {one.id: one.group for one in self.staves}
        order = {one.id: place for place, one in enumerate(self.staves)}
        found = list(self._positions(local, first, number, groups))
        sounding = [
            one
            for one in self.entries
            if one.stave in groups and one.at <= local + SAME and local + SAME < one.end + self._taken(one.id)
        ]
        sounding.sort(key=lambda one: (order[one.stave], one.at))
        before = {one.id: key for key, one in self._follows.items()}
        for one in sounding:
            key = f"{one.id}@{number}"
            earlier = f"{before[one.id]}@{number}" if one.id in before else ""
            place = first + one.at, first + one.end, one.fade_in, one.fade_out
            voice = Voice(key, one.id, groups[one.stave], one.look, one.level, *place, self._taken(one.id), earlier)
            found.append(voice)
        return tuple(found)

    def _positions(self, local: float, first: float, number: int, groups: Mapping[str, str]) -> Sequence[Voice]:
        found: dict[str, Held] = {}
        for one in self.positions:
            if one.stave in groups and one.at <= local + SAME:
                last = found.get(one.stave)
                if last is None or one.at >= last.at:
                    found[one.stave] = one
        end = first + self.beats
        return [
            Voice(f"{one.id}@{number}", one.id, groups[one.stave], one.look, 1.0, first + one.at, end, stands=True)
            for one in found.values()
        ]

    def _taken(self, entry: str) -> float:
        """Within how many beats from its end another takes over."""
        return self._follows[entry].fade_in if entry in self._follows else 0.0

    def _followers(self) -> dict[str, Entry]:
        """Each entry that another directly follows with a fade, by its id."""
        ends: dict[tuple[str, int], list[str]] = {}
        for one in self.entries:
            if not one.accent:
                ends.setdefault((one.stave, round(one.end / SAME)), []).append(one.id)
        found: dict[str, Entry] = {}
        for one in self.entries:
            free = ends.get((one.stave, round(one.at / SAME)))
            if free and one.fade_in > 0.0 and not one.accent:
                found[free.pop()] = one
        return found


def score_from_json(data: Mapping[str, Any]) -> Score:
    """Of a section: every entry by the look that it plays."""
    return Score(
        data["id"],
        data["name"],
        int(data["bars"]),
        tuple(Stave(one["id"], one["group"]) for one in data.get("staves", ())),
        tuple(entry_from_json(one) for one in data.get("entries", ())),
        tuple(Held(one["id"], one["stave"], one["look"], float(one["at"])) for one in data.get("positions", ())),
        int(data.get("rounds", 1)),
        int(data.get("priority", BY_HAND)),
        float(data.get("release_s", 2.0)),
    )


def entry_from_json(data: Mapping[str, Any]) -> Entry:
    """Of a stored entry; `look` is empty where it plays something else."""
    place = float(data["at"]), float(data["length"])
    fades = float(data.get("fade_in", 0.0)), float(data.get("fade_out", 0.0))
    level, accent = float(data.get("level", 1.0)), bool(data.get("accent", False))
    return Entry(data["id"], data["stave"], data.get("look", ""), *place, level, *fades, accent)


def written(beat: float) -> str:
    """A beat from the start as people read it: 16 is 5.1, 18.5 is 5.3.5."""
    bar, rest = divmod(beat + SAME, BEATS_OF_BAR)
    whole = int(rest)
    part = f"{rest - whole:.3f}".rstrip("0").lstrip("0") if rest - whole > 1e-3 else ""
    return f"{int(bar) + 1}.{whole + 1}{part if part != '.' else ''}"


def _within(value: float, least: int, most: float, where: str, what: str) -> None:
    if not least <= value <= most:
        raise InputError(f"{value:,g} {what} are outside {least:,} to {most:,g}.", where=where)
