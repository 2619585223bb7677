"""Every frame of a clip: recoloured onto two colours it stays within them; one clip gives its light to one line and its
hue to another. Worked out here with `colorsys` and the Rec. 709 weights."""

from __future__ import annotations

import colorsys
from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.driving import Now
from heliograph.render.painting import Painter
from tests.engine.shows import grid, lamps, line, look
from tests.engine.test_painting import flat, frames_file

FRAMES, WIDTH, HEIGHT = 60, 6, 3
LOW, HIGH = (240, 40, 20), (20, 60, 200)
NS = 1_000_000_000


def show_of(folder: Path, *lines: dict[str, Any]) -> tuple[CompiledShow, np.ndarray]:
    video = np.random.default_rng(11).integers(0, 256, (FRAMES, WIDTH * HEIGHT, 3), dtype=np.uint8)
    video[7], video[8], video[9] = 0, 255, 128  # dark, full, grey
    frames_file(folder, list(video), 3, WIDTH)
    sections = {
        "rig": lamps(WIDTH * HEIGHT),
        "matrix:M": grid(WIDTH, HEIGHT),
        "outputs": {"outputs": []},
        "clip:c": {"id": "c", "content": "c", "suffix": ".mp4"},
        "look:L": look(*lines),
    }
    return compile_show(sections, folder), video


def clip(key: str, **fields: Any) -> dict[str, Any]:
    one = line(key, "", paints="clip", clip="c", fitting={"fit": "fit"}, loop_s=float(FRAMES), **fields)
    return {**one, "speed": {"value": 1, "unit": "times"}}


def frame(show: CompiledShow, number: int) -> np.ndarray:
    """(cells, 3) as painted while a frame is shown; each lasts a second."""
    pixels = np.zeros((3, show.rig.cell_count), dtype=np.float32)
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    Painter(pixels).look(show.looks["L"], state.runs[0], Now(number * NS + NS // 2, 0.0))
    return pixels.T


def test_a_video_recoloured_onto_two_colours_keeps_every_frame_within_them(tmp_path: Path) -> None:
    onto = line("r", "", paints="recolour", ramp=[[0, *LOW], [1, *HIGH]], params={"onto": "ramp"})
    show, video = show_of(tmp_path, clip("b"), onto)
    low, high = np.array(LOW) / 255, np.array(HIGH) / 255
    for number in range(FRAMES):
        found = frame(show, number)
        place = (video[number] / 255 @ np.array([0.2126, 0.7152, 0.0722]))[:, None]
        assert found == pytest.approx(low + (high - low) * place, abs=1 / 255)
        assert (found >= np.minimum(low, high) - 1e-3).all()
        assert (found <= np.maximum(low, high) + 1e-3).all()


def test_one_clip_gives_its_light_to_one_line_and_its_hue_to_another(tmp_path: Path) -> None:
    show, video = show_of(tmp_path, flat("a", (0.8, 0.4, 0.2)), clip("b", only="light"), clip("c", only="hue"))
    _, base_saturation, _ = colorsys.rgb_to_hsv(0.8, 0.4, 0.2)
    base_hue = colorsys.rgb_to_hsv(0.8, 0.4, 0.2)[0]
    for number in range(FRAMES):
        for found, of_clip in zip(frame(show, number), video[number] / 255, strict=True):
            hue, saturation, light = colorsys.rgb_to_hsv(*of_clip)
            wanted = colorsys.hsv_to_rgb(hue if saturation else base_hue, base_saturation, light)
            assert found == pytest.approx(wanted, abs=1.5 / 255), (number, of_clip)


@pytest.mark.parametrize(("width", "height"), [(20, 2), (3, 1), (6, 3), (18, 1)])
def test_a_clip_that_is_a_mask_lies_over_the_whole_of_another_matrix(tmp_path: Path, width: int, height: int) -> None:
    columns = np.repeat(np.arange(6)[None, :] * 51, 3, axis=0).reshape(-1)  # darker to the left, 6 x 3
    frames_file(tmp_path, [np.repeat(columns[:, None], 3, axis=1)] * 2, 3, WIDTH)
    sections = {
        "rig": lamps(40),
        "matrix:M": grid(WIDTH, HEIGHT),
        "matrix:N": {**grid(width, height), "id": "N"},
        "outputs": {"outputs": []},
        "clip:c": {"id": "c", "content": "c", "suffix": ".mp4"},
        "look:L": look(
            {**clip("b"), "stencil": True},
            {**flat("a", (1, 1, 1)), "matrix": "N", "through": {"line": "b", "by": "light"}},
        ),
    }
    found = frame(compile_show(sections, tmp_path), 0)[: width * height, 0]
    wanted = [int((x + 0.5) * 6 / width) / 5 for _ in range(height) for x in range(width)]
    assert found == pytest.approx(wanted, abs=2e-3)
