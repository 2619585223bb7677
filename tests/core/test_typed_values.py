"""Values and colours as they are typed by hand."""

from __future__ import annotations

import colorsys
from typing import Any

import pytest

from heliograph.core.colour.typed import typed_colours
from heliograph.core.errors import InputError
from heliograph.core.hand.typed import Place, typed_values
from heliograph.core.hand.values import channels_of
from heliograph.core.profiles.profile import mode_from_json

RANGES = [
    {"first": 0, "last": 9, "kind": "closed", "name": "Closed"},
    {"first": 10, "last": 19, "kind": "named", "name": "Half mesh"},
    {"first": 20, "last": 29, "kind": "named", "name": "Half net"},
    {"first": 30, "last": 255, "kind": "open", "name": "Clear"},
]
CHANNELS: list[dict[str, Any]] = [
    {"attribute": "Pan", "physical": [-270, 270]},
    {"attribute": "Pan", "fine": True},
    {"attribute": "Zoom", "invert": True},
    {"attribute": "Gobo1", "ranges": RANGES},
]
MODE = channels_of(mode_from_json({"name": "M", "blocks": [{"name": "B", "shared": CHANNELS}]}))
PAN, ZOOM, GOBO = (Place(MODE, number) for number in (1, 3, 4))


def wide(text: str, *places: Place) -> list[int]:
    return [found[1] * 256 + found[2] for found in typed_values(text, places)]


@pytest.mark.parametrize(
    ("text", "value"),
    [
        ("0", 0),
        ("full", 65_535),
        ("FULL", 65_535),
        ("half", 32_768),
        ("50 %", 32_768),
        ("50%", 32_768),
        ("0°", 32_768),
        ("-270 deg", 0),
        ("270 degrees", 65_535),
        ("255", 65_535),  # 0 to 255 as on any channel
        ("32768", 32_768),  # more is the two bytes of a 16-bit channel
        ("12,5 %", 8_192),
    ],
)
def test_a_value_is_a_number_a_percentage_degrees_or_a_word(text: str, value: int) -> None:
    assert abs(wide(text, PAN)[0] - value) <= 1


def test_a_value_has_the_name_its_profile_gives_it() -> None:
    assert typed_values("clear", [GOBO]) == [{4: 30}]
    assert typed_values("Half net", [GOBO]) == [{4: 20}]
    assert typed_values("clo", [GOBO]) == [{4: 0}]  # the only one that begins so
    assert typed_values("half", [GOBO]) == [{4: 128}]  # the word, for two names begin with it


def test_a_turned_channel_carries_255_less() -> None:
    assert typed_values("10", [ZOOM]) == [{3: 245}]
    assert typed_values("off", [ZOOM]) == [{3: 255}]


def test_a_fan_goes_from_the_first_to_the_last_and_back() -> None:
    assert [one[3] for one in typed_values("off > full", [ZOOM] * 6)] == [255, 204, 153, 102, 51, 0]
    assert [one[3] for one in typed_values("0 > 255 > 0", [ZOOM] * 5)] == [255, 127, 0, 127, 255]
    assert typed_values("20 % > 80 %", [ZOOM]) == typed_values("20 %", [ZOOM])
    assert wide("-270° > 270°", PAN, PAN, PAN)[1] in (32_767, 32_768)


@pytest.mark.parametrize(
    ("text", "place", "says"),
    [
        ("left", PAN, "'left' is no value of pan"),
        ("300°", PAN, "'300°' is no value of pan"),
        ("256", ZOOM, "'256' is no value of zoom"),
        ("10°", ZOOM, "'10°' is no value of zoom"),
        ("-1", ZOOM, "'-1' is no value of zoom"),
        ("101 %", ZOOM, "is no value"),
        ("0 >", ZOOM, "'' is no value"),
        ("closed > clear", GOBO, "A fan goes over levels"),
    ],
)
def test_what_is_no_value_is_refused_with_what_would_be(text: str, place: Place, says: str) -> None:
    with pytest.raises(InputError, match=says) as refused:
        typed_values(text, [place, place])
    assert "0 to 255" in refused.value.repair


def rgb(text: str, kelvin: bool = False) -> list[int]:
    return [round(part * 255) for part in typed_colours(text, 1, kelvin)[0]]


@pytest.mark.parametrize(
    ("text", "colour"),
    [
        ("#ffce80", [255, 206, 128]),
        ("FFCE80", [255, 206, 128]),
        ("#f0a", [255, 0, 170]),
        ("204 91 18", [204, 91, 18]),
        ("204, 91, 18", [204, 91, 18]),
        ("80% 36% 7%", [204, 92, 18]),
        ("Red", [255, 0, 0]),
        ("off", [0, 0, 0]),
    ],
)
def test_a_colour_is_a_hex_number_three_numbers_or_a_word(text: str, colour: list[int]) -> None:
    assert rgb(text) == colour


@pytest.mark.parametrize(
    ("kelvin", "colour"),
    [(2000, (255, 139, 22)), (2700, (255, 173, 89)), (3200, (255, 190, 122)), (10_000, (205, 217, 255))],
)
def test_a_temperature_is_a_white(kelvin: int, colour: tuple[int, int, int]) -> None:
    """Values of standards 7.3 [V colour-science 0.4.7], within 2 as there."""
    for text, plain in ((f"{kelvin} K", False), (str(kelvin), True)):
        assert all(abs(a - b) <= 2 for a, b in zip(rgb(text, plain), colour, strict=True))


def test_colours_fan_and_temperatures_fan_as_temperatures() -> None:
    red, middle, blue = typed_colours("red > blue", 3)
    assert (red, middle, blue) == ((1, 0, 0), (0.5, 0, 0.5), (0, 0, 1))
    assert typed_colours("2000 K > 6000 K", 3)[1] == typed_colours("4000 K", 1)[0]
    hues = [colorsys.rgb_to_hsv(*one)[0] for one in typed_colours("red > green > blue", 5)]
    assert hues == pytest.approx([0, 1 / 6, 1 / 3, 1 / 2, 2 / 3])


@pytest.mark.parametrize("text", ["redd", "256 0 0", "1 2", "#12345", "900 K", "26000 K", "red >", ""])
def test_what_is_no_colour_is_refused(text: str) -> None:
    with pytest.raises(InputError) as refused:
        typed_colours(text, 2)
    assert "3200 K" in refused.value.repair
