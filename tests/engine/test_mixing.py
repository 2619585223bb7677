"""Looks mixed: pictures laid on one another by their levels, against arithmetic written down here.

Laying a premultiplied picture over another is the *over* of Porter and Duff, "Compositing Digital Images", SIGGRAPH
1984, recalled: result = picture + beneath x (1 - cover).
"""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from tests.engine.shows import compiled, grid, lamps, line

RED, BLUE, WHITE = (255, 0, 0), (0, 0, 255), (255, 255, 255)


def flat(key: str, colour: tuple[int, int, int], **fields: Any) -> dict[str, Any]:
    return line(key, "Flat", ramp=[[0, *colour]], **fields)


def show_of(*looks: list[dict[str, Any]]) -> CompiledShow:
    named = [{"id": f"L{n}", "name": f"L{n}", "lines": lines} for n, lines in enumerate(looks)]
    return compiled(lamps(1), grid(1, 1), *named)


def sent(show: CompiledShow, *levels: float) -> list[int]:
    """The lamp's bytes with each look at a level, in the order of the looks."""
    state = PlaybackState()
    for n, level in enumerate(levels):
        state = state.started(f"L{n}", 0).levelled(f"L{n}", level)
    state = advance(state, show.lines, 0)
    return [int(value) for value in Renderer().render(show, state, 0)[0, :3]]


def test_what_a_look_hides_does_not_shine_through_its_fade() -> None:
    """Blue over red in one look at half: half blue, no red. (By opacity of each line it was 64, 0, 128.)"""
    show = show_of([flat("a", RED), flat("b", BLUE)])
    assert sent(show, 0.5) == [0, 0, 128]
    assert sent(show, 0.0) == [0, 0, 0]


def test_a_crossfade_does_not_dip() -> None:
    """One look fades in over the other, which stays: at every moment the mix of both, and white stays white."""
    for share in (0.0, 0.25, 0.5, 0.75, 1.0):
        mixed = [int(255 * (1 - share) + 0.5), 0, int(255 * share + 0.5)]
        assert sent(show_of([flat("a", RED)], [flat("b", BLUE)]), 1.0, share) == mixed
        assert sent(show_of([flat("a", WHITE)], [flat("b", WHITE)]), 1.0, share) == [255, 255, 255]


def test_blends_act_inside_their_look() -> None:
    half = (128, 128, 128)
    beneath = [flat("a", RED)]
    assert sent(show_of(beneath, [flat("b", half, blend="multiply")]), 1.0, 1.0) == [255, 0, 0]
    assert sent(show_of(beneath, [flat("b", BLUE), flat("c", half, blend="multiply")]), 1.0, 1.0) == [0, 0, 128]
    assert sent(show_of(beneath, [flat("b", BLUE, opacity=0.5)]), 1.0, 1.0) == [128, 0, 128]
    assert sent(show_of(beneath, [flat("b", BLUE, blend="add")]), 1.0, 1.0) == [0, 0, 255]


@settings(max_examples=100, deadline=None)
@given(
    st.lists(st.tuples(st.tuples(*[st.integers(0, 255)] * 3), st.floats(0, 1), st.floats(0, 1)), min_size=1, max_size=5)
)
def test_any_looks_at_any_levels(looks: list[tuple[tuple[int, int, int], float, float]]) -> None:
    """Each a colour of an opacity, at a level: folded here one by one."""
    show = show_of(*([flat(f"a{n}", colour, opacity=opacity)] for n, (colour, opacity, _) in enumerate(looks)))
    wanted = [0.0, 0.0, 0.0]
    for colour, opacity, level in looks:
        cover = opacity * level
        wanted = [part * cover + below * (1 - cover) for part, below in zip(colour, wanted, strict=True)]
    found = sent(show, *(level for _, _, level in looks))
    assert all(abs(a - b) <= 0.51 for a, b in zip(found, wanted, strict=True)), (found, wanted)


@pytest.mark.parametrize("level", [0.3, 1.0])
def test_a_look_that_paints_elsewhere_leaves_the_lamp_alone(level: float) -> None:
    show = show_of([flat("a", RED)], [flat("b", BLUE, mute=True)])
    assert sent(show, 1.0, level) == [255, 0, 0]
