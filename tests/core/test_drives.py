"""Drives: closed forms of show time and beat. Values by hand from the definitions of the waves (design of drives)."""

from __future__ import annotations

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.look.drive import Drive, drive_from_json, drive_to_json
from heliograph.core.look.levels import Clocks, value_at
from heliograph.core.playing.tempo import Speed


def at(drive: Drive, seconds: float, beat: float = 0.0) -> float:
    value = value_at(drive, Clocks(seconds, beat))
    assert isinstance(value, float)
    return value


def test_a_wave_goes_from_low_to_high_and_back_once_a_period() -> None:
    four = Drive(low=20, high=60, period=Speed(4.0))
    assert [at(four, s) for s in (0, 1, 2, 3, 4)] == pytest.approx([20, 40, 60, 40, 20], abs=1e-4)
    triangle = Drive(low=60, high=20, wave="triangle", period=Speed(4.0))
    assert [at(triangle, s) for s in (0, 1, 2)] == pytest.approx([60, 40, 20], abs=1e-4)
    square = Drive(low=0, high=1, wave="square", duty=0.25, period=Speed(4.0))
    assert [at(square, s) for s in (0, 0.9, 1.1, 3.9)] == [1, 1, 0, 0]
    saw = Drive(low=0, high=1, wave="saw up", period=Speed(4.0), phase=0.5)
    assert [at(saw, s) for s in (0, 1, 2)] == pytest.approx([0.5, 0.75, 0.0], abs=1e-5)


def test_a_wave_of_beats_follows_the_beat_and_not_the_clock() -> None:
    drive = Drive(low=0, high=100, wave="saw up", period=Speed(8.0, "beat"))
    assert at(drive, 0.0, 2.0) == at(drive, 77.0, 2.0) == pytest.approx(25)


def test_a_negative_period_runs_backward() -> None:
    drive = Drive(low=0, high=100, wave="saw up", period=Speed(-4.0))
    assert at(drive, 1.0) == pytest.approx(75, abs=1e-3)


def test_after_a_year_it_is_as_smooth_as_at_the_beginning() -> None:
    drive = Drive(low=0, high=1, period=Speed(4.0))
    year = 365 * 86_400.0
    steps = np.diff([at(drive, year + n / 44) for n in range(176)])
    assert np.abs(steps).max() < 2 * np.pi / 4 / 44  # the steepest a sine of 4 s can be: pi / period a second


def test_over_the_cells_each_is_a_little_later() -> None:
    drive = Drive(low=0, high=1, wave="saw up", period=Speed(4.0), over="address", spread=0.5)
    along = np.linspace(0, 1, 5, dtype=np.float32)
    values = value_at(drive, Clocks(2.0, 0.0), along)
    assert values == pytest.approx([0.5, 0.375, 0.25, 0.125, 0.0], abs=1e-5)


def test_by_chance_a_value_is_drawn_each_period_for_all_or_for_each_cell() -> None:
    steps = Drive(low=10, high=20, wave="steps", period=Speed(1.0), seed=3)
    drawn = [at(steps, n + 0.5) for n in range(200)]
    assert [at(steps, n + 0.9) for n in range(200)] == drawn
    assert 10 <= min(drawn) < 11 < 19 < max(drawn) <= 20
    along = np.linspace(0, 1, 400, dtype=np.float32)
    drawn_each = Drive(low=0, high=1, wave="steps", period=Speed(1.0), over="row")
    each = value_at(drawn_each, Clocks(0.5, 0.0), along)
    assert len(np.unique(each)) > 380
    drift = Drive(low=0, high=1, wave="drift", period=Speed(1.0), seed=3)
    assert np.abs(np.diff([at(drift, n / 50) for n in range(500)])).max() < 0.04
    assert at(Drive(low=0, high=1, wave="drift", seed=4), 3.3) != at(drift, 3.3)


@pytest.mark.parametrize(
    ("field", "value", "says"),
    [
        ("wave", "sawtooth", "no wave 'sawtooth'. There are sine"),
        ("over", "spiral", "no order 'spiral'"),
        ("period", Speed(1.0, "times"), "seconds or beats"),
        ("phase", 1.5, "phase of 1.5 is outside 0 to 1"),
        ("spread", -1.0, "spread of -1 is outside 0 to 16"),
    ],
)
def test_what_is_no_drive_is_refused(field: str, value: object, says: str) -> None:
    with pytest.raises(InputError) as refused:
        Drive(low=0, high=1, **{field: value})  # type: ignore[arg-type]  # one wrong field at a time
    assert says in str(refused.value)


def test_a_drive_is_stored_and_read_as_it_was() -> None:
    drive = Drive(low=0.25, high=0.75, wave="drift", period=Speed(3.0, "beat"), over="snake", spread=2.0, seed=9)
    assert drive_from_json(drive_to_json(drive)) == drive
