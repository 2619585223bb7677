"""Lines on a buffer of cells: blends worked out by hand, clips with clear parts, whole looks."""

from __future__ import annotations

from pathlib import Path
from typing import Any

import numpy as np
import pytest

from heliograph.core.look.any_line import BLENDS
from heliograph.core.playing.state import PlaybackState, advance
from heliograph.render.clips import HEADER, HEADER_SIZE, MAGIC, ClipFrames, frames_path
from heliograph.render.compiled import CompiledShow, compile_show
from heliograph.render.driving import Now
from heliograph.render.painting import Painter
from tests.engine.shows import compiled, grid, lamps, line, look

UNDER, TOP = (0.8, 0.4, 0.2), (0.4, 0.6, 0.0)

# With the top covering one half: (under + mixed) / 2, or under + top / 2 for add.
BY_HAND = {
    "over": (0.6, 0.5, 0.1),
    "add": (1.0, 0.7, 0.2),
    "multiply": (0.56, 0.32, 0.1),
    "lighten": (0.8, 0.5, 0.2),
    "darken": (0.6, 0.4, 0.1),
}


def painted(show: CompiledShow) -> np.ndarray[Any, Any]:
    pixels = np.zeros((3, show.rig.cell_count), dtype=np.float32)
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    Painter(pixels).look(show.looks["L"], state.runs[0], Now(0, 0.0))
    return pixels


def flat(key: str, colour: tuple[float, ...], **fields: Any) -> dict[str, Any]:
    return line(key, "Flat", ramp=[[0, *(round(255 * part) for part in colour)]], **fields)


@pytest.mark.parametrize("blend", BLENDS)
def test_blends(blend: str) -> None:
    assert set(BY_HAND) == set(BLENDS)
    show = compiled(lamps(2), grid(2, 1), look(flat("a", UNDER), flat("b", TOP, blend=blend, opacity=0.5)))
    assert painted(show)[:, 0] == pytest.approx(BY_HAND[blend], abs=2e-3)


@pytest.mark.parametrize(
    ("marks", "shown"),
    [
        (({}, {}), TOP),
        (({}, {"mute": True}), UNDER),
        (({"solo": True}, {}), UNDER),
        (({"solo": True}, {"solo": True}), TOP),
        (({"solo": True, "mute": True}, {}), TOP),  # a solo that is muted is none
        (({"mute": True}, {"mute": True}), (0, 0, 0)),
    ],
)
def test_mute_and_solo(marks: tuple[dict[str, bool], dict[str, bool]], shown: tuple[float, ...]) -> None:
    show = compiled(lamps(1), grid(1, 1), look(flat("a", UNDER, **marks[0]), flat("b", TOP, **marks[1])))
    assert painted(show)[:, 0] == pytest.approx(shown, abs=2e-3)


def test_several_matrices_over_the_same_cells() -> None:
    """The lower row painted by one matrix, all cells by another: both land on the cells."""
    one, other = grid(2, 2), {**grid(4, 1), "id": "N"}
    sections = {
        "rig": lamps(4),
        "matrix:M": one,
        "matrix:N": other,
        "outputs": {"outputs": []},
        "look:L": look(flat("a", UNDER), {**flat("b", TOP, blend="add"), "matrix": "N"}),
    }
    pixels = painted(compile_show(sections, Path("/nonexistent")))
    assert (pixels == pixels[:, :1]).all()
    assert pixels[:, 0] == pytest.approx([1.2, 1.0, 0.2], abs=4e-3)  # light upon light may pass 1 until the end


def frames_file(folder: Path, frames: list[Any], depth: int, width: int) -> None:
    array = np.array(frames, dtype=np.uint8).reshape(len(frames), -1, depth)
    times = (np.arange(len(frames)) * 1_000_000_000).astype("<i8")
    head = HEADER.pack(MAGIC, width, array.shape[1] // width, len(frames), len(frames), len(frames) * 10**9, depth)
    path = frames_path(folder, "c", width, array.shape[1] // width, "fit-0-none")
    path.write_bytes(head.ljust(HEADER_SIZE, b"\0") + times.tobytes() + bytes([1]) * len(frames) + array.tobytes())


def with_clip(folder: Path, **fields: Any) -> CompiledShow:
    clip = line("b", "", paints="clip", clip="c", fitting={"fit": "fit"}, loop_s=2.0, **fields)
    clip["speed"] = {"value": 1, "unit": "times"}
    sections = {
        "rig": lamps(2),
        "matrix:M": grid(2, 1),
        "outputs": {"outputs": []},
        "clip:c": {"id": "c", "content": "c", "suffix": ".png"},
        "look:L": look(flat("a", UNDER), clip),
    }
    return compile_show(sections, folder)


def test_clear_parts_of_a_clip_let_through_what_lies_beneath(tmp_path: Path) -> None:
    frames_file(tmp_path, [[[102, 153, 0, 255], [102, 153, 0, 0]], [[0] * 4] * 2], 4, 2)
    pixels = painted(with_clip(tmp_path))
    assert pixels[:, 0] == pytest.approx(TOP, abs=2e-3)
    assert pixels[:, 1] == pytest.approx(UNDER, abs=2e-3)
    half = painted(with_clip(tmp_path, opacity=0.5, blend="multiply"))
    assert half[:, 0] == pytest.approx(BY_HAND["multiply"], abs=2e-3)


def test_a_clip_whose_frames_are_not_there_yet_paints_nothing(tmp_path: Path) -> None:
    assert painted(with_clip(tmp_path))[:, 0] == pytest.approx(UNDER, abs=2e-3)
    show = with_clip(tmp_path)
    frames_file(tmp_path, [[[102, 153, 0, 255]] * 2] * 2, 4, 2)
    clip = show.looks["L"][1].clip
    assert isinstance(clip, ClipFrames)
    assert clip.try_open()  # as the engine does a few times a second
    assert painted(show)[:, 0] == pytest.approx(TOP, abs=2e-3)


@pytest.mark.parametrize("spoil", ["magic", "depth", "short"])
def test_a_damaged_frames_file_is_not_shown(tmp_path: Path, spoil: str) -> None:
    frames_file(tmp_path, [[[1, 2, 3]] * 2], 3, 2)
    [path] = tmp_path.iterdir()
    raw = bytearray(path.read_bytes())
    if spoil == "magic":
        raw[0] ^= 1
    elif spoil == "depth":
        raw[32] = 7
    path.write_bytes(raw[:-1] if spoil == "short" else raw)
    assert not ClipFrames.open(path).is_open


def test_a_video_recoloured_onto_two_colours_stays_within_them_in_every_frame(tmp_path: Path) -> None:
    """Each lamp of each frame lies on the straight way between the two colours, as far along as its frame is light."""
    dice = np.random.default_rng(11)
    frames = dice.integers(0, 256, (25, 2, 3))
    frames[0], frames[1] = 0, 255
    frames_file(tmp_path, list(frames), 3, 2)
    ends = np.array([[0, 20, 90], [255, 180, 60]]) / 255
    clip = line("b", "", paints="clip", clip="c", fitting={"fit": "fit"}, loop_s=25.0)
    clip["speed"] = {"value": 1, "unit": "times"}
    recolour = {"id": "r", "paints": "recolour", "matrix": "M", "opacity": 1.0, "blend": "over", "params": {}}
    recolour["ramp"] = [[0, 0, 20, 90], [1, 255, 180, 60]]
    sections = {
        "rig": lamps(2),
        "matrix:M": grid(2, 1),
        "outputs": {"outputs": []},
        "clip:c": {"id": "c", "content": "c", "suffix": ".png"},
        "look:L": look(clip, recolour),
    }
    show = compile_show(sections, tmp_path)
    state = advance(PlaybackState().started("L", 0), show.lines, 0)
    for number, frame in enumerate(frames):
        pixels = np.zeros((3, 2), dtype=np.float32)
        painter = Painter(pixels, np.zeros(2, dtype=np.float32))
        painter.look(show.looks["L"], state.runs[0], Now(number * 1_000_000_000 + 500_000_000, 0.0))
        light = frame / 255 @ [0.2126, 0.7152, 0.0722]
        wanted = ends[0] + light[:, None] * (ends[1] - ends[0])
        assert np.abs(pixels.T - wanted).max() < 2e-3
