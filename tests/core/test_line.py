"""A line from its stored form: what is left out, what is refused, how fast it runs."""

from __future__ import annotations

from typing import Any

import pytest

from heliograph.core.errors import InputError
from heliograph.core.look.line import ClipLine, line_from_json, look_from_json
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.core.playing.tempo import NS_PER_S, Speed, phase_rate

PLAIN: dict[str, Any] = {
    "id": "a",
    "paints": "effect",
    "matrix": "m",
    "effect": "Flat",
    "ramp": [[0, 10, 20, 30]],
    "speed": {"value": 4, "unit": "s"},
    "opacity": 1,
    "blend": "over",
}


def test_what_an_older_show_does_not_say_is_as_it_was() -> None:
    line = line_from_json(PLAIN)
    assert (line.mute, line.solo) == (False, False)
    clip = line_from_json({**PLAIN, "paints": "clip", "clip": "c"})
    assert isinstance(clip, ClipLine)
    assert (clip.loop_s, clip.fitting.fit) == (1.0, "fill")


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"opacity": 1.2}, "An opacity of 120 % is outside 0 to 100 %"),
        ({"blend": "screen"}, "There is no blend 'screen'. There are over, add, multiply, lighten, darken."),
        ({"ramp": []}, "A ramp has 1 to 8 colours, not 0"),
        ({"ramp": [[0, 1, 1, 1]] * 9}, "A ramp has 1 to 8 colours, not 9"),
        ({"ramp": [[1.5, 1, 1, 1]]}, "A stop at 1.5 is off the ramp"),
        ({"speed": {"value": 0, "unit": "s"}}, "A cycle of 0 s is outside"),
        ({"speed": {"value": 40, "unit": "times"}}, "40 times its own speed is outside -32 to 32"),
        (
            {"paints": "clip", "clip": "c", "fitting": {"fit": "fit", "rotate": 30}},
            "A clip turns by 0, 90, 180 or 270 degrees",
        ),
    ],
)
def test_values_outside_their_range_are_refused(change: dict[str, Any], says: str) -> None:
    with pytest.raises(InputError) as told:
        line_from_json({**PLAIN, **change})
    assert says in str(told.value)


def test_a_look_is_its_lines_bottom_first() -> None:
    look = look_from_json({"id": "l", "name": "L", "lines": [PLAIN, {**PLAIN, "id": "b"}]})
    assert [line.id for line in look.lines] == ["a", "b"]


@pytest.mark.parametrize(
    ("speed", "loop_s", "rate"),
    [
        (Speed(4.0), 1.0, ("s", 0.25)),
        (Speed(-8.0, "beat"), 1.0, ("beat", -0.125)),
        (Speed(1.0, "times"), 20.0, ("s", 0.05)),  # a clip of 20 s: a twentieth of a round a second
        (Speed(-2.0, "times"), 20.0, ("s", -0.1)),
        (Speed(0.0, "times"), 20.0, ("s", 0.0)),  # it stands still
    ],
)
def test_how_fast_a_line_runs(speed: Speed, loop_s: float, rate: tuple[str, float]) -> None:
    assert phase_rate(speed, loop_s) == rate
    assert ClipLine(id="a", matrix="m", clip="c", speed=speed, loop_s=loop_s).rate[:2] == rate


def test_another_speed_or_another_part_of_a_clip_goes_on_from_the_same_phase() -> None:
    first = ClipLine(id="a", matrix="m", clip="c", speed=Speed(1.0, "times"), loop_s=10.0)
    state = advance(PlaybackState().started("L", 0), {"L": (first,)}, 0)
    at = 3 * NS_PER_S
    for later in (
        ClipLine(id="a", matrix="m", clip="c", speed=Speed(3.0, "times"), loop_s=10.0),
        ClipLine(id="a", matrix="m", clip="c", speed=Speed(1.0, "times"), loop_s=2.5),
        ClipLine(id="a", matrix="m", clip="c", speed=Speed(4.0, "beat"), loop_s=10.0),
    ):
        moved = advance(state, {"L": (later,)}, at)
        beat = state.tempo.beat_at(at)
        assert moved.runs[0].phases["a"].phase_at(at, beat) == pytest.approx(0.3)
        assert moved.runs[0].phases["a"].rate == later.rate[1]
