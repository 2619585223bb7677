"""A thousand random evenings of a cue list, on which nothing may jump: Go, Back, Hold, Release, go to, level."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

import pytest
from hypothesis import HealthCheck, settings
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from heliograph.core.playing import lists
from heliograph.core.playing.list_run import RUNS_OUT_NS
from heliograph.core.playing.state import PlaybackState
from heliograph.core.playing.tempo import NS_PER_S
from tests.core.test_cue_lists import cue, cue_list

FRAME_NS = NS_PER_S // 44

HEIGHTS = {f"c{n}": value for n, value in enumerate((0.13, 1.0, 0.0, 0.55, 0.81, 0.27, 0.94, 0.05), start=1)}
LEAST_FADE_S = 0.5


class Evening(RuleBasedStateMachine):
    """Somebody presses whatever there is, at any moment: the picture, here one number for each cue, never goes further
    from one frame to the next than its own fades take it, and the weights make one."""

    def __init__(self) -> None:
        super().__init__()
        fades = (0.5, 3.0, 0.7, 6.0, 1.2, 0.5, 2.0, 9.0)
        follows = (None, 0.3, None, None, 0.2, None, 0.4, None)
        cues = [
            cue(n, fade_in=fade, curve="eased" if n % 3 == 0 else "straight")
            | ({} if wait is None else {"then": "follow", "wait": wait})
            for n, (fade, wait) in enumerate(zip(fades, follows, strict=True), start=1)
        ]
        self.one = cue_list(*cues, rounds=0, release_s=LEAST_FADE_S)
        self.state = PlaybackState()
        self.now = 0
        self.last = 0.0
        self.whole = False
        """A cue stood alone once, and the list was not let go of since: the weights make one at every moment."""

    @initialize()
    def begin(self) -> None:
        self.press(lists.go)

    def press(self, what: Callable[..., PlaybackState], *more: Any) -> None:
        if "E" in self.state.lists or what in (lists.go, lists.go_to):
            self.state = what(self.state, self.one, *more, self.now)

    @rule()
    def go(self) -> None:
        self.press(lists.go)

    @rule()
    def back(self) -> None:
        self.press(lists.back)

    @rule(stands=st.booleans())
    def hold(self, stands: bool) -> None:
        self.press(lists.hold, stands)

    @rule()
    def release(self) -> None:
        self.press(lists.release)

    @rule(number=st.integers(1, 8))
    def go_to(self, number: int) -> None:
        self.press(lists.go_to, float(number))

    @rule(level=st.floats(0.0, 1.0))
    def level(self, level: float) -> None:
        if "E" in self.state.lists:
            self.state = lists.at_level(self.state, self.one, level, self.now, LEAST_FADE_S)

    @rule(frames=st.integers(1, 90))
    def wait(self, frames: int) -> None:
        for _ in range(frames):
            self.now += FRAME_NS
            self.state = lists.advance_lists(self.state, {"E": self.one}, {}, self.now)
            now = self.shown()
            steepest = 1.5 / LEAST_FADE_S + 1e9 / RUNS_OUT_NS + 1.0 / LEAST_FADE_S  # fade, one that runs out, the level
            assert abs(now - self.last) <= steepest * FRAME_NS / NS_PER_S + 2 / 1024
            self.last = now

    @invariant()
    def nothing_jumps_when_something_is_pressed(self) -> None:
        now = self.shown()
        assert abs(now - self.last) <= 4 / 1024, "the picture jumped"
        self.last = now

    def shown(self) -> float:
        run = self.state.lists.get("E")
        if run is None:
            self.whole = False
            return 0.0
        weighed = run.weights(self.now, self.state.tempo.beat_at(self.now))
        assert all(0.0 <= each.weight <= 1.0 + 1e-9 for each in weighed)
        total = sum(each.weight for each in weighed)
        assert total <= 1.0 + 1e-6
        self.whole = bool(run.cue) and (self.whole or not run.fading)
        if self.whole:
            assert total == pytest.approx(1.0, abs=1e-6)
        if run.cue and not run.fading:
            assert total == pytest.approx(1.0, abs=1e-6)
        height = sum(each.weight * HEIGHTS[each.cue.removeprefix("before ")] for each in weighed)
        return height * run.level.at(self.now)


TestEvening = pytest.mark.slow(Evening.TestCase)
TestEvening.settings = settings(
    max_examples=1_000, stateful_step_count=20, deadline=None, suppress_health_check=list(HealthCheck)
)
