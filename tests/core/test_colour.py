"""Ramps and levels to bytes."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.colour.ramps import RAMP_STEPS, Stop, check_ramp, ramp_at, ramp_table, stops_from_json, to_bytes
from heliograph.core.errors import InputError

stops = st.lists(
    st.tuples(st.integers(0, 100), *[st.integers(0, 255)] * 3), min_size=1, max_size=8, unique_by=lambda s: s[0]
).map(lambda rows: tuple(Stop(at / 100, r, g, b) for at, r, g, b in sorted(rows)))


@given(stops, st.integers(0, RAMP_STEPS - 1))
def test_the_table_is_the_ramp_within_a_hundredth_of_a_byte(ramp: tuple[Stop, ...], index: int) -> None:
    exact = ramp_at(ramp, index / (RAMP_STEPS - 1))
    assert np.abs(ramp_table(ramp)[:, index] - exact).max() < 0.01 / 255


@given(stops)
def test_every_stop_has_its_own_colour(ramp: tuple[Stop, ...]) -> None:
    for stop in ramp:
        assert ramp_at(ramp, stop.at) * 255 == pytest.approx([stop.red, stop.green, stop.blue], abs=1e-3)


def test_half_way_between_two_colours() -> None:
    # (255, 0, 255) at 2 s and (0, 255, 0) at 6 s: at 4 s 127 or 128 each. Common practice, no published source.
    middle = ramp_at((Stop(0.0, 255, 0, 255), Stop(1.0, 0, 255, 0)), 0.5)
    assert all(value in (127, 128) for value in to_bytes(middle).tolist())


# Percent -> level, half up; 40 % and 30 % as levels are 102 and 76 or 77. Common practice, no published source.
LEVELS = [(0.0, 0), (0.01, 3), (0.1, 26), (0.3, 77), (0.33, 84), (0.4, 102), (0.5, 128), (0.99, 252), (1.0, 255)]


@pytest.mark.parametrize(("level", "byte"), LEVELS)
def test_levels_to_bytes(level: float, byte: int) -> None:
    assert to_bytes(np.array([level], dtype=np.float32))[0] == byte


def test_out_of_range_levels_are_clipped() -> None:
    assert to_bytes(np.array([-1.0, 2.0], dtype=np.float32)).tolist() == [0, 255]


def test_all_bytes_survive_the_way_through_floats() -> None:
    everything = np.arange(256, dtype=np.uint8)
    assert (to_bytes(everything.astype(np.float32) * np.float32(1 / 255)) == everything).all()


@pytest.mark.parametrize(
    ("rows", "says"),
    [
        ([], "1 to 8 colours"),
        ([[n / 10, 0, 0, 0] for n in range(9)], "1 to 8 colours"),
        ([[0.5, 0, 0, 0], [0.4, 0, 0, 0]], "in order of their places"),
        ([[1.5, 0, 0, 0]], "off the ramp"),
        ([[0, 256, 0, 0]], "red 256 is outside 0 to 255"),
    ],
)
def test_what_is_no_ramp(rows: list[list[float]], says: str) -> None:
    with pytest.raises(InputError, match=says):
        check_ramp(stops_from_json(rows))
