"""What plays at one frame, as the engine tells it."""

from __future__ import annotations

from typing import Literal

import msgspec


class LeftAddress(msgspec.Struct, frozen=True):
    """A laser that left its addresses, which stay safe."""

    fixture: str
    number: int
    name: str
    addresses: list[str]


class ChaseNow(msgspec.Struct, frozen=True):
    """Which frame of a chase (from 0) a line shows, and for how long yet, in seconds; `left_s` None where its speed is
    driven or it stands still."""

    line: str
    chase: str
    frame: int
    left_s: float | None


class Factor(msgspec.Struct, frozen=True):
    """One of the levels between a look and a lamp: its name, 0..1."""

    name: str
    level: float


class RunningLook(msgspec.Struct, frozen=True):
    """One run. `level` of its look and `fade` of the run itself, 0..1; it is gone when it `ends` and has faded.
    `clip_left_s`: until its clips are at their end, None where it shows none. `chases`: where each of its chases is.
    Of one that a list plays, `fade` is the weight of its cues, `of` which list and `cue` the newest that has it.
    `factors`: every level between the look and the lamps it reaches; masters of groups that some of them are of."""

    run: str
    look: str
    by: str
    level: float
    fade: float
    ends: bool
    since_s: float
    clip_left_s: float | None = None
    chases: list[ChaseNow] = msgspec.field(default_factory=list)
    of: str = ""
    cue: str = ""
    trend: Literal["coming", "steady", "leaving"] = "steady"
    factors: list[Factor] = msgspec.field(default_factory=list)


class CueWeight(msgspec.Struct, frozen=True):
    cue: str
    weight: float


class PlayingList(msgspec.Struct, frozen=True):
    """A cue list as it plays, `of` its id. `cue`: the one it goes to or stands at, "" where it is let go of; `next`,
    `before`: what Go and Back would begin, "" for nothing. `mix`: the weights now. `fade_left_s`, `fade_s`: of the fade
    that is under way, 0 for none; `then_left_s`: until it goes on by itself, None where it does not. `holds`: both
    stand. `went_s`: since the last Go."""

    of: str
    cue: str
    next: str
    before: str
    mix: list[CueWeight]
    fade_left_s: float
    fade_s: float
    then_left_s: float | None
    holds: bool
    letting: bool
    level: float
    speed: float
    went_s: float


class EntryWeight(msgspec.Struct, frozen=True):
    """An entry of a score that sounds: how much of its picture there is, 0..1."""

    entry: str
    weight: float


class PlayingScore(msgspec.Struct, frozen=True):
    """A score, `of` its id, whether it is `running` or not. `beat` of its round, of `beats`; `at` as it is read, from
    "1.1"; `round` from 1; `length_s` of one round at the tempo now, `left_s` of this one. `level` of all of it, faded
    where it is let go of: it `ends` then."""

    of: str
    running: bool
    length_s: float
    beats: float
    beat: float = 0.0
    at: str = ""
    round: int = 1
    left_s: float = 0.0
    level: float = 1.0
    speed: float = 1.0
    holds: bool = False
    ends: bool = False
    sounding: list[EntryWeight] = msgspec.field(default_factory=list)


TintView = tuple[float, float]
"""Hue in degrees, amount 0..1."""


class EngineState(msgspec.Struct, frozen=True):
    """What plays at one frame; `changes`: commands taken ever, which tells two states of one frame apart. `masters` by
    group, tints by look and group; `manual`, `raw`: what is held by hand, as in the playback state; `held_lines`: lines
    of which some hand holds something. `armed_until`: Unix time until which lasers stay armed without anybody.
    `away`: lasers remembered at places to which nothing is sent now."""

    frame: int
    changes: int
    show_s: float
    held: bool
    bpm: float
    beat: float
    master: float
    masters: dict[str, float]
    manual: dict[str, int]
    raw: dict[str, int]
    highlight: list[str]
    walking: bool
    blackout: bool
    freeze: bool
    armed: list[str]
    armed_until: float | None
    away: int
    left: list[LeftAddress]
    tint: TintView
    speeds: dict[str, float]
    blind: list[str]
    look_tints: dict[str, TintView]
    group_tints: dict[str, TintView]
    held_lines: list[str]
    running: list[RunningLook]
    pace: float = 1.0
    lists: list[PlayingList] = msgspec.field(default_factory=list)
    scores: list[PlayingScore] = msgspec.field(default_factory=list)
    clock_s: float = 0.0
