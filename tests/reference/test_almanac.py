"""Dusk and dawn beside another almanac: ephem (libastro, an analytic theory of the planets), which shares nothing with
the formulas the clock uses."""

from __future__ import annotations

from datetime import UTC, date, datetime

import ephem
import pytest

from heliograph.core.playing.clock import DEPRESSION, Place, When, sun_of

APART_S = 120.0
DAYS = ("2026-01-15", "2026-03-29", "2026-06-21", "2026-09-23", "2026-12-21")


def almanac(when: When, place: Place, day: str) -> float:
    """When the middle of the sun stands so far below the horizon, without air."""
    there = ephem.Observer()
    there.lat, there.lon, there.pressure = str(place.latitude), str(place.longitude), 0
    there.horizon = str(-DEPRESSION)
    there.date = f"{day} 12:00"
    found = there.next_setting if when == "dusk" else there.previous_rising
    moment: datetime = found(ephem.Sun(), use_center=True).datetime()
    return moment.replace(tzinfo=UTC).timestamp()


@pytest.mark.parametrize("day", DAYS)
def test_dusk_and_dawn_at_skerry_point_are_those_of_the_almanac(day: str) -> None:
    skerry = Place()
    assert (skerry.latitude, skerry.longitude) == (57.70, -2.00)
    moments: tuple[When, ...] = ("dusk", "dawn")
    for when in moments:
        found = sun_of(when, skerry, date.fromisoformat(day))
        assert found is not None
        assert abs(found - almanac(when, skerry, day)) <= APART_S, (when, day)
