"""Cue lists as they are stored: cues, what each plays and for how long, and the order in which they come.

Times of a cue are seconds or beats, one unit for its fade and another, if wanted, for what comes then.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal, NamedTuple, get_args

from heliograph.core.errors import InputError
from heliograph.core.look.chase import ORDERS, Order, dealt
from heliograph.core.playing.level import Curve, check_level
from heliograph.core.playing.tempo import PhaseUnit

Then = Literal["hold", "follow", "beat", "bar", "time", "clip"]
"""What starts the next cue: a Go; so long after this one; the next beat; the next bar; a time of day; the end of a clip
of it."""

LettingGo = Literal["fade", "at once", "bar", "clip"]
"""How a list that is released ends: in its time, at once, at the end of the bar, at the end of a clip."""

CURVES: tuple[Curve, ...] = get_args(Curve)
THENS: tuple[Then, ...] = get_args(Then)
WAYS: tuple[LettingGo, ...] = get_args(LettingGo)

BEATS_OF_BAR = 4
BY_HAND = 100
"""The priority of what somebody starts by hand, and of a list where none is said."""

CUES_MAX = 2_000
LOOKS_MAX = 64
"""Looks of one cue."""

ACTIONS_MAX = 32
TIME_MAX = 86_400.0
NUMBER_MAX = 99_999.999
PRIORITY_MAX = 200
DAY_S = 86_400


@dataclass(frozen=True, slots=True)
class CueLook:
    """A look at a level 0..1; `group`: only over its fixtures, "" for all. `restart`: it begins anew, where it ran
    already in the cue before."""

    look: str
    level: float = 1.0
    group: str = ""
    restart: bool = False


@dataclass(frozen=True, slots=True)
class Action:
    """A handle to a value within `over_s` seconds, when the cue begins. `words`: what it was called when chosen."""

    handle: str
    value: Any = None
    over_s: float = 0.0
    words: str = ""


@dataclass(frozen=True, slots=True)
class Cue:
    """`fade_in`, `fade_out`, `delay` in `unit`; `wait` in `wait_unit`, counted from the end of the fade or, `from_go`,
    from Go. `at_s`: a time of day, seconds since midnight."""

    id: str
    number: float
    name: str = ""
    looks: tuple[CueLook, ...] = ()
    fade_in: float = 0.0
    fade_out: float | None = None
    delay: float = 0.0
    unit: PhaseUnit = "s"
    curve: Curve = "straight"
    then: Then = "hold"
    wait: float = 0.0
    wait_unit: PhaseUnit = "s"
    from_go: bool = False
    at_s: float = 0.0
    ready: bool = False
    actions: tuple[Action, ...] = ()

    def __post_init__(self) -> None:
        for name, value in (("fade_in", self.fade_in), ("fade_out", self.fade_out or 0.0), ("delay", self.delay)):
            _within(value, TIME_MAX, name, name.replace("_", " "))
        _within(self.wait, TIME_MAX, "wait", "wait")
        _within(self.number, NUMBER_MAX, "number", "number of a cue")
        _within(self.at_s, DAY_S, "at_s", "time of day")
        _one_of(self.curve, CURVES, "curve", "A fade does not go")
        _one_of(self.then, THENS, "then", "After a cue there is no")
        if len(self.looks) > LOOKS_MAX:
            raise InputError(f"{len(self.looks)} looks in one cue are more than {LOOKS_MAX}.", where="looks")
        if len(self.actions) > ACTIONS_MAX:
            raise InputError(f"{len(self.actions)} actions of one cue are more than {ACTIONS_MAX}.", where="actions")

    @property
    def said(self) -> str:
        """Its number and its name."""
        return f"{self.number:g} {self.name}".strip()


class Place(NamedTuple):
    """Where a list is: which step of which round, both from 0."""

    step: int
    round: int = 0


@dataclass(frozen=True, slots=True)
class CueList:
    """`priority`: lists of a higher one lie over the others. `rounds`: 0 without end. `release_s`: how long it takes to
    let go where it fades. `main`: Space goes."""

    id: str
    name: str
    cues: tuple[Cue, ...] = ()
    priority: int = BY_HAND
    order: Order = "along"
    rounds: int = 1
    letting_go: LettingGo = "fade"
    release_s: float = 2.0
    main: bool = False
    seed: int = 0
    by_id: Mapping[str, int] = field(default_factory=dict, compare=False, repr=False)

    def __post_init__(self) -> None:
        if len(self.cues) > CUES_MAX:
            raise InputError(f"{len(self.cues):,} cues are more than {CUES_MAX:,}.", where="cues")
        if not 0 <= self.priority <= PRIORITY_MAX:
            raise InputError(f"A priority of {self.priority} is outside 0 to {PRIORITY_MAX}.", where="priority")
        if not 0 <= self.rounds <= 10_000:
            raise InputError(f"{self.rounds} rounds are outside 0 to 10,000.", where="rounds", repair="0 is endless.")
        _one_of(self.order, ORDERS, "order", "A list does not go")
        _one_of(self.letting_go, WAYS, "letting_go", "A list does not let go")
        _within(self.release_s, TIME_MAX, "release_s", "release")
        object.__setattr__(self, "by_id", {one.id: place for place, one in enumerate(self.cues)})

    def cue(self, key: str) -> Cue | None:
        place = self.by_id.get(key)
        return None if place is None else self.cues[place]

    def at(self, place: Place) -> Cue | None:
        """The cue of a step; None where the list has none there."""
        steps = self.steps(place.round)
        return self.cues[steps[place.step]] if 0 <= place.step < len(steps) else None

    def steps(self, number: int) -> Sequence[int]:
        """The places of its cues in the order of one round."""
        count = len(self.cues)
        if self.order == "dealt":
            return dealt(count, self.seed, number) if count else ()
        along = range(count)
        return (*along, *along[-2:0:-1]) if self.order == "turns" else along

    def after(self, place: Place | None, cue: str = "") -> Place | None:
        """The step after one that plays `cue`; the first where there is none; None at the end of its last round."""
        if not self.cues:
            return None
        if place is None:
            return Place(0, 0)
        step, number = self._where(place, cue)
        if step + 1 < len(self.steps(number)):
            return Place(step + 1, number)
        return Place(0, number + 1) if not self.rounds or number + 1 < self.rounds else None

    def before(self, place: Place | None, cue: str = "") -> Place | None:
        """The step before one that plays `cue`; None at the very first."""
        if place is None or not self.cues:
            return None
        step, number = self._where(place, cue)
        if step > 0:
            return Place(step - 1, number)
        return Place(len(self.steps(number - 1)) - 1, number - 1) if number > 0 else None

    def _where(self, place: Place, cue: str) -> Place:
        """Where a list is that was changed meanwhile: along, a cue is where it stands now."""
        if self.order == "along" and cue in self.by_id:
            return Place(self.by_id[cue], place.round)
        if self.order == "along" and cue:  # it was deleted: what came after it stands in its place
            return Place(place.step - 1, place.round)
        return Place(min(place.step, max(len(self.steps(place.round)) - 1, 0)), place.round)

    def place_of(self, cue: str, number: int = 0) -> Place:
        """The first step of a round that plays a cue of it."""
        return Place(list(self.steps(number)).index(self.by_id[cue]), number)

    def numbered(self, number: float) -> Cue:
        """The cue of a number; InputError names the nearest one where there is none."""
        found = min(self.cues, key=lambda one: abs(one.number - number), default=None)
        if found is None:
            raise InputError(f"{self.name} has no cue yet.", where="number")
        if abs(found.number - number) > 1e-6:
            raise InputError(
                f"{self.name} has no cue {number:g}.", where="number", repair=f"The nearest is {found.said}."
            )
        return found


def action_from_json(data: Mapping[str, Any]) -> Action:
    """Of a stored action."""
    return Action(data["handle"], data.get("value"), float(data.get("over_s", 0.0)), data.get("words", ""))


def cue_from_json(data: Mapping[str, Any]) -> Cue:
    """Of a stored cue."""
    looks = tuple(
        CueLook(
            one["look"],
            check_level(float(one.get("level", 1.0))),
            one.get("group", ""),
            bool(one.get("restart", False)),
        )
        for one in data.get("looks", ())
    )
    actions = tuple(action_from_json(one) for one in data.get("actions", ()))
    out = data.get("fade_out")
    return Cue(
        data["id"],
        float(data["number"]),
        data.get("name", ""),
        looks,
        float(data.get("fade_in", 0.0)),
        None if out is None else float(out),
        float(data.get("delay", 0.0)),
        data.get("unit", "s"),
        data.get("curve", "straight"),
        data.get("then", "hold"),
        float(data.get("wait", 0.0)),
        data.get("wait_unit", "s"),
        bool(data.get("from_go", False)),
        float(data.get("at_s", 0.0)),
        bool(data.get("ready", False)),
        actions,
    )


def cue_list_from_json(data: Mapping[str, Any]) -> CueList:
    """Of a stored list."""
    return CueList(
        data["id"],
        data["name"],
        tuple(cue_from_json(one) for one in data.get("cues", ())),
        int(data.get("priority", BY_HAND)),
        data.get("order", "along"),
        int(data.get("rounds", 1)),
        data.get("letting_go", "fade"),
        float(data.get("release_s", 2.0)),
        bool(data.get("main", False)),
        int(data.get("seed", 0)),
    )


def _within(value: float, most: float, where: str, what: str) -> None:
    if not 0.0 <= value <= most:
        raise InputError(f"A {what} of {value:g} is outside 0 to {most:,g}.", where=where)


def _one_of(value: str, among: Sequence[str], where: str, said: str) -> None:
    if value not in among:
        raise InputError(f"{said} '{value}'.", where=where, repair=f"Use {', '.join(among)}.")
