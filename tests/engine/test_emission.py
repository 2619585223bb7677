"""From colours to channels: emitters, dimmers, group masters; and back from what was sent.

Bytes are written down by hand from the rules (standards 7.2, 7.4; check values of the trade: common practice,
no published source).
"""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from heliograph.core.colour.extraction import luma, shown
from heliograph.core.colour.ramps import to_bytes
from heliograph.core.colour.reading import ColourReader, SentValues
from heliograph.core.matrix.placements import CellKey, pack
from heliograph.core.matrix.weaving import Weave, place
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import compiled, grid, lamps, line, look

RGB = [{"attribute": f"ColorAdd_{c}"} for c in "RGB"]
RGBW = [*RGB, {"attribute": "ColorAdd_W"}]
RGBAWUV = [*RGB, {"attribute": "ColorAdd_RY"}, {"attribute": "ColorAdd_W"}, {"attribute": "ColorAdd_UV", "home": 7}]
COMBINED = {
    "attribute": "Dimmer",
    "ranges": [
        {"first": 0, "last": 7, "kind": "closed"},
        {"first": 8, "last": 134, "kind": "dim"},
        {"first": 135, "last": 239, "kind": "strobe"},
        {"first": 240, "last": 255, "kind": "open"},
    ],
}
DEEP = {"attribute": "Dimmer", "fine": True}


def frame(show: CompiledShow, **state: Any) -> np.ndarray[Any, Any]:
    begun = advance(PlaybackState(**state).started("L", 0), show.lines, 0)
    return Renderer().render(show, begun, 0).copy()


def flat(channels: Any, colour: tuple[int, int, int], count: int = 1, **fixture: Any) -> CompiledShow:
    """`count` lamps of one cell painted in one colour; `fixture`: how they make it."""
    rig = lamps(count, channels=channels)
    rig["fixtures"] = [{**one, **fixture} for one in rig["fixtures"]]
    return compiled(rig, grid(count, 1), look(line("a", "Flat", ramp=[[0, *colour]])))


def values(show: CompiledShow, count: int, **state: Any) -> list[int]:
    return [int(v) for v in frame(show, **state)[0, :count]]


def bar(shared: list[dict[str, Any]], cells: int, each: list[dict[str, Any]]) -> dict[str, Any]:
    """One fixture f0 with shared channels, then cells; on a matrix `grid` can weave by f0's cells."""
    mode = {"name": "m", "blocks": [{"name": "b", "shared": shared, "cell_count": cells, "cell_channels": each}]}
    fixtures = [{"id": "f0", "number": 1, "name": "Bar", "mode": "m", "universe": 1, "channel": 1}]
    return {"modes": {"m": {"mode": mode, "guarded": False}}, "fixtures": fixtures}


def on_bar(rig: dict[str, Any], cells: int, colour: tuple[int, int, int], groups: Any = ()) -> CompiledShow:
    placed = place([CellKey("f0", str(n + 1)) for n in range(cells)], Weave(cells, 1, "top left", "rows", False))
    matrix = {"id": "M", "name": "M", "width": cells, "height": 1, "placements": pack(placed)}
    sections = {
        "rig": rig,
        "matrix:M": matrix,
        "outputs": {"outputs": []},
        "look:L": look(line("a", "Flat", ramp=[[0, *colour]])),
        "groups": {"groups": list(groups)},
    }
    return compile_show(sections, Path("/nonexistent"))


def test_rgbw_in_its_four_ways() -> None:
    # 204, 91, 18 -> 186, 73, 0, 18 by minimum subtraction (standards 7.2, verified).
    assert values(flat(RGBW, (204, 91, 18)), 4) == [186, 73, 0, 18]
    assert values(flat(RGBW, (204, 91, 18), extra="add"), 4) == [204, 91, 18, 18]
    assert values(flat(RGBW, (204, 91, 18), extra="leave"), 4) == [204, 91, 18, 0]
    matched = values(flat([*RGB, {"attribute": "ColorAdd_W", "kelvin": 3200}], (204, 91, 18), extra="match"), 4)
    # .5727, .0885, 0 in linear light is 199, 84, 0; W .0311 is sent as the light it is, 8 (standards 7.2 and 7.4).
    assert matched == pytest.approx([199, 84, 0, 8], abs=1)


def test_rgbaw_and_uv() -> None:
    # By hand: W min = 80; then amber takes 175 of red and 84 of green; UV rests at its home value.
    assert values(flat(RGBAWUV, (255, 200, 80)), 6) == [0, 36, 0, 175, 80, 7]


def test_white_only_takes_the_brightness() -> None:
    # .2126 x 204 + .7152 x 91 + .0722 x 18 = 109.8 (ITU-R BT.709).
    assert values(flat([{"attribute": "ColorAdd_W"}], (204, 91, 18)), 1) == [110]


def test_a_response_shapes_what_is_sent_and_the_virtual_dimmer_acts_before_it() -> None:
    # Half is 55 by gamma 2.2 and 47 by CIE lightness (standards 7.4, verified).
    assert values(flat(RGB, (255, 255, 255), response="gamma 2.2"), 3, master=0.5) == [55] * 3
    assert values(flat(RGB, (255, 255, 255), response="CIE lightness"), 3, master=0.5) == [47] * 3


def test_a_real_dimmer_takes_the_master_and_the_colour_stays() -> None:
    dimmed = [{"attribute": "Dimmer"}, *RGB]
    assert values(flat(dimmed, (200, 100, 40)), 4) == [255, 200, 100, 40]
    assert values(flat(dimmed, (200, 100, 40)), 4, master=0.4) == [102, 200, 100, 40]  # 40 % is 102
    assert values(flat(dimmed, (200, 100, 40)), 4, blackout=True) == [0, 0, 0, 0]


def test_dimmer_and_strobe_in_one_is_held_open_and_never_strobes() -> None:
    """Lamps of 4 channels, first is dimmer and strobe in one: it must be held at steady full for any light."""
    show = flat([COMBINED, *RGB], (200, 100, 40), count=5)
    assert values(show, 20) == [255, 200, 100, 40] * 5
    assert values(show, 4, master=0.5) == [71, 200, 100, 40]
    assert values(show, 4, master=0.0) == [0, 200, 100, 40]


def test_an_eight_channel_pixel_of_which_5_to_7_are_rgb() -> None:
    other = [{"attribute": "ColorMacro1", "home": 3}, {"attribute": "ColorMacro1Rate", "home": 4}]
    pixel: list[dict[str, Any]] = [{"attribute": "Dimmer"}, DEEP, *other, *RGB, {"attribute": "Shutter1", "home": 255}]
    show = on_bar(bar([], 16, pixel), 16, (10, 20, 30))
    assert values(show, 128) == [255, 255, 3, 4, 10, 20, 30, 255] * 16
    assert values(show, 8, master=0.5)[:2] in ([128, 0], [127, 255])  # half of 16 bit is 128, 0


def test_a_bar_dims_by_its_shared_channel_and_cells_of_their_own_stay_open() -> None:
    shared: list[dict[str, Any]] = [{"attribute": "Dimmer"}, {"attribute": "Shutter1Strobe", "home": 9}]
    show = on_bar(bar(shared, 2, [{"attribute": "Dimmer"}, *RGBW]), 2, (204, 91, 18))
    assert values(show, 12, master=0.4) == [102, 9, 255, 186, 73, 0, 18, 255, 186, 73, 0, 18]


def test_a_dimmer_above_no_cell_is_left_at_home() -> None:
    sections = {"rig": bar([{"attribute": "Dimmer", "home": 12}], 0, []), "outputs": {"outputs": []}}
    show = compile_show(sections, Path("/nonexistent"))
    assert int(Renderer().render(show, PlaybackState(), 0)[0, 0]) == 12


def test_group_masters_multiply_with_the_grand_master() -> None:
    rig = lamps(4)
    sections = {
        "rig": rig,
        "matrix:M": grid(4, 1),
        "outputs": {"outputs": []},
        "look:L": look(line("a", "Flat", ramp=[[0, 200, 200, 200]])),
        "groups": {"groups": [{"id": "g", "fixtures": ["f1", "f2"]}, {"id": "h", "fixtures": ["f2", "gone"]}]},
    }
    show = compile_show(sections, Path("/nonexistent"))
    found = values(show, 12, master=0.5, masters={"g": 0.5, "h": 0.4, "unknown": 0.0})
    assert found[::3] == [100, 50, 20, 100]


ASKED = st.lists(st.tuples(*[st.integers(0, 255)] * 3), min_size=5, max_size=5)


@settings(max_examples=60, deadline=None)
@given(
    ASKED,
    st.sampled_from(
        [RGB, RGBW, RGBAWUV, [{"attribute": "ColorAdd_W"}], [COMBINED, *RGB], [{"attribute": "Dimmer"}, *RGBW]]
    ),
    st.sampled_from(["replace", "add", "match", "leave"]),
    st.sampled_from([1.0, 0.8]),
)
def test_what_is_read_back_is_what_was_asked(asked: Any, channels: Any, extra: str, master: float) -> None:
    """The preview never lies: the picture decoded from the bytes is the colour asked of the lamp, within 2 of 255
    (8-bit emitters, and in linear light a little more where it is dark)."""
    rig = lamps(5, channels=channels)
    rig["fixtures"] = [{**one, "extra": extra} for one in rig["fixtures"]]
    ramp = [[n / 4, *colour] for n, colour in enumerate(asked)]
    show = compiled(rig, grid(5, 1), look(line("a", "Grade", ramp=ramp)))
    renderer = Renderer()
    state = advance(PlaybackState(master=master).started("L", 0), show.lines, 0)
    universes = renderer.render(show, state, 0).copy()
    painted = np.clip(renderer.paint(show, state, 0).pixels, 0, 1) * np.float32(master)
    wanted = shown(show.rig.colours[0].recipe, painted)
    values = SentValues(show.universes.astype(np.uint16), np.ones(1, dtype=np.uint8), universes)
    read = ColourReader(show.rig).read(values)
    assert read.whole.all()
    apart = np.abs(to_bytes(read.rgb).astype(int) - to_bytes(wanted).astype(int)).max()
    assert apart <= (12 if extra == "match" else 2)
    if extra == "match":  # in linear light, where an 8-bit step is wide in the dark, it still looks the same
        assert np.abs(luma(read.rgb) - luma(wanted)).max() < 0.04


def test_what_was_not_sent_reads_as_dark_and_says_so() -> None:
    show = flat(RGBW, (204, 91, 18))
    values = SentValues(np.array([1], dtype=np.uint16), np.zeros(1, dtype=np.uint8), frame(show))
    read = ColourReader(show.rig).read(values)
    assert not read.rgb.any()
    assert not read.whole.any()
    assert not read.some.any()
    nothing = SentValues(np.empty(0, dtype=np.uint16), np.empty(0, dtype=np.uint8), np.empty((0, 512), dtype=np.uint8))
    assert not ColourReader(show.rig).read(nothing).some.any()
