"""Which frames are decoded when: what is shown now first, at its own time, whatever the machine can do."""

from __future__ import annotations

import time
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field
from fractions import Fraction
from pathlib import Path
from typing import Any

import av
import numpy as np
import pytest
from PIL import Image

from heliograph.media.decode import decode_to, is_finished
from heliograph.media.filling import Filling
from heliograph.media.probe import ClipFacts, probe
from heliograph.media.reading import Reader, key_before
from heliograph.render.clips import ClipFrames

FRAME_NS = 40_000_000
GREY = Image.new("RGB", (1, 1))


@dataclass
class Decoder(Reader):
    """A stand-in with a clock of its own: each frame decoded takes `cost`, each one made `scaling` frames' time."""

    cost: float = 0.5
    scaling: float = 0.0
    lost: frozenset[int] = frozenset()
    now_ns: int = 0
    decoded: list[int] = field(default_factory=list)

    def frames(self, start: int = 0) -> Iterator[tuple[int, Callable[[], Image.Image]]]:
        for index in range(key_before(self.facts, start), len(self.facts.times)):
            if index in self.lost or (self.hurry and index % 2):  # every second is one that no other needs
                continue
            self.now_ns += round(self.cost * FRAME_NS)
            self.decoded.append(index)
            yield index, self.picture

    def picture(self) -> Image.Image:
        self.now_ns += round(self.scaling * FRAME_NS)
        return GREY


def facts(count: int, every: int) -> ClipFacts:
    times = np.arange(count, dtype=np.int64) * FRAME_NS
    return ClipFacts("video", 8, 8, times, count * FRAME_NS, False, np.arange(0, count, every, dtype=np.int64))


def filled(decoder: Decoder, shown_from: int | None) -> tuple[list[tuple[int, int, bool]], np.ndarray]:
    """(index, clock, held) of each frame as it was made, where frame `shown_from` is shown as the clock begins."""
    there = np.zeros(len(decoder.facts.times), dtype=np.uint8)
    made: list[tuple[int, int, bool]] = []

    def keep(index: int, image: Image.Image | None) -> None:
        assert not there[index]
        there[index] = 1
        made.append((index, decoder.now_ns, image is None))

    def asked() -> int | None:
        return None if shown_from is None else shown_from * FRAME_NS + decoder.now_ns

    Filling(decoder, there, keep, lambda: len(decoder.decoded) < 20_000, asked).run()
    return made, there


@pytest.mark.parametrize(("cost", "scaling"), [(0.3, 0.2), (0.8, 0.5), (0.9, 0.4), (0.5, 1.2), (1.4, 0.3)])
@pytest.mark.parametrize("shown_from", [0, 70])
def test_every_third_frame_at_its_time_on_the_first_round(cost: float, scaling: float, shown_from: int) -> None:
    decoder = Decoder(Path(), facts(200, 10), None, cost=cost, scaling=scaling)
    made, there = filled(decoder, shown_from)
    assert there.all()
    count = len(there)
    when = {index: at for index, at, _ in made}
    late = [when[(shown_from + n) % count] > (n + 1) * FRAME_NS for n in range(3, count)]  # there while it is shown
    gap = longest = 0
    for one in late:
        gap = gap + 1 if one else 0
        longest = max(longest, gap)
    limit = 2 if cost < 1.0 else 25  # slower than the clip even without scaling: it jumps, and goes on moving
    assert longest <= limit, (longest, sum(late))


def test_what_nobody_shows_is_decoded_in_order_once() -> None:
    decoder = Decoder(Path(), facts(60, 60), None)
    made, there = filled(decoder, None)
    assert [index for index, _, _ in made] == list(range(60))
    assert decoder.decoded == list(range(60))
    assert there.all()


def test_frames_a_file_lost_are_those_before_them() -> None:
    decoder = Decoder(Path(), facts(40, 40), None, lost=frozenset([7, 8, 30, 38, 39]))
    made, there = filled(decoder, None)
    assert there.all()
    assert [index for index, _, held in made if held] == [7, 8, 30, 38, 39]
    assert len(decoder.decoded) <= 40  # in one go


def test_a_file_without_a_frame_ends() -> None:
    decoder = Decoder(Path(), facts(10, 10), None, lost=frozenset(range(10)))
    made, there = filled(decoder, 3)
    assert not made
    assert not there.any()


def test_the_first_frames_lost_are_found_out_of_those_after() -> None:
    decoder = Decoder(Path(), facts(10, 10), None, lost=frozenset([0, 1]))
    made, there = filled(decoder, None)
    assert there.all()
    assert [index for index, _, held in made if held] == [0, 1]
    assert len(decoder.decoded) < 40  # and that was the end of it


def test_what_is_stopped_is_not_taken_for_lost() -> None:
    decoder = Decoder(Path(), facts(10, 10), None)
    there = np.zeros(10, dtype=np.uint8)
    turns = iter([True, True, False])
    Filling(decoder, there, lambda index, _: there.__setitem__(index, 1), lambda: next(turns), lambda: None).run()
    assert there.tolist() == [1] + [0] * 9


def test_a_real_clip_is_decoded_from_what_is_shown_and_ends_whole(tmp_path: Path) -> None:
    source = tmp_path / "n.mp4"
    with av.open(str(source), "w") as container:
        stream = container.add_stream("libx264", rate=Fraction(25))
        stream.width, stream.height, stream.pix_fmt = 64, 64, "yuv420p"
        stream.options = {"g": "10", "bf": "2"}
        for n in range(50):
            grey = np.full((64, 64, 3), 5 * n, dtype=np.uint8)
            container.mux(stream.encode(av.VideoFrame.from_ndarray(grey, format="rgb24")))
        container.mux(stream.encode())
    told = probe(source, "n")
    assert told.keys.tolist() == [0, 10, 20, 30, 40]
    target = tmp_path / "n.frames"
    turns = iter([True] * 8 + [False] * 9)
    decode_to(source, target, 2, 2, lambda: next(turns), None, told, lambda: 33 * FRAME_NS)
    clip = ClipFrames.open(target)
    frame = clip.frame_at(33 * FRAME_NS + 1)
    assert frame is not None
    assert frame.mean() == pytest.approx(5 * 33, abs=2)
    assert clip.asked_ns == 33 * FRAME_NS + 1  # told on until all is there
    decode_to(source, target, 2, 2, lambda: True, None, told, lambda: None)
    assert is_finished(target)
    shown = [clip.frame_at(n * FRAME_NS + 1) for n in range(50)]
    assert [float(one.mean()) for one in shown if one is not None] == pytest.approx([5.0 * n for n in range(50)], abs=2)
    assert clip.asked_ns is None


def greys(path: Path, codec: str, form: str, count: int = 40) -> Path:
    """Frame n is a grey of 6 n, 25 a second."""
    with av.open(str(path), "w") as container:
        stream: Any = container.add_stream(codec, rate=Fraction(25))
        stream.width, stream.height, stream.pix_fmt = 64, 64, form
        if codec == "libx264":
            stream.options = {"g": "12", "bf": "3"}
        for n in range(count):
            grey = av.VideoFrame.from_ndarray(np.full((64, 64, 3), 6 * n, dtype=np.uint8), format="rgb24")
            frame = grey.reformat(format=form)
            frame.pts, frame.time_base = n, Fraction(1, 25)
            container.mux(stream.encode(frame))
        container.mux(stream.encode())
    return path


@pytest.mark.parametrize(
    ("name", "codec", "form"),
    [
        ("a.mp4", "libx264", "yuv420p"),
        ("b.mkv", "libx264", "yuv420p"),
        ("c.ts", "libx264", "yuv420p"),
        ("d.webm", "libvpx-vp9", "yuv420p"),
        ("e.gif", "gif", "rgb8"),
        ("f.avi", "mjpeg", "yuvj420p"),
    ],
)
@pytest.mark.parametrize("runs", [False, True])
def test_every_container_ends_whole_wherever_it_is_begun(
    tmp_path: Path, name: str, codec: str, form: str, runs: bool
) -> None:
    source = greys(tmp_path / name, codec, form)
    facts = probe(source, name)
    begun = time.monotonic_ns()

    def asked() -> int:
        """Shown from the 30th frame on; where it `runs`, faster than any decoder, so that frames are left out."""
        return facts.times.tolist()[29] + (20 * (time.monotonic_ns() - begun) if runs else 0)

    assert decode_to(source, tmp_path / "f", 2, 2, lambda: True, None, facts, asked) == 40
    clip = ClipFrames.open(tmp_path / "f")
    shown = [clip.frame_at(int(at) + 1000) for at in facts.times]
    found = [float(one[..., 0].mean()) for one in shown if one is not None]
    assert found == pytest.approx([6.0 * n for n in range(40)], abs=20 if codec == "gif" else 4)
    steps = np.diff(found)
    assert codec == "gif" or steps.min() > 1, found  # none is another one's double
