"""Videos with clear parts: VP8 and VP9 keep them beside the picture, ProRes 4444 in it."""

from __future__ import annotations

from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest

from heliograph.media.decode import decode_to
from heliograph.media.probe import probe
from heliograph.render.clips import ClipFrames


def half_clear(path: Path, codec: str, form: str, told: bool = True) -> Path:
    """The left half covers whole, the right half more from frame to frame: 20 of 255 each."""
    with av.open(str(path), "w") as container:
        stream: Any = container.add_stream(codec, rate=Fraction(25))
        stream.width, stream.height, stream.pix_fmt = 64, 32, form
        if codec.startswith("libvpx"):
            stream.options = {"auto-alt-ref": "0", "crf": "4", "b": "4M"}
            if told:
                stream.metadata["alpha_mode"] = "1"
        for n in range(8):
            image = np.full((32, 64, 4), 255, dtype=np.uint8)
            image[..., :3] = (200, 40, 90)
            image[:, 32:, 3] = 20 * n
            frame = av.VideoFrame.from_ndarray(image, format="rgba").reformat(format=form)
            frame.pts, frame.time_base = n, Fraction(1, 25)
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    return path


@pytest.mark.parametrize(
    ("name", "codec", "form"),
    [
        ("a.webm", "libvpx-vp9", "yuva420p"),
        ("b.webm", "libvpx", "yuva420p"),
        ("c.mov", "prores_ks", "yuva444p10le"),
    ],
)
def test_its_cover_is_used(tmp_path: Path, name: str, codec: str, form: str) -> None:
    source = half_clear(tmp_path / name, codec, form)
    facts = probe(source, name)
    assert facts.clear
    decode_to(source, tmp_path / "f.frames", 2, 1, lambda: True)
    clip = ClipFrames.open(tmp_path / "f.frames")
    for n in range(8):
        frame = clip.frame_at(n * 40_000_000 + 5)
        assert frame is not None
        assert frame.shape == (2, 4)
        assert frame[0].astype(int) == pytest.approx([200, 40, 90, 255], abs=6)
        assert int(frame[1, 3]) == pytest.approx(20 * n, abs=3)


def test_a_video_without_it_has_none(tmp_path: Path) -> None:
    path = tmp_path / "plain.webm"
    with av.open(str(path), "w") as container:
        stream: Any = container.add_stream("libvpx-vp9", rate=Fraction(25))
        stream.width = stream.height = 32
        stream.pix_fmt = "yuv420p"
        image = np.full((32, 32, 3), 90, dtype=np.uint8)
        container.mux(stream.encode(av.VideoFrame.from_ndarray(image, format="rgb24")))
        container.mux(stream.encode())
    assert not probe(path, "plain.webm").clear
