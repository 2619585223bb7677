"""Lines over one emitter: what reaches it and the others, against arithmetic done here."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from heliograph.core.errors import InputError
from heliograph.core.look.line import line_from_json
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.preview.why import why
from heliograph.render.compiled import CompiledShow
from heliograph.render.renderer import Renderer
from tests.engine.shows import RGB, compiled, grid, lamps, line, look, output

AMBER, WHITE = {"attribute": "ColorAdd_RY"}, {"attribute": "ColorAdd_W"}
UV = {"attribute": "ColorAdd_UV", "home": 7}
SIX = [*RGB, AMBER, WHITE, UV]
GREY = (102, 102, 102)
"""0.4 of each, so 0.4 of its light."""


def flat(key: str, colour: tuple[int, ...], **fields: Any) -> dict[str, Any]:
    return line(key, "Flat", ramp=[[0, *colour]], **fields)


def looks(*stacks: tuple[dict[str, Any], ...], channels: Any = None, extra: str = "replace") -> CompiledShow:
    """One lamp and one look L0, L1 ... for each stack of lines."""
    rig = lamps(1, channels=channels or SIX)
    rig["fixtures"][0]["extra"] = extra
    made = [{"id": f"L{n}", "name": f"L{n}", "lines": list(stack)} for n, stack in enumerate(stacks)]
    return compiled(rig, grid(1, 1), *made, outputs=[output()])


def sent(show: CompiledShow, *levels: float, **state: Any) -> list[int]:
    """Six channels, with looks L0, L1 ... at these levels."""
    playing = PlaybackState(**state)
    for n, level in enumerate(levels or (1.0,)):
        playing = playing.started(f"L{n}", 0).levelled(f"L{n}", level)
    playing = advance(playing, show.lines, 0)
    frame = Renderer().render(show, playing, 0)
    chains = [why(show, Renderer().stages(show), playing, 0, n, {}) for n in range(6)]
    assert [chain.value for chain in chains] == frame[0, :6].tolist()
    return [int(value) for value in frame[0, :6]]


def test_it_writes_its_brightness_to_that_emitter_and_nothing_else() -> None:
    colour = flat("a", (204, 91, 18))
    plain = sent(looks((colour,)))
    for word, channel in (("red", 0), ("green", 1), ("blue", 2), ("amber", 3), ("white", 4), ("UV", 5)):
        found = sent(looks((colour, flat("b", GREY, emitter=word))))
        assert found[channel] == 102
        assert [v for n, v in enumerate(found) if n != channel] == [v for n, v in enumerate(plain) if n != channel]
    assert sent(looks((flat("b", (0, 255, 0), emitter="amber"),)))[3] == round(255 * 0.7152)


def test_what_it_covers_in_part_mixes_with_what_the_colour_makes() -> None:
    colour = flat("a", (200, 100, 50))  # white takes 50 of it
    half = sent(
        looks((colour, flat("b", (255, 255, 255), emitter="white", opacity=0.5)), channels=[*RGB, WHITE, AMBER, UV])
    )
    assert half[3] == pytest.approx(0.5 * 255 + 0.5 * 50, abs=1)
    nothing = sent(looks((colour, flat("b", (0, 0, 0), emitter="white")), channels=[*RGB, WHITE, AMBER, UV]))
    assert nothing[3] == 0
    assert sent(looks((flat("b", GREY, emitter="UV", opacity=0.5),)))[5] == pytest.approx(0.5 * 102 + 0.5 * 7, abs=1)


def test_blends_of_lines_over_one_emitter_act_among_them() -> None:
    low, high = flat("a", GREY, emitter="amber"), (204, 204, 204)
    for blend, wanted in (("add", 255), ("lighten", 204), ("darken", 102), ("multiply", 82), ("over", 204)):
        assert sent(looks((low, flat("b", high, emitter="amber", blend=blend))))[3] == pytest.approx(wanted, abs=1), (
            blend
        )


@pytest.mark.parametrize("extra", ["replace", "add", "leave"])
def test_a_mix_of_looks_is_the_mix_of_what_each_sends_alone(extra: str) -> None:
    """Over black and over one another: every emitter, at every weight."""
    amber = (flat("a", (90, 60, 0)), flat("b", (255, 255, 255), emitter="amber", opacity=0.8))
    plain = (flat("c", (200, 160, 20)),)
    bare = (flat("d", GREY, emitter="white"),)
    for first, second in ((amber, plain), (plain, amber), (amber, amber[:1]), (plain, plain)):
        show = looks(first, second, extra=extra)
        alone = [np.array(sent(looks(one, extra=extra)), float) for one in (first, second)]
        alone = [one - [0, 0, 0, 0, 0, 7] for one in alone]  # UV stands at home in both
        for level in (0.0, 0.25, 0.5, 0.75, 1.0):
            found = np.array(sent(show, 1.0, level)) - [0, 0, 0, 0, 0, 7]
            mixed = alone[0] * (1 - level) + alone[1] * level
            assert np.abs(found - mixed).max() <= 2, (first, second, level)
    dimmed = sent(looks(amber, extra=extra), 0.5)
    assert np.abs(np.array(dimmed[:5]) - np.array(sent(looks(amber, extra=extra))[:5]) / 2).max() <= 1
    over = sent(looks(plain, bare, extra=extra), 1.0, 1.0)  # what covers one emitter only leaves the others
    assert over[4] == 102
    assert over[:4] == sent(looks(plain, extra=extra))[:4]


def test_masters_dim_it_and_a_blackout_ends_it() -> None:
    show = looks((flat("b", GREY, emitter="amber"), flat("u", GREY, emitter="UV")))
    assert sent(show, master=0.5)[3:] == [51, 0, 51]
    assert sent(show, blackout=True) == [0, 0, 0, 0, 0, 0]


def test_a_lamp_without_the_emitter_takes_nothing_of_it() -> None:
    show = looks((flat("a", (204, 91, 18)), flat("b", GREY, emitter="amber")), channels=RGB)
    assert sent(show)[:3] == [204, 91, 18]
    assert sent(looks((flat("a", GREY, emitter="red"),), channels=RGB))[:3] == [102, 0, 0]


def test_an_effect_moves_it_and_masks_keep_it_in() -> None:
    rig = lamps(4, channels=SIX)
    lines = (line("a", "Grade", ramp=[[0, 0, 0, 0], [1, 255, 255, 255]], emitter="amber"),)
    region = {"squares": [[0, 0, 2, 1]]}
    for given in (lines, ({**lines[0], "region": region},)):
        show = compiled(rig, grid(4, 1), look(*given), outputs=[output()])
        state = advance(PlaybackState().started("L", 0), show.lines, 0)
        ambers = Renderer().render(show, state, 0)[0, 3:24:6].astype(int)
        plain = compiled(rig, grid(4, 1), look({**given[0], "emitter": ""}), outputs=[output()])
        brightness = Renderer().paint(plain, advance(PlaybackState().started("L", 0), plain.lines, 0), 0).pixels[0]
        assert np.abs(ambers - brightness * 255).max() <= 1
        assert ambers.max() > 60


def test_it_has_one_of_our_emitters_and_no_component() -> None:
    for fields, says in (({"emitter": "mauve"}, "mauve"), ({"emitter": "amber", "only": "hue"}, "no hue")):
        with pytest.raises(InputError, match=says):
            line_from_json(flat("a", GREY, **fields))
    with pytest.raises(InputError, match="recolours"):
        line_from_json({**flat("a", GREY, emitter="amber"), "paints": "recolour"})
