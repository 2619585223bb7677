"""A cue list that plays: which cues its picture is mixed from, by which weights, and when it goes on by itself.

A list's picture is the sum of whole pictures of cues by weights that add to one; what is left to one is clear. A Go
takes whatever weights there are at that moment as they are and lets the new cue grow over them, so that no picture ever
jumps or dips. All of it is a closed form of show time and beat: the state changes at events only.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from typing import NamedTuple, Protocol

from heliograph.core.playing.cues import Cue, CueLook, Place
from heliograph.core.playing.level import FULL, Curve, Level
from heliograph.core.playing.run import Run
from heliograph.core.playing.tempo import NS_PER_S, PhaseUnit, Tempo

LEAST = 1 / 1024
"""Of less weight a cue is left out of the next mix."""

CUES_MIXED = 4
RUNS_OUT_NS = 250_000_000
"""Of more cues in one mix the oldest runs out within this."""

NOTHING = ""
"""The cue of a list that is let go of."""


@dataclass(frozen=True, slots=True)
class ListClock:
    """Seconds and beats that have gone by since an event, at a rate that may be 0: `s` and `beats` of them at show time
    `since_ns`, beat `since_beat`."""

    since_ns: int
    since_beat: float
    s: float = 0.0
    beats: float = 0.0
    rate: float = 1.0

    def gone(self, unit: PhaseUnit, time_ns: int, beat: float) -> float:
        if unit == "s":
            return self.s + (time_ns - self.since_ns) / NS_PER_S * self.rate
        return self.beats + (beat - self.since_beat) * self.rate

    def at_rate(self, rate: float, time_ns: int, beat: float) -> ListClock:
        """The same, going on at another rate from now."""
        return ListClock(time_ns, beat, self.gone("s", time_ns, beat), self.gone("beat", time_ns, beat), rate)

    def when(self, unit: PhaseUnit, amount: float, tempo: Tempo) -> int | None:
        """Show time at which so much will have gone by; None while it stands."""
        if self.rate <= 0.0:
            return None
        if unit == "s":
            return self.since_ns + round((amount - self.s) / self.rate * NS_PER_S)
        beat = self.since_beat + (amount - self.beats) / self.rate
        return time_of_beat(tempo, beat)


class Paced(Protocol):
    """Whatever plays at a `speed` of its own and at the `pace` of everything, unless it `holds`."""

    @property
    def speed(self) -> float: ...

    @property
    def holds(self) -> bool: ...

    @property
    def pace(self) -> float: ...


def rates(one: Paced, speed: float | None, holds: bool | None, pace: float | None) -> tuple[float, bool, float, float]:
    """Its speed, whether it holds, and its pace, once some of them are others; and the rate that comes of it."""
    own = one.speed if speed is None else speed
    stands = one.holds if holds is None else holds
    whole = one.pace if pace is None else pace
    return own, stands, whole, 0.0 if stands else own * whole


def time_of_beat(tempo: Tempo, beat: float) -> int:
    return tempo.since_ns + round((beat - tempo.beat) * 60.0 * NS_PER_S / tempo.bpm)


@dataclass(frozen=True, slots=True)
class Kept:
    """A look of a cue before: what it set of attributes stays, with its run, where nothing newer sets them. `home`:
    fixtures of it that were dark since, and went home then. `among`: it is of the next cue, and only these fixtures,
    which were dark, stand as that wants them already."""

    look: CueLook
    key: str
    home: frozenset[str] = frozenset()
    among: frozenset[str] | None = None


class Weighed(NamedTuple):
    """A cue in a mix: its weight 0..1, and what it plays: looks, each with the key of its run; what it keeps of cues
    before lies beneath that."""

    cue: str
    weight: float
    looks: tuple[CueLook, ...]
    keys: tuple[str, ...]
    kept: tuple[Kept, ...] = ()


@dataclass(frozen=True, slots=True)
class Part:
    """A cue in the mix: its weight `base` when the last event was, and what it played when it began (it is played so
    where the list has it no more). It runs out from then until `until_ns`, where that is not below 0."""

    cue: str
    looks: tuple[CueLook, ...]
    base: float
    keys: tuple[str, ...] = ()
    until_ns: int = -1
    kept: tuple[Kept, ...] = ()

    def weighed(self, weight: float) -> Weighed:
        return Weighed(self.cue, weight, self.looks, self.keys, self.kept)


@dataclass(frozen=True, slots=True)
class Fade:
    """How the last cue of the parts grows: times in `unit`."""

    into: float = 0.0
    out: float = 0.0
    delay: float = 0.0
    unit: PhaseUnit = "s"
    curve: Curve = "straight"

    @property
    def length(self) -> float:
        return self.delay + max(self.into, self.out)

    def shares(self, gone: float) -> tuple[float, float]:
        """How far the new cue is in, and the others are out, 0..1."""
        return _share(gone - self.delay, self.into, self.curve), _share(gone - self.delay, self.out, self.curve)


@dataclass(frozen=True, slots=True)
class ListRun:
    """`of`: which list. `cue`: the one it goes to or stands at, the last of the `parts`; "" where it is let go of.
    `place`: where in the list that is. `gone`: since Go; `fading`: until the fade has arrived, `arrived`: since then.
    `runs`: of the looks that play in it, by the keys that parts name. `letting`: since when it waits for a bar or a
    clip's end to be let go of. `since_ns`: when it began: lists that began later lie over others of the same priority.
    `pace`: of everything there is, on top of its own `speed`. `ready`: dark fixtures that stand already as the next cue
    sets them. `ended`: it stands where it is, whatever comes then. `changed_ns`: since when it says what it says."""

    of: str
    since_ns: int
    gone: ListClock
    cue: str = NOTHING
    place: Place | None = None
    parts: tuple[Part, ...] = ()
    fade: Fade = field(default_factory=Fade)
    fading: bool = False
    arrived: ListClock | None = None
    runs: Mapping[str, Run] = field(default_factory=dict)
    level: Level = FULL
    speed: float = 1.0
    pace: float = 1.0
    holds: bool = False
    ready: frozenset[str] = frozenset()
    letting: ListClock | None = None
    ended: bool = False
    went_ns: int = 0
    changed_ns: int = 0

    def weights(self, time_ns: int, beat: float) -> list[Weighed]:
        """The cues of the mix, oldest first; what their weights lack to one is clear."""
        if not self.parts:
            return []
        if not self.fading:
            return [one.weighed(one.base) for one in self.parts]
        into, out = self.fade.shares(self.gone.gone(self.fade.unit, time_ns, beat))
        left = 1.0 - max(into, out)
        others = self.parts if self.cue == NOTHING else self.parts[:-1]
        found = []
        lost = 0.0
        for one in others:
            whole = one.base * left
            weight = whole * self._still(one, time_ns)
            lost += whole - weight
            found.append(one.weighed(weight))
        if self.cue != NOTHING:
            last = self.parts[-1]
            weight = min(into + last.base * left + lost, 1.0)
            found.append(last.weighed(weight))
        return found

    def arrives_ns(self, tempo: Tempo) -> int | None:
        """When its fade has arrived; None where none is under way, or it is held."""
        return self.gone.when(self.fade.unit, self.fade.length, tempo) if self.fading else None

    def turned(self, cue: Cue | None, place: Place | None, fade: Fade, time_ns: int, beat: float) -> ListRun:
        """On the way to another cue (None: to nothing) from whatever is mixed at this moment. What it plays has
        no runs yet."""
        weighed = self.weights(time_ns, beat)
        parts = [
            replace(part, base=one.weight) for part, one in zip(self.parts, weighed, strict=True) if one.weight >= LEAST
        ]
        left_out = sum(one.weight for one in weighed if one.weight < LEAST)
        if cue is not None:
            had = next((one for one in parts if one.cue == cue.id), None)
            if had is not None and any(one.restart for one in cue.looks):  # what begins anew is another picture
                parts = [replace(one, cue=f"before {cue.id}") if one is had else one for one in parts]
                had = None
            parts = [one for one in parts if one.cue != cue.id]
            base, keys = (0.0, ()) if had is None else (had.base, had.keys)
            parts.append(Part(cue.id, cue.looks, base + left_out, keys, kept=self._keeps(cue)))
        staying = [one for one in parts if one.until_ns < 0]
        if len(staying) > CUES_MIXED:
            oldest = staying[0]
            parts = [replace(one, until_ns=time_ns + RUNS_OUT_NS) if one is oldest else one for one in parts]
        return replace(
            self,
            cue=NOTHING if cue is None else cue.id,
            place=place,
            parts=tuple(parts),
            fade=fade,
            fading=True,
            gone=ListClock(time_ns, beat, rate=self.speed * self.pace),
            arrived=None,
            holds=False,
            letting=None,
            ended=False,
            ready=frozenset(),
            went_ns=time_ns,
        )

    def _keeps(self, cue: Cue) -> tuple[Kept, ...]:
        """What a cue that comes keeps of the one that it follows: of each look the newest, and none of its own."""
        if self.cue == NOTHING or not self.parts:
            return ()
        last = self.parts[-1]
        if last.cue == cue.id:
            return last.kept
        found = {one.look.look: one for one in last.kept if one.among is None}
        found |= {look.look: Kept(look, key) for look, key in zip(last.looks, last.keys, strict=True)}
        own = {one.look for one in cue.looks}
        return tuple(one for key, one in found.items() if key not in own)

    def went_home(self, fixtures: frozenset[str]) -> ListRun:
        """Fixtures that are dark now: what is kept of them is let go of."""
        parts = tuple(
            replace(part, kept=tuple(_at_home(one, fixtures) for one in part.kept))
            if any(one.among is None and not fixtures <= one.home for one in part.kept)
            else part
            for part in self.parts
        )
        return self if all(a is b for a, b in zip(parts, self.parts, strict=True)) else replace(self, parts=parts)

    def came(self, time_ns: int, beat: float) -> ListRun:
        """Its fade has arrived: nothing but its cue is left."""
        left = tuple(replace(one, base=1.0) for one in self.parts[-1:]) if self.cue != NOTHING else ()
        arrived = ListClock(time_ns, beat, rate=self.gone.rate)
        return replace(self.only(left), fading=False, arrived=arrived)

    def only(self, parts: tuple[Part, ...]) -> ListRun:
        """With these parts alone, and the runs that they name."""
        needed = {key for part in parts for key in (*part.keys, *(one.key for one in part.kept))}
        return replace(self, parts=parts, runs={key: run for key, run in self.runs.items() if key in needed})

    def at_rate(
        self,
        time_ns: int,
        beat: float,
        speed: float | None = None,
        holds: bool | None = None,
        pace: float | None = None,
    ) -> ListRun:
        """Faster or slower, held or going on, from here."""
        own, stands, whole, rate = rates(self, speed, holds, pace)
        arrived = None if self.arrived is None else self.arrived.at_rate(rate, time_ns, beat)
        gone = self.gone.at_rate(rate, time_ns, beat)
        return replace(self, gone=gone, arrived=arrived, speed=own, holds=stands, pace=whole)

    def _still(self, part: Part, time_ns: int) -> float:
        """How much is left, 0..1, of a cue that runs out since the last event."""
        if part.until_ns < 0:
            return 1.0
        span = part.until_ns - self.went_ns
        return min(max((part.until_ns - time_ns) / span, 0.0), 1.0) if span > 0 else 0.0


def _at_home(one: Kept, fixtures: frozenset[str]) -> Kept:
    return one if one.among is not None else replace(one, home=one.home | fixtures)


def _share(gone: float, over: float, curve: Curve) -> float:
    if gone < 0.0:
        return 0.0
    if gone >= over:
        return 1.0
    share = gone / over
    return share * share * (3.0 - 2.0 * share) if curve == "eased" else share
