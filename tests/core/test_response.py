"""Response tables and dimmers by their typed ranges."""

from __future__ import annotations

import colour
import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from heliograph.core.colour.dimming import DimmerDrive, dimmer_levels, dimmer_values
from heliograph.core.colour.response import RESPONSES, asked_of, check_response, respond
from heliograph.core.errors import InputError
from heliograph.core.profiles.channel import Channel, ValueRange

# p -> 8 bit of CIE lightness and of gamma 2.2 (standards 7.4, verified there in Python).
TABLE = {0.05: (1, 0), 0.10: (3, 2), 0.25: (11, 12), 0.50: (47, 55), 0.75: (123, 135), 1.0: (255, 255)}


@pytest.mark.parametrize(("level", "wanted"), TABLE.items())
def test_the_tables_of_the_fact_sheet(level: float, wanted: tuple[int, int]) -> None:
    levels = np.array([level], dtype=np.float32)
    assert round(float(respond("CIE lightness", levels)[0]) * 255) == wanted[0]
    assert round(float(respond("gamma 2.2", levels)[0]) * 255) == wanted[1]
    assert respond("as is", levels)[0] == levels[0]


def test_cie_lightness_is_that_of_colour_science() -> None:
    """colour-science 0.4.7, luminance_CIE1976, at every 8-bit level."""
    levels = np.linspace(0, 1, 256)
    wanted = colour.colorimetry.luminance_CIE1976(100 * levels, 1.0)
    assert respond("CIE lightness", levels.astype(np.float32)) == pytest.approx(wanted, abs=1e-4)


@given(st.sampled_from(RESPONSES), st.integers(0, 255))
def test_the_inverse_gives_the_level_back(name: str, level: int) -> None:
    levels = np.array([level / 255], dtype=np.float32)
    assert asked_of(name, respond(name, levels)) == pytest.approx(levels, abs=2e-3)  # type: ignore[arg-type]


def test_an_unknown_response_is_named() -> None:
    with pytest.raises(InputError, match="There is no response 'square'"):
        check_response("square")


LANTERN = (
    ValueRange(0, 7, "closed"),
    ValueRange(8, 134, "dim"),
    ValueRange(135, 239, "strobe"),
    ValueRange(240, 255, "open"),
)


def values(drive: DimmerDrive, *levels: float) -> list[int]:
    return dimmer_values(drive, np.array(levels, dtype=np.float32)).tolist()


def test_a_plain_dimmer_goes_from_0_to_255() -> None:
    # 40 % and 30 % as levels: 102, and 76 or 77 (common practice, no published source).
    assert [v >> 8 for v in values(DimmerDrive(), 0, 0.4, 0.3, 1)] in ([0, 102, 76, 255], [0, 102, 77, 255])


def test_sixteen_bit_is_coarse_and_fine() -> None:
    # Half of 16 bit (32768) is 128, 0 (common practice, no published source).
    [zero, half, full] = values(DimmerDrive(fine=True), 0, 0.5, 1)
    assert (zero, half >> 8, full) == (0, 128, 65535)
    assert half & 255 in (0, 1)


def test_a_combined_channel_is_driven_where_it_dims_and_never_strobes() -> None:
    """Dimmer and strobe in one: any light needs steady full or a place in the dim range (common practice)."""
    drive = DimmerDrive(LANTERN)
    steps = [v >> 8 for v in values(drive, *np.linspace(0, 1, 101))]
    assert steps[0] == 0
    assert steps[-1] == 255
    assert all(8 <= value <= 134 for value in steps[1:-1])
    assert steps[1:-1] == sorted(steps[1:-1])
    assert steps[50] == 71  # the middle of 8 to 134


def test_a_channel_that_is_only_open_or_closed_opens_for_any_light() -> None:
    drive = DimmerDrive((ValueRange(0, 100, "closed"), ValueRange(101, 255, "open")))
    assert [v >> 8 for v in values(drive, 0, 0.01, 1)] == [0, 255, 255]


@given(st.floats(0, 1), st.sampled_from([DimmerDrive(), DimmerDrive(fine=True), DimmerDrive(LANTERN)]))
def test_a_dimmers_level_is_read_back(level: float, drive: DimmerDrive) -> None:
    [value] = values(drive, level)
    coarse, fine = np.array([value >> 8], dtype=np.uint8), np.array([value & 255], dtype=np.uint8)
    assert dimmer_levels(drive, coarse, fine)[0] == pytest.approx(level, abs=0.005)


@pytest.mark.parametrize(
    ("make", "says"),
    [
        (lambda: ValueRange(9, 3, "dim"), "A value range from 9 to 3 is not possible"),
        (lambda: ValueRange(0, 9, "blink"), "'blink' is no kind of range"),  # type: ignore[arg-type]
        (lambda: Channel("Dimmer", ranges=(LANTERN[1], LANTERN[0])), "overlap or are out of order"),
        (lambda: Channel("Pan", home=256), "home of Pan is 256"),
        (lambda: Channel("Pan", in_fade="later"), "'later' says not how a channel changes"),  # type: ignore[arg-type]
    ],
)
def test_impossible_ranges_are_refused(make: object, says: str) -> None:
    with pytest.raises(InputError, match=says):
        make()  # type: ignore[operator]
