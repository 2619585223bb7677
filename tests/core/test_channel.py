"""Channels: fine ones anywhere, words of attributes, what is sent for dark, layouts of cells."""

from __future__ import annotations

import pytest

from heliograph.core.errors import InputError
from heliograph.core.profiles.attributes import word_of
from heliograph.core.profiles.cell_layout import CellLayout, cell_points
from heliograph.core.profiles.channel import Channel, ValueRange, channel_from_json, fine_pairs, finest_step


@pytest.mark.parametrize(
    ("attribute", "word"),
    [
        ("ColorAdd_RY", "amber"),  # there is no ColorAdd_A (standards 5.1 [V])
        ("ColorAdd_GY", "lime"),
        ("Gobo1", "gobo"),
        ("Gobo2", "gobo 2"),
        ("Shutter1Strobe", "strobe"),
        ("Shutter3StrobePulse", "strobe pulse 3"),
        ("HSB_Hue", "hue"),
        ("Lamp9Shaker", "Lamp9Shaker"),
    ],
)
def test_attributes_have_words(attribute: str, word: str) -> None:
    assert word_of(attribute) == word


def test_every_attribute_of_the_standards_groups_has_a_word() -> None:
    """The names of standards 5.1 [S], present in the table of pygdtf 1.4.5 [V]."""
    names = """Dimmer ColorAdd_R ColorAdd_G ColorAdd_B ColorAdd_C ColorAdd_M ColorAdd_Y ColorAdd_RY ColorAdd_GY
        ColorAdd_GC ColorAdd_BC ColorAdd_BM ColorAdd_RM ColorAdd_W ColorAdd_WW ColorAdd_CW ColorAdd_UV HSB_Hue
        HSB_Saturation HSB_Brightness CIE_X CIE_Y CTO CTC CTB Tint Color2 ColorMacro3 Pan Tilt PanRotate TiltRotate
        Shutter1 Shutter1Strobe Shutter1StrobePulse Shutter1StrobeRandom Iris Frost1 Zoom Focus1 Prism1 Gobo1 Gobo1Pos
        Control1 PixelMode LEDZoneMode DimmerCurve LEDFrequency NoFeature Dummy"""
    assert [name for name in names.split() if word_of(name) == name] == ["CTO", "CTB"]  # said as they are
    assert word_of("ColorAdd_A") == "ColorAdd_A"  # there is none [V]


def channels(*names: str) -> list[Channel]:
    """`Pan` is coarse, `+Pan` its fine channel."""
    return [Channel(name.removeprefix("+"), fine=name.startswith("+")) for name in names]


@pytest.mark.parametrize(
    ("names", "pairs"),
    [
        (("Pan", "+Pan", "Tilt", "+Tilt"), {0: 1, 2: 3}),
        (("Pan", "Tilt", "+Pan", "+Tilt"), {0: 2, 1: 3}),
        (("+Pan", "Pan"), {1: 0}),
        (("Dimmer", "+Dimmer", "Dimmer", "+Dimmer"), {0: 1, 2: 3}),
        (("Dimmer", "Dimmer", "+Dimmer"), {1: 2}),
        (("Pan", "Tilt"), {}),
    ],
)
def test_a_fine_channel_stands_anywhere(names: tuple[str, ...], pairs: dict[int, int]) -> None:
    assert fine_pairs(channels(*names)) == pairs


@pytest.mark.parametrize(("names", "says"), [(("+Pan",), "is not there"), (("Pan", "+Pan", "+Pan"), "has one already")])
def test_a_fine_channel_without_a_coarse_one_is_refused(names: tuple[str, ...], says: str) -> None:
    with pytest.raises(InputError, match=says):
        fine_pairs(channels(*names))


@pytest.mark.parametrize(
    ("ranges", "off"),
    [
        ((), 0),
        ((ValueRange(0, 0, "default"), ValueRange(1, 255, "dim")), 1),
        ((ValueRange(0, 9, "default"), ValueRange(10, 255, "dim")), 10),
        ((ValueRange(0, 9, "default"), ValueRange(10, 19, "closed"), ValueRange(20, 255, "dim")), 10),
        ((ValueRange(0, 9, "closed"), ValueRange(10, 255, "dim")), 0),
    ],
)
def test_a_lamp_that_reads_nought_as_its_default_gets_its_own_off(ranges: tuple[ValueRange, ...], off: int) -> None:
    """Common practice, no published source: 0 means "use the stored default" on some lamps."""
    assert Channel("ColorAdd_R", ranges=ranges).off == off


def test_a_channel_is_read_as_it_was_stored() -> None:
    stored = {
        "attribute": "Pan",
        "home": 128,
        "physical": [-270, 270],
        "invert": True,
        "merge": "HTP",
        "in_fade": "end",
    }
    channel = channel_from_json({**stored, "ranges": [{"first": 0, "last": 9, "kind": "named", "colour": "#ff0000"}]})
    assert (channel.physical, channel.invert, channel.merge, channel.in_fade) == ((-270.0, 270.0), True, "HTP", "end")
    assert channel.ranges[0].colour == "#ff0000"


def test_the_finest_step_follows_from_bits_and_ranges() -> None:
    dims = (ValueRange(0, 9, "closed"), ValueRange(10, 60, "dim"), ValueRange(61, 255, "strobe"))
    assert [finest_step(Channel("Pan"), wide) for wide in (False, True)] == [1 / 255, 1 / 65_535]
    assert [finest_step(Channel("Dimmer", ranges=dims), wide) for wide in (False, True)] == [1 / 50, 1 / (50 * 257)]


def test_cells_sit_where_their_layout_says() -> None:
    assert cell_points(CellLayout("line"), 4)[:, 0].tolist() == [0.125, 0.375, 0.625, 0.875]
    assert cell_points(CellLayout("upright"), 2)[:, 1].tolist() == [0.25, 0.75]
    assert cell_points(CellLayout("grid", columns=2), 4).tolist() == [
        [0.25, 0.25],
        [0.75, 0.25],
        [0.25, 0.75],
        [0.75, 0.75],
    ]
    ring = cell_points(CellLayout("ring", centre=True), 7)
    assert ring[0].tolist() == [0.5, 0.5]
    assert ring[1].tolist() == pytest.approx([0.5, 0.08])  # the first outside is at the top
    assert ring[4].tolist() == pytest.approx([0.5, 0.92])  # half way round, at the bottom
    free = cell_points(CellLayout("free", points=((0.1, 0.9),)), 2)
    assert free.tolist() == [[0.1, 0.9], [0.75, 0.5]]


@pytest.mark.parametrize("make", [lambda: CellLayout("grid", columns=0), lambda: CellLayout("free", points=((2, 0),))])
def test_impossible_layouts_are_refused(make: object) -> None:
    with pytest.raises(InputError):
        make()  # type: ignore[operator]
