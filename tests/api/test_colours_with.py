"""Colours that go with one, and how a colour is written: the hue circle of colorsys, turned here by hand."""

from __future__ import annotations

import pytest

from heliograph.core.colour.matching import colours_with
from heliograph.core.colour.typed import typed_colours
from tests.conftest import RunningApp


def test_pure_colours_meet_those_across_the_circle() -> None:
    found = {one.word: one.colours for one in colours_with((255, 0, 0))}
    assert found == {
        "opposite": ((0, 255, 255),),
        "two beside the opposite": ((0, 255, 128), (0, 128, 255)),
        "thirds": ((0, 255, 0), (0, 0, 255)),
        "neighbours": ((255, 0, 128), (255, 128, 0)),
    }


@pytest.mark.parametrize("rgb", [(204, 91, 18), (10, 84, 92), (60, 0, 200), (255, 254, 100)])
def test_they_are_as_light_and_as_full_and_the_opposite_of_the_opposite_is_itself(rgb: tuple[int, int, int]) -> None:
    for one in colours_with(rgb):
        for colour in one.colours:
            assert (max(colour), min(colour)) == (max(rgb), min(rgb))
    [across] = colours_with(rgb)[0].colours
    [back] = colours_with(across)[0].colours
    assert all(abs(a - b) <= 1 for a, b in zip(back, rgb, strict=True))


def test_nothing_goes_with_a_grey() -> None:
    assert colours_with((90, 90, 90)) == []
    assert colours_with((0, 0, 0)) == []


def test_percent_is_read_as_it_is_shown() -> None:
    """204, 91, 18 of 255 are 80, 35.7 and 7.1 %: arithmetic."""
    for text in ("80 / 35.7 / 7.1 %", "80/35.7/7.1%", "204 91 18", "#cc5b12"):
        assert [round(part * 255) for part in typed_colours(text, 1)[0]] == [204, 91, 18]


def test_a_colour_is_written_in_every_way(app: RunningApp) -> None:
    read = app.api().call("GET", "/api/reading/colour?text=204%2091%2018")
    assert (read["rgb"], read["hex"], read["percent"]) == ([204, 91, 18], "#cc5b12", "80 / 35.7 / 7.1 %")
    assert [one["word"] for one in read["beside"]] == ["opposite", "two beside the opposite", "thirds", "neighbours"]
