"""How a frame comes to lie on a matrix, against Pillow's box filter computed here and orders written by hand."""

from __future__ import annotations

from pathlib import Path

import av
import numpy as np
import pytest
from PIL import Image

from heliograph.core.matrix.fitting import Fitting
from heliograph.media.probe import probe
from heliograph.media.scale import picture_of, scale_to


def chance(width: int, height: int) -> Image.Image:
    return Image.fromarray(np.random.default_rng(5).integers(0, 256, (height, width, 3), dtype=np.uint8))


def near(found: np.ndarray, wanted: np.ndarray) -> bool:
    return found.shape == wanted.shape and int(np.abs(found.astype(int) - wanted.astype(int)).max()) <= 1


def test_stretch_is_the_mean_of_the_area() -> None:
    """Against numpy's own mean over whole blocks, within rounding."""
    image = chance(90, 60)
    blocks = np.asarray(image).reshape(6, 10, 9, 10, 3).mean(axis=(1, 3))
    assert np.abs(scale_to(image, 9, 6, Fitting("stretch")).astype(float) - blocks).max() <= 1.0


def test_fill_cuts_what_is_over_in_the_middle() -> None:
    # 160 x 90 on a square: 90 x 90 from 35 on. Pillow's box filter (BOX) over that part.
    image = chance(160, 90)
    wanted = image.crop((35, 0, 125, 90)).resize((9, 9), Image.Resampling.BOX)
    assert near(scale_to(image, 9, 9, Fitting("fill")), np.asarray(wanted))
    # 60 x 90 on 2 : 1 is 60 x 30 from 30 down.
    wanted = chance(60, 90).crop((0, 30, 60, 60)).resize((8, 4), Image.Resampling.BOX)
    assert near(scale_to(chance(60, 90), 8, 4, Fitting("fill")), np.asarray(wanted))


def test_fit_shows_all_and_leaves_the_rest_clear() -> None:
    image = chance(160, 80)
    found = scale_to(image, 8, 8, Fitting("fit"))
    assert found.shape == (8, 8, 4)
    assert (found[2:6, :, 3] == 255).all()
    assert not found[:2, :, 3].any()
    assert not found[6:, :, 3].any()
    assert near(found[2:6, :, :3], np.asarray(image.resize((8, 4), Image.Resampling.BOX)))


CORNERS = [[(250, 0, 0), (0, 250, 0)], [(0, 0, 250), (250, 250, 250)]]
RED, GREEN, BLUE, WHITE = "red", "green", "blue", "white"
NAMES = {(250, 0, 0): RED, (0, 250, 0): GREEN, (0, 0, 250): BLUE, (250, 250, 250): WHITE}


@pytest.mark.parametrize(
    ("rotate", "mirror", "wanted"),
    [
        (0, "none", [[RED, GREEN], [BLUE, WHITE]]),
        (90, "none", [[BLUE, RED], [WHITE, GREEN]]),  # clockwise: the upper left comes to the upper right
        (180, "none", [[WHITE, BLUE], [GREEN, RED]]),
        (270, "none", [[GREEN, WHITE], [RED, BLUE]]),
        (0, "across", [[GREEN, RED], [WHITE, BLUE]]),
        (0, "down", [[BLUE, WHITE], [RED, GREEN]]),
        (90, "both", [[GREEN, WHITE], [RED, BLUE]]),
    ],
)
def test_turned_and_mirrored(rotate: int, mirror: str, wanted: list[list[str]]) -> None:
    image = Image.fromarray(np.array(CORNERS, dtype=np.uint8).repeat(8, axis=0).repeat(8, axis=1))
    found = scale_to(image, 2, 2, Fitting("stretch", rotate, mirror))  # type: ignore[arg-type]
    assert [[NAMES[tuple(pixel)] for pixel in row] for row in found.tolist()] == wanted


def test_a_turned_clip_fills_by_its_turned_shape() -> None:
    image = chance(160, 90)
    upright = image.transpose(Image.Transpose.ROTATE_270)  # a quarter clockwise
    assert near(scale_to(image, 9, 16, Fitting("fill", 90)), np.asarray(upright.resize((9, 16), Image.Resampling.BOX)))


def test_clear_parts_do_not_darken_their_neighbours() -> None:
    """The mean of a colour is taken over what is there: half red, half clear is red at half cover."""
    pixels = np.zeros((4, 4, 4), dtype=np.uint8)
    pixels[:, :2] = (240, 0, 0, 255)
    found = scale_to(Image.fromarray(pixels, "RGBA"), 1, 1, Fitting("stretch"))
    assert found[0, 0].tolist() == pytest.approx([240, 0, 0, 128], abs=1)


@pytest.mark.parametrize(("space", "told"), [("ITU709", 1), ("ITU601", 5)])
def test_the_colour_matrix_a_video_tells_is_obeyed(tmp_path: Path, space: str, told: int) -> None:
    path = tmp_path / "told.mp4"
    colour = (200, 60, 40)
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=25)
        stream.width, stream.height, stream.pix_fmt = 64, 64, "yuv420p"
        stream.codec_context.colorspace = told
        stream.options = {"crf": "1"}
        for index in range(3):
            flat = np.full((64, 64, 3), colour, dtype=np.uint8)
            frame = av.VideoFrame.from_ndarray(flat, format="rgb24").reformat(format="yuv420p", dst_colorspace=space)
            frame.colorspace, frame.pts = told, index
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    with av.open(str(path)) as container:
        found = np.asarray(picture_of(next(container.decode(video=0)), False).convert("RGB"))
    assert np.abs(found[32, 32].astype(int) - colour).max() <= 3


def test_frames_of_an_odd_width_are_read_row_by_row_and_stay_what_they_were(tmp_path: Path) -> None:
    """Rows of a decoder's frame are padded; a picture made of one must not change when the next is decoded."""
    source = [np.asarray(chance(9, 7)) // 2 + 60 * (n % 2) for n in range(6)]
    with av.open(str(tmp_path / "odd.mkv"), "w") as container:
        stream = container.add_stream("ffv1", rate=25)  # lossless
        stream.width, stream.height, stream.pix_fmt = 9, 7, "bgr0"
        for image in source:
            container.mux(stream.encode(av.VideoFrame.from_ndarray(image.astype(np.uint8), format="rgb24")))
        container.mux(stream.encode())
    with av.open(str(tmp_path / "odd.mkv")) as container:
        found = [picture_of(frame, False) for frame in container.decode(video=0)]
    assert len(found) == 6
    for made, wanted in zip(found, source, strict=True):
        assert near(np.asarray(made.convert("RGB")), wanted)
        assert near(scale_to(made, 9, 7, Fitting("stretch")), wanted)
    whole = scale_to(found[0], 9, 9, Fitting("fit"))
    assert (whole[1:8, :, 3] == 255).all()  # the unused fourth byte of a frame is no cover
    assert not whole[0, :, 3].any()


def test_pictures_and_animations_are_probed(tmp_path: Path) -> None:
    still = tmp_path / "still.jpg"
    chance(40, 30).save(still)
    facts = probe(still, "still.jpg")
    assert (facts.kind, facts.width, facts.height, len(facts.times), facts.rate) == ("picture", 40, 30, 1, 0.0)
    moving = tmp_path / "moving.webp"
    frames = [
        Image.new("RGBA", (16, 16), (0, 0, 0, 0)),
        *(Image.new("RGBA", (16, 16), (9 * n, 0, 0, 255)) for n in (1, 2)),
    ]
    frames[0].save(moving, save_all=True, append_images=frames[1:], duration=[40, 200, 60], lossless=True)
    facts = probe(moving, "moving.webp")
    assert (facts.kind, facts.clear) == ("animation", True)
    assert [round(t / 1e6) for t in facts.times.tolist()] == [0, 40, 240]
    assert facts.duration_ns == 300_000_000
    gif = tmp_path / "moving.gif"
    colours = [Image.new("RGB", (16, 16), (200, 20 * n, 0)) for n in range(3)]
    colours[0].save(gif, save_all=True, append_images=colours[1:], duration=[50, 100, 50])
    facts = probe(gif, "moving.gif")
    assert (facts.kind, len(facts.times)) == ("animation", 3)
    assert [round(t / 1e6) for t in facts.times.tolist()] == [0, 50, 150]
