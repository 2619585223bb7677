"""Colour over time: the check of the design, numpy.interp, and the cubic 3t^2 - 2t^3 (recalled)."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.look.ribbon import (
    Knot,
    Ribbon,
    fastened,
    loosened,
    new_ribbon,
    ribbon_chart,
    ribbon_from_json,
    ribbon_to_json,
)
from heliograph.core.playing.tempo import Speed

SHEET = Ribbon((Knot(1.0, 240, 0, 120), Knot(5.0, 0, 200, 40)))


def test_the_colours_of_the_check_sheet() -> None:
    """(240, 0, 120) at 1 s and (0, 200, 40) at 5 s, straight: (120, 100, 80) at 3 s; held before and after."""
    assert SHEET.at(3.0) == (120, 100, 80)
    assert SHEET.at(0.0) == SHEET.at(1.0) == (240, 0, 120)
    assert SHEET.at(5.0) == SHEET.at(7.9) == (0, 200, 40)
    assert SHEET.at(8.0 * 5 + 3.0) == (120, 100, 80)


def test_a_thread_moves_one_emitter_and_nothing_else() -> None:
    threaded = Ribbon(SHEET.knots, threads={"red": ((3.0, 65.0), (4.0, 10.0))})
    for time in np.linspace(0, 7.9, 33):
        red = np.interp(time, [1, 3, 4, 5], [240, 65, 10, 0])
        assert threaded.at(float(time)) == pytest.approx(
            (red, *SHEET.at(float(time))[1:]) if time < 8 else (240, 0, 120)
        )


def test_eased_between_two_knots() -> None:
    eased = Ribbon((Knot(0.0, 0, 0, 0, True), Knot(4.0, 200, 100, 0), Knot(8.0, 0, 0, 0)))
    t = 0.25
    assert eased.at(1.0) == pytest.approx(tuple(one * (3 * t**2 - 2 * t**3) for one in (200, 100, 0)))
    assert eased.at(5.0) == (150, 75, 0)  # straight again


def test_rounds_and_turning_at_its_ends() -> None:
    once = Ribbon((Knot(0.0, 0, 0, 0), Knot(4.0, 200, 0, 0)), Speed(4.0, "beat"), rounds=1)
    assert [once.at(beat)[0] for beat in (0, 2, 4, 400)] == [0, 100, 200, 200]
    back = Ribbon((Knot(0.0, 0, 0, 0), Knot(4.0, 200, 0, 0)), Speed(4.0), turns=True)
    assert [back.at(s)[0] for s in (1, 3, 5, 7, 9)] == [50, 150, 150, 50, 50]
    there_and_back = Ribbon((Knot(0.0, 0, 0, 0), Knot(4.0, 200, 0, 0)), Speed(4.0), rounds=2, turns=True)
    assert [there_and_back.at(s)[0] for s in (5, 99)] == [150, 0]


def test_its_light_is_drawn_by_rec_709() -> None:
    chart = ribbon_chart(SHEET, points=9)
    assert chart.colours[3] == (120, 100, 80)
    assert chart.light[3] == pytest.approx((0.2126 * 120 + 0.7152 * 100 + 0.0722 * 80) / 255, abs=1e-4)


@pytest.mark.parametrize(
    ("fields", "says"),
    [
        ({"knots": ()}, "1 to 64 knots, not 0"),
        ({"knots": (Knot(2.0, 1, 1, 1), Knot(2.0, 2, 2, 2))}, "one after another"),
        ({"knots": (Knot(9.0, 1, 1, 1),)}, "9 lies outside the ribbon's 8"),
        ({"knots": (Knot(1.0, 256, 1, 1),)}, "256 is outside 0 to 255"),
        ({"length": Speed(1.0, "times")}, "seconds or beats"),
        ({"threads": {"amber": ()}}, "no emitter 'amber'"),
        ({"threads": {"red": ((2.0, 5.0), (1.0, 5.0))}}, "one after another"),
    ],
)
def test_what_is_no_ribbon(fields: dict[str, Any], says: str) -> None:
    with pytest.raises(InputError, match=says):
        Ribbon(**{"knots": SHEET.knots, **fields})


def test_it_is_stored_and_read_as_it_was() -> None:
    one = Ribbon(SHEET.knots, Speed(16.0, "beat"), 3, True, {"blue": ((2.0, 9.0),)})
    assert ribbon_from_json(ribbon_to_json(one)) == one
    begun = new_ribbon([0.0, 200, 100, 50])
    assert (begun.at(0.0), begun.at(4.0)) == ((200, 100, 50), (20, 10, 5))


def test_a_knot_loosens_into_points_and_fastens_again() -> None:
    three = Ribbon((Knot(0.0, 0, 0, 0), Knot(4.0, 200, 100, 50), Knot(8.0, 0, 0, 0)))
    loose = loosened(three, 1)
    assert [knot.at for knot in loose.knots] == [0.0, 8.0]
    assert loose.threads == {"red": ((4.0, 200.0),), "green": ((4.0, 100.0),), "blue": ((4.0, 50.0),)}
    for time in (1.0, 4.0, 6.5):
        assert loose.at(time) == three.at(time)
    assert fastened(loose, 4.0).knots == three.knots
    assert not any(fastened(loose, 4.0).threads.values())
    with pytest.raises(InputError, match="No thread has a point at 3"):
        fastened(loose, 3.0)
    with pytest.raises(InputError, match="no other knot"):
        loosened(Ribbon((Knot(1.0, 1, 1, 1),)), 0)
