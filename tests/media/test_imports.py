"""What is made of an upload once: thumbnails, pictures scaled to what is kept, proxies of large videos."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from uuid import uuid4

import av
import numpy as np
import pytest
from PIL import Image

from heliograph.media.decode import decode_to
from heliograph.media.imports import needs_proxy, scaled_on_import, write_proxy, write_thumbnail
from heliograph.media.probe import probe
from tests.browser.clips import write_clip
from tests.conftest import RunningApp, wait_for


def test_a_picture_of_9000_by_9000_is_kept_at_4096_with_a_sentence(tmp_path: Path) -> None:
    path = tmp_path / "wall.png"
    Image.new("RGB", (9000, 9000), (200, 60, 40)).save(path, compress_level=1)
    facts, said = scaled_on_import(path, probe(path, "wall.png"), "wall.png")
    assert said == "'wall.png' is 9000 x 9000: it is kept at 4096 x 4096."
    assert (facts.width, facts.height) == (4096, 4096)
    with Image.open(path) as kept:
        assert kept.size == (4096, 4096)
        assert kept.getpixel((2000, 2000)) == (200, 60, 40)


def test_smaller_pictures_are_kept_as_they_are(tmp_path: Path) -> None:
    path = tmp_path / "small.jpg"
    Image.new("RGB", (640, 480)).save(path)
    before = path.read_bytes()
    assert scaled_on_import(path, probe(path, "small.jpg"), "small.jpg")[1] == ""
    assert path.read_bytes() == before


def test_a_thumbnail_is_a_frame_a_third_into_the_clip(tmp_path: Path) -> None:
    source = tmp_path / "n.mp4"
    write_clip(source, [[[(0, 0, 240 if 8 <= n < 16 else 0)]] for n in range(30)])
    write_thumbnail(source, tmp_path / "n.png", probe(source, "n.mp4"))
    with Image.open(tmp_path / "n.png") as small:
        assert small.convert("RGB").getpixel((10, 10))[2] > 200  # type: ignore[index]


def large(path: Path, frames: int) -> Path:
    """2560 x 1440, frame n a grey of 20 n beside its complement, at 29.97 a second."""
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=Fraction(30000, 1001))
        stream.width, stream.height, stream.pix_fmt = 2560, 1440, "yuv420p"
        stream.options = {"crf": "4", "preset": "ultrafast"}
        for n in range(frames):
            image = np.full((1440, 2560, 3), 20 * n, dtype=np.uint8)
            image[:, 1280:] = 255 - 20 * n
            container.mux(stream.encode(av.VideoFrame.from_ndarray(image, format="rgb24")))
        container.mux(stream.encode())
    return path


def test_a_proxy_shows_the_same_frames_at_the_same_times(tmp_path: Path) -> None:
    source = large(tmp_path / "large.mp4", 12)
    facts = probe(source, "large.mp4")
    assert needs_proxy(facts)
    told: list[float] = []
    assert write_proxy(source, tmp_path / "proxy.mp4", facts, lambda: True, told.append)
    assert told[-1] == 1.0
    assert max(probe(tmp_path / "proxy.mp4", "proxy.mp4").times - facts.times) < 20_000
    pictures = []
    for name, path in (("a", source), ("b", tmp_path / "proxy.mp4")):
        decode_to(path, tmp_path / f"{name}.frames", 4, 2, lambda: True, facts=facts)
        pictures.append(np.frombuffer((tmp_path / f"{name}.frames").read_bytes()[-12 * 4 * 2 * 3 :], np.uint8))
    assert np.abs(pictures[0].astype(int) - pictures[1].astype(int)).max() <= 3


def test_a_proxy_that_is_stopped_leaves_nothing(tmp_path: Path) -> None:
    source = large(tmp_path / "large.mp4", 4)
    turns = iter([True, True, False, False, False, False])
    assert not write_proxy(
        source, tmp_path / "p.mp4", probe(source, "large.mp4"), lambda: next(turns), lambda _part: None
    )
    assert sorted(path.name for path in tmp_path.iterdir()) == ["large.mp4"]


def test_a_large_clip_is_shown_at_once_and_proxied_in_the_background(
    app: RunningApp, show: str, tmp_path: Path
) -> None:
    api = app.api()
    matrix, clip = str(uuid4()), str(uuid4())
    api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 4, "height": 2})
    api.upload("/api/clips", clip, "large.mp4", large(tmp_path / "large.mp4", 8))
    lines = [{"id": str(uuid4()), "paints": "clip", "clip": clip, "matrix": matrix}]
    api.call("POST", "/api/looks", {"id": str(uuid4()), "name": "Gale", "lines": lines})
    [listed] = api.call("GET", "/api/show")["clips"]
    assert listed["rate"] == pytest.approx(29.97, abs=0.01)
    assert (listed["width"], listed["height"], listed["kind"]) == (2560, 1440, "video")
    proxy = app.data / "media" / "proxies" / f"{listed['content']}.mp4"
    wait_for(proxy.exists, 30, "no proxy was made")
    clips = api.call("GET", "/api/status")["media"]["clips"]
    assert [one["ready"] for one in clips if one["content"] == listed["content"]] == [1.0]


def test_a_clip_too_large_for_its_matrix_says_so_at_the_clip(app: RunningApp, show: str, tmp_path: Path) -> None:
    """6,000 frames at 500 x 500 squares would take 4.2 GiB: a sentence, and the running look is undisturbed."""
    api = app.api()
    matrix, clip = str(uuid4()), str(uuid4())
    long = tmp_path / "long.mp4"
    write_clip(long, [[[(n % 200, 0, 0)]] for n in range(6_000)], 60)
    api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 500, "height": 500})
    api.upload("/api/clips", clip, "long.mp4", long)
    lines = [{"id": str(uuid4()), "paints": "clip", "clip": clip, "matrix": matrix}]
    api.call("POST", "/api/looks", {"id": str(uuid4()), "name": "Gale", "lines": lines})

    def told() -> str:
        clips = api.call("GET", "/api/status")["media"]["clips"]
        return next((str(one["fault"]) for one in clips if one["fault"]), "")

    assert "Its 6000 frames at 500 x 500 grow to 4.2 GiB: 4 GiB are the most." in wait_for(told, 20)
