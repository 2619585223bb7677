"""Everything that became due since the last frame: cues of lists, what they do, phases of looks."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

from heliograph.core.errors import HeliographError, InputError
from heliograph.core.handles.handle import Ground, Move
from heliograph.core.handles.registry import let_go, move
from heliograph.core.playing import scores
from heliograph.core.playing.lists import EVENTS_MAX, Lines, advanced, due_of
from heliograph.core.playing.state import Acting, PlaybackState, advance

ACTIONS_MAX = 64
"""Done in one frame; lists whose actions start one another without end go on in the next."""

WAITING_MAX = 1_000
"""Actions that wait; what more cues would do is refused, for no frame would ever come to it."""

Refused = Callable[[Acting, HeliographError], None]


def advance_all(
    state: PlaybackState, ground: Ground, lines: Lines, time_ns: int, refused: Refused = lambda _acting, _error: None
) -> PlaybackState:
    """The state at a moment; the same object where nothing changed. What a cue does that cannot be done is `refused`,
    and the rest goes on. Events and actions of one frame are bounded in work."""
    left = EVENTS_MAX
    for _ in range(ACTIONS_MAX):
        playing = state.lists
        state, left = advanced(state, ground.lists, lines, time_ns, left)
        state, left = scores.advanced(state, ground.scores, time_ns, left)
        for key in playing.keys() - state.lists.keys():  # what its cues held, nobody holds any more
            state = let_go(state, f"list:{key}")
        if len(state.acting) > WAITING_MAX:
            refused(state.acting[WAITING_MAX], InputError(f"{WAITING_MAX:,} actions of cues wait already."))
            state = replace(state, acting=state.acting[:WAITING_MAX])
        if not state.acting:
            break
        acting, *rest = state.acting
        state = replace(state, acting=tuple(rest))
        asked = Move(
            acting.handle, acting.value, acting.over_s, acting.by, "edit", acting.time_ns, acting.time_ns / 1e6
        )
        try:
            state = move(state, ground, asked)
        except HeliographError as error:
            refused(acting, error)
    return advance(state, lines, time_ns)


def next_due_ns(state: PlaybackState, ground: Ground, lines: Lines) -> int | None:
    """When a list or a score does something by itself, as things stand; None where none does."""
    found = [due_of(state, run, ground.lists.get(key), lines) for key, run in state.lists.items()]
    times = [one.time_ns for one in found if one is not None]
    ahead = [scores.due_ns(state, run, ground.scores.get(key)) for key, run in state.scores.items()]
    times += [one for one in ahead if one is not None]
    return min(times, default=None)
