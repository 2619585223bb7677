"""Lines painted through others, kept to a part, writing one component, recolouring: against arithmetic done here."""

from __future__ import annotations

import colorsys
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.look.recolour import OWN
from heliograph.core.playing.state import HeldLine, PlaybackState, advance
from heliograph.preview.why import why
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.renderer import Renderer
from tests.engine.shows import compiled, grid, lamps, line, look, output

SIZE = (6, 4)
RED, WHITE, GREY = (255, 0, 0), (255, 255, 255), (51, 102, 204)


def flat(key: str, colour: tuple[int, ...], **fields: Any) -> dict[str, Any]:
    return line(key, "Flat", ramp=[[0, *colour]], **fields)


def grade(key: str, *ends: tuple[int, ...], **fields: Any) -> dict[str, Any]:
    """A ramp across the columns."""
    return line(key, "Grade", ramp=[[0, *ends[0]], [1, *ends[1]]], **fields)


def wall(*lines: dict[str, Any]) -> CompiledShow:
    return compiled(lamps(24), grid(*SIZE), look(*lines), outputs=[output()])


def sent(show: CompiledShow, held: dict[str, HeldLine] | None = None, time_ns: int = 0, level: float = 1.0) -> Any:
    """(4, 6, 3) what each lamp gets."""
    state = PlaybackState(held=held or {}).started("L", 0).levelled("L", level)
    state = advance(state, show.lines, 0)
    return Renderer().render(show, state, time_ns)[0, :72].reshape(4, 6, 3).astype(int)


def light(rgb: Any) -> Any:
    return (np.asarray(rgb) / 255) @ [0.2126, 0.7152, 0.0722]


def test_a_line_is_painted_through_the_light_or_the_cover_of_another() -> None:
    below, mask = flat("a", (0, 0, 100)), grade("m", (0, 0, 0), (200, 100, 50), stencil=True)
    alone = sent(wall({**mask, "stencil": False}))
    for by, inverse in (("light", False), ("light", True), ("cover", False), ("cover", True)):
        through = {"line": "m", "by": by, "inverse": inverse}
        top = flat("b", (255, 200, 0), through=through, opacity=0.8)
        lets = light(alone) if by == "light" else np.ones((4, 6))
        share = (1 - lets if inverse else lets)[..., None] * 0.8
        wanted = np.array((0, 0, 100)) * (1 - share) + np.array((255, 200, 0)) * share
        for lines in ((below, mask, top), (below, top, mask)):  # a stencil paints nothing, wherever it stands
            assert np.abs(sent(wall(*lines)) - wanted).max() <= 1


def test_a_muted_mask_lets_all_through_and_one_that_paints_is_seen_too() -> None:
    mask, top = flat("m", RED), flat("b", (0, 90, 0), through={"line": "m", "by": "light"}, blend="add")
    assert (sent(wall({**mask, "mute": True}, top)) == (0, 90, 0)).all()
    assert np.abs(sent(wall(mask, top)) - (255, 90 * 0.2126, 0)).max() <= 1
    assert (sent(wall({**mask, "stencil": True, "solo": True}, top)) == (0, 19, 0)).all()  # its solo hides nobody


def test_a_mask_on_another_matrix_is_laid_on_this_one() -> None:
    rig = lamps(24)
    small = {**grid(2, 1), "id": "N", "name": "N"}
    top = flat("b", WHITE, through={"line": "m", "by": "cover"})
    mask = line("m", "Flat", matrix="N", region={"squares": [[0, 0, 3, 4]]}, stencil=True)
    sections = {"matrix:N": small}
    sections |= {"rig": rig, "matrix:M": grid(*SIZE), "look:L": look(mask, top), "outputs": {"outputs": [output()]}}
    shown = sent(compile_show(sections, Path("/nonexistent")))
    assert (shown[:, :3] == 255).all()
    assert (shown[:, 3:] == 0).all()


def test_a_region_keeps_a_line_to_its_squares() -> None:
    region = {"squares": [[0, 0, 2, 1], [4, 2, 2, 2]]}
    inside = np.zeros((4, 6), dtype=bool)
    inside[0, :2] = inside[2:, 4:] = True
    for outside in (False, True):
        shown = sent(wall(flat("a", RED), flat("b", WHITE, region={**region, "outside": outside})))
        assert (shown == np.where((inside ^ outside)[..., None], WHITE, RED)).all()


def test_a_mask_held_by_hand_masks_as_it_is_held() -> None:
    mask, top = flat("m", WHITE, stencil=True), flat("b", RED, through={"line": "m", "by": "light"})
    held = {"m": HeldLine({"opacity": 0.5}, {"opacity": "P"})}
    assert np.abs(sent(wall(mask, top), held) - (127.5, 0, 0)).max() <= 1


@pytest.mark.parametrize("only", ["hue", "saturation", "light"])
@pytest.mark.parametrize("level", [1.0, 0.5])
def test_a_line_writes_one_component(only: str, level: float) -> None:
    show = wall(flat("a", GREY), flat("b", (40, 160, 80), only=only, opacity=0.5))
    under, over = (colorsys.rgb_to_hsv(*(one / 255 for one in rgb)) for rgb in (GREY, (40, 160, 80)))
    parts = ["hue", "saturation", "light"]
    made = colorsys.hsv_to_rgb(*(over[n] if name == only else under[n] for n, name in enumerate(parts)))
    wanted = (np.array(made) * 255 + GREY) / 2 * level
    assert np.abs(sent(show, level=level) - wanted).max() <= 1


def test_light_and_hue_of_two_pictures_make_one() -> None:
    hues, lights = grade("h", (255, 0, 0), (0, 0, 255)), grade("l", (0, 0, 0), (200, 200, 200), only="light")
    shown = sent(wall(hues, lights))
    wanted = sent(wall(grade("l", (0, 0, 0), (200, 200, 200)))).max(axis=2)
    assert np.abs(shown.max(axis=2) - wanted).max() <= 1
    assert shown[0, 1, 2] < shown[0, 1, 0]
    assert shown[0, 5, 2] > shown[0, 5, 0]


def recolour(**params: Any) -> dict[str, Any]:
    ramp = [[0, 0, 20, 90], [1, 255, 180, 60]]
    return {
        **{name: value for name, value in line("r", "", ramp=ramp).items() if name not in ("effect", "speed")},
        "paints": "recolour",
        "params": params,
    }


def test_light_is_taken_for_a_place_on_the_ramp() -> None:
    beneath = grade("a", (10, 10, 30), (250, 240, 200))
    place = light(sent(wall(beneath)))[..., None]
    wanted = np.array((0, 20, 90)) + place * (np.array((255, 180, 60)) - (0, 20, 90))
    assert np.abs(sent(wall(beneath, recolour())) - wanted).max() <= 1.5
    half = np.clip((sent(wall(beneath)) / 255 - 0.25) / 0.5, 0, 1) * 255
    place = light(half)[..., None]
    wanted = np.array((0, 20, 90)) + place * (np.array((255, 180, 60)) - (0, 20, 90))
    assert np.abs(sent(wall(beneath, recolour(black=25, white=75))) - wanted).max() <= 2


def test_hues_are_turned_and_what_is_clear_stays_clear() -> None:
    beneath = flat("a", GREY, region={"squares": [[0, 0, 3, 4]]})
    h, s, v = colorsys.rgb_to_hsv(*(one / 255 for one in GREY))
    made = np.array(colorsys.hsv_to_rgb((h + 0.25) % 1, s * 0.5, v)) * 255
    shown = sent(wall(beneath, recolour(onto=OWN, turn=90, saturation=50)))
    assert np.abs(shown[:, :3] - made).max() <= 1
    assert (shown[:, 3:] == 0).all()
    shown = sent(wall(beneath, recolour()))
    assert (shown[:, 3:] == 0).all()  # its dark end is blue: only what is covered becomes that
    half = sent(wall({**beneath, "opacity": 0.5}, recolour()))
    assert np.abs(half[:, :3] * 2 - shown[:, :3]).max() <= 2  # half covered, and recoloured as a whole


def test_why_comes_to_the_byte_that_is_sent() -> None:
    mask = grade("m", (0, 0, 0), (255, 255, 255), stencil=True)
    show = wall(
        grade("a", (255, 120, 0), (0, 60, 255)),
        mask,
        flat("b", (40, 160, 80), only="hue", through={"line": "m", "by": "light"}, opacity=0.7),
        {**recolour(turn=40), "through": {"line": "m", "by": "cover"}, "opacity": 0.6},
    )
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    renderer = Renderer()
    stages = renderer.stages(show)
    frame = renderer.render(show, state, 0)
    for at in range(72):
        chain = why(show, stages, state, 0, at, {"L": "Quay"})
        assert chain.value == frame[0, at]
    said = " ".join(step.says for step in chain.steps)
    for words in ("line 2 is a stencil", "only its hue", "through line 2"):
        assert words in said
    assert "recolours 60 % of what lies beneath" in said
