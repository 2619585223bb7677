"""Clips: what is taken, what is refused, and that the right frame is decoded to the right bytes."""

from __future__ import annotations

import struct
import zlib
from collections.abc import Callable
from fractions import Fraction
from pathlib import Path
from typing import Any
from uuid import uuid4

import av
import numpy as np
import pytest
from PIL import Image

from heliograph.core.errors import HeliographError, InputError
from heliograph.media.decode import decode_to, is_finished
from heliograph.media.probe import probe
from heliograph.render.clips import READY_AT, ClipFrames
from tests.browser.clips import write_clip
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import frame as frame_of
from tests.live.scenes import light_wall, wall_hang

MS = 1_000_000


def numbered(path: Path, count: int, rate: int = 25) -> Path:
    """Frame n is grey of 8 n, so that a decoded frame tells its number."""
    write_clip(path, [[[(8 * n, 8 * n, 8 * n)] * 2] * 2 for n in range(count)], rate)
    return path


def always() -> bool:
    return True


@pytest.mark.parametrize("rate", [24, 25, 30, 60])
def test_the_right_frame_at_the_right_time_and_the_loop_has_no_seam(tmp_path: Path, rate: int) -> None:
    source = numbered(tmp_path / "n.mp4", 12, rate)
    decode_to(source, tmp_path / "n.frames", 3, 2, always)
    clip = ClipFrames.open(tmp_path / "n.frames")
    assert clip.duration_ns == pytest.approx(12 * 1e9 / rate, rel=1e-3)
    for step in range(30):  # two and a half rounds
        frame = clip.frame_at(round((step + 0.5) * 1e9 / rate))
        assert frame is not None
        assert frame.shape == (6, 3)
        assert round(float(frame.mean()) / 8) == step % 12


def test_variable_frame_rate_keeps_its_times(tmp_path: Path) -> None:
    path = tmp_path / "vfr.mp4"
    times = [0, 40, 200, 240, 700]
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=Fraction(1000))
        stream.width = stream.height = 32
        stream.pix_fmt, stream.time_base = "yuv420p", Fraction(1, 1000)
        stream.options = {"bf": "0"}
        for at in times:
            frame = av.VideoFrame.from_ndarray(np.full((32, 32, 3), at // 4, dtype=np.uint8), format="rgb24")
            frame.pts, frame.time_base = at, Fraction(1, 1000)
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    facts = probe(path, "vfr.mp4")
    assert [round(t / MS) for t in facts.times.tolist()] == times
    decode_to(path, tmp_path / "v.frames", 1, 1, always)
    clip = ClipFrames.open(tmp_path / "v.frames")
    for asked, shown in ((10, 0), (199, 40), (201, 200), (650, 240)):
        found = clip.frame_at(asked * MS)
        assert found is not None
        assert abs(int(found[0, 0]) - shown // 4) <= 3


def test_an_unfinished_file_is_filled_in_place_while_it_is_shown(tmp_path: Path) -> None:
    source = numbered(tmp_path / "n.mp4", 12)
    target = tmp_path / "n.frames"
    turns = iter([True] * 6 + [False] * 100)  # once before the first frame
    decode_to(source, target, 2, 2, lambda: next(turns))
    assert not is_finished(target)
    clip = ClipFrames.open(target)  # the engine has it mapped
    inode = target.stat().st_ino
    held = clip.frame_at(11 * 40 * MS)
    assert held is not None
    assert round(float(held.mean()) / 8) == 4  # the last one there is
    decode_to(source, target, 2, 2, always)
    assert target.stat().st_ino == inode
    assert is_finished(target)
    last = clip.frame_at(11 * 40 * MS + 1)
    assert last is not None
    assert round(float(last.mean()) / 8) == 11
    assert struct.unpack_from("<I", target.read_bytes(), READY_AT)[0] == 12


def bad_media(folder: Path) -> list[tuple[Path, str]]:
    """(file, what is said of it)"""
    text = folder / "notes.mp4"
    text.write_text("This is not a video.")
    cut = numbered(folder / "cut.mp4", 12)
    cut.write_bytes(cut.read_bytes()[:600])
    sound = folder / "sound.mp4"
    with av.open(str(sound), "w") as container:
        stream = container.add_stream("aac", rate=48000)
        for _ in range(4):
            samples = av.AudioFrame.from_ndarray(np.zeros((2, 1024), dtype=np.float32), format="fltp", layout="stereo")
            samples.rate = 48000
            container.mux(stream.encode(samples))
        container.mux(stream.encode())
    bomb = folder / "bomb.png"
    bomb.write_bytes(png_that_claims(30_000, 30_000))
    grows = folder / "grows.png"
    grows.write_bytes(png_that_claims(4_000, 4_000, frames=500))
    broken = folder / "broken.png"
    Image.new("RGB", (64, 64)).save(broken)
    broken.write_bytes(broken.read_bytes()[:60])
    return [
        (text, "cannot be read as a video or a picture"),
        (cut, "cannot be read as a video or a picture"),
        (sound, "has no picture in it"),
        (bomb, "is 30000 x 30000: 100 million pixels are the most"),
        (grows, r"grows to 29.9 GiB when it is decoded"),
        (broken, "cannot be read as a picture"),
    ]


def png_that_claims(width: int, height: int, frames: int = 1) -> bytes:
    """The head of a PNG of some size and frames (PNG specification, third edition: IHDR, acTL), and almost
    nothing behind it."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    head = chunk(b"IHDR", struct.pack(">IIBBBBB", width, height, 8, 2, 0, 0, 0))
    moves = chunk(b"acTL", struct.pack(">II", frames, 0)) if frames > 1 else b""
    return b"\x89PNG\r\n\x1a\n" + head + moves + chunk(b"IDAT", zlib.compress(b"\0" * 100)) + chunk(b"IEND", b"")


@pytest.mark.parametrize(
    ("suffix", "codec"),
    [("mp4", "libx264"), ("mov", "libx264"), ("mkv", "libx264"), ("webm", "libvpx-vp9"), ("gif", "gif")],
)
def test_every_kind_of_video_is_taken(tmp_path: Path, suffix: str, codec: str) -> None:
    path = tmp_path / f"clip.{suffix}"
    with av.open(str(path), "w") as container:
        stream: Any = container.add_stream(codec, rate=Fraction(25))
        stream.width, stream.height = 64, 64
        stream.pix_fmt = "rgb8" if codec == "gif" else "yuv420p"
        for n in range(10):
            image = np.full((64, 64, 3), 20 * n, dtype=np.uint8)
            frame = av.VideoFrame.from_ndarray(image, format="rgb24").reformat(format=stream.pix_fmt)
            frame.pts = n
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    facts = probe(path, path.name)
    assert (facts.kind, len(facts.times)) == ("animation" if suffix == "gif" else "video", 10)
    assert facts.duration_ns == pytest.approx(4e8, rel=0.03)
    decode_to(path, tmp_path / "c.frames", 1, 1, always)
    clip = ClipFrames.open(tmp_path / "c.frames")
    for n in range(10):
        found = clip.frame_at(round((n + 0.5) * 40 * MS))
        assert found is not None
        assert int(found[0, 0]) == pytest.approx(20 * n, abs=24 if suffix == "gif" else 4)


def test_bad_media_get_a_sentence_each(tmp_path: Path) -> None:
    for path, says in bad_media(tmp_path):
        with pytest.raises(InputError) as told:
            probe(path, path.name)
        assert says in told.value.what
        assert path.name in told.value.what


def test_uploads_that_are_refused_leave_nothing_and_disturb_nothing(
    app: RunningApp, node: Callable[..., Node], tmp_path: Path
) -> None:
    receiver = node("127.0.70.2", wall_hang())
    light_wall(app, "127.0.70.2", [[0, 200, 90, 20]])
    wait_for(lambda: receiver.picture() == [200, 90, 20] * 18)
    receiver.reset()
    begun = frame_of(app)
    api = app.api()
    files = app.data / "media" / "files"
    before = sorted(files.iterdir())
    for path, says in bad_media(tmp_path):
        with pytest.raises(HeliographError, match=says):
            api.upload("/api/clips", str(uuid4()), path.name, path)
    empty = tmp_path / "empty.mp4"
    empty.write_bytes(b"")
    with pytest.raises(HeliographError, match="is empty"):
        api.upload("/api/clips", str(uuid4()), "empty.mp4", empty)
    with pytest.raises(HeliographError, match="not a video or picture Heliograph takes"):
        api.upload("/api/clips", str(uuid4()), "passwd", empty)
    assert sorted(files.iterdir()) == before
    assert api.call("GET", "/api/show")["clips"] == []
    universe = receiver.universe("artnet 0")  # meanwhile the look went on
    assert universe["packets"] > (frame_of(app) - begun) * 0.8 > 0
    assert receiver.picture() == [200, 90, 20] * 18
    assert not list(tmp_path.parent.rglob("passwd*"))


def test_a_name_never_becomes_a_path_and_content_is_kept_once(
    app: RunningApp, show: str, tmp_path: Path, names: Callable[[], list[str]]
) -> None:
    api = app.api()
    clip, other = numbered(tmp_path / "n.mp4", 3), numbered(tmp_path / "m.mp4", 4)
    first = api.upload("/api/clips", str(uuid4()), "../../../etc/storm.mp4", clip)
    api.upload("/api/clips", str(uuid4()), "a\tb\x07c.mp4", other)
    again = api.upload("/api/clips", str(uuid4()), "renamed.mp4", clip)
    assert again["id"] == first["id"]
    assert again["said"] == "This content is here already, as storm.mp4."
    shown = {one["name"] for one in api.call("GET", "/api/show")["clips"]}
    assert shown == {"storm.mp4", "abc.mp4"}
    assert len([name for name in names() if name.endswith(".mp4")]) == 2


@pytest.fixture
def names(app: RunningApp) -> Callable[[], list[str]]:
    known = {path.name for path in (app.data / "media" / "files").iterdir()}
    return lambda: [p.name for p in (app.data / "media" / "files").iterdir() if p.name not in known]


def test_a_clip_in_use_says_where(app: RunningApp, show: str, tmp_path: Path) -> None:
    api: Any = app.api()
    matrix, clip, look, line = (str(uuid4()) for _ in range(4))
    api.call("POST", "/api/matrices", {"id": matrix, "name": "M", "width": 2, "height": 2})
    api.upload("/api/clips", clip, "storm.mp4", numbered(tmp_path / "n.mp4", 3))
    lines = [{"id": line, "paints": "clip", "clip": clip, "matrix": matrix}]
    api.call("POST", "/api/looks", {"id": look, "name": "Gale", "lines": lines})
    with pytest.raises(HeliographError, match="Gale uses this clip"):
        api.call("DELETE", f"/api/clips/{clip}")
    assert api.call("GET", "/api/show")["clips"][0]["used_by"] == ["Gale"]
