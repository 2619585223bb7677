"""The live picture of 20,000 pixels in a real browser: frames shown a second, and what it costs.

Limit: 30 a second, at which the web process sends. Shares are of one core, read from /proc over the same time.
"""

from __future__ import annotations

import os
import tempfile
import time
from pathlib import Path
from typing import Any
from uuid import uuid4

import psutil
from selenium import webdriver
from selenium.webdriver.chrome.options import Options
from selenium.webdriver.chrome.service import Service

from bench.report import Report
from tests.browser.conftest import SWITCHES
from tests.conftest import RunningApp, wait_for
from tests.live.scenes import start

WIDTH, HEIGHT = 200, 100
SECONDS = 8

COUNT_FRAMES = """
const canvas = document.querySelector('main canvas[aria-label="Sea wall as sent, large"]');
const done = arguments[0];
let last = canvas.dataset.frame, shown = 0;
const until = performance.now() + %d;
(function look() {
  if (canvas.dataset.frame !== last) { last = canvas.dataset.frame; shown++; }
  if (performance.now() < until) requestAnimationFrame(look); else done(shown);
})();
"""


def _big_show(app: RunningApp) -> None:
    api = app.api()
    api.call("POST", "/api/shows", {"id": str(uuid4()), "name": "Sea wall"})
    text = f"{HEIGHT} x RGB pixel strip, mode 200 RGB, from 1, Row {{n}}"
    api.call("POST", "/api/fixtures", {"text": text, "ids": [str(uuid4()) for _ in range(HEIGHT)]})
    matrix, look = str(uuid4()), str(uuid4())
    weave = {"selection": "all", "width": WIDTH, "height": HEIGHT}
    api.call(
        "POST", "/api/matrices", {"id": matrix, "name": "Sea wall", "width": WIDTH, "height": HEIGHT, "weave": weave}
    )
    relay: dict[str, Any] = {"id": str(uuid4()), "paints": "effect", "effect": "Relay", "matrix": matrix}
    relay |= {"params": {"order": "column", "width": 60, "overlap": 100}, "ramp": [[0, 6, 18, 46], [1, 255, 206, 128]]}
    api.call("POST", "/api/looks", {"id": look, "name": "Tide", "lines": [relay]})
    universes = max(u for f in api.call("GET", "/api/show")["fixtures"] for u, _, _ in f["spans"])
    output = {"id": str(uuid4()), "name": "All", "protocol": "sacn", "mode": "unicast", "destination": "127.0.100.2"}
    api.call("POST", "/api/outputs", {**output, "card": app.card, "count": universes, "first_number": 1})
    start(app, look)


def _browser(folder: Path) -> webdriver.Chrome:
    options = Options()
    for switch in SWITCHES:
        options.add_argument(switch)
    options.add_argument(f"--user-data-dir={folder / 'profile'}")
    driver = webdriver.Chrome(options=options, service=Service("/usr/bin/chromedriver"))
    size = {"width": 1280, "height": 800, "deviceScaleFactor": 1, "mobile": False}
    driver.execute_cdp_cmd("Emulation.setDeviceMetricsOverride", size)
    return driver


def _cpu_s(pids: list[int]) -> float:
    total = 0.0
    for pid in pids:
        try:
            times = psutil.Process(pid).cpu_times()
            total += times.user + times.system
        except psutil.NoSuchProcess:
            continue
    return total


def run(report: Report) -> None:
    with tempfile.TemporaryDirectory() as name:
        folder = Path(name)
        folder.chmod(0o755)
        app = RunningApp(folder, "127.0.100.1")
        driver = _browser(folder)
        try:
            _big_show(app)
            driver.get(f"{app.address}/looks")
            wait_for(lambda: driver.execute_script("return !!document.querySelector('main canvas[data-frame]')"), 15)
            driver.set_script_timeout(SECONDS + 20)
            chromium = [p.pid for p in psutil.Process(driver.service.process.pid).children(recursive=True)]
            groups = {"browser": chromium, "web process": [app.pid("web")], "engine": [app.pid("engine")]}
            groups["preview process"] = [app.pid("preview")]
            before = {key: _cpu_s(pids) for key, pids in groups.items()}
            begun = time.monotonic()
            shown = driver.execute_async_script(COUNT_FRAMES % (SECONDS * 1000))
            span = time.monotonic() - begun
            shares = {key: (_cpu_s(pids) - before[key]) / span for key, pids in groups.items()}
            skipped = app.engine().ask({"do": "status"})["stats"]["skipped"]
        finally:
            driver.quit()
            app.stop()
    report.row("20,000 pixels: pictures shown a second", shown / span, "Hz", 30.0, "as often as they are sent")
    for key, share in shares.items():
        report.row(f"20,000 pixels: {key}, share of a core", share, "", 1.0, "one core of " + str(os.cpu_count()))
    report.note(f"engine skipped {skipped} frames since it was started")
