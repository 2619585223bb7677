"""The demo left alone for a while, with a page that watches and an edit every few seconds: frames missed, and the
memory of every process at the start and at the end. `./heliograph bench soak --minutes 60`.
"""

from __future__ import annotations

import asyncio
import json
import tempfile
import threading
import time
from pathlib import Path

import psutil
import websockets

from bench.report import Report
from heliograph.core.errors import HeliographError
from tests.conftest import RunningApp, wait_for

MINUTES = 5.0
SETTLE_S = 45.0
"""Until the demo's clip is drawn and decoded, and caches are filled."""

EDIT_S = 5.0
GROWTH_MB = 40.0
NAMES = ("engine", "web", "receiver", "media", "preview")
minutes = MINUTES


def _memory(app: RunningApp) -> dict[str, float]:
    return {name: psutil.Process(app.pid(name)).memory_info().rss / 1024**2 for name in NAMES}


async def _watch(app: RunningApp, until: float) -> None:
    address = f"ws://127.0.0.1:{app.port}/api/live"
    async with websockets.connect(address, max_size=None) as live:
        await live.send(json.dumps({"type": "watch", "levels": [1, 7], "cells": True}))
        while time.monotonic() < until:
            await asyncio.wait_for(live.recv(), 10)


def run(report: Report) -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        app = RunningApp(folder, "127.0.94.1", "--demo", "--node-address", "127.0.94.12", "--node-page-port", "7760")
        try:
            wait_for(lambda: app.engine().ask({"do": "status"})["state"]["running"], 30)
            time.sleep(SETTLE_S)
            before, began = _memory(app), app.engine().ask({"do": "status"})
            pids = {one: app.pid(one) for one in NAMES}
            until = time.monotonic() + minutes * 60
            watcher = threading.Thread(target=lambda: asyncio.run(_watch(app, until)))
            watcher.start()
            edits = stolen = 0.0
            half: dict[str, float] = {}
            look = app.api().call("GET", "/api/show")["looks"][0]["id"]
            while time.monotonic() < until:
                try:
                    app.api().call("PATCH", f"/api/looks/{look}", {"name": f"Edited {edits:.0f}"})
                    edits += 1
                except (HeliographError, OSError) as error:
                    report.note(f"an edit failed: {error}")
                for _ in range(int(EDIT_S)):
                    time.sleep(1)
                    stolen += app.engine().ask({"do": "status"})["stats"].get("stolen_ticks", 0)
                if not half and time.monotonic() > until - minutes * 30:
                    half = _memory(app)
            watcher.join(20)
            ended, after = app.engine().ask({"do": "status"}), _memory(app)
            restarted = [one for one in NAMES if app.pid(one) != pids[one]]
        finally:
            app.stop()
    frames = ended["state"]["frame"] - began["state"]["frame"]
    missed = ended["stats"]["skipped"] - began["stats"].get("skipped", 0)
    report.note(f"{minutes:g} minutes, {frames} frames, {edits:.0f} edits; stolen time seen {stolen * 10:.0f} ms")
    report.row("frames missed", missed, "", max(frames / 1000, 1), "one in a thousand", holds=True)
    report.row("frames that failed", ended["failed_frames"], "", 0, "none", holds=True)
    report.row("processes that were started again", len(restarted), "", 0, "none", holds=True)
    for one in NAMES:
        middle = half.get(one, before[one])
        report.note(f"{one}: {before[one]:.1f} MB at the start, {middle:.1f} half-way, {after[one]:.1f} at the end")
        # What fills up at first and then stands is bounded; what leaks goes on growing in the second half too.
        grown = max(after[one] - middle, 0)
        report.row(f"memory {one} grew by in the second half", grown, "MB", GROWTH_MB, "stated", holds=True)
