"""ms per frame, rendering and sending apart, at 6, 64 and 512 universes; pacing beside a bare deadline loop."""

from __future__ import annotations

import tempfile
import time
from pathlib import Path

import numpy as np

from bench.engine_run import PIXELS, BareLoop, driven_lines, measure, running_engine, sink
from bench.report import Report

SIZES = (6, 64, 512)
SECONDS = 20
SHARE_LIMIT = 0.5
"""Of one core at 512 universes: the other half belongs to web and media on a two-core laptop."""


DRIVEN_LIMIT = 0.45


def memory_pass_ms(universes: int) -> float:
    """The limit for rendering: reading and writing each line's float pixels once (numpy, same sizes)."""
    pixels = np.ones((universes * PIXELS, 3), dtype=np.float32)
    other = np.ones_like(pixels)
    times = []
    for _ in range(30):
        begun = time.perf_counter()
        for _ in range(3):
            np.multiply(pixels, other, out=other)
        times.append(time.perf_counter() - begun)
    return float(np.median(times) * 1e3)


def syscall_ms(universes: int) -> float:
    """The limit for sending: the same number of datagrams of the same size by one plain sendmmsg."""
    from heliograph.engine.mmsg import Batch
    from heliograph.engine.sender import open_send_socket

    packets = np.zeros((universes, 530), dtype=np.uint8)
    batch = Batch(packets, [("127.0.95.2", 6454)] * universes)
    left = np.zeros(universes, dtype=np.uint8)
    fd = open_send_socket("sacn", "127.0.95.1")
    times = []
    for _ in range(50):
        begun = time.perf_counter()
        batch.send(fd, left)
        times.append(time.perf_counter() - begun)
    return float(np.median(times) * 1e3)


def run(report: Report) -> None:
    for universes in SIZES:
        with tempfile.TemporaryDirectory() as folder, sink():
            limit_render, limit_send = memory_pass_ms(universes), syscall_ms(universes)
            with running_engine(Path(folder) / "data", universes) as engine:
                bare = BareLoop(SECONDS)
                bare.start()
                found = measure(engine, SECONDS)
                bare.join()
        _tell(report, f"{universes} universes, 3 lines", found, bare, (limit_render, limit_send), SHARE_LIMIT)
    with tempfile.TemporaryDirectory() as folder, sink():
        limits = memory_pass_ms(SIZES[-1]), syscall_ms(SIZES[-1])
        with running_engine(Path(folder) / "data", SIZES[-1], driven_lines(SIZES[-1])) as engine:
            bare = BareLoop(SECONDS)
            bare.start()
            found = measure(engine, SECONDS)
            bare.join()
    _tell(report, f"{SIZES[-1]} universes, 3 lines with 6 drives", found, bare, limits, DRIVEN_LIMIT)


def _tell(
    report: Report,
    where: str,
    found: dict[str, float],
    bare: BareLoop,
    limits: tuple[float, float],
    share: float,
) -> None:
    report.row(f"{where}: render", found["render_ms"], "ms", limits[0], "memory pass of 3 lines")
    report.row(f"{where}: send and publish", found["send_ms"], "ms", limits[1], "one plain sendmmsg")
    report.row(f"{where}: frames a second", found["frames_per_s"], "Hz", 44.0, "DMX512's own limit")
    report.row(f"{where}: share of a core", found["processor_share"], "", share, "what is left to it", holds=True)
    report.row(f"{where}: skipped in {SECONDS} s", found["skipped"], "frames", bare.skipped, "bare loop", holds=True)
    report.row(f"{where}: late, mean", found["late_ms"], "ms", bare.late_ms, "bare loop")
    report.row(f"{where}: late, most", found["late_max_ms"], "ms", bare.late_max_ms, "bare loop")
    quiet = f"{found['quiet']:.0f} of {SECONDS} seconds at the machine's full pace"
    report.note(f"{quiet}; time stolen from it meanwhile: {found['stolen_ticks'] * 10:.0f} ms")
