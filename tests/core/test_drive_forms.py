"""Curves, beats, shapes and smoothing of drives, against numpy.interp, the published cubic and a filter stepped through
here: first order, nine tenths of a jump in the time said."""

from __future__ import annotations

from itertools import pairwise

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.look.chart import chart_of, place_now
from heliograph.core.look.drive import Drive, drive_from_json, drive_to_json
from heliograph.core.look.levels import Clocks, travelled, value_at
from heliograph.core.playing.tempo import Speed

POINTS = ((0.0, 0.2), (0.25, 1.0), (0.6, 0.1), (1.0, 0.2))


def at(drive: Drive, since_s: float, *, time_s: float = 0.0, cycle: float = 0.0, beat: float = 0.0) -> float:
    value = value_at(drive, Clocks(time_s, beat, since_s, beat, cycle))
    assert isinstance(value, float)
    return value


def test_a_curve_goes_straight_between_its_points() -> None:
    drive = Drive(low=0, high=50, source="curve", points=POINTS, period=Speed(8.0))
    places = np.linspace(0, 0.999, 57)
    wanted = 50 * np.interp(places, [at for at, _ in POINTS], [level for _, level in POINTS])
    assert [at(drive, 8 * one) for one in places] == pytest.approx(wanted, abs=1e-3)
    assert [at(drive, 8 * (one + 3)) for one in places] == pytest.approx(wanted, abs=1e-3)  # again and again
    by_cycle = Drive(low=0, high=50, source="curve", points=POINTS, by="cycle")
    assert [at(by_cycle, 99.0, cycle=one + 2) for one in places] == pytest.approx(wanted, abs=1e-3)


def test_an_eased_curve_follows_the_cubic_between_its_points() -> None:
    """3t^2 - 2t^3 between two points: the cubic Hermite with level ends, as in any text on interpolation; recalled."""
    drive = Drive(low=0, high=1, source="curve", points=POINTS, smooth=True, period=Speed(1.0))
    for (a, low), (b, high) in pairwise(POINTS):
        for t in (0.0, 0.2, 0.5, 0.9):
            wanted = low + (high - low) * (3 * t**2 - 2 * t**3)
            assert at(drive, a + (b - a) * t) == pytest.approx(wanted, abs=1e-4)


def test_a_curve_ends_after_its_rounds_and_turns_at_its_ends() -> None:
    ramp = ((0.0, 0.0), (1.0, 1.0))
    twice = Drive(low=0, high=1, source="curve", points=ramp, period=Speed(2.0), rounds=2)
    assert [at(twice, s) for s in (0, 1, 3, 4, 4000)] == pytest.approx([0, 0.5, 0.5, 1, 1], abs=1e-3)
    back = Drive(low=0, high=1, source="curve", points=ramp, period=Speed(2.0), turns=True)
    assert [at(back, s) for s in (0, 1, 3, 3.5, 4.5)] == pytest.approx([0, 0.5, 0.5, 0.25, 0.25], abs=1e-3)
    there_and_back = Drive(low=0, high=1, source="curve", points=ramp, period=Speed(2.0), turns=True, rounds=2)
    assert [at(there_and_back, s) for s in (1, 3, 4, 99)] == pytest.approx([0.5, 0.5, 0, 0], abs=2e-3)


def test_a_beat_falls_to_a_tenth_within_its_decay() -> None:
    pulse = Drive(low=0, high=100, source="beat", period=Speed(2.0, "beat"), decay=0.5)
    assert [at(pulse, 0, beat=one) for one in (0, 1, 2, 2.5)] == pytest.approx([100, 10, 100, 10**1.5], abs=0.01)


def test_shapes() -> None:
    saw = {"low": 0, "high": 1, "wave": "saw up", "period": Speed(1.0)}
    eased = Drive(**saw, shape="eased")  # type: ignore[arg-type]
    assert at(eased, 0, time_s=0.25) == pytest.approx(3 / 16 - 2 / 64, abs=1e-4)
    steps = Drive(**saw, shape="steps", steps=3)  # type: ignore[arg-type]
    assert [at(steps, 0, time_s=t) for t in (0.1, 0.4, 0.9)] == [0.0, 0.5, 1.0]
    assert [at(Drive(**saw, inverse=True), 0, time_s=t) for t in (0.25, 0.75)] == pytest.approx([0.75, 0.25])  # type: ignore[arg-type]


def followed(drive: Drive, seconds: float, until: float, beat_s: float = 0.5) -> dict[float, float]:
    """What a first order filter makes of what is asked, stepped through by the thousandth of a second."""
    plain = drive_from_json(drive_to_json(drive) | {"rise": 0.0, "fall": 0.0})
    level: float | None = None
    found: dict[float, float] = {}
    for n in range(round(until * 1000) + 1):
        t = n / 1000
        target = float(value_at(plain, Clocks(t, t / beat_s, t, t / beat_s, 0.0, beat_s)))
        if level is None:
            level = target
        covers = drive.rise if target > level else drive.fall
        level = target + (level - target) * (0.1 ** (0.001 / covers) if covers else 0.0)
        if t >= seconds:
            found[t] = level
    return found


@pytest.mark.parametrize(
    "fields",
    [
        {"wave": "sine", "period": Speed(4.0), "rise": 0.1, "fall": 0.4},
        {"wave": "square", "period": Speed(2.0), "rise": 0.5, "fall": 1.5},
        {"wave": "saw down", "period": Speed(4.0, "beat"), "rise": 1.0, "fall": 0.0},
        {"source": "beat", "period": Speed(1.0, "beat"), "rise": 0.0, "fall": 0.3},
        {"source": "curve", "points": POINTS, "period": Speed(3.0), "rise": 0.4, "fall": 0.4, "turns": True},
        {"wave": "steps", "period": Speed(0.7), "rise": 0.3, "fall": 0.9},
        {"wave": "drift", "period": Speed(1.0), "rise": 0.3, "fall": 0.5},
    ],
)
@pytest.mark.slow
def test_smoothing_is_what_a_filter_would_have_done(fields: dict[str, object]) -> None:
    drive = Drive(low=0, high=100, **fields)  # type: ignore[arg-type]
    for t, wanted in list(followed(drive, 20.0, 26.0).items())[::97]:
        assert value_at(drive, Clocks(t, t / 0.5, t, t / 0.5)) == pytest.approx(wanted, abs=1.5), t


def test_nine_tenths_of_a_jump_are_covered_in_the_time_said() -> None:
    jump = ((0.0, 0.0), (0.5, 0.0), (0.5, 1.0), (1.0, 1.0))
    drive = Drive(low=0, high=1, source="curve", points=jump, period=Speed(8.0), rounds=1, rise=2.0)
    assert [at(drive, s) for s in (3.9, 6.0, 8.0, 60.0)] == pytest.approx([0, 0.9, 0.99, 1.0], abs=0.01)


def test_over_the_cells_the_smoothed_level_is_later_too() -> None:
    drive = Drive(low=0, high=1, period=Speed(4.0), rise=0.5, fall=0.5, over="column")
    along = np.linspace(0, 1, 9, dtype=np.float32)
    alone = [value_at(drive, Clocks(10.0 - 4 * one, 0)) for one in along]
    assert value_at(drive, Clocks(10.0, 0), along) == pytest.approx(alone, abs=2e-3)


def test_a_driven_factor_adds_up() -> None:
    drive = Drive(low=-0.5, high=2.0, wave="triangle", period=Speed(4.0), phase=0.3)
    clock = np.linspace(3.0, 29.0, 26_001)
    factor = np.array([value_at(drive, Clocks(t, 0)) for t in clock], dtype=np.float64)
    summed = np.trapezoid(factor, clock)
    assert travelled(drive, 29.0) - travelled(drive, 3.0) == pytest.approx(summed, abs=1e-3)


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"source": "smell"}, "no source 'smell'"),
        ({"points": ((0.0, 0.0),)}, "2 to 32 points, not 1"),
        ({"points": ((0.5, 0.0), (0.2, 1.0))}, "in order of their places"),
        ({"points": ((0.0, 0.0), (1.0, 1.5))}, "outside 0 to 1"),
        ({"rise": 61.0}, "rise of 61 is outside 0 to 60"),
        ({"shape": "steps", "steps": 1}, "steps of 1 is outside 2 to 256"),
        ({"decay": 0.0}, "decay of 0 is outside"),
    ],
)
def test_what_is_no_drive_is_refused(fields: dict[str, object], says: str) -> None:
    with pytest.raises(InputError, match=says):
        Drive(low=0, high=1, **fields)  # type: ignore[arg-type]


def test_what_was_stored_before_there_were_curves_is_read() -> None:
    old = {"low": 0.0, "high": 1.0, "wave": "sine", "period": {"value": 4.0, "unit": "s"}, "phase": 0.0}
    assert drive_from_json(old) == Drive(low=0.0, high=1.0)


def test_a_chart_says_what_is_asked_and_what_is_reached() -> None:
    """A sine of 4 s, 30 to 60, smoothed by 0.1 up and 0.4 s down, reaches less: as a filter stepped through does."""
    drive = Drive(low=30, high=60, period=Speed(4.0), rise=0.1, fall=0.4)
    chart = chart_of(drive, 0, 0.5)
    stepped = list(followed(drive, 16.0, 20.0).values())
    assert (chart.length, chart.page, chart.by_chance) == (Speed(8.0), 0, False)
    assert (min(chart.asked), max(chart.asked)) == pytest.approx((30, 60), abs=0.01)
    assert (chart.lowest, chart.highest) == pytest.approx((min(stepped), max(stepped)), abs=0.2)
    assert chart.lowest > 30.5
    steps = Drive(low=0, high=1, wave="steps", period=Speed(1.0), seed=5)
    drawn = chart_of(steps, 3, 0.5)
    for n in range(8):
        assert drawn.asked[n * 30 + 15] == pytest.approx(at(steps, 0, time_s=24 + n + 0.5), abs=1e-3)
    assert place_now(drive, Clocks(21.0, 0.0)) == (2, 0.625)
