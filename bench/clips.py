"""Clips of 1080p and 4K at 30 a second on 512 universes: what they cost the engine, and what decoding takes.

Limit for the engine: one copy of a decoded frame onto the cells, measured in the same run. For decoding: the
time a frame lasts, 33 ms, since it is done ahead and once.
"""

from __future__ import annotations

import tempfile
import threading
import time
from fractions import Fraction
from pathlib import Path

import av
import numpy as np

from bench.effects import UNIVERSES, compiled, frame_ms
from bench.engine_run import PIXELS, line
from bench.quiet import median_ms
from bench.report import Report
from heliograph.media.decode import decode_to
from heliograph.media.imports import write_proxy
from heliograph.media.probe import ClipFacts, probe
from heliograph.render.clips import ClipFrames, frames_path

FRAMES = 60
SIZES = {"1080p30": (1920, 1080), "4K30": (3840, 2160)}


def make_clip(path: Path, width: int, height: int) -> Path:
    """A moving gradient in H.264."""
    across = np.linspace(0, 255, width, dtype=np.float32)[None, :]
    down = np.linspace(0, 255, height, dtype=np.float32)[:, None]
    with av.open(str(path), "w") as container:
        stream = container.add_stream("libx264", rate=Fraction(30))
        stream.width, stream.height, stream.pix_fmt = width, height, "yuv420p"
        stream.options = {"preset": "ultrafast", "crf": "20"}
        for n in range(FRAMES):
            planes = np.broadcast_arrays((across + 4 * n) % 256, (down + 2 * n) % 256, (across + down) / 2)
            image = np.stack(planes, axis=2).astype(np.uint8)
            container.mux(stream.encode(av.VideoFrame.from_ndarray(image, format="rgb24")))
        container.mux(stream.encode())
    return path


def one_copy_ms() -> float:
    """A decoded frame's bytes gathered in the order of the cells and made float."""
    frame = np.zeros((UNIVERSES * PIXELS, 3), dtype=np.uint8)
    square = np.random.default_rng(1).permutation(len(frame))
    target = np.zeros((3, len(frame)), dtype=np.float32)
    return median_ms(lambda _turn: np.multiply(frame[square].T, np.float32(1 / 255), out=target))


def run(report: Report) -> None:
    limit = one_copy_ms()
    for name, (width, height) in SIZES.items():
        with tempfile.TemporaryDirectory() as text:
            folder = Path(text)
            source = make_clip(folder / "source.mp4", width, height)
            facts = probe(source, name)
            begun = time.perf_counter()
            decode_to(source, frames_path(folder, "c", UNIVERSES, PIXELS, "fill-0-none"), UNIVERSES, PIXELS, _always)
            decoding = (time.perf_counter() - begun) / FRAMES * 1e3
            one = line("a", "", paints="clip", clip="c", speed={"value": 1, "unit": "times"}, loop_s=2.0)
            more = {"clip:c": {"id": "c", "content": "c", "suffix": ".mp4"}}
            show = compiled([one], folder, **more)
            frames_there = show.looks["L"][0].clip
            assert isinstance(frames_there, ClipFrames)
            assert frames_there.is_open
            report.row(f"{name}: the engine's share of a frame", frame_ms(show), "ms", limit, "one copy onto the cells")
            report.row(f"{name}: decoding ahead, a frame", decoding, "ms", 1000 / 30, "a frame's time")
            gap, first = first_round(source, folder, facts)
            report.row(f"{name}: first round, most frames in a row not there in time", gap, "frames", 2, "every third")
            report.row(f"{name}: from asking to the first frame", first, "ms", 1000, "a second")
            begun = time.perf_counter()
            write_proxy(source, folder / "proxy.mp4", facts, _always, lambda _part: None)
            proxying = (time.perf_counter() - begun) / FRAMES * 1e3
            begun = time.perf_counter()
            decode_to(folder / "proxy.mp4", folder / "p.frames", UNIVERSES, PIXELS, _always, facts=facts)
            again = (time.perf_counter() - begun) / FRAMES * 1e3
            report.row(f"{name}: making the proxy, a frame", proxying, "ms", 1000 / 30, "a frame's time")
            report.row(f"{name}: decoding from the proxy, a frame", again, "ms", 1000 / 30, "a frame's time")


def first_round(source: Path, folder: Path, facts: ClipFacts) -> tuple[float, float]:
    """Decodes a clip for the first time while it plays: the longest run of frames that were not there while they were
    to be shown, from half a second on, and how many ms the first one took."""
    target = folder / "first.frames"
    begun = time.monotonic_ns()
    done = threading.Event()

    def decode() -> None:
        decode_to(source, target, 72, 10, _always, None, facts, lambda: time.monotonic_ns() - begun)
        done.set()

    threading.Thread(target=decode).start()
    clip = ClipFrames(target)
    first, longest, run = 0.0, 0, 0
    for index, at in enumerate(facts.times.tolist()):
        end = begun + (int(facts.times[index + 1]) if index + 1 < len(facts.times) else facts.duration_ns)
        there = False
        while time.monotonic_ns() < end:
            there = there or ((clip.is_open or clip.try_open()) and clip.has(index))
            if there and not first:
                first = (time.monotonic_ns() - begun) / 1e6
            time.sleep(0.002)
        run = 0 if there else run + 1
        if at > 500_000_000:
            longest = max(longest, run)
    done.wait(60)
    return float(longest), first


def _always() -> bool:
    return True
