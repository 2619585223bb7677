"""Writes entries of a score from a mood, colours and a seed: the same seed, the same entries.

It is no shuffle. Voices enter one after another as the mood wants more of them and stay; each has two looks in a
pattern of phrases that comes again; levels and lengths follow the mood; accents keep one rhythm in the bar.
"""

from __future__ import annotations

import math
import random
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any, Literal, NamedTuple, get_args

from heliograph.core.colour.flashes import LIMIT
from heliograph.core.errors import InputError
from heliograph.core.look.line import SEED_MAX
from heliograph.core.playing.cues import BEATS_OF_BAR
from heliograph.core.playing.score import ACCENT_BEATS, SAME, written

Mood = Literal["calm", "rising", "full"]
MOODS: tuple[Mood, ...] = get_args(Mood)

FLASHES_MAX = float(LIMIT)

PHRASE = 4 * BEATS_OF_BAR
PATTERNS = ("AABA", "ABAA", "AAAB")
"""Of phrases: which of a voice's two ways each is."""

BED = 0.4
"""How much of a mood's level lies under the accents of what is white only."""


class Candidate(NamedTuple):
    """A look that reaches a stave. `fits`: how near its colours are to those that are wanted, 0..1; `flashes` a
    second, by itself, infinite while that is not known."""

    id: str
    name: str
    fits: float = 1.0
    flashes: float = 0.0


@dataclass(frozen=True, slots=True)
class Voice:
    """What the group of a stave can do. `positions`: beats from which one is held, in the score or to be set, with the
    preset where it is to be set."""

    stave: str
    name: str
    looks: tuple[Candidate, ...] = ()
    white_only: bool = False
    heads: bool = False
    laser: bool = False
    positions: tuple[tuple[float, str], ...] = ()
    by_hand: tuple[tuple[float, float], ...] = ()
    """From beat to beat: what hands have written there."""


class LeftOut(NamedTuple):
    """Why a voice does not do what one might expect. `at`: the beat it is about."""

    stave: str
    name: str
    why: str
    at: float


@dataclass(slots=True)
class Filled:
    """Fields of stored entries and positions, without ids."""

    entries: list[dict[str, Any]] = field(default_factory=list)
    positions: list[dict[str, Any]] = field(default_factory=list)
    left_out: list[LeftOut] = field(default_factory=list)


@dataclass(frozen=True, slots=True)
class Wanted:
    """Beats `first` to `last` of a score at a tempo, in a mood. `lasers`: staves of lasers that were named."""

    first: float
    last: float
    mood: Mood
    seed: int
    bpm: float
    lasers: frozenset[str] = frozenset()

    def __post_init__(self) -> None:
        if self.mood not in MOODS:
            raise InputError(f"There is no mood '{self.mood}'.", where="mood", repair=f"Use {', '.join(MOODS)}.")
        if not self.last - self.first >= BEATS_OF_BAR:
            raise InputError("Fill writes a bar or more.", where="bars", repair="Type 17 to 24.")
        if not 0 <= self.seed <= SEED_MAX:
            raise InputError(f"A seed of {self.seed} is outside 0 to {SEED_MAX}.", where="seed")

    def drive(self, beat: float) -> float:
        """How much is going on at a beat, 0..1."""
        share = (beat - self.first) / (self.last - self.first)
        return {"calm": 0.25, "rising": 0.2 + 0.8 * share, "full": 0.95}[self.mood]


def fill(wanted: Wanted, voices: Sequence[Voice]) -> Filled:
    """What would be written; nothing is, and nothing of what hands wrote is touched."""
    dice = random.Random(wanted.seed)
    found = Filled()
    able = [one for one in voices if _able(one, wanted, found)]
    order = dice.sample(able, len(able))
    pattern = dice.choice(PATTERNS)
    for place, voice in enumerate(order):
        own = random.Random(f"{wanted.seed}/{voice.stave}")
        spans = list(_spans(wanted, place, len(order)))
        if voice.white_only:
            _white(voice, wanted, spans, found)
        else:
            _coloured(voice, wanted, spans, pattern, own, found)
    if order and not any(one.white_only for one in order):
        _rhythm(order[-1], wanted, list(_spans(wanted, len(order) - 1, len(order))), found)
    found.entries.sort(key=lambda one: (one["stave"], one["at"]))
    return found


def _able(voice: Voice, wanted: Wanted, found: Filled) -> bool:
    if voice.laser and voice.stave not in wanted.lasers:
        found.left_out.append(LeftOut(voice.stave, voice.name, "lasers not named", wanted.first))
        return False
    if voice.white_only:
        said = "white only, so levels and white flashes, no colour"
        found.left_out.append(LeftOut(voice.stave, voice.name, said, wanted.first))
        return True
    for one in voice.looks:
        if FLASHES_MAX < one.flashes < math.inf:
            said = f"not {one.name}: it flashes {one.flashes:.1f} times a second, limit {FLASHES_MAX:g}"
            found.left_out.append(LeftOut(voice.stave, voice.name, said, wanted.first))
    if not any(one.flashes <= FLASHES_MAX for one in voice.looks):
        unknown = any(math.isinf(one.flashes) for one in voice.looks)
        said = "its looks are still looked at" if unknown else "no look that may play reaches it"
        found.left_out.append(LeftOut(voice.stave, voice.name, said, wanted.first))
        return False
    return True


class Span(NamedTuple):
    """A phrase in which a voice plays: beats, which of the pattern it is, how much is going on, whether it is the first
    or the last of the voice."""

    at: float
    end: float
    number: int
    drive: float
    first: bool
    last: bool


def _spans(wanted: Wanted, place: int, count: int) -> Iterator[Span]:
    """The phrases in which the voice plays that enters as the `place`th of so many: once it is in, it stays."""
    phrases = []
    at = wanted.first
    while at < wanted.last - SAME:
        phrases.append((at, min(at + PHRASE, wanted.last)))
        at += PHRASE
    playing = [
        (number, one)
        for number, one in enumerate(phrases)
        if place < max(1, math.ceil(count * wanted.drive((one[0] + one[1]) / 2) - 0.25))
    ]
    for nth, (number, (begin, end)) in enumerate(playing):
        yield Span(begin, end, number, wanted.drive((begin + end) / 2), nth == 0, nth == len(playing) - 1)


def _level(drive: float) -> float:
    """In steps that one can read: 5 %."""
    return round((0.35 + 0.65 * drive) * 20.0) / 20.0


def _coloured(
    voice: Voice, wanted: Wanted, spans: Sequence[Span], pattern: str, own: random.Random, found: Filled
) -> None:
    looks = _chosen(voice, own)
    for span in spans:
        begin = _positioned(voice, span, found)
        if begin is None:
            continue
        way = looks if pattern[span.number % len(pattern)] == "A" else looks[::-1]
        halves = span.drive > 0.6 and span.end - span.at > 2 * BEATS_OF_BAR
        parts = [(span.at, span.at + PHRASE / 2), (span.at + PHRASE / 2, span.end)] if halves else [(span.at, span.end)]
        for number, (first, last) in enumerate(parts):
            lies = max(first, begin), last
            if lies[1] - lies[0] < BEATS_OF_BAR - SAME:
                continue
            enters, leaves = span.first and not number, span.last and number == len(parts) - 1
            fade_in = 4.0 if enters and span.drive < 0.6 else 2.0 if span.drive < 0.8 else 1.0
            fade_out = 4.0 if leaves and wanted.mood == "calm" else 1.0 if leaves and wanted.mood == "rising" else 0.0
            fades = {"fade_in": fade_in, "fade_out": fade_out}
            _write(voice, found, lies, {"look": way[number % len(way)].id, "level": _level(span.drive), **fades})


def _chosen(voice: Voice, own: random.Random) -> list[Candidate]:
    """Two of its looks, of those that fit best; one where it has no other."""
    may = [one for one in voice.looks if one.flashes <= FLASHES_MAX]
    best = max(one.fits for one in may)
    near = [one for one in may if one.fits >= best - 0.25]
    return own.sample(near, min(2, len(near)))


def _positioned(voice: Voice, span: Span, found: Filled) -> float | None:
    """From where in a phrase a voice may be lit: heads from a position on. None where there is none in it."""
    if not voice.heads:
        return span.at
    held = [one for one in voice.positions if one[0] <= span.at + SAME]
    coming = [one for one in voice.positions if span.at + SAME < one[0] < span.end - SAME]
    for at, preset in voice.positions:
        if preset and span.at - SAME <= at < span.end - SAME:
            found.positions.append({"stave": voice.stave, "preset": preset, "at": at, "filled": True})
    if held:
        return span.at
    begin = min((one[0] for one in coming), default=None)
    until = f" before {written(begin)}" if begin is not None else ""
    said = f"no position yet in bar {written(span.at).partition('.')[0]}{until}"
    if not any(one.stave == voice.stave and one.why.startswith("no position") for one in found.left_out):
        found.left_out.append(LeftOut(voice.stave, voice.name, said, span.at))
    return None if begin is None else math.ceil(begin / BEATS_OF_BAR - SAME) * BEATS_OF_BAR


def _white(voice: Voice, wanted: Wanted, spans: Sequence[Span], found: Filled) -> None:
    """A bed of white that follows the mood, and flashes upon it."""
    for span in spans:
        fades = {"fade_in": 4.0 if span.first else 2.0, "fade_out": 2.0 if span.last else 0.0}
        level = max(round(_level(span.drive) * BED * 20.0) / 20.0, 0.05)
        _write(voice, found, (span.at, span.end), {"white": True, "level": level, **fades})
    _rhythm(voice, wanted, spans, found)


RHYTHMS: tuple[tuple[float, tuple[float, ...]], ...] = (
    (0.35, ()),
    (0.55, (0.0,)),
    (0.8, (0.0, 2.0)),
    (0.9, (0.0, 1.0, 2.0, 3.0)),
    (1.1, (0.0, 0.5, 1.0, 1.5, 2.0, 2.5, 3.0, 3.5)),
)
"""Beats of a bar that get an accent, by how much is going on."""

SAID_OF_GAPS: Mapping[float, str] = {0.5: "half beats", 1.0: "every beat", 2.0: "every second beat"}


def _rhythm(voice: Voice, wanted: Wanted, spans: Sequence[Span], found: Filled) -> None:
    """Accents in every bar of what a voice plays, never more of them than may flash."""
    for span in spans:
        beats = next(beats for below, beats in RHYTHMS if span.drive < below)
        beats = _calmed(voice, wanted, beats, span.at, found)
        at = span.at
        while at < span.end - SAME:
            for beat in beats:
                lies = at + beat, at + beat + ACCENT_BEATS
                if lies[1] <= span.end + SAME and _is_free(voice, lies):
                    fields = {"white": True, "level": _level(span.drive), "fade_out": ACCENT_BEATS, "accent": True}
                    found.entries.append(_entry(voice, lies, fields))
            at += BEATS_OF_BAR


def _calmed(voice: Voice, wanted: Wanted, beats: tuple[float, ...], at: float, found: Filled) -> tuple[float, ...]:
    """A rhythm with so few accents that they do not flash too often."""
    while len(beats) > 1:
        gap = beats[1] - beats[0]
        rate = wanted.bpm / 60.0 / gap
        if rate <= FLASHES_MAX:
            return beats
        said = f"no flashes on {SAID_OF_GAPS.get(gap, 'beats')}, they would be {rate:.1f} a second"
        if not any(one.stave == voice.stave and one.why.startswith(said[:20]) for one in found.left_out):
            found.left_out.append(LeftOut(voice.stave, voice.name, f"{said}, limit {FLASHES_MAX:g}", at))
        beats = beats[::2]
    return beats


def _write(voice: Voice, found: Filled, lies: tuple[float, float], fields: dict[str, Any]) -> None:
    """An entry, around what hands have written there; what is left of less than a bar is not written."""
    first, last = lies
    for begin, end in [*sorted(voice.by_hand), (last, last)]:
        until = min(begin, last)
        if until > first + SAME and until - first >= BEATS_OF_BAR - SAME:
            length = until - first
            fade_in = min(fields["fade_in"], length / 2)
            fade_out = min(fields["fade_out"], length / 2) if until >= last - SAME else 0.0
            fades = {"fade_in": fade_in, "fade_out": fade_out}
            found.entries.append(_entry(voice, (first, until), {**fields, **fades}))
        if begin >= last - SAME:
            return
        first = max(first, end)


def _is_free(voice: Voice, lies: tuple[float, float]) -> bool:
    return all(lies[1] <= begin + SAME or lies[0] >= end - SAME for begin, end in voice.by_hand)


def _entry(voice: Voice, lies: tuple[float, float], fields: dict[str, Any]) -> dict[str, Any]:
    return {"stave": voice.stave, "at": lies[0], "length": lies[1] - lies[0], "filled": True, **fields}
