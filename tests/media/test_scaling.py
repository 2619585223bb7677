"""How a frame comes to lie on a matrix, against Pillow's box filter computed here and orders written by hand."""

from __future__ import annotations

from pathlib import Path

import av
import numpy as np
import pytest
from PIL import Image

from heliograph.core.matrix.fitting import Fitting
from heliograph.media.planes import reduced
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
    # 60 x 90 on 2 : 1 is 60 x 30 from 30 down: 7.5 pixels a square, twice as large 15, which that filter weighs right.
    cut = chance(60, 90).crop((0, 30, 60, 60)).resize((120, 60), Image.Resampling.NEAREST)
    wanted = cut.resize((8, 4), Image.Resampling.BOX)
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


@pytest.mark.parametrize("form", ["yuv420p", "yuv422p", "yuv444p", "yuvj420p"])
@pytest.mark.parametrize(("width", "height"), [(72, 10), (9, 5), (40, 30), (1, 1)])
def test_a_large_frame_made_smaller_plane_by_plane_is_the_mean_of_its_areas(form: str, width: int, height: int) -> None:
    # Outside check: the whole frame made RGB by FFmpeg's scaler in planes, its areas weighed here in float64.
    blocks = np.random.default_rng(7).integers(0, 256, (6, 8, 3), dtype=np.uint8)
    image = Image.fromarray(blocks).resize((1280, 720), Image.Resampling.BICUBIC)
    frame = av.VideoFrame.from_ndarray(np.asarray(image), format="rgb24").reformat(format=form, dst_colorspace="ITU709")
    frame.colorspace = 1
    whole = frame.reformat(format="yuvj444p" if form.startswith("yuvj") else "yuv444p").reformat(format="gbrp")
    green, blue, red = (
        np.frombuffer(bytes(one), np.uint8).reshape(720, one.line_size)[:, :1280] for one in whole.planes
    )
    planes = np.stack([red, green, blue], axis=2).astype(np.float64)
    wanted = areas(areas(planes, height), width, axis=1)
    assert reduced(frame, width, height) is not None
    found = scale_to(picture_of(frame, False, (width, height)), width, height, Fitting("stretch"))
    apart = np.abs(found.astype(float) - wanted)
    assert apart.max() < 4
    assert apart.mean() < 1


def areas(planes: np.ndarray, count: int, axis: int = 0) -> np.ndarray:
    """Means of equal stretches along an axis, by a running sum that is read between its steps."""
    size = planes.shape[axis]
    sums = np.concatenate([np.zeros_like(planes.take([0], axis)), planes.cumsum(axis)], axis)
    edges = np.linspace(0, size, count + 1)
    low = np.minimum(edges.astype(int), size - 1)
    share = (edges - low).reshape([-1 if n == axis else 1 for n in range(planes.ndim)])
    there = sums.take(low, axis) * (1 - share) + sums.take(low + 1, axis) * share
    return np.diff(there, axis=axis) / (size / count)


def test_what_cannot_be_made_smaller_stays_as_it_is() -> None:
    def frame(width: int, height: int, form: str) -> av.VideoFrame:
        return av.VideoFrame(width, height, form)

    assert reduced(frame(1280, 720, "yuv420p"), 200, 100) is None  # four samples for each square would not be left
    assert reduced(frame(1281, 720, "yuv420p"), 10, 10) is None
    assert reduced(frame(1280, 720, "yuv420p10le"), 10, 10) is None
    small = reduced(frame(3840, 2160, "yuv422p"), 72, 10)
    assert small is not None
    assert (small.width, small.height) == (480, 270)
