"""Lateness of the engine while the web process is busy with 4 threads of requests and 4 live connections."""

from __future__ import annotations

import asyncio
import tempfile
import threading
import time
from pathlib import Path

import websockets

from bench.engine_run import BareLoop, measure
from bench.report import Report
from tests.conftest import Node, RunningApp, wait_for
from tests.live.scenes import light_wall, wall_hang

SECONDS = 8


def _ask(app: RunningApp, until: float, counts: list[int]) -> None:
    api = app.api()
    while time.monotonic() < until:
        api.call("GET", "/api/show")
        counts.append(1)


async def _watch(app: RunningApp, until: float) -> None:
    async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live") as live:
        while time.monotonic() < until:
            await asyncio.wait_for(live.recv(), 5)


def run(report: Report) -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        node = Node(folder, "127.0.97.2", wall_hang())
        app = RunningApp(folder, "127.0.97.1")
        try:
            light_wall(app, "127.0.97.2", [[0, 1, 2, 3]])
            wait_for(lambda: node.picture() == [1, 2, 3] * 16)
            until = time.monotonic() + SECONDS + 1
            counts: list[int] = []
            threads = [threading.Thread(target=_ask, args=(app, until, counts)) for _ in range(4)]
            threads += [threading.Thread(target=lambda: asyncio.run(_watch(app, until))) for _ in range(4)]
            bare = BareLoop(SECONDS)
            for one in [*threads, bare]:
                one.start()
            found = measure(app.engine_client(), SECONDS)
            for one in [*threads, bare]:
                one.join()
        finally:
            app.stop()
            node.stop()
    report.note(f"{len(counts) / SECONDS:.0f} requests a second and 4 live connections meanwhile")
    report.row("late, mean", found["late_ms"], "ms", bare.late_ms, "bare loop")
    report.row("late, most", found["late_max_ms"], "ms", bare.late_max_ms, "bare loop")
    report.row(f"skipped in {SECONDS} s", found["skipped"], "frames", bare.skipped, "bare loop", holds=True)
    report.note(f"time stolen from the machine meanwhile: {found['stolen_ticks'] * 10:.0f} ms")
