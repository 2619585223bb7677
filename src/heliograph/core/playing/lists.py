"""What is done to cue lists that play, by hand or by themselves: Go, Back, Hold, Release, go to, position."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace

from heliograph.core.errors import InputError
from heliograph.core.look.line import AttributeLine, Line
from heliograph.core.playing.clip_end import clip_left_s
from heliograph.core.playing.cues import BEATS_OF_BAR, DAY_S, Cue, CueList, LettingGo, Place
from heliograph.core.playing.list_run import NOTHING, Fade, Kept, ListClock, ListRun, Part, time_of_beat
from heliograph.core.playing.run import Run
from heliograph.core.playing.state import Acting, PlaybackState
from heliograph.core.playing.tempo import NS_PER_S

Lists = Mapping[str, CueList]
Lines = Mapping[str, tuple[Line, ...]]

GONE_S = 2.0
"""A list that is deleted while it plays fades out in so long."""

EVENTS_MAX = 64
"""Of all lists at once: one whose cues follow at once, without end, goes on in the next frame."""

SOON = 1e-9


def go(state: PlaybackState, one: CueList, time_ns: int) -> PlaybackState:
    """The next cue begins; at the end of the last round nothing does."""
    place = _place_of_go(state.lists.get(one.id), one)
    return state if place is None else _to(state, one, place, time_ns)


def _place_of_go(run: ListRun | None, one: CueList) -> Place | None:
    """A list that is let go of goes on where it was, and from the end as if it were gone already."""
    if run is None:
        return one.after(None, "")
    place = one.after(run.place, run.cue)
    return one.after(None, "") if place is None and run.cue == NOTHING else place


def back(state: PlaybackState, one: CueList, time_ns: int) -> PlaybackState:
    """The cue before comes back, in the time that it takes itself."""
    run = state.lists.get(one.id)
    place = None if run is None else one.before(run.place, run.cue)
    return state if place is None else _to(state, one, place, time_ns, acts=False)


def go_to(state: PlaybackState, one: CueList, number: float, time_ns: int) -> PlaybackState:
    """The cue of a number begins, in this round."""
    run = state.lists.get(one.id)
    cue = one.numbered(number)
    return _to(state, one, one.place_of(cue.id, run.place.round if run and run.place else 0), time_ns)


def hold(state: PlaybackState, one: CueList, stands: bool, time_ns: int) -> PlaybackState:
    """Fade and follow stand, and go on from there."""
    run = _running(state, one)
    return _with(state, run.at_rate(time_ns, state.tempo.beat_at(time_ns), holds=stands))


def at_speed(state: PlaybackState, one: CueList, factor: float, time_ns: int) -> PlaybackState:
    run = _running(state, one)
    return _with(state, run.at_rate(time_ns, state.tempo.beat_at(time_ns), speed=factor))


def at_level(state: PlaybackState, one: CueList, level: float, time_ns: int, over_s: float = 0.0) -> PlaybackState:
    run = _running(state, one)
    return _with(state, replace(run, level=run.level.moved(level, time_ns, over_s)))


def release(state: PlaybackState, one: CueList, time_ns: int, way: LettingGo | None = None) -> PlaybackState:
    """The list lets go, in its own way: what lies beneath shows again. One that does not run lets go of nothing."""
    run = state.lists.get(one.id)
    if run is None or run.cue == NOTHING:
        return state
    how, beat = way or one.letting_go, state.tempo.beat_at(time_ns)
    if how in ("bar", "clip"):
        return _with(state, replace(run, letting=ListClock(time_ns, beat)))
    over = one.release_s if how == "fade" else 0.0
    return _with(state, run.turned(None, run.place, Fade(over, over), time_ns, beat))


def at_position(state: PlaybackState, one: CueList, position: float, time_ns: int) -> PlaybackState:
    """Between the cues of the list, from 1 for the first: 2.25 is three quarters of the second and a quarter of the
    third. It stands there until it is moved, or somebody goes."""
    if not one.cues:
        raise InputError(f"{one.name} has no cue yet.", where="position")
    at = min(max(position - 1.0, 0.0), len(one.cues) - 1.0)
    first = int(at)
    share = at - first
    weighed = [(one.cues[first], 1.0 - share)]
    if share > 0.0:
        weighed.append((one.cues[first + 1], share))
    run = state.lists.get(one.id) or _begun(state, one, time_ns)
    last, _ = max(weighed, key=lambda each: each[1])
    ordered = sorted(weighed, key=lambda each: each[0].id == last.id)
    beat = state.tempo.beat_at(time_ns)
    before = run.parts  # what plays already goes on, however often the position is moved
    parts = tuple(Part(cue.id, cue.looks, weight) for cue, weight in ordered)
    run = replace(
        run,
        cue=last.id,
        place=one.place_of(last.id),
        parts=(*before, *parts),
        fading=False,
        arrived=None,
        letting=None,
        ended=True,
        ready=frozenset(),
        gone=ListClock(time_ns, beat, rate=run.speed * run.pace),
    )
    for cue, _ in weighed:
        run = _with_looks(run, cue, time_ns, beat, anew=False)
    return _with(state, run.only(run.parts[len(before) :]))


def next_of(run: ListRun | None, one: CueList) -> Cue | None:
    """What a Go would begin."""
    place = _place_of_go(run, one)
    return None if place is None else one.at(place)


def before_of(run: ListRun | None, one: CueList) -> Cue | None:
    """What Back would begin."""
    place = None if run is None else one.before(run.place, run.cue)
    return None if place is None else one.at(place)


@dataclass(frozen=True, slots=True)
class Due:
    """What happens next in a list by itself: its fade arrives, it goes on, it is let go of."""

    what: str
    time_ns: int


def due_of(state: PlaybackState, run: ListRun, one: CueList | None, lines: Lines) -> Due | None:
    """None where nothing does. A list that is not in the show any more only comes to the end of its fade. What a change
    of the list has made due in the past is due as of that change: no fade begins before somebody wanted it."""
    tempo = state.tempo
    found: list[Due] = []
    arrives = run.arrives_ns(tempo)
    if arrives is not None:
        found.append(Due("arrive", max(arrives, run.went_ns)))
    since = run.letting
    if one is not None and since is not None:
        ends = _bar_after(state, since) if one.letting_go == "bar" else _clips_end(state, run, since, lines)
        found.append(Due("let go", since.since_ns if ends is None else ends))
    elif one is not None and not run.holds and not run.ended:
        cue = one.cue(run.cue)
        then = None if cue is None else _then_ns(state, run, cue, lines)
        if then is not None:
            found.append(Due("go", max(then, run.changed_ns)))
    return min(found, key=lambda each: each.time_ns, default=None)


def advance_lists(state: PlaybackState, lists: Lists, lines: Lines, time_ns: int) -> PlaybackState:
    """Everything that became due by now, each at its own moment, so that nothing drifts and nothing is left out; at
    most `EVENTS_MAX` of it, the rest goes on at the next call."""
    return advanced(state, lists, lines, time_ns, EVENTS_MAX)[0]


def advanced(state: PlaybackState, lists: Lists, lines: Lines, time_ns: int, most: int) -> tuple[PlaybackState, int]:
    """The same, with how much of `most` is left."""
    for key in tuple(state.lists):
        one, playing = lists.get(key), state.lists[key]
        if one is None and playing.cue != NOTHING:  # it was deleted: it goes as gently as a new one would
            gone = Fade(GONE_S, GONE_S)
            beat = state.tempo.beat_at(time_ns)
            state = _with(state, playing.turned(None, playing.place, gone, time_ns, beat))
        elif one is not None:
            now = _as_stored(state.lists[key], one, time_ns, state.tempo.beat_at(time_ns))
            now = _only_attributes(now, lines)
            state = state if now is state.lists[key] else _with(state, now)
        while most > 0:
            run = state.lists.get(key)
            due = None if run is None else due_of(state, run, lists.get(key), lines)
            if run is None or due is None or due.time_ns > time_ns:
                break
            state = _happened(state, run, lists.get(key), due)
            most -= 1
    return state, most


def _happened(state: PlaybackState, run: ListRun, one: CueList | None, due: Due) -> PlaybackState:
    beat = state.tempo.beat_at(due.time_ns)
    if due.what == "arrive":
        came = run.came(due.time_ns, beat)
        if came.parts:
            return _with(state, came)
        return replace(state, lists={key: each for key, each in state.lists.items() if key != run.of})
    assert one is not None
    if due.what == "let go":
        return _with(state, run.turned(None, run.place, Fade(), due.time_ns, beat))
    place = one.after(run.place, run.cue)
    if place is None:  # the end: it stands in its last cue
        return _with(state, replace(run, ended=True))
    return _to(state, one, place, due.time_ns)


def changed(state: PlaybackState, keys: Iterable[str], time_ns: int) -> PlaybackState:
    """These lists say something else from now on."""
    found = {key: replace(state.lists[key], changed_ns=time_ns) for key in keys if key in state.lists}
    return replace(state, lists={**state.lists, **found}) if found else state


def _then_ns(state: PlaybackState, run: ListRun, cue: Cue, lines: Lines) -> int | None:
    clock = run.gone if cue.from_go else run.arrived
    if clock is None or clock.rate <= 0.0 or cue.then == "hold":
        return None
    if cue.then == "follow":
        return clock.when(cue.wait_unit, cue.wait, state.tempo)
    if cue.then == "clip":
        return _clips_end(state, run, clock, lines)
    if cue.then == "time":
        local = ((clock.since_ns + state.wall_ns) / NS_PER_S) % DAY_S
        ahead = (cue.at_s - local) % DAY_S
        return clock.since_ns + round((ahead or DAY_S) * NS_PER_S)
    if cue.then == "bar":
        return _bar_after(state, clock)
    return time_of_beat(state.tempo, math.ceil(clock.since_beat - SOON))


def _bar_after(state: PlaybackState, clock: ListClock) -> int:
    return time_of_beat(state.tempo, math.ceil((clock.since_beat - SOON) / BEATS_OF_BAR) * BEATS_OF_BAR)


def _clips_end(state: PlaybackState, run: ListRun, clock: ListClock, lines: Lines) -> int | None:
    """When the last clip of what plays is at its end, as of a moment; None where none has an end."""
    left = [
        clip_left_s(state, run.runs[key], lines.get(run.runs[key].look, ()), clock.since_ns)
        for part in run.parts
        if part.cue == run.cue
        for key in part.keys
    ]
    known = [one for one in left if one is not None]
    return clock.since_ns + round(max(known) * NS_PER_S) if known else None


def _to(state: PlaybackState, one: CueList, place: Place, time_ns: int, acts: bool = True) -> PlaybackState:
    """A cue begins. Back does none of its actions again."""
    cue = one.at(place)
    assert cue is not None
    beat = state.tempo.beat_at(time_ns)
    run = state.lists.get(one.id)
    if run is None:
        run = _begun(state, one, time_ns)
    out = cue.fade_in if cue.fade_out is None else cue.fade_out
    fade = Fade(cue.fade_in, out, cue.delay, cue.unit, cue.curve)
    ready = run.ready if cue.ready else frozenset()
    run = _with_looks(run.turned(cue, place, fade, time_ns, beat), cue, time_ns, beat)
    if ready:
        run = _stood_ready(run, ready)
    if acts and cue.actions:
        by = f"list:{one.id}"
        more = tuple(Acting(each.handle, each.value, each.over_s, by, time_ns) for each in cue.actions)
        state = replace(state, acting=(*state.acting, *more))
    return _with(state, run)


def _with_looks(run: ListRun, cue: Cue, time_ns: int, beat: float, anew: bool = True) -> ListRun:
    """The looks of the cue that comes play: one that did already goes on where it is, in the newest cue that has it,
    unless it is to begin anew. Whatever goes keeps its own run."""
    runs = dict(run.runs)
    playing = {runs[key].look: key for part in run.parts for key in part.keys if key in runs}
    own = {runs[key].look: key for part in run.parts if part.cue == cue.id for key in part.keys if key in runs}
    playing |= own
    keys = []
    for one in cue.looks:
        key = playing.get(one.look, "")
        if not key or (anew and one.restart):
            key = f"{one.look}@{time_ns}"
            runs[key] = Run(f"{run.of}:{key}", one.look, time_ns, by=f"list:{run.of}", since_beat=beat)
        keys.append(key)
    parts = tuple(
        replace(part, looks=cue.looks, keys=tuple(keys)) if part.cue == cue.id else part for part in run.parts
    )
    return replace(run, runs=runs, parts=parts)


def _stood_ready(run: ListRun, fixtures: frozenset[str]) -> ListRun:
    """Dark heads that stood as the cue that comes wants them go on standing so in the cues that leave."""
    *leaving, last = run.parts
    ahead = tuple(Kept(look, key, among=fixtures) for look, key in zip(last.looks, last.keys, strict=True))
    return replace(run, parts=(*(replace(part, kept=(*part.kept, *ahead)) for part in leaving), last))


def _as_stored(run: ListRun, one: CueList, time_ns: int, beat: float) -> ListRun:
    """Cues that were changed while they play, with what they play now."""
    for part in run.parts:
        cue = one.cue(part.cue)
        if cue is not None and cue.looks is not part.looks and cue.looks != part.looks:
            run = _with_looks(run, cue, time_ns, beat, anew=False)
    return run


def _only_attributes(run: ListRun, lines: Lines) -> ListRun:
    """Of looks that set none, nothing is kept."""

    def sets(look: str) -> bool:
        return any(isinstance(line, AttributeLine) for line in lines.get(look, ()))

    if all(sets(one.look.look) for part in run.parts for one in part.kept):
        return run
    return run.only(
        tuple(
            replace(part, kept=tuple(one for one in part.kept if sets(one.look.look))) if part.kept else part
            for part in run.parts
        )
    )


def _begun(state: PlaybackState, one: CueList, time_ns: int) -> ListRun:
    clock = ListClock(time_ns, state.tempo.beat_at(time_ns))
    return ListRun(one.id, time_ns, clock, pace=state.pace)


def _running(state: PlaybackState, one: CueList) -> ListRun:
    run = state.lists.get(one.id)
    if run is None:
        raise InputError(f"{one.name} does not run.", where="list", repair="Go first.")
    return run


def _with(state: PlaybackState, run: ListRun) -> PlaybackState:
    return replace(state, lists={**state.lists, run.of: run})
