"""A hundred live connections, ten of which never read: how much later the others' status comes than with ten good ones
alone, and how long blackout takes from a page among them to the wire.
"""

from __future__ import annotations

import asyncio
import json
import tempfile
import time
from pathlib import Path
from typing import Any

import numpy as np
import websockets

from bench.report import Report
from heliograph.core.playing.frames import PERIOD_NS
from tests.conftest import RunningApp
from tests.live.laser_scene import Wire
from tests.live.scenes import light_wall
from tests.live.test_many_browsers import LEFT, PAGES, left_page

SECONDS = 8.0
STATUS_S = 0.25
PRESSES = 20


async def _page(app: RunningApp, gaps: list[float], ready: asyncio.Event) -> None:
    async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", max_size=None) as live:
        await ready.wait()
        last, until = time.monotonic(), time.monotonic() + SECONDS
        begun = last
        while time.monotonic() < until:
            message = await asyncio.wait_for(live.recv(), 10)
            if isinstance(message, str) and '"status"' in message[:40]:
                now = time.monotonic()
                if now - begun > 1.0:  # what waited while the others connected is not counted
                    gaps.append(now - last)
                last = now


async def _pages(app: RunningApp, count: int, wire: Wire | None) -> tuple[list[float], list[float]]:
    gaps: list[float] = []
    pressed: list[float] = []
    ready = asyncio.Event()
    pages = [asyncio.create_task(_page(app, gaps, ready)) for _ in range(count)]
    await asyncio.sleep(3.0)
    ready.set()
    if wire is not None:
        await asyncio.sleep(1.5)
        pressed = await _presses(app, wire)
    await asyncio.gather(*pages)
    return gaps, pressed


async def _presses(app: RunningApp, wire: Wire) -> list[float]:
    """Seconds from each press of blackout to the first packet that shows it."""
    took = []
    async with websockets.connect(f"ws://127.0.0.1:{app.port}/api/live", max_size=None) as live:
        drain = asyncio.create_task(_drain(live))
        for n in range(PRESSES):
            on = n % 2 == 0
            wanted = [0, 0, 0] if on else [200, 100, 40]
            begun, at = time.monotonic(), len(wire.heard)
            await live.send(
                json.dumps(
                    {"type": "command", "command": {"do": "move", "moves": [{"handle": "blackout", "value": on}]}}
                )
            )
            while True:
                found = [moment for moment, _, data in wire.heard[at:] if list(data[:3]) == wanted]
                if found:
                    took.append(found[0] - begun)
                    break
                await asyncio.sleep(0.001)
            await asyncio.sleep(0.1)
        drain.cancel()
    return took


async def _drain(live: Any) -> None:
    while True:
        await live.recv()


def run(report: Report) -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        wire = Wire("127.0.93.2")
        app = RunningApp(folder, "127.0.93.1")
        try:
            light_wall(app, "127.0.93.2", [[0, 200, 100, 40]])
            alone, _ = asyncio.run(_pages(app, PAGES - LEFT - 1, None))
            left = [left_page(app) for _ in range(LEFT)]
            time.sleep(1.0)
            gaps, pressed = asyncio.run(_pages(app, PAGES - LEFT - 1, wire))
            for one in left:
                one.close()
        finally:
            app.stop()
            wire.close()
    for part, most in (("median", 50), ("95th percentile", 95)):
        before, after = (float(np.percentile(one, most)) * 1000 for one in (alone, gaps))
        report.row(f"status gap, {part}", after, "ms", before + 50, "without the ten + 50 ms", holds=True)
    report.note(f"longest: {max(gaps) * 1000:.0f} ms with the ten that read nothing, {max(alone) * 1000:.0f} without")
    frames = PERIOD_NS / 1e6
    report.row(
        "blackout to the wire, median", float(np.median(pressed)) * 1000, "ms", 2 * frames, "2 frames", holds=True
    )
    report.row("blackout to the wire, most", max(pressed) * 1000, "ms", 2 * frames, "2 frames")
